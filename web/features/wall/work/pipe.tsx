'use client'

import { formatSmall, PIPE_ENDS, say } from '@stone-tally/core'
import { AmountField } from '@/ui/amount-field'
import { Button, Check, Choice, NowButton, Problems, RecordRow, Row, WorkStack } from '@/ui/controls'
import { Hero, Targets } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import { Judged } from './judged'
import type { WorkProps } from './types'
import { usePipe } from './use-pipe'

const ENDS = PIPE_ENDS.map(([id, name]) => [id, name] as const)
const LAPS = [
  ['with', 'With the flow'],
  ['against', 'Against it'],
] as const

/** A stretch of pipe as it lies, before anything is put over it. The photo is taken below. */
export function PipeWork(props: WorkProps) {
  const { units } = usePreferences()
  const { status, recheck } = props
  const {
    drain,
    pipe,
    items,
    from,
    setFrom,
    to,
    setTo,
    bed,
    setBed,
    sock,
    setSock,
    starts,
    setStart,
    ends,
    setEnd,
    laps,
    setLaps,
    ticked,
    tick,
    tickAll,
    busy,
    problems,
    verdict,
    put,
  } = usePipe(props)
  return (
    <WorkStack>
      <Hero value={formatSmall(pipe.diameter, units)} unit={`pipe, falling ${(pipe.fall * 100).toFixed(1)} %`} />
      <Targets
        list={[
          ['Bed', `at least ${formatSmall(drain?.bed ?? 0, units)}`],
          ['Sock', (drain?.sock ?? false) ? 'yes' : 'none'],
          ['Missing', say(status.missing.join('; '), units) || 'nothing'],
        ]}
      />
      <Row>
        <div style={{ flex: 1, minWidth: 80 }}>
          <AmountField label="From" of="length" value={from} onChange={setFrom} />
        </div>
        <div style={{ flex: 1, minWidth: 80 }}>
          <AmountField label="To" of="length" value={to} onChange={setTo} />
        </div>
        <div style={{ flex: 1, minWidth: 80 }}>
          <AmountField label="Bed below it" of="small" value={bed} onChange={setBed} />
        </div>
      </Row>
      <Choice label="Lower station ends" value={starts} options={ENDS} onChange={setStart} />
      <Choice label="Higher station ends" value={ends} options={ENDS} onChange={setEnd} />
      <Choice label="Laps of fabric and pipe" value={laps ?? ('' as 'with')} options={LAPS} onChange={setLaps} />
      <div>
        <Check checked={sock} onChange={setSock}>
          Sock on the pipe
        </Check>
        {items.map((i) => (
          <Check key={i.id} checked={ticked.includes(i.id)} onChange={(on) => tick(i.id, on)}>
            {say(i.text, units)}
          </Check>
        ))}
      </div>
      <Judged verdict={verdict} otherwise="Say how deep its bed is and how the laps lie; it is judged as you type." />
      <RecordRow>
        {ticked.length < items.length ? <Button onPress={tickAll}>All of these</Button> : null}
        <NowButton style={{ flex: 1 }} isDisabled={busy || !bed.trim()} onPress={put}>
          {recheck ? 'Record re-check' : 'Record this stretch'}
        </NowButton>
      </RecordRow>
      <Problems list={problems} />
    </WorkStack>
  )
}
