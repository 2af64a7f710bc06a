import { identifySoil, type PadFacts, type PadReading, type SoilFinding, type SoilParameters, swellFactor, testsOwed, trench } from '../ground'
import { cutTopAt, frostCover, type PadStep, pointsOver, stepAt } from '../layout'
import { exposedHeight, toeAt, topAt } from '../plan'
import { limitsOf, type Ruled, schoolBy, since, tableOf } from '../rules'
import { formatDeviation, type UnitSystem } from '../units/length'
import type { RecordedEntry } from './entry'
import { contextOf, statusOf } from './fold'
import {
  type CurveData,
  type DensityData,
  type DensityResult,
  densityOf,
  deviationOf,
  type LiftData,
  type PadChoiceData,
  type ReadingData,
  roomBehind,
  type SoilData,
  type SoilReportData,
} from './kinds'
import { latestOf } from './latest'
import { live, type WallState } from './state'
import { stepKey } from './step'
import { targetAt } from './target'
import { weatherOf } from './weather'

/** How the trench stands at a point. m; deviation + is high: not dug deep enough. */
export interface DigPoint {
  readonly station: number
  readonly ground: number
  readonly target: number
  readonly deviation: number | undefined
  readonly entry: RecordedEntry | undefined
}

/** A step of the pad as it is dug. Volumes m³ in the bank. */
export interface DigStep {
  readonly step: PadStep
  /** Place in the order of work: 1 is the lowest. */
  readonly order: number
  readonly target: number
  readonly points: readonly DigPoint[]
  readonly bank: number
  readonly done: number
  /** Pad material to fill what was dug too deep, m³ compacted. */
  readonly overDig: number
}

export interface DigReport {
  readonly steps: readonly DigStep[]
  readonly bank: number
  readonly done: number
  readonly left: number
  /** Still to go, loose m³, and truck loads. */
  readonly loose: number
  readonly loads: number
  readonly overDig: number
  /** Room wanted behind the face for the longest layer, m, and what the plan digs. */
  readonly room: number
  readonly planned: number
  /** Deepest cut behind the wall, m, and where. */
  readonly deepest: { readonly depth: number; readonly station: number }
  /** Where water gathers: the lowest target. */
  readonly lowest: { readonly station: number; readonly elevation: number }
}

/** How common soil grows when it is dug, and what a truck takes, m³ loose. */
export const DIG = { swell: 0.25, truck: 8 }

/**
 * The trench from plan and record: targets, what was read, volumes done and left, loads, over-dig, room and water.
 *
 * Done is counted by length: the stretch nearest to each point that was read at target or below (within limits).
 *
 * @example digReport(state).left
 */
export function digReport(state: WallState): DigReport {
  const { layout } = state
  const { plan, building } = layout
  const { foundation } = building
  const limit = limitsOf(plan).excavation.value
  const read = new Map<string, RecordedEntry>()
  for (const step of state.steps) {
    if (step.stage.work.type !== 'readings' || step.stage.work.target !== 'dig') continue
    for (const r of statusOf(state, step).read) if (r.entry) read.set(r.station.toFixed(3), r.entry)
  }
  const { width } = foundation
  const order = [...layout.steps].sort((a, b) => a.elevation - b.elevation || a.start - b.start)
  const spacing = plan.rules?.pointSpacing ?? limitsOf(plan).pointSpacing.value
  const steps = layout.steps.map((step): DigStep => {
    const target = step.elevation - foundation.thickness
    const cuts = plan.sections.flatMap((s) => {
      const from = Math.max(s.from, step.start)
      const to = Math.min(s.to, step.end)
      return to - from > 0.01 ? pointsOver({ from, to }, spacing) : []
    })
    const points = [...new Set(cuts.map((s) => s.toFixed(3)))].map((key): DigPoint => {
      const station = Number(key)
      const entry = read.get(key)
      return {
        station,
        ground: toeAt(plan, station),
        target,
        entry,
        deviation: entry ? deviationOf(entry.entry.data as ReadingData, targetAt(layout, 'dig', { station })) : undefined,
      }
    })
    let [bank, done, overDig] = [0, 0, 0]
    points.forEach((p, i) => {
      const before = points[i - 1]
      const after = points[i + 1]
      const from = before ? (before.station + p.station) / 2 : step.start
      const to = after ? (after.station + p.station) / 2 : step.end
      const own = trench({
        sideSlope: 0,
        swell: 0,
        truckVolume: 1,
        sections: [from, to]
          .filter((s, k, l) => k === 0 || s > (l[0] as number))
          .map((station) => ({ station, ground: toeAt(plan, station), bottom: target, width })),
      })
      const volume = own.ok ? own.value.bank : 0
      bank += volume
      if (p.deviation === undefined) return
      if (p.deviation <= limit + 1e-9) done += volume
      if (p.deviation < -limit - 1e-9) overDig += -p.deviation * width * (to - from)
    })
    return { step, order: order.indexOf(step) + 1, target, points, bank, done, overDig }
  })
  const sum = (f: (s: DigStep) => number) => steps.reduce((n, s) => n + f(s), 0)
  const left = Math.max(0, sum((s) => s.bank) - sum((s) => s.done))
  const loose = left * swellFactor(DIG.swell)
  let deepest = { depth: 0, station: 0 }
  for (const s of steps) {
    for (const p of s.points) {
      const depth = cutTopAt(plan, p.station) - s.target
      if (depth > deepest.depth) deepest = { depth, station: p.station }
    }
  }
  const low = order[0] as PadStep
  return {
    steps,
    bank: sum((s) => s.bank),
    done: sum((s) => s.done),
    left,
    loose,
    loads: Math.ceil(loose / DIG.truck - 1e-9),
    overDig: sum((s) => s.overDig),
    room: roomBehind(layout),
    planned: building.course(1).depth + plan.excavation.behind,
    deepest,
    lowest: { station: (low.start + low.end) / 2, elevation: low.elevation - foundation.thickness },
  }
}

