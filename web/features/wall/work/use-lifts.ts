'use client'

import {
  failAll,
  formatLength,
  formatSmall,
  type Instrument,
  knownLift,
  type LiftData,
  limitsOf,
  looksLikeShare,
  ok,
  type Problem,
  parseAmount,
  plantRule,
  type Result,
  type Squeeze,
  TOOLS,
  tableOf,
} from '@stone-tally/core'
import { useMemo, useState } from 'react'
import { usePreferences } from '@/ui/preferences'
import { useHeld } from '../today'
import { useTyped } from '../typed'
import { judge } from './judged'
import { type WorkProps, whereOf } from './types'
import { useRecord } from './use-record'

/** State of a lift as it is typed: what the card asks for, what is read, how it would be judged; knows no markup. */
export function useLifts({ state, step, status, me, record, recheck }: WorkProps) {
  const { units } = usePreferences()
  const plan = step.lifts ?? { count: 1, compacted: 0.1, loose: 0.12 }
  // A re-check is of the lift that was found, over the stretch that was found.
  const found = recheck && state.byId.get(recheck.id)?.entry.kind === 'lift' ? (state.byId.get(recheck.id)?.entry.data as LiftData) : undefined
  const next = found?.lift ?? Math.min(status.done + 1, plan.count)
  const small = (m: number) => (units === 'metric' ? `${Math.round(m * 1000)}` : formatSmall(m, units).replace('"', ''))
  const scope = `${step.key}|${recheck?.id ?? ''}|${units}`
  const asLong = (m: number | undefined) => (m === undefined ? '' : units === 'metric' ? `${m}` : formatLength(m, units))
  // The next lift is mostly like the last one, in whatever section.
  const last = useMemo(() => knownLift(state, step.stage.id), [state, step.stage.id])
  const [plant, setPlant] = useState<LiftData['plant']>(found?.plant ?? last?.value.plant ?? 'light-plate')
  const tool = TOOLS.find((t) => t.plant === plant)
  const [fill, setFill] = useState<LiftData['fill']>(found ? found.fill : last?.value.fill)
  const pad = step.stage.work.type === 'lifts' && step.stage.work.of === 'pad'
  const { plan: inForce } = state.layout
  const rule = plantRule(inForce, plant, fill)
  const asked = tableOf(inForce) > 1 ? rule.passes : Math.max(limitsOf(inForce).passes.value, tool?.passes ?? 0)
  // What sets hard is poured or tamped in one go: nobody counts passes or tests density there.
  const cement = pad && tableOf(inForce) > 1 && state.layout.building.foundation.cast
  const [thickness, setThickness, noThickness] = useTyped(scope, 'thickness', small(plan.compacted))
  const [passes, setPasses, noPasses] = useTyped(scope, 'passes', `${asked}`)
  const [density, setDensity, noDensity] = useTyped(scope, 'density')
  const [squeeze, setSqueeze] = useState<Squeeze>()
  const [moisture, setMoisture, noMoisture] = useTyped(scope, 'moisture')
  const [more, setMore] = useState(found?.from !== undefined)
  const [from, setFrom, noFrom] = useTyped(scope, 'from', asLong(found?.from))
  const [to, setTo, noTo] = useTyped(scope, 'to', asLong(found?.to))
  const [lap, setLap, noLap] = useTyped(scope, 'lap')
  const [near, setNear, noNear] = useTyped(scope, 'near')
  const [soil, setSoil, noSoil] = useTyped(scope, 'soil', found?.soil ?? '')
  const [placed, setPlaced, noPlaced] = useTyped(scope, 'placed')
  const [taken, setTaken] = useState<Instrument>()
  const [looked, setLooked, noLooked] = useTyped(scope, 'looked')
  const held = useHeld(state, step)
  const { busy, problems, setProblems, go } = useRecord(record)
  // Changed by hand it is no longer the probe's.
  const typeMoisture = (v: string) => {
    setMoisture(v)
    setTaken(undefined)
  }
  const loose = plan.loose
  const reach = tableOf(inForce) > 1 ? rule.loose : tool ? (pad ? tool.granular : tool.fine) : loose
  const tooThick = loose > reach + 0.001
  const section = state.layout.plan.sections.find((s) => s.id === step.section)
  /** What is typed, as it would be recorded; or what cannot be read. */
  const read = (): Result<Partial<LiftData>> => {
    const one = (field: string, text: string, of: 'length' | 'small') => {
      const r = text.trim() ? parseAmount(text, of, units) : undefined
      if (r && !r.ok) bad.push(...r.problems.map((p) => ({ ...p, field })))
      return r?.ok ? r.value : undefined
    }
    const number = (field: string, text: string) => {
      const n = text.trim() ? Number(text.replace(',', '.')) : undefined
      if (n !== undefined && !Number.isFinite(n)) bad.push({ field, message: `"${text}" is not a number` })
      return n
    }
    const bad: Problem[] = []
    const t = one('Thickness', thickness, 'small')
    if (t === undefined && bad.length === 0) bad.push({ field: 'Thickness', message: 'is missing' })
    const percent = number('Moisture', moisture)
    if (percent !== undefined && looksLikeShare(percent))
      bad.push({ field: 'Moisture', message: `${percent} looks like a share; moisture is in per cent, so write ${+(percent * 100).toFixed(2)}` })
    const data = {
      lift: next,
      thickness: t,
      passes: cement ? 0 : number('Passes', passes.trim() === '' ? 'none' : passes),
      plant,
      ...(cement ? { poured: true } : {}),
      fill: cement ? undefined : fill,
      compaction: number('Density', density),
      squeeze,
      moisture: percent,
      from: one('From', from, 'length'),
      to: one('To', to, 'length'),
      fabricLap: one('Fabric lap', lap, 'small'),
      near: one('Nearest to the face', near, 'length'),
      loose: one('Placed loose', placed, 'small'),
      soil: soil.trim() || undefined,
      looked: looked.trim() || undefined,
    }
    return bad.length > 0 ? failAll(bad) : ok(Object.fromEntries(Object.entries(data).filter(([, v]) => v !== undefined)))
  }
  const now = read()
  const verdict = now.ok ? judge(state, me, { kind: 'lift', where: whereOf(step), data: now.value }) : undefined
  const put = async () => {
    if (!now.ok) return setProblems(now.problems)
    const { value: data } = now
    const percent = data.moisture
    const done = await go([
      {
        kind: 'lift',
        where: whereOf(step),
        data,
        ...(recheck ? { recheckOf: recheck.id } : {}),
        ...(taken && percent !== undefined ? { instrument: taken } : {}),
      },
    ])
    if (done) {
      setSqueeze(undefined)
      for (const letGo of [noThickness, noPasses, noDensity, noMoisture, noFrom, noTo, noLap, noNear, noSoil, noPlaced, noLooked]) letGo()
    }
  }
  /** The probe was read. */
  const probed = (percent: number, instrument: Instrument) => {
    setMoisture(percent.toFixed(1))
    setTaken(instrument)
  }
  const wrong = now.ok ? undefined : `${now.problems[0]?.field} ${now.problems[0]?.message}`
  const byRule = tableOf(inForce) > 1
  const standoff = limitsOf(inForce).plantStandoff.reason
  const heavy = !pad && (plant === 'roller' || plant === 'heavy-plate')
  const compacted = Math.min(plan.compacted, byRule ? rule.compacted : plan.compacted)
  return {
    plan,
    found,
    last: found ? undefined : last,
    next,
    plant,
    setPlant,
    fill,
    setFill,
    pad,
    compacted,
    asked,
    cement,
    byRule,
    heavy,
    standoff,
    thickness,
    setThickness,
    passes,
    setPasses,
    density,
    setDensity,
    squeeze,
    setSqueeze,
    moisture,
    typeMoisture,
    probed,
    more,
    setMore,
    from,
    setFrom,
    to,
    setTo,
    lap,
    setLap,
    near,
    setNear,
    soil,
    setSoil,
    placed,
    setPlaced,
    looked,
    setLooked,
    held,
    busy,
    problems,
    loose,
    reach,
    tooThick,
    section,
    verdict,
    wrong,
    put,
  }
}
