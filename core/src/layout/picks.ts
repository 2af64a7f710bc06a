import { said } from '../base/said'
import { truckLoads } from '../bond'
import { type Plan, toeAt, toeReader } from '../plan'
import { limitsOf, since } from '../rules'
import { type Building, capacityAt, type Lifting, type Piece, unproved } from '../systems'
import type { Course } from './rows'

/** One unit hung on the hook: where it goes, what it weighs, and what the machine may lift there. m, kg. */
export interface PlannedPick {
  /** Course and place in it from its first station, as it is written on the unit. */
  readonly name: string
  readonly section: string
  readonly course: number
  /** Place in its course, from 1. */
  readonly number: number
  readonly piece: Piece
  readonly station: number
  readonly mass: number
  /** Unit, slings and lifter. */
  readonly load: number
  readonly reach: number
  /** Of the hook over the ground the machine stands on. */
  readonly height: number
  /** By the machine's table; undefined beyond it. */
  readonly capacity: number | undefined
  /** Why it may not be lifted as planned, in words. */
  readonly wrong: readonly string[]
  /** The truck that brings it, from 1; undefined where no truck is planned, or none carries it. */
  readonly truck: number | undefined
}

type Planned = { readonly plan: Plan }
/** What of a layout is looked at. */
interface Laid extends Planned {
  readonly building: Building
  readonly courses: readonly Course[]
  readonly cells: ReadonlyMap<string, { readonly section: string; readonly course: number; readonly pieces: readonly Piece[] }>
}

/** How a pick is judged: the table and its share, the inserts, the slings. */
/** Wind in which units may hang: the rules', or what the maker of the gear allows where that is less, km/h. @example windOf(plan, lifting) // 35 */
export const windOf = (plan: Plan, { gear }: Pick<Lifting, 'gear'>): number =>
  Math.min(limitsOf(plan).windLift.value, gear.wind ?? Number.POSITIVE_INFINITY)

/** What its table gives; since rule table 3 nothing nearer than its shortest row either: tables end where a boom cannot reach down. */
const liftedBy = (plan: Plan, { table }: Pick<Lifting, 'table'>) => {
  const nearest = since(plan, 3) ? Math.min(...table.map((r) => r.reach)) : 0
  return (reach: number, height: number) => (reach < nearest - 1e-6 ? undefined : capacityAt(table, reach, height))
}

function pickOf(plan: Plan, lifting: Lifting) {
  const { gear } = lifting
  const lifts = liftedBy(plan, lifting)
  const limits = limitsOf(plan)
  const share = limits.pickShare.value
  const leastAngle = limits.slingAngle.value
  // A stiff unit on three or four slings hangs on two of them.
  const hung = Math.min(gear.points, 2) * Math.sin((gear.angle * Math.PI) / 180)
  const over = (load: number, capacity: number) => load > capacity * share + 1e-6
  const each = (load: number) => load / hung
  const inserts = (load: number) => each(load) > gear.tested + 1e-6
  const flat = gear.points > 1 && gear.angle < leastAngle - 1e-9
  return {
    share,
    leastAngle,
    over,
    each,
    inserts,
    flat,
    isWrong(mass: number, reach: number, height: number): boolean {
      const load = mass + gear.mass
      const capacity = lifts(reach, height)
      return capacity === undefined || over(load, capacity) || inserts(load) || flat
    },
  }
}

/** Why a load may not be lifted at a reach and height: beyond the table, over its share, or too much for its inserts. */
export function pickWrong({ plan }: Planned, lifting: Lifting, mass: number, reach: number, height: number): string[] {
  const { gear } = lifting
  const { share, leastAngle, over, each, inserts, flat } = pickOf(plan, lifting)
  const load = mass + gear.mass
  const capacity = liftedBy(plan, lifting)(reach, height)
  const at = `at ${said.length(reach, 1)} out and ${said.length(height, 1)} up`
  const wrong: string[] = []
  if (capacity === undefined) wrong.push(`${said.mass(load)} ${at} is beyond the table of the ${lifting.machine}: nothing is lifted there`)
  else if (over(load, capacity))
    wrong.push(
      `${said.mass(load)} with its gear is over ${said.mass(capacity * share)}: the table gives ${said.mass(capacity)} ${at}, of which ${Math.round(share * 100)} % may hang`,
    )
  if (inserts(load)) wrong.push(`each of its inserts would carry ${said.mass(each(load))}, tested to ${said.mass(gear.tested)}`)
  if (flat) wrong.push(`slings at ${gear.angle}° over the level, at least ${leastAngle}°`)
  return wrong
}

const known = new WeakMap<Laid, readonly PlannedPick[]>()
/**
 * Every unit that a machine sets, in the order in which they are set: course by course, along the wall. Empty where nothing is planned to be
 * set by one.
 *
 * @example picksOf(layout)[0] // { name: '1-01', mass: 1050, reach: 4.3, truck: 1, … }
 */
export function picksOf(layout: Laid): readonly PlannedPick[] {
  let picks = known.get(layout)
  if (!picks) {
    picks = worked(layout)
    known.set(layout, picks)
  }
  return picks
}

