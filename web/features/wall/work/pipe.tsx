'use client'

import { drainPlan, formatSmall, formatStation, live, PIPE_ENDS, type PipeData, parseAmount, type Stretch, say } from '@stone-tally/core'
import { useMemo, useState } from 'react'
import { AmountField } from '@/ui/amount-field'
import { Button, Check, Choice, NowButton, Problems, RecordRow, Row, WorkStack } from '@/ui/controls'
import { Hero, Targets } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import { useTyped } from '../typed'
import type { Fact } from '../use-wall'
import { Judged, judge } from './judged'
import { type WorkProps, whereOf } from './types'
import { useRecord } from './use-record'

const LAPS = [
  ['with', 'With the flow'],
  ['against', 'Against it'],
] as const

/** Where pipe is missing first. */
function firstGap(over: Stretch, laid: readonly { from: number; to: number }[]): number {
  let at = over.from
  for (const d of [...laid].sort((a, b) => a.from - b.from)) if (d.from <= at + 0.05) at = Math.max(at, d.to)
  return Math.min(at, over.to)
}

/** A stretch of pipe as it lies, before anything is put over it. The photo is taken below. */
export function PipeWork({ state, step, status, me, record, recheck }: WorkProps) {
  const { units } = usePreferences()
  const { layout } = state
  const drain = useMemo(() => drainPlan(layout), [layout])
  const pipe = layout.building.drain ?? { diameter: 0, fall: 0 }
  const items = step.stage.work.type === 'pipe' ? step.stage.work.items : []
  const log = state.logs.get(step.key)?.work ?? []
  const before = log.filter((e) => e.entry.kind === 'pipe').pop()?.entry.data as PipeData | undefined
  const found = recheck ? (state.byId.get(recheck.id)?.entry.data as PipeData | undefined) : undefined
  const over = step.over?.[0] ?? { from: 0, to: 0 }
  const asLong = (m: number) => (units === 'metric' ? m.toFixed(2) : formatStation(m, units))
  const scope = `${step.key}|${recheck?.id ?? ''}|${units}`
  // The next stretch begins where pipe is missing: there it joins on, wherever the one before was recorded.
  const laid = log.filter((e) => e.entry.kind === 'pipe' && live(state, e.entry.id)).map((e) => e.entry.data as PipeData)
  const begin = found?.from ?? firstGap(over, laid)
  const [from, setFrom, noFrom] = useTyped(scope, 'from', asLong(begin))
  const [to, setTo, noTo] = useTyped(
    scope,
    'to',
    asLong(
      found?.to ??
        laid
          .map((d) => d.from)
          .filter((f) => f > begin + 0.05)
          .sort((a, b) => a - b)[0] ??
        over.to,
    ),
  )
  const [bed, setBed, noBed] = useTyped(scope, 'bed')
  const [sock, setSock] = useState(found?.sock ?? before?.sock ?? drain?.sock ?? false)
  const [start, setStart] = useState<PipeData['start']>()
  const [end, setEnd] = useState<PipeData['end']>()
  const [laps, setLaps] = useState<PipeData['laps']>('with')
  const [ticked, setTicked] = useState<readonly string[]>([])
  /** How an end is left that nobody has said otherwise of: by what the plan has there and what is laid on beyond it. */
  const endAt = (text: string): PipeData['start'] => {
    const at = parseAmount(text, 'length', units)
    if (!at.ok) return 'joined'
    if (layout.building.drain?.outlets.some((o) => Math.abs(o.station - at.value) < 0.3)) return 'outlet'
    const { length } = layout.plan
    const past = layout.alignment.closed || (at.value > 0.3 && at.value < length - 0.3)
    return past ? 'joined' : 'cap'
  }
  const starts = start ?? found?.start ?? endAt(from)
  const ends = end ?? found?.end ?? endAt(to)
  const { busy, problems, setProblems, go } = useRecord(record)
  const [a, b, c] = [parseAmount(from, 'length', units), parseAmount(to, 'length', units), parseAmount(bed, 'small', units)]
  // The stretch as typed: what is judged is what is recorded.
  const fact: Fact | undefined =
    a.ok && b.ok && c.ok
      ? {
          kind: 'pipe',
          where: whereOf(step),
          data: {
            from: a.value,
            to: b.value,
            diameter: pipe.diameter,
            bed: c.value,
            sock,
            start: starts,
            end: ends,
            laps,
            confirmed: ticked,
          },
          ...(recheck ? { recheckOf: recheck.id } : {}),
        }
      : undefined
  const put = async () => {
    if (!a.ok) return setProblems(a.problems.map((p) => ({ ...p, field: 'From' })))
    if (!b.ok) return setProblems(b.problems.map((p) => ({ ...p, field: 'To' })))
    if (!c.ok) return setProblems(c.problems.map((p) => ({ ...p, field: 'Bed' })))
    if (!fact) return
    const done = await go([fact])
    if (done) {
      for (const letGo of [noFrom, noTo, noBed]) letGo()
      // What was seen of one stretch is nobody's word for the next.
      setTicked([])
      setStart(undefined)
      setEnd(undefined)
      setLaps('with')
    }
  }
  const verdict = fact ? judge(state, me, fact) : undefined
  const kinds = PIPE_ENDS.map(([id, name]) => [id, name] as const)
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
      <Choice label="Lower station ends" value={starts} options={kinds} onChange={setStart} />
      <Choice label="Higher station ends" value={ends} options={kinds} onChange={setEnd} />
      <Choice label="Laps of fabric and pipe" value={laps} options={LAPS} onChange={setLaps} />
      <div>
        <Check checked={sock} onChange={setSock}>
          Sock on the pipe
        </Check>
        {items.map((i) => (
          <Check key={i.id} checked={ticked.includes(i.id)} onChange={(on) => setTicked(on ? [...ticked, i.id] : ticked.filter((t) => t !== i.id))}>
            {say(i.text, units)}
          </Check>
        ))}
      </div>
      <Judged verdict={verdict} otherwise="Say how deep its bed is; it is judged as you type." />
      <RecordRow>
        {ticked.length < items.length ? <Button onPress={() => setTicked(items.map((i) => i.id))}>All of these</Button> : null}
        <NowButton style={{ flex: 1 }} isDisabled={busy || !bed.trim()} onPress={put}>
          {recheck ? 'Record re-check' : 'Record this stretch'}
        </NowButton>
      </RecordRow>
      <Problems list={problems} />
    </WorkStack>
  )
}
