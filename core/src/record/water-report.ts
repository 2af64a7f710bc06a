import { fail, ok, type Result } from '../base/result'
import { said } from '../base/said'
import { bedOf, builtHeight, invertAt, type Layout, pipeFloor, schoolOf, seatedInvert, stepAt } from '../layout'
import { toeAt, topAt } from '../plan'
import { limitsOf, since, tableOf } from '../rules'
import type { Drain } from '../systems'
import {
  DRAIN_SCHOOLS,
  type DrainProfile,
  type DrainSchool,
  type DrainSolution,
  drain,
  drainInvert,
  drainSeat,
  type FilterCheck,
  filter,
  finesOf,
  pipeCapacity,
  rationalFlow,
  regraded,
  seepageFlow,
  sizeAt,
  solveDrain,
  swaleDepth,
} from '../water'
import type { RecordedEntry } from './entry'
import { statusOf } from './fold'
import type { CheckData, GradationData, PipeData } from './kinds'
import { latestOf } from './latest'
import { live, type WallState } from './state'
import { cleared, settled } from './status'
import { stepKey } from './step'

/** The drain at a station, elevations in m. */
export interface DrainPoint {
  readonly station: number
  readonly invert: number
  readonly heel: number | undefined
  readonly toe: number
  readonly padTop: number
  readonly padBottom: number
  /** Ground in front above the top of the pipe, m. */
  readonly cover: number
}

export interface DrainPlan {
  readonly points: readonly DrainPoint[]
  readonly profile: Result<DrainProfile>
  /** The school in force, whether the plan chose it, and what fits the facts. */
  readonly school: DrainSchool
  readonly chosen: boolean
  readonly fits: { readonly school: DrainSchool; readonly invert: number; readonly why: string }
  readonly bed: number
  readonly coverStone: number
  readonly sock: boolean
  /** Flow m³/s to the busiest outlet against what the pipe carries; undefined where the plan says nothing of rain and ground. */
  /** Run-off of the ground above, m³/s, and how deep a swale at one per cent runs with it, m: it stays out of the toe drain. Rule table 2. */
  readonly surface: { readonly flow: number; readonly swale: number } | undefined
  readonly flow: { readonly total: number; readonly busiest: number; readonly capacity: number; readonly enough: boolean } | undefined
  readonly cautions: readonly string[]
}

const STEP = 0.5
function stations(layout: Layout): number[] {
  const { length } = layout.plan
  const list = new Set<number>([0, length])
  for (let s = STEP; s < length; s += STEP) list.add(Math.round(s * 1000) / 1000)
  for (const o of layout.building.drain?.outlets ?? []) if (o.station <= length) list.add(o.station)
  return [...list].sort((a, b) => a - b)
}

/** The pipe stands nowhere higher than the ground in front lets it: what the invert may not rise above, m. */
export const drainCeiling = (layout: Layout) =>
  stations(layout).map((station) => ({ station, elevation: toeAt(layout.plan, station) - (layout.building.drain?.diameter ?? 0) }))

/** Where the heel drain runs out: at outlets of its own, else above those of the toe drain; m. @example heelOutlets(plan, drain)[0].invert */
export function heelOutlets({ water }: Layout['plan'], toe: { readonly outlets: readonly { readonly station: number; readonly invert: number }[] }) {
  const own = water?.heel?.outlets
  return own && own.length > 0 ? own : toe.outlets.map((o) => ({ station: o.station, invert: o.invert + (water?.heel?.above ?? 0) }))
}

/**
 * Outlets for the heel drain of its own: of the places where water can leave those with which it falls everywhere, lies above the toe drain
 * and below the ground behind.
 *
 * @returns outlets and profile, or what stands in the way
 * @example proposeHeel(layout).value.outlets
 */
