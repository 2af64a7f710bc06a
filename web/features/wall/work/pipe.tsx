'use client'

import { drainPlan, formatSmall, formatStation, PIPE_ENDS, type PipeData, parseLength } from '@stone-tally/core'
import { useMemo, useState } from 'react'
import { Button, Check, Choice, Field, NowButton, Problems, Row, Stack } from '@/ui/controls'
import { Hero, Targets } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import { type WorkProps, whereOf } from './types'
import { useRecord } from './use-record'

const LAPS = [
  ['with', 'With the flow'],
  ['against', 'Against it'],
] as const

/** A stretch of pipe as it lies, before anything is put over it. The photo is taken below. */
export function PipeWork({ state, step, status, record, recheck }: WorkProps) {
  const { units } = usePreferences()
  const { layout } = state
  const drain = useMemo(() => drainPlan(layout), [layout])
  const items = step.stage.work.type === 'pipe' ? step.stage.work.items : []
  const log = state.logs.get(step.key)?.work ?? []
  const before = log.filter((e) => e.entry.kind === 'pipe').pop()?.entry.data as PipeData | undefined
  const found = recheck ? (state.byId.get(recheck.id)?.entry.data as PipeData | undefined) : undefined
  const over = step.over?.[0] ?? { from: 0, to: 0 }
  const [long, small] = units === 'metric' ? (['m', 'mm'] as const) : (['ft', 'in'] as const)
  const asLong = (m: number) => (units === 'metric' ? m.toFixed(2) : formatStation(m, units))
  const _asSmall = (m: number) => (units === 'metric' ? `${Math.round(m * 1000)}` : formatSmall(m, units).replace('"', ''))
  const [from, setFrom] = useState(asLong(found?.from ?? Math.max(over.from, before?.to ?? over.from)))
  const [to, setTo] = useState(asLong(found?.to ?? over.to))
  const [bed, setBed] = useState('')
  const [sock, setSock] = useState(before?.sock ?? drain.sock)
  const [start, setStart] = useState<PipeData['start']>(before ? 'joined' : 'cap')
  const [end, setEnd] = useState<PipeData['end']>('outlet')
  const [laps, setLaps] = useState<PipeData['laps']>('with')
  const [ticked, setTicked] = useState<readonly string[]>([])
  const { busy, problems, setProblems, go } = useRecord(record)
  const put = async () => {
    const [a, b, c] = [parseLength(from, long), parseLength(to, long), parseLength(bed, small)]
    if (!a.ok) return setProblems(a.problems.map((p) => ({ ...p, field: 'From' })))
    if (!b.ok) return setProblems(b.problems.map((p) => ({ ...p, field: 'To' })))
    if (!c.ok) return setProblems(c.problems.map((p) => ({ ...p, field: 'Bed' })))
    const data = { from: a.value, to: b.value, diameter: layout.plan.drain.diameter, bed: c.value, sock, start, end, laps, confirmed: ticked }
    const done = await go([{ kind: 'pipe', where: whereOf(step), data, ...(recheck ? { recheckOf: recheck.id } : {}) }])
    if (done) {
      setFrom(to)
      setTo(asLong(over.to))
    }
  }
  const ends = PIPE_ENDS.map(([id, name]) => [id, name] as const)
  return (
    <Stack>
      <Hero value={formatSmall(layout.plan.drain.diameter, units)} unit={`pipe, falling ${(layout.plan.drain.fall * 100).toFixed(1)} %`} />
      <Targets
        list={[
          ['Bed', `at least ${formatSmall(drain.bed, units)}`],
          ['Sock', drain.sock ? 'yes' : 'none'],
          ['Missing', status.missing.join('; ') || 'nothing'],
        ]}
      />
      <Row>
        <div style={{ flex: 1, minWidth: 80 }}>
          <Field label={`From, ${long}`} value={from} onChange={setFrom} inputMode="decimal" />
        </div>
        <div style={{ flex: 1, minWidth: 80 }}>
          <Field label={`To, ${long}`} value={to} onChange={setTo} inputMode="decimal" />
        </div>
        <div style={{ flex: 1, minWidth: 80 }}>
          <Field label={`Bed below it, ${small}`} value={bed} onChange={setBed} inputMode="decimal" />
        </div>
      </Row>
      <Choice label="Lower station ends" value={start} options={ends} onChange={setStart} />
      <Choice label="Higher station ends" value={end} options={ends} onChange={setEnd} />
      <Choice label="Laps of fabric and pipe" value={laps} options={LAPS} onChange={setLaps} />
      <div>
        <Check checked={sock} onChange={setSock}>
          Sock on the pipe
        </Check>
        {items.map((i) => (
          <Check key={i.id} checked={ticked.includes(i.id)} onChange={(on) => setTicked(on ? [...ticked, i.id] : ticked.filter((t) => t !== i.id))}>
            {i.text}
          </Check>
        ))}
      </div>
      <Row>
        {ticked.length < items.length ? <Button onPress={() => setTicked(items.map((i) => i.id))}>All of these</Button> : null}
        <NowButton style={{ flex: 1 }} isDisabled={busy || !bed.trim()} onPress={put}>
          {recheck ? 'Record re-check' : 'Record this stretch'}
        </NowButton>
      </Row>
      <Problems list={problems} />
    </Stack>
  )
}
