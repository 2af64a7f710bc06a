'use client'

import {
  aim,
  deviationOf,
  formatLength,
  formatSmall,
  type Instrument,
  latestSetup,
  limitAt,
  limitsOf,
  parseAmount,
  parseLength,
  type ReadingData,
  type SetupData,
  type StepStatus,
  smallUnit,
  targetAt,
  walkOrder,
} from '@stone-tally/core'
import { useEffect, useMemo, useRef, useState } from 'react'
import { usePreferences } from '@/ui/preferences'
import { isTyping, typedAt, useTyped } from '../typed'
import { isWriting } from '../typing'
import { type WorkProps, whereOf } from './types'
import { useRecord } from './use-record'

type Method = ReadingData['method']

/** The places of a step in the order a crew goes. */
const along = (status: StepStatus, order: readonly number[]) => [...status.read].sort((a, b) => order.indexOf(a.station) - order.indexOf(b.station))

/** The place a next reading is for: the one chosen, else the first not read yet on the way along the wall. */
function placeFor(
  status: StepStatus,
  order: readonly number[],
  at: number | undefined,
  line: number | undefined,
): { station: number; offset?: number } {
  const way = along(status, order)
  const here = way.filter((r) => r.station === at)
  const chosen = here.find((r) => r.offset === line) ?? here.find((r) => !r.entry) ?? here[0]
  return chosen ?? way.find((r) => !r.entry) ?? way[0] ?? { station: 0 }
}