/** Over-dig and under-dig in words that say what to do. @example digWords(-0.04, 'metric') // '40 mm too deep: fill with compacted pad material, not with soil' */
export function digWords(deviation: number, units: UnitSystem, plan: Ruled = {}): string {
  const limit = limitsOf(plan).excavation.value
  if (Math.abs(deviation) <= limit + 0.0001) return `${formatDeviation(deviation, 'level', units)}: within limits`
  const size = formatDeviation(deviation, 'level', units).split(' ').slice(0, -1).join(' ')
  return deviation > 0 ? `${size} not deep enough: dig on` : `${size} too deep: fill with compacted pad material, never with soil`
}

/** Readings of the pad's top over a section, across as well, as deviations from design. m. */
export function padReadings(state: WallState, section: string): PadReading[] {
  const step = state.steps.find((s) => s.section === section && s.stage.work.type === 'readings' && s.stage.work.target === 'pad')
  if (!step) return []
  const seen = new Map<string, PadReading>()
  for (const { entry } of state.logs.get(step.key)?.work ?? []) {
    if (entry.kind !== 'reading' || !live(state, entry.id)) continue
    const { station = 0, offset } = entry.where
    if (offset === undefined) continue
    const deviation = deviationOf(entry.data as ReadingData, targetAt(state.layout, 'pad', entry.where))
    seen.set(`${station.toFixed(2)}|${offset.toFixed(2)}`, { station, offset, deviation })
  }
  return [...seen.values()]
}

/** Thickness of the pad where trench and top were both read, m, and how far it is from design. */
export interface ThicknessPoint {
  readonly station: number
  readonly thickness: number
  readonly off: number
  readonly out: boolean
}

/** @example padThickness(state, 'A').filter((p) => p.out) */
export function padThickness(state: WallState, section: string): ThicknessPoint[] {
  const design = state.layout.building.foundation.thickness
  const dug = digReport(state).steps.flatMap((s) => s.points.filter((p) => p.deviation !== undefined))
  const tops = padReadings(state, section)
  return dug.flatMap((p) => {
    const near = tops.filter((t) => Math.abs(t.station - p.station) <= 0.5)
    if (near.length === 0) return []
    const top = near.reduce((n, t) => n + t.deviation, 0) / near.length
    const off = top - (p.deviation ?? 0)
    return [{ station: p.station, thickness: design + off, off, out: Math.abs(off) > limitsOf(state.layout.plan).padThickness.value + 1e-9 }]
  })
}

