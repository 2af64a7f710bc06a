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
  const laid = usePipe(props)
  return (
    <WorkStack>
      <Hero value={formatSmall(laid.pipe.diameter, units)} unit={`pipe, falling ${(laid.pipe.fall * 100).toFixed(1)} %`} />
      <Targets
        list={[
          ['Bed', `at least ${formatSmall(laid.drain?.bed ?? 0, units)}`],
          ['Sock', (laid.drain?.sock ?? false) ? 'yes' : 'none'],
          ['Missing', say(status.missing.join('; '), units) || 'nothing'],
        ]}
      />
      <Row>
        <div style={{ flex: 1, minWidth: 80 }}>
          <AmountField label="From" of="length" value={laid.from} onChange={laid.setFrom} />
        </div>
        <div style={{ flex: 1, minWidth: 80 }}>
          <AmountField label="To" of="length" value={laid.to} onChange={laid.setTo} />
        </div>
        <div style={{ flex: 1, minWidth: 80 }}>
          <AmountField label="Bed below it" of="small" value={laid.bed} onChange={laid.setBed} />
        </div>
      </Row>
      <Choice label="Lower station ends" value={laid.starts} options={ENDS} onChange={laid.setStart} />
      <Choice label="Higher station ends" value={laid.ends} options={ENDS} onChange={laid.setEnd} />
      <Choice label="Laps of fabric and pipe" value={laid.laps ?? ('' as 'with')} options={LAPS} onChange={laid.setLaps} />
      <div>
        <Check checked={laid.sock} onChange={laid.setSock}>
          Sock on the pipe
        </Check>
        {laid.items.map((i) => (
          <Check key={i.id} checked={laid.ticked.includes(i.id)} onChange={(on) => laid.tick(i.id, on)}>
            {say(i.text, units)}
          </Check>
        ))}
      </div>
      <Judged verdict={laid.verdict} otherwise="Say how deep its bed is and how the laps lie; it is judged as you type." />
      <RecordRow>
        {laid.tickAll ? <Button onPress={laid.tickAll}>All of these</Button> : null}
        <NowButton style={{ flex: 1 }} isDisabled={laid.busy || !laid.bed.trim()} onPress={laid.put}>
          {recheck ? 'Record re-check' : 'Record this stretch'}
          {laid.missing.length > 0 ? ` · missing: ${laid.missing.join(', ')}` : ''}
        </NowButton>
      </RecordRow>
      <Problems list={laid.problems} />
    </WorkStack>
  )
}