function worked(layout: Laid): readonly PlannedPick[] {
  const { plan, building } = layout
  const { lifting } = building
  if (!lifting) return []
  const rows = new Map(layout.courses.map((c) => [c.course, c]))
  const byCourse = new Map<number, { section: string; piece: Piece }[]>()
  for (const cell of layout.cells.values()) {
    const list = byCourse.get(cell.course) ?? []
    for (const piece of cell.pieces) if (piece.kind !== 'return') list.push({ section: cell.section, piece })
    byCourse.set(cell.course, list)
  }
  const picks: PlannedPick[] = []
  const lifts = liftedBy(plan, lifting)
  for (const course of [...byCourse.keys()].sort((a, b) => a - b)) {
    const row = rows.get(course)
    const make = building.course(course)
    const list = (byCourse.get(course) ?? []).sort((a, b) => a.piece.start - b.piece.start)
    const digits = Math.max(`${list.length}`.length, 2)
    list.forEach(({ section, piece }, i) => {
      const station = (piece.start + piece.to) / 2
      const mass = (make.mass * piece.length) / make.length
      const reach = lifting.stands + (row?.offset ?? 0) + make.depth / 2
      const height = (row?.top ?? 0) + lifting.gear.length - toeAt(plan, station)
      picks.push({
        name: `${course}-${`${i + 1}`.padStart(digits, '0')}`,
        section,
        course,
        number: i + 1,
        piece,
        station,
        mass,
        load: mass + lifting.gear.mass,
        reach,
        height,
        capacity: lifts(reach, height),
        wrong: pickWrong(layout, lifting, mass, reach, height),
        truck: undefined,
      })
    })
  }
  const { truck } = lifting
  if (!truck) return picks
  const loads = truckLoads({ units: picks, capacity: truck })
  if (!loads.ok) return picks
  const of: number[] = []
  loads.value.loads.forEach((l, t) => {
    for (let i = l.from; i <= l.to; i++) of[i] = t + 1
  })
  return picks.map((p, i) => ({ ...p, truck: of[i] }))
}

/** A unit by its place. @example pickAt(layout, 2, 4)?.name // '2-04' */
export const pickAt = (layout: Laid, course: number, number: number): PlannedPick | undefined =>
  picksOf(layout).find((p) => p.course === course && p.number === number)

/** The worst of a wall's picks before anything is lifted: the first that may not be, and the first no truck carries. */
interface Foreseen {
  readonly all: number
  readonly wrong: number
  readonly first: { readonly pick: Foreseeable; readonly why: readonly string[] } | undefined
  readonly heavy: Foreseeable | undefined
}
interface Foreseeable {
  readonly course: number
  readonly station: number
  readonly mass: number
}

/** One pass over every unit, without the words of any but the first. */
function foreseen({ plan, building, courses, cells }: Laid, lifting: Lifting): Foreseen {
  const rows = new Map(courses.map((c) => [c.course, c]))
  const earlier = (a: Foreseeable | undefined, course: number, station: number) =>
    !a || course < a.course || (course === a.course && station < a.station)
  let [all, wrong] = [0, 0]
  let first: (Foreseeable & { readonly reach: number; readonly height: number }) | undefined
  let heavy: Foreseeable | undefined
  const pick = pickOf(plan, lifting)
  const toe = toeReader(plan)
  for (const cell of cells.values()) {
    const row = rows.get(cell.course)
    const make = building.course(cell.course)
    const reach = lifting.stands + (row?.offset ?? 0) + make.depth / 2
    const hook = (row?.top ?? 0) + lifting.gear.length
    for (const p of cell.pieces) {
      if (p.kind === 'return') continue
      all++
      const station = (p.start + p.to) / 2
      const mass = (make.mass * p.length) / make.length
      const height = hook - toe(station)
      if (pick.isWrong(mass, reach, height)) {
        wrong++
        if (earlier(first, cell.course, station)) first = { course: cell.course, station, mass, reach, height }
      }
      if (lifting.truck && mass > lifting.truck.mass && earlier(heavy, cell.course, station)) heavy = { course: cell.course, station, mass }
    }
  }
  return { all, wrong, first: first && { pick: first, why: pickWrong({ plan }, lifting, first.mass, first.reach, first.height) }, heavy }
}

/** What must be known of the picks before a truck comes: the first of those that may not be lifted, and how many; loads too heavy for the truck. */
export function pickCautions(layout: Laid): { readonly id: string; readonly message: string }[] {
  const { lifting } = layout.building
  if (!lifting) return []
  const { all, wrong, first, heavy } = foreseen(layout, lifting)
  const proof = since(layout.plan, 3) ? unproved(lifting) : []
  const at = (k: Foreseeable) => `course ${k.course} at ${said.station(k.station)}`
  return [
    ...(proof.length > 0
      ? [
          {
            id: 'picks-unproved',
            message: `No verdict on the ${all} picks while this is missing: ${proof.join('; ')}. Enter it in the plan before the machine comes.`,
          },
        ]
      : []),
    ...(first && proof.length === 0
      ? [
          {
            id: 'picks',
            message: `${wrong} of ${all} picks may not be lifted as planned, first ${at(first.pick)}: ${first.why.join('; ')}. Bring the machine closer, or a larger one.`,
          },
        ]
      : []),
    ...(heavy
      ? [
          {
            id: 'truck',
            message: `${said.mass(heavy.mass)} in ${at(heavy)} is over the ${said.mass(lifting.truck?.mass ?? 0)} a truck carries: it comes by a heavier one.`,
          },
        ]
      : []),
  ]
}