/** Soils found along a section, newest last, and what they come to. */
export interface SoilHere {
  readonly entry: RecordedEntry
  readonly data: SoilData
  readonly finding: SoilFinding
  /** Not replaced yet. */
  readonly open: boolean
}
export function soilsOf(state: WallState, section?: string): SoilHere[] {
  return state.entries.flatMap((entry) => {
    if (entry.entry.kind !== 'soil' || !live(state, entry.entry.id) || (section && entry.entry.where.section !== section)) return []
    const data = entry.entry.data as SoilData
    const step = state.byKey.get(stepKey(entry.entry.where))
    const open = step ? statusOf(state, step).open.some((o) => o.entry.id === entry.entry.id) : false
    return [{ entry, data, finding: identifySoil(data.answers, tableOf(contextOf(state, entry.entry).layout.plan)), open }]
  })
}

/** Soil values for the strength checks of a zone and where they come from: a report, else assumed from what a hand found. */
export function soilParameters(
  state: WallState,
  zone: SoilReportData['zone'],
): { values: SoilParameters; source: string; assumed: boolean } | undefined {
  const report = latestOf(state, (e) => e.kind === 'soil-report' && (e.data as SoilReportData).zone === zone)
  if (report) {
    const d = report.entry.data as SoilReportData
    return { values: { phi: d.phi, gamma: d.gamma, c: d.c }, source: d.source, assumed: false }
  }
  // The weakest of what was found governs until somebody has measured.
  const found = soilsOf(state).filter((s) => s.finding.class !== 'organic')
  const weakest = found.reduce<SoilHere | undefined>(
    (w, s) => (!w || s.finding.meaning.parameters.phi < w.finding.meaning.parameters.phi ? s : w),
    undefined,
  )
  return (
    weakest && {
      // Soil that pushes is taken heavy, soil that carries is taken light.
      values:
        zone === 'retained' && tableOf(state.layout.plan) > 1
          ? { ...weakest.finding.meaning.parameters, gamma: Math.max(...found.map((s) => s.finding.meaning.heavy)) }
          : weakest.finding.meaning.parameters,
      source: `assumed: ${weakest.finding.meaning.name.toLowerCase()}`,
      assumed: true,
    }
  )
}

/** What pad advice needs to know of this wall; frost and rain from the weather recorded. */
export function padFacts(state: WallState): PadFacts {
  const { plan, steps, system, building } = state.layout
  const lowest = Math.min(...steps.map((s) => s.elevation))
  const soils = soilsOf(state).filter((s) => s.finding.class !== 'organic')
  const worst = [...soils].sort((a, b) => a.finding.meaning.parameters.phi - b.finding.meaning.parameters.phi)[0]
  const weather = weatherOf(state)
  return {
    padBottom: lowest - building.foundation.thickness,
    padTop: lowest,
    outlet: Math.min(...(building.drain?.outlets ?? []).map((o) => o.invert)),
    subgrade: worst?.finding.class ?? 'lean-clay',
    // Frost is the depth to which the place freezes, not what tomorrow brings; where nobody said it, it is taken to reach the pad.
    frost:
      tableOf(plan) > 1 ? frostCover(plan, steps) < (plan.frost ?? Number.POSITIVE_INFINITY) : (weather.expected?.low ?? weather.now?.low ?? 5) <= 0,
    rain: (weather.expected?.rain ?? weather.now?.rain ?? 0) >= 5,
    unitMass: building.course(1).mass,
    height: exposedHeight(plan),
    flexible: system.traits.flexible,
  }
}

export const padChoiceOf = (state: WallState) => {
  const e = latestOf(state, (x) => x.kind === 'pad-choice')
  return e && { ...(e.entry.data as PadChoiceData), by: e.entry.by.name, at: e.entry.at }
}

/** Laboratory curves of this wall that were not corrected. */
export const curvesOf = (state: WallState): { entry: RecordedEntry; data: CurveData }[] =>
  state.entries.flatMap((entry) =>
    entry.entry.kind === 'curve' && live(state, entry.entry.id) ? [{ entry, data: entry.entry.data as CurveData }] : [],
  )

/** A density test with its result, and whether it was done again after rework. */
export interface DensityHere {
  readonly entry: RecordedEntry
  readonly data: DensityData
  readonly result: DensityResult | undefined
  readonly text: string
  readonly out: boolean
  readonly closed: boolean
}

