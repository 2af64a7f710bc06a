import { failAll, ok, type Result } from '../base/result'
import { said } from '../base/said'
import { type Alignment, below, cornersOf, LENGTH_TOLERANCE, type OffsetLine, stationsOver, tidy } from '../geometry'
import { alignmentFor, exposedHeight, type Plan, topAt } from '../plan'
import { checkLimits, embedment, schoolBy } from '../rules'
import { type Building, buildingOf, capHeight, evenCourses, fieldOfPart, type Piece, riseOf, systemOf, type WallSystem } from '../systems'
import { baseSteps, type KeepOff, type PadStep } from './base-steps'
import { builtInCautions } from './built-in'
import { type Cap, capsOver } from './caps'
import { type Caution, cautionsOf } from './cautions'
import { checkRadii, type FaceLeg, faceLegs, faceLines, type Leg, legsOf } from './face'
import { misplaced } from './fit'
import { pickCautions } from './picks'
import { plannedInvert, stagedFor } from './pipe'
import { type Course, rowsOf, type Stretch } from './rows'
import { type Run, runsOf } from './runs'
import { stepsAsSet } from './set-steps'

/** A course within a section: the unit of the record. */
export interface Cell {
  readonly section: string
  readonly course: number
  readonly stretches: readonly Stretch[]
  readonly pieces: readonly Piece[]
  /** Lowest, or highest, course of its section. */
  readonly first: boolean
  readonly last: boolean
  /** How much of it lies straight on the pad: on a stepped pad that is not its lowest course alone. */
  readonly pad: 'whole' | 'part' | 'none'
}

/** What the plan means on the ground. Everything is computed; nothing here is stored. */
export interface Layout {
  readonly plan: Plan
  readonly system: WallSystem
  /** The wall in the terms every wall has. */
  readonly building: Building
  readonly buried: { readonly depth: number; readonly governing: number; readonly courses: number }
  readonly alignment: Alignment
  readonly legs: readonly Leg[]
  readonly steps: readonly PadStep[]
  readonly tops: readonly PadStep[]
  readonly courses: readonly Course[]
  /** Beside `courses`: the face line of each, its legs, and its runs of units. */
  readonly lines: readonly OffsetLine[]
  readonly faces: readonly (readonly FaceLeg[])[]
  readonly runs: readonly (readonly Run[])[]
  readonly caps: readonly Cap[]
  /** Keyed `section/course`. */
  readonly cells: ReadonlyMap<string, Cell>
  readonly cautions: readonly Caution[]
}

export const cellKey = (section: string, course: number) => `${section}/${course}`

/** Told how far a long layout is, 0 to 1. */
export type Progress = (done: number) => void

/**
 * The wall worked out: stepped pad, courses with elevations, the face of each, the pieces in it.
 *
 * @param earlier - a layout of a plan much like this one; runs that did not change are taken over from it
 * @returns the layout, or what in the plan makes it impossible
 * @example layOut(plan).value.steps
 */
