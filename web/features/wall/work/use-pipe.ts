'use client'

import { drainPlan, formatStation, live, type PipeData, parseAmount, type Stretch } from '@stone-tally/core'
import { useMemo, useState } from 'react'
import { usePreferences } from '@/ui/preferences'
import { useTyped } from '../typed'
import type { Fact } from '../use-wall'
import { judge } from './judged'
import { type WorkProps, whereOf } from './types'
import { useRecord } from './use-record'

/** Where pipe is missing first. */
function firstGap(over: Stretch, laid: readonly { from: number; to: number }[]): number {
  let at = over.from
  for (const d of [...laid].sort((a, b) => a.from - b.from)) if (d.from <= at + 0.05) at = Math.max(at, d.to)
  return Math.min(at, over.to)
}

/** State of a stretch of pipe as it is typed, and how it would be judged; knows no markup. */
export function usePipe({ state, step, me, record, recheck }: WorkProps) {
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
  const [laps, setLaps] = useState<PipeData['laps']>()
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
    a.ok && b.ok && c.ok && laps !== undefined
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
    if (!fact) return setProblems([{ field: 'Laps of fabric and pipe', message: 'say how they lie: nobody has looked until somebody says so' }])
    const done = await go([fact])
    if (done) {
      for (const letGo of [noFrom, noTo, noBed]) letGo()
      // What was seen of one stretch is nobody's word for the next.
      setTicked([])
      setStart(undefined)
      setEnd(undefined)
      setLaps(undefined)
    }
  }
  const verdict = fact ? judge(state, me, fact) : undefined
  const tick = (id: string, on: boolean) => setTicked(on ? [...ticked, id] : ticked.filter((t) => t !== id))
  // What may not be there is asked, never sworn to by a press for all.
  const sure = items.filter((i) => !i.maybe).map((i) => i.id)
  const tickAll = () => setTicked([...new Set([...ticked, ...sure])])
  const missing = [
    ...(bed.trim() ? [] : ['the bed']),
    ...(laps === undefined ? ['how the laps lie'] : []),
    ...(sure.every((id) => ticked.includes(id)) ? [] : ['what was looked at']),
  ]
  return {
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
    tickAll: sure.every((id) => ticked.includes(id)) ? undefined : tickAll,
    missing,
    busy,
    problems,
    verdict,
    put,
  }
}