export function proposeHeel(layout: Layout): Result<DrainSolution> {
  const { plan, building } = layout
  const { drain: d } = building
  const heel = plan.water?.heel
  if (!d || !heel) return fail('water.heel', 'the plan has no heel drain')
  const possible = plan.water?.possible ?? []
  if (possible.length === 0) return fail('water.possible', 'needs at least one place where water can leave, with the ground there')
  // It hangs on nothing of the toe drain: it only must not lie lower than it.
  const higher = possible.filter((o) => o.invert >= (invertAt(layout, o.station) ?? Number.NEGATIVE_INFINITY) - 1e-6)
  if (higher.length === 0) return fail('water.possible', 'every place lies lower than the toe drain there: the heel drain would run into it')
  return solveDrain({
    length: plan.length,
    fall: heel.fall,
    maxOutletSpacing: d.maxOutletSpacing,
    possible: higher,
    ceiling: stations(layout).map((station) => ({ station, elevation: topAt(plan, station) - d.diameter })),
  })
}

/**
 * The toe drain as planned: profile, seat, cover, flow and what to be careful of; undefined for a wall that has none.
 *
 * @example drainPlan(layout)?.profile
 */
export function drainPlan(layout: Layout): DrainPlan | undefined {
  const { plan, building } = layout
  const { drain: d, foundation } = building
  const { water } = plan
  if (!d) return undefined
  const points = stations(layout).map((station): DrainPoint => {
    const padTop = stepAt(layout.steps, station)
    const invert = invertAt(layout, station) ?? Number.NaN
    const toe = toeAt(plan, station)
    return {
      station,
      invert,
      heel: water?.heel ? drainInvert(heelOutlets(plan, d), water.heel.fall, station) : undefined,
      toe,
      padTop,
      padBottom: padTop - foundation.thickness,
      cover: toe - invert - d.diameter,
    }
  })
  const plain = drain(
    { length: plan.length, fall: d.fall, maxOutletSpacing: d.maxOutletSpacing, outlets: [...d.outlets], ceiling: drainCeiling(layout) },
    since(plan, 3),
  )
  // Since rule table 2 the pipe follows what the pad allows.
  const profile = tableOf(plan) > 1 && plain.ok ? ok(seatedProfile(layout, plain.value)) : plain
  const lowest = Math.min(...layout.steps.map((s) => s.elevation))
  const bed = bedOf(plan)
  const fits = drainSeat({
    open: foundation.drains,
    padBottom: lowest - foundation.thickness,
    padTop: lowest,
    outlet: Math.min(...d.outlets.map((o) => o.invert)),
    bed,
  })
  const school = water?.school ?? fits.school
  const cautions: string[] = []
  if (d.fall < 0.01) cautions.push(`A fall of ${(d.fall * 100).toFixed(1)} % is less than 1 %: silt settles in the pipe and stays.`)
  if (water?.school && water.school !== fits.school) {
    cautions.push(`The plan says "${DRAIN_SCHOOLS[water.school].name.toLowerCase()}"; ${fits.why} "${DRAIN_SCHOOLS[fits.school].name}" would fit.`)
  }
  if (profile.ok && profile.value.longestRun > d.maxOutletSpacing + 1e-9) {
    cautions.push(`Water travels ${said.length(profile.value.longestRun, 1)} to an outlet; ${said.given(d.maxOutletSpacing)} is allowed.`)
  }
  if (profile.ok && profile.value.violations.length > 0) {
    const v = profile.value.violations
    const most = Math.max(...v.map((x) => x.by))
    cautions.push(
      `Between ${said.given(v[0]?.station ?? 0)} and ${said.given(v[v.length - 1]?.station ?? 0)} the pipe stands up to ${said.small(most)} above the ground in front: it cannot be covered there. More outlets, or less fall.`,
    )
  }
  const flow = flowOf(layout, d, profile)
  const surface = surfaceOf(layout)
  if (surface)
    cautions.push(
      `Run-off of the ground above, ${said.flow(surface.flow)}, goes by a swale (${said.small(surface.swale)} deep at 1 %) or a yard drain of its own: it must not enter the toe drain.`,
    )
  if (flow && !flow.enough) cautions.push('The pipe cannot carry the rain of the plan to its busiest outlet: more outlets, or a wider pipe.')
  return {
    points,
    profile,
    school,
    chosen: water?.school !== undefined,
    fits,
    bed,
    coverStone: since(plan, 3) ? limitsOf(plan).pipeCover.value : (water?.cover ?? limitsOf(plan).pipeCover.value),
    sock: water?.sock ?? false,
    surface,
    flow,
    cautions,
  }
}