export function layOut(plan: Plan, earlier?: Layout, progress?: Progress): Result<Layout> {
  const own = systemOf(plan.system.id)
  if (!own) return { ok: false, problems: [{ field: 'system.id', message: `"${plan.system.id}" is not a system this application knows` }] }
  const wrong = checkLimits(plan)
  if (wrong.length > 0) return failAll(wrong)
  const building = buildingOf(plan)
  const first = building.course(1)
  const buried = embedment({ exposedHeight: exposedHeight(plan), unitHeight: first.height, rules: [...building.embedment] })
  if (!buried.ok)
    return { ok: false, problems: buried.problems.map((p) => ({ ...p, field: p.field.replace(/^rules/, fieldOfPart(building.at.embedment)) })) }
  const found = stepsAndTops(plan, building, buried.value.depth)
  if (!found.ok) return found
  const { steps, tops } = found.value
  const courses = rowsOf(plan, building, steps, tops)
  if (courses.length === 0) {
    return { ok: false, problems: [{ field: 'grades', message: `the wall is lower than one course of ${said.given(first.height)}` }] }
  }

  const system = stagedFor(own, plan, steps, courses)
  const alignment = alignmentFor(plan)
  const tight = checkRadii(alignment, courses, building)
  if (tight.length > 0) return failAll(tight)
  const legs = legsOf(alignment)
  const same = earlier && sameLine(earlier.plan, plan) && sameUnit(earlier.plan, plan) ? earlier : undefined
  const known = new Map<string, number>(same?.courses.map((c, i) => [`${c.bottom}|${c.offset}`, i]) ?? [])
  const kept = courses.map((c) => known.get(`${c.bottom}|${c.offset}`))
  const made = faceLines(
    alignment,
    courses.filter((_, i) => kept[i] === undefined),
  )
  if (!made.ok) return made
  const fresh = [...made.value]
  const lines = courses.map((_, i) => (kept[i] === undefined ? fresh.shift() : same?.lines[kept[i]]) as OffsetLine)
  const faces = courses.map((_, i) => (kept[i] === undefined ? undefined : same?.faces[kept[i]]) ?? faceLegs(alignment, legs, lines[i] as OffsetLine))

  const basis = { plan, system, building, closed: alignment.closed, length: alignment.length, steps }
  const runs: Run[][] = []
  courses.forEach((course, i) => {
    const lower = courses[i - 1]
    const under = lower && Math.abs(lower.top - course.bottom) < LENGTH_TOLERANCE ? (runs[i - 1] as Run[]) : []
    const before = kept[i] === undefined ? [] : (same?.runs[kept[i]] ?? [])
    runs.push(runsOf(basis, course, faces[i] as FaceLeg[], under, before))
    progress?.((i + 1) / courses.length)
  })
  const cells = cellsOf(plan, courses, steps, runs, same)
  const caps = capsOf(plan, alignment, courses, faces, tops)
  const cautions = cautionsOf(plan, system, steps, tops, courses, runs)
  const layout = { plan, system, building, buried: buried.value, alignment, legs, steps, tops, courses, lines, faces, runs, caps, cells, cautions }
  cautions.push(...builtInCautions(layout))
  for (const c of pickCautions(layout)) cautions.push({ ...c, blocks: false })
  // A layer the plan asks for and nobody would ever be asked to lay stops the work; the rest is said.
  for (const p of misplaced(layout))
    cautions.push({
      id: `misplaced ${p.field}`,
      blocks: p.message.startsWith('there is no course'),
      message: `The plan cannot be followed: ${p.message}. Correct the plan.`,
    })
  return ok(layout)
}

/** A layout without what is many: it travels between threads at once, its runs course by course behind it. */
export type LayoutHead = Omit<Layout, 'plan' | 'system' | 'building' | 'runs' | 'cells'>
/** A run on its way: which runs of the course below lie under it, by their place there. */
export type TravellingRun = Omit<Run, 'below'> & { readonly under: readonly number[] }

/** @example port.postMessage(headOf(layout)) */
export const headOf = ({ plan: _plan, system: _system, building: _building, runs: _runs, cells: _cells, ...head }: Layout): LayoutHead => head

/** The runs of one course, ready to travel. @param i - its place in `courses` */
export function runsToSend(layout: Layout, i: number): TravellingRun[] {
  const lower = new Map((layout.runs[i - 1] ?? []).map((r, k) => [r, k]))
  return (layout.runs[i] ?? []).map(({ below, ...run }) => ({ ...run, under: below.map((r) => lower.get(r) ?? -1) }))
}

/** The runs of one course put back on those of the course below. */
export const runsReceived = (sent: readonly TravellingRun[], lower: readonly Run[]): Run[] =>
  sent.map(({ under, ...run }) => ({ ...run, below: under.flatMap((k) => lower[k] ?? []) }))

/** The layout that was sent, whole again; equal to the one that was laid out. */
export const reassemble = (plan: Plan, system: WallSystem, head: LayoutHead, runs: readonly (readonly Run[])[]): Layout => ({
  ...head,
  plan,
  building: buildingOf(plan),
  system: stagedFor(system, plan, head.steps, head.courses),
  runs,
  cells: cellsOf(plan, head.courses, head.steps, runs, undefined),
})

/** A layout as it travels between threads whole: what has functions stays behind. */
export type TravellingLayout = Omit<Layout, 'system' | 'building'>
/** @example port.postMessage(toTravel(layout)) */
export const toTravel = ({ system: _system, building: _building, ...rest }: Layout): TravellingLayout => rest
/** A layout that travelled, whole again; undefined where its system is not known here. */
export function travelled(rest: TravellingLayout): Layout | undefined {
  const system = systemOf(rest.plan.system.id)
  return system && { ...rest, building: buildingOf(rest.plan), system: stagedFor(system, rest.plan, rest.steps, rest.courses) }
}