/** Density tests at a step, or of the whole wall, oldest first, and how many are still owed. */
export function densityReport(state: WallState, key?: string): { tests: readonly DensityHere[]; wanted: number; owed: number } {
  const tests: DensityHere[] = []
  let [wanted, owed] = [0, 0]
  const one = key === undefined ? undefined : state.byKey.get(key)
  for (const step of key === undefined ? state.steps : one ? [one] : []) {
    if (step.stage.work.type !== 'lifts') continue
    const status = statusOf(state, step)
    const log = state.logs.get(step.key)?.work ?? []
    const here = log
      .filter((e) => e.entry.kind === 'density' && live(state, e.entry.id))
      .map((entry): DensityHere => {
        const r = densityOf(entry.entry as never, contextOf(state, entry.entry))
        const result = r.ok ? r.value : undefined
        const out = state.outs.has(entry.entry.id)
        return {
          entry,
          data: entry.entry.data as DensityData,
          result,
          text: result?.text ?? (entry.entry.data as DensityData).seen ?? '',
          out,
          closed: out && !status.open.some((o) => o.entry.id === entry.entry.id),
        }
      })
    tests.push(...here)
    const section = state.layout.plan.sections.find((s) => s.id === step.section)
    if (tableOf(state.layout.plan) > 1) {
      for (const lift of owedByLift(state, step.key, section ? section.to - section.from : 0, here)) {
        wanted += lift.wanted
        owed += lift.owed
      }
      continue
    }
    const lifts = new Set(log.filter((e) => e.entry.kind === 'lift' && live(state, e.entry.id)).map((e) => (e.entry.data as LiftData).lift))
    // A percentage typed with the lift is a test of it too.
    const typed = log.filter((e) => e.entry.kind === 'lift' && live(state, e.entry.id) && (e.entry.data as LiftData).compaction != null).length
    const given = here.filter((t) => !t.out).length + typed
    const count = testsOwed({
      lifts: lifts.size,
      length: section ? section.to - section.from : 0,
      given,
      every: limitsOf(state.layout.plan).testEvery.value,
    })
    wanted += count.wanted
    owed += count.owed
  }
  return { tests, wanted, owed }
}

/** Tests owed lift by lift: a lift that was tested twice pays for no other, and what sets hard is not tested for density. */
function owedByLift(
  state: WallState,
  key: string,
  length: number,
  tests: readonly DensityHere[],
): { lift: number; parts: readonly LiftData[]; wanted: number; owed: number }[] {
  const placed = new Map<number, LiftData[]>()
  for (const { entry } of state.logs.get(key)?.work ?? []) {
    const d = entry.data as LiftData
    // Lifts placed under earlier rules are buried: nobody tests them now.
    if (entry.kind !== 'lift' || !live(state, entry.id) || d.poured || tableOf(contextOf(state, entry).layout.plan) === 1) continue
    placed.set(d.lift, [...(placed.get(d.lift) ?? []), d])
  }
  const { plan } = state.layout
  const work = state.byKey.get(key)?.stage.work
  const byMethod = work?.type === 'lifts' && work.of === 'pad' && schoolBy(plan, 'pad-test') === 'method'
  const every = byMethod ? Number.POSITIVE_INFINITY : limitsOf(plan).testEvery.value
  return [...placed].map(([lift, parts]) => {
    // A percentage typed with the lift was a test of it before rule table 3; it is a claim, and pays for none.
    const typed = since(plan, 3) ? 0 : parts.filter((d) => d.compaction != null).length
    const given = tests.filter((t) => !t.out && t.data.lift === lift).length + typed
    return { lift, parts, ...testsOwed({ lifts: 1, length, given, every }) }
  })
}

/**
 * The lowest lift of a step that still owes a density test, and how it was placed as recorded; undefined where none does, and under rule
 * table 1, which counts no single lift.
 *
 * @example nextTest(state, 'pad|A|')?.lift // 2
 */
export function nextTest(state: WallState, key: string): { readonly lift: number; readonly parts: readonly LiftData[] } | undefined {
  const step = state.byKey.get(key)
  const section = state.layout.plan.sections.find((s) => s.id === step?.section)
  if (!step || tableOf(state.layout.plan) === 1) return undefined
  return owedByLift(state, key, section ? section.to - section.from : 0, densityReport(state, key).tests)
    .filter((l) => l.owed > 0)
    .sort((a, b) => a.lift - b.lift)[0]
}

/** The elevation of the trench bottom and the pad at a station, m. */
export const levelsAt = (state: WallState, station: number) => {
  const pad = stepAt(state.layout.steps, station)
  return {
    pad,
    bottom: pad - state.layout.building.foundation.thickness,
    toe: toeAt(state.layout.plan, station),
    top: topAt(state.layout.plan, station),
  }
}