/** State of readings along a step: the place that is asked for, what is typed for it and how it would be judged; knows no markup. */
export function useReadings({ state, step, status, record, recheck, station: at, onStation }: WorkProps) {
  const { units } = usePreferences()
  const work = step.stage.work
  const target = work.type === 'readings' ? work.target : 'alignment'
  const sense = work.type === 'readings' ? work.sense : 'level'
  const across = target === 'alignment' || target === 'setback'
  const [chosen, setMethod] = useState<Method>('rod')
  const method: Method = across ? 'deviation' : chosen
  const [line, setLine] = useState<number>()
  const order = useMemo(() => walkOrder(state.layout, step.points), [state.layout, step.points])
  // Where a number is being typed one stays, whatever others record there meanwhile.
  const [held, setHeld] = useState<{ station: number; offset?: number | undefined }>()
  const place = recheck?.station === undefined ? (held ?? placeFor(status, order, at, line)) : { station: recheck.station, offset: recheck.offset }
  const { station, offset } = place
  // Each way of measuring has its own number: 1.85 on the rod is not 1.85 off the target.
  const spot = `${step.key}|${station}|${offset ?? ''}|${recheck?.id ?? ''}`
  // and 1.85 m is not 1.85 ft.
  const way = `${method} ${units}`
  const [typed, setText, letGo] = useTyped(spot, way)
  const typing = useRef(held)
  typing.current = held
  const setTyped = (text: string) => {
    setText(text)
    setHeld(text.trim() === '' || recheck ? undefined : { station, offset })
  }
  const [string, setString] = useTyped('string', `elevation ${units}`)
  const [sure, setSure] = useState(false)
  const input = useRef<HTMLInputElement>(null)
  const { busy, problems, setProblems, send } = useRecord(record)

  const setup = latestSetup(state)
  const hi = setup ? (setup.entry.data as SetupData).benchmark + (setup.entry.data as SetupData).backsight : undefined
  const goal = targetAt(state.layout, target, { station, course: step.course })
  const limit = limitAt(state.layout, step.stage, { station, course: step.course })
  const bare: 'mm' | 'in' | 'm' | 'ft' = method === 'deviation' ? smallUnit(units) : units === 'metric' ? 'm' : 'ft'
  const level = parseAmount(string, 'length', units)
  const from = method === 'rod' ? hi : method === 'string' ? (level.ok ? level.value : undefined) : 0
  const [taken, setTaken] = useState<Instrument>()
  const value = parseLength(typed, bare)
  const data: ReadingData | undefined =
    value.ok && from !== undefined
      ? { method, value: value.value, ...(method === 'rod' ? { hi: from } : method === 'string' ? { string: from } : {}) }
      : undefined
  const deviation = data ? deviationOf(data, goal) : undefined
  const out = deviation !== undefined && Math.abs(deviation) > limit.value + 0.0001
  const odd = deviation !== undefined && Math.abs(deviation) > limitsOf(state.layout.plan).questionable.value
  const should =
    from === undefined ? undefined : method === 'deviation' ? 0 : aim({ method, ...(method === 'rod' ? { hi: from } : { string: from }) }, goal)

  // biome-ignore lint/correctness/useExhaustiveDependencies: a new place, or another way of measuring, starts with its own reading
  useEffect(() => {
    setTaken(undefined)
    setSure(false)
  }, [station, offset, step.key, method])
  // Looked at another step and come back: the place with a number begun is the one that is asked for.
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the step is opened
  useEffect(() => {
    const begun = status.read.find((r) => isTyping(`${step.key}|${r.station}|${r.offset ?? ''}|`))
    if (begun && at === undefined && !recheck) setHeld({ station: begun.station, offset: begun.offset })
  }, [step.key])
  /** What somebody recorded at this place while a number was being typed for it. */
  const meanwhile = held ? status.read.find((r) => r.station === held.station && r.offset === held.offset)?.entry : undefined
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey || !/^[0-9.,+-]$/.test(e.key)) return
      if (!isWriting(document.activeElement)) input.current?.focus()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])

  // A value changed by hand, by whatever key, is no longer the instrument's.
  const typeIn = (v: string) => {
    setTyped(v)
    setTaken(undefined)
    setSure(false)
    if (problems.length > 0) setProblems([])
  }

  const put = async () => {
    if (!data)
      return setProblems(
        value.ok
          ? [{ field: 'reading', message: method === 'rod' ? 'set up the instrument first' : 'give the elevation of the string' }]
          : value.problems,
      )
    if (odd && !sure) {
      setSure(true)
      return
    }
    if (busy) return
    // The next point is asked for at once: nobody waits for the network with a number in hand, and what is typed meanwhile is the next one.
    const fact = {
      kind: 'reading' as const,
      where: whereOf(step, station, offset),
      data,
      ...(recheck ? { recheckOf: recheck.id } : {}),
      ...(taken ? { instrument: taken } : {}),
    }
    letGo()
    setHeld(undefined)
    setSure(false)
    setTaken(undefined)
    const after = along(status, order).find((r) => !r.entry && (r.station !== station || r.offset !== offset))
    if (!recheck) {
      setLine(after?.offset)
      if (after) onStation(after.station)
    }
    const result = await send([fact])
    if (result?.ok) return
    // Refused: the number comes back to its point, unless another one was begun there.
    if (typedAt(spot, way) === undefined) setText(typed)
    if (!recheck && typing.current === undefined) {
      setHeld({ station, offset })
      setLine(offset)
      onStation(station)
    }
  }
  const nudge = (steps: number) => {
    const by = steps * (units === 'metric' ? 0.001 : 0.0015875)
    const now = value.ok && typed.trim() ? value.value : (should ?? 0)
    const moved = now + by
    typeIn(
      units === 'metric'
        ? method === 'deviation'
          ? `${Math.round(moved * 1000)}`
          : moved.toFixed(3)
        : method === 'deviation'
          ? formatSmall(moved, units).replace(/^/, moved < 0 ? '-' : '')
          : formatLength(moved, units),
    )
  }
  const goTo = (to: { station: number; offset?: number | undefined }) => {
    setProblems([])
    setHeld(undefined)
    setLine(to.offset)
    onStation(to.station)
  }
  /** The instrument read the rod. */
  const shot = (rod: number, instrument: Instrument) => {
    setTyped(units === 'metric' ? rod.toFixed(3) : formatLength(rod, units))
    setTaken(instrument)
    setSure(false)
  }
  const points = along(status, order)
  return {
    sense,
    across,
    chosen,
    setMethod,
    method,
    points,
    station,
    offset,
    typed,
    typeIn,
    string,
    setString,
    sure,
    input,
    busy,
    problems,
    hi,
    /** What the numbers count from: height of instrument, level of the string, or nothing; m. */
    from,
    goal,
    limit,
    bare,
    value,
    deviation,
    out,
    odd,
    should,
    meanwhile,
    goTo,
    shot,
    put,
    nudge,
  }
}