const alike = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b)
const sameLine = (a: Plan, b: Plan) => a.length === b.length && alike(a.alignment, b.alignment) && alike(a.openings, b.openings)
const sameUnit = (a: Plan, b: Plan) => sameMake(a, b) && alike(a.sections, b.sections)

/** The courses that two plans are made of, as far as pieces are laid by them: another pipe or layer leaves every piece where it is. */
function sameMake(a: Plan, b: Plan): boolean {
  if (a.system.id !== b.system.id || schoolBy(a, 'corner') !== schoolBy(b, 'corner')) return false
  const system = systemOf(a.system.id)
  return system !== undefined && alike(system.laidBy(a.system.data), system.laidBy(b.system.data))
}

/** Corners, ends and edges of openings: a step of pad or top stays the shortest piece away from them. */
function piecesApart(plan: Plan, building: Building): KeepOff[] {
  const within = building.course(1).minPiece
  const corners = plan.alignment ? cornersOf(alignmentFor(plan)).map((c) => c.station) : []
  const openings = (plan.openings ?? []).flatMap((o) => [o.station - o.width / 2, o.station + o.width / 2])
  return [0, plan.length, ...corners, ...openings].map((station) => ({ station, within }))
}

/** Pad steps under the toe and top steps under the top grade. */
function stepsAndTops(plan: Plan, building: Building, buried: number): Result<{ steps: PadStep[]; tops: PadStep[] }> {
  const first = building.course(1)
  const cap = capHeight(building)
  const { minRun } = building.foundation
  const keepOff = piecesApart(plan, building)
  const datum = tidy(Math.min(...plan.grades.map((g) => g.toe)) - buried)
  const high = Math.max(...plan.grades.map((g) => g.top)) - cap
  // Courses of several heights: only where one ends may a step lie.
  const count = Math.ceil((high - datum) / Math.min(first.height, building.course(2).height) + 1)
  const rises = evenCourses(building, count) ? undefined : risesTo(building, high - datum)
  const steps = (input: { datum: number; minEmbedment: number; minRun: number; toe: (g: Plan['grades'][number]) => number }, levels?: number[]) =>
    baseSteps(
      {
        datum: input.datum,
        minEmbedment: input.minEmbedment,
        minRun: input.minRun,
        unit: { height: first.height, length: first.length },
        profile: plan.grades.map((g) => ({ station: g.station, toe: input.toe(g) })),
      },
      keepOff,
      levels,
    )
  const pad = plan.padSteps
    ? stepsAsSet(
        {
          datum,
          minEmbedment: buried,
          minRun,
          unit: { height: first.height, length: first.length },
          profile: plan.grades.map((g) => ({ station: g.station, toe: g.toe })),
        },
        plan.padSteps,
        keepOff,
        rises,
      )
    : steps({ datum, minEmbedment: buried, minRun, toe: (g) => g.toe }, rises)
  if (!pad.ok) return pad
  const topRun = plan.top?.minRun ?? minRun
  if (plan.top?.style === 'level') {
    const rise = rises ? (rises[rises.length - 1] as number) : Math.ceil((high - datum) / first.height - 1e-9) * first.height
    return ok({ steps: pad.value.steps, tops: [{ start: 0, end: plan.length, elevation: tidy(datum + rise) }] })
  }
  if (plan.top?.style === 'cap-following') {
    // The cap lies on the slope, so no unit may stand above its underside anywhere.
    const under = steps({ datum, minEmbedment: 0, minRun: topRun, toe: (g) => g.top - cap }, rises)
    return under.ok ? ok({ steps: pad.value.steps, tops: under.value.steps }) : under
  }
  // Top steps are the same problem upside down: as low as can be, nowhere below the top grade, the cap counted in.
  const upside = steps(
    { datum: -datum, minEmbedment: 0, minRun: topRun, toe: (g) => cap - g.top },
    rises?.map((r) => -r).sort((a, b) => a - b),
  )
  if (!upside.ok) return upside
  return ok({ steps: pad.value.steps, tops: upside.value.steps.map((s) => ({ ...s, elevation: tidy(-s.elevation) })) })
}