/** The profile as the pad lets the pipe lie. */
function seatedProfile(layout: Layout, plain: DrainProfile): DrainProfile {
  const ceiling = drainCeiling(layout)
  const inverts = ceiling.map((c) => ({ station: c.station, invert: invertAt(layout, c.station) ?? Number.NaN }))
  const violations = ceiling.flatMap((c, i) => {
    const by = (inverts[i]?.invert ?? 0) - c.elevation
    return by > 1e-9 ? [{ station: c.station, by }] : []
  })
  return { ...plain, inverts, violations }
}

function surfaceOf({ plan }: Layout): DrainPlan['surface'] {
  const { area, runoff, rain } = plan.water ?? {}
  if (tableOf(plan) === 1 || area === undefined || runoff === undefined || rain === undefined) return undefined
  const flow = rationalFlow(runoff, rain, area)
  return { flow, swale: swaleDepth(flow, 0.01) }
}

function flowOf(layout: Layout, d: Drain, profile: Result<DrainProfile>): DrainPlan['flow'] {
  const { plan } = layout
  const { area, runoff, rain } = plan.water ?? {}
  if (area === undefined || runoff === undefined || rain === undefined || !profile.ok) return undefined
  // The toe drain takes what seeps; table 1 sized it for what runs off.
  const height = builtHeight(plan, layout.steps, layout.tops).height
  const total = tableOf(plan) > 1 ? seepageFlow({ runoff, rain, area, height, length: plan.length }) : rationalFlow(runoff, rain, area)
  // Water comes evenly along the wall and runs to the outlet whose line is lowest.
  const share = new Map<number, number>()
  const list = stations(layout)
  for (let i = 1; i < list.length; i++) {
    const [a, b] = [list[i - 1] as number, list[i] as number]
    const s = (a + b) / 2
    const to = d.outlets.reduce((w, o) => (o.invert + d.fall * Math.abs(s - o.station) < w.invert + d.fall * Math.abs(s - w.station) ? o : w))
    share.set(to.station, (share.get(to.station) ?? 0) + (b - a))
  }
  const busiest = (total * Math.max(...share.values())) / plan.length
  const capacity = pipeCapacity(d.diameter, d.fall)
  return { total, busiest, capacity, enough: busiest <= capacity }
}

/** Outlets chosen anew from every place the plan says water could leave. */
export function proposeOutlets(layout: Layout): Result<DrainSolution> {
  const { plan, steps } = layout
  const { drain: d } = layout.building
  if (!d) return fail('drain', 'the wall has no pipe')
  if (tableOf(plan) === 1) return solved(layout, d, (o) => o)
  // The pad lifts the pipe where an outlet lies too low: what the solver reckons with is where the pipe can come out.
  const school = schoolOf(plan, steps) ?? 'on-bed'
  const real = new Map<string, { station: number; invert: number }>()
  const found = solved(layout, d, (o) => {
    const lifted = { station: o.station, invert: Math.max(o.invert, pipeFloor(plan, school, stepAt(steps, o.station))) }
    real.set(`${lifted.station} ${lifted.invert}`, o)
    return lifted
  })
  if (!found.ok) return found
  const outlets = found.value.outlets.map((o) => real.get(`${o.station} ${o.invert}`) ?? o)
  // Between the outlets the pipe follows the pad up at its steps, and may rise out of the ground there.
  const high = drainCeiling(layout)
    .map((c) => ({ station: c.station, by: seatedInvert(plan, steps, school, { ...d, outlets }, c.station) - c.elevation }))
    .reduce((a, b) => (b.by > a.by ? b : a), { station: 0, by: 0 })
  if (high.by > 1e-6)
    return fail(
      'ceiling',
      `at ${said.given(high.station)} the pad lifts the pipe ${said.small(high.by)} too high even with the best of these outlets; an outlet near there, less fall, or a deeper pad is needed`,
    )
  return ok({ outlets, profile: found.value.profile })
}