/** Heights at which a course ends, from none to the first that reaches as high; m. */
function risesTo(building: Building, height: number): number[] {
  const rises = [0]
  for (let n = 1; (rises[n - 1] as number) < height - LENGTH_TOLERANCE; n++) rises.push(riseOf(building, n))
  return rises
}

/** Pieces of a run by the section their middle stands in; worked out once for a run. */
const sorted = new WeakMap<Run, { sections: Plan['sections']; parts: ReadonlyMap<string, readonly Piece[]> }>()
function partsOf(run: Run, sections: Plan['sections']): ReadonlyMap<string, readonly Piece[]> {
  const before = sorted.get(run)
  if (before && alike(before.sections, sections)) return before.parts
  const parts = new Map<string, Piece[]>()
  let i = 0
  for (const p of run.pieces) {
    const middle = (p.start + p.to) / 2
    if (middle < (sections[i] as Plan['sections'][number]).from) i = 0
    while (i < sections.length - 1 && middle >= (sections[i] as Plan['sections'][number]).to) i++
    const id = (sections[i] as Plan['sections'][number]).id
    const list = parts.get(id)
    if (list) list.push(p)
    else parts.set(id, [p])
  }
  sorted.set(run, { sections, parts })
  return parts
}

/** The runs' parts a cell was put together from, so that an untouched one is taken over without looking at its pieces. */
const partsOfCell = new WeakMap<Cell, readonly (readonly Piece[])[]>()

/** How much of a course lies on the pad over its stretches; less than a quarter unit is nobody's first course. */
function padOf(stretches: readonly Stretch[], bottom: number, steps: readonly PadStep[], least: number): Cell['pad'] {
  let [on, all] = [0, 0]
  for (const s of stretches) {
    all += s.to - s.from
    for (const p of steps) {
      if (p.end > s.from && p.start < s.to && Math.abs(p.elevation - bottom) < LENGTH_TOLERANCE)
        on += Math.max(0, Math.min(s.to, p.end) - Math.max(s.from, p.start))
    }
  }
  return on < Math.min(least, all / 2) ? 'none' : all - on < least ? 'whole' : 'part'
}

function cellsOf(
  plan: Plan,
  courses: readonly Course[],
  steps: readonly PadStep[],
  runs: readonly (readonly Run[])[],
  same: Layout | undefined,
): Map<string, Cell> {
  const bySection = new Map<string, { stretches: Stretch[]; lists: readonly (readonly Piece[])[]; course: number; pad: Cell['pad'] }[]>(
    plan.sections.map((s) => [s.id, []]),
  )
  courses.forEach((course, i) => {
    const quarter = buildingOf(plan).course(course.course).length / 4
    const parts = new Map<string, (readonly Piece[])[]>()
    for (const run of runs[i] as readonly Run[]) {
      for (const [id, list] of partsOf(run, plan.sections)) {
        const lists = parts.get(id)
        if (lists) lists.push(list)
        else parts.set(id, [list])
      }
    }
    for (const section of plan.sections) {
      const lists = parts.get(section.id)
      // A sliver of a course whose pieces all belong to the neighbour is the neighbour's: nobody could work on it.
      if (!lists) continue
      const stretches: Stretch[] = []
      for (const s of course.stretches) {
        const from = Math.max(s.from, section.from)
        const to = Math.min(s.to, section.to)
        if (below(from, to)) stretches.push({ from, to })
      }
      if (stretches.length === 0) continue
      const workable = stretches.filter((s) => s.to - s.from >= quarter)
      bySection.get(section.id)?.push({
        course: course.course,
        stretches: workable.length > 0 ? workable : stretches,
        pad: padOf(workable.length > 0 ? workable : stretches, course.bottom, steps, quarter),
        lists,
      })
    }
  })
  const cells = new Map<string, Cell>()
  for (const section of plan.sections) {
    const own = bySection.get(section.id) ?? []
    for (const [i, cell] of own.entries()) {
      const key = cellKey(section.id, cell.course)
      const { course, stretches, lists, pad } = cell
      const [first, last] = [i === 0, i === own.length - 1]
      const before = same?.cells.get(key)
      const parts = before && partsOfCell.get(before)
      const untouched = parts !== undefined && parts.length === lists.length && parts.every((p, k) => p === lists[k])
      if (before && untouched && before.first === first && before.last === last && before.pad === pad && alike(before.stretches, stretches)) {
        cells.set(key, before)
        continue
      }
      const pieces = untouched && before ? before.pieces : lists.length === 1 ? (lists[0] as readonly Piece[]) : lists.flat()
      const made: Cell = { section: section.id, course, stretches, pieces, first, last, pad }
      partsOfCell.set(made, lists)
      cells.set(key, made)
    }
  }
  return cells
}

/** Caps of a face by the step they lie on; a face is made anew whenever its line or unit changes. */
const cappedBefore = new WeakMap<FaceLeg, Map<string, Cap[]>>()
function capsOn(plan: Plan, step: PadStep, face: FaceLeg, ends: { left: boolean; right: boolean }, slope: number): Cap[] {
  const key = `${step.start}|${step.end}|${step.elevation}|${ends.left}|${ends.right}|${slope}`
  const known = cappedBefore.get(face) ?? new Map<string, Cap[]>()
  cappedBefore.set(face, known)
  const caps = known.get(key) ?? capsOver(plan, step, face, ends, slope)
  known.set(key, caps)
  return caps
}

function capsOf(
  plan: Plan,
  alignment: Alignment,
  courses: readonly Course[],
  faces: readonly (readonly FaceLeg[])[],
  tops: readonly PadStep[],
): Cap[] {
  const result: Cap[] = []
  tops.forEach((step, i) => {
    const upper = courses.findIndex((c) => Math.abs(c.top - step.elevation) < LENGTH_TOLERANCE)
    const face = faces[upper < 0 ? faces.length - 1 : upper]
    if (!face) return
    const [left, right] = [tops[i - 1], tops[i + 1]]
    const seen = {
      left: left ? left.elevation < step.elevation - LENGTH_TOLERANCE : !alignment.closed,
      right: right ? right.elevation < step.elevation - LENGTH_TOLERANCE : !alignment.closed,
    }
    const rise = plan.top?.style === 'cap-following' ? topAt(plan, step.end) - topAt(plan, step.start) : 0
    const slope = Math.hypot(1, rise / Math.max(step.end - step.start, 1e-6))
    for (const f of face) {
      if (f.leg.to < step.start || (f.leg.from > step.end && f.leg.to <= alignment.length + LENGTH_TOLERANCE)) continue
      const leg = {
        left: seen.left && step.start >= f.leg.from - LENGTH_TOLERANCE,
        right: seen.right && step.end <= f.leg.to + LENGTH_TOLERANCE,
      }
      result.push(...capsOn(plan, step, f, leg, slope))
      // The leg that crosses the first station of a ring has caps on both sides of it.
      if (f.leg.to > alignment.length + LENGTH_TOLERANCE) {
        const over = { ...step, start: step.start + alignment.length, end: step.end + alignment.length }
        result.push(
          ...capsOn(plan, over, f, leg, slope).map((c) => ({ ...c, start: tidy(c.start - alignment.length), to: tidy(c.to - alignment.length) })),
        )
      }
    }
  })
  return result
}

/** Elevation of the step over a station, m. */
export function stepAt(steps: readonly PadStep[], station: number): number {
  const step = steps.find((s) => below(station, s.end)) ?? steps[steps.length - 1]
  if (!step) throw new RangeError('a wall has at least one step')
  return step.elevation
}

/** Does the course lie straight on the pad at this station? */
export const onPad = (layout: Layout, course: Course, station: number) => Math.abs(stepAt(layout.steps, station) - course.bottom) < LENGTH_TOLERANCE

/** Invert of the toe drain at a station, m. */
export const invertAt = (layout: Layout, station: number) => plannedInvert(layout.plan, layout.steps, station)

/** Reading points over a stretch, kept a hand's breadth from its ends where a rod cannot stand. */
export function pointsOver(stretch: Stretch, spacing: number): number[] {
  const inset = Math.min(0.1, (stretch.to - stretch.from) / 4)
  return [...new Set(stationsOver(stretch.from + inset, stretch.to - inset, spacing).map((s) => Math.round(s * 100) / 100))]
}