const solved = (
  layout: Layout,
  d: Drain,
  as: (o: { station: number; invert: number }) => { station: number; invert: number },
): Result<DrainSolution> =>
  solveDrain({
    length: layout.plan.length,
    fall: d.fall,
    maxOutletSpacing: d.maxOutletSpacing,
    possible: [...(layout.plan.water?.possible ?? []), ...d.outlets].map(as),
    ceiling: drainCeiling(layout),
  })

/** A stretch of pipe in the record. */
export interface LaidPipe {
  readonly entry: RecordedEntry
  readonly data: PipeData
  /** Out and not put right. */
  readonly open: boolean
  readonly seen: boolean
  readonly covered: boolean
}

/** Pipe laid so far along the wall, whether it was released, and whether stone is on it. */
export function laidPipe(state: WallState): LaidPipe[] {
  return state.entries.flatMap((entry) => {
    if (entry.entry.kind !== 'pipe' || !live(state, entry.entry.id)) return []
    const step = state.byKey.get(stepKey(entry.entry.where))
    if (!step) return []
    const status = statusOf(state, step)
    const cover = state.steps.find(
      (s) => s.section === step.section && s.stage.work.type === 'check' && s.stage.work.measures?.some((m) => m.least === 'pipeCover'),
    )
    return [
      {
        entry,
        data: entry.entry.data as PipeData,
        open: status.open.some((o) => o.entry.id === entry.entry.id),
        seen: cleared(status),
        covered:
          cover !== undefined &&
          settled(statusOf(state, cover)) &&
          (state.logs.get(cover.key)?.work.some((e) => (e.entry.data as CheckData).confirmed?.length > 0) ?? false),
      },
    ]
  })
}

/** Filter check of the newest gradations recorded; what it says of sock and fabric. */
export function filterOf(state: WallState): { soil: GradationData; stone: GradationData; result: Result<FilterCheck>; advice: string } | undefined {
  const of = (what: 'soil' | 'stone') =>
    latestOf(state, (e) => e.kind === 'gradation' && (e.data as GradationData).of === what)?.entry.data as GradationData | undefined
  const [soil, stone] = [of('soil'), of('stone')]
  if (!soil || !stone) return undefined
  // What is coarser than sand holds nothing back: a gravelly soil is judged by its finer part.
  const cautious = tableOf(state.layout.plan) > 1
  const result = filter({ soil: cautious ? regraded(soil.points) : soil.points, stone: stone.points })
  const fines = cautious ? finesOf(stone.points) : undefined
  const limits = limitsOf(state.layout.plan)
  const most = limits.stoneFines.value
  if (fines !== undefined && fines > most)
    return { soil, stone, result, advice: `This stone has ${fines.toFixed(1)} % of fines, at most ${most} %: it clogs. Washed stone.` }
  // Openings larger than the stone's coarser part let it into the pipe: D85 of the stone at least 1.2 times the opening (common filter design).
  const d85 = cautious ? sizeAt(stone.points, 85, 'stone') : undefined
  const holes = state.layout.plan.water?.holes
  const coarse = d85?.ok && holes !== undefined && d85.value < limits.filterOpening.value * holes * 1000
  if (coarse && !state.layout.plan.water?.sock)
    return {
      soil,
      stone,
      result,
      advice: `The openings of the pipe are ${said.fine(holes)}, and this stone washes through them: smaller openings, coarser stone beside it, or a sock.`,
    }
  const advice = !result.ok
    ? (result.problems[0]?.message ?? '')
    : result.value.retention > limits.filterRetention.value
      ? 'Soil washes into this stone: fabric between soil and stone, and a sock on the pipe or a finer stone.'
      : result.value.permeability < limits.filterPermeability.value
        ? 'This stone is too fine to take the water off: use a coarser one.'
        : 'The stone holds this soil back and lets water through: no sock, no fabric between them; wrap the ends only.'
  return { soil, stone, result, advice }
}
