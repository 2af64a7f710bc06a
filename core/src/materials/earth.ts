import { stationsOver } from '../geometry'
import { type Layout, stepAt } from '../layout'
import { type FoundGround, groundReader } from '../plan'

/** How finely a cross section is walked, m. */
const ACROSS = 0.1
/** How far behind the face ground that lies low is filled at most, where nobody says, m. */
export const FILL_BACK = 10

/** The dig at a station, from the trench floor to where the side of the cut comes out of the ground. m. */
interface Cut {
  readonly bottom: number
  /** Of the floor, from the face back. */
  readonly from: number
  readonly to: number
}
function cutAt({ plan, building, steps }: Layout, station: number): Cut {
  const { foundation } = building
  const { depth } = building.course(1)
  const front = (foundation.width - depth) / 2
  const width = Math.max(foundation.width, depth + plan.excavation.behind + front)
  return { bottom: stepAt(steps, station) - foundation.thickness, from: -front, to: width - front }
}

/**
 * Cross section of the dig in the ground as it was found, m²: from the front of the trench to where its side comes out.
 *
 * @example cutArea(layout, layout.plan.found, 4)
 */
export function cutArea(layout: Layout, found: FoundGround, station: number): number {
  const ground = groundReader(found)
  const { slope } = layout.plan.excavation
  const { bottom, from, to } = cutAt(layout, station)
  const floor = (x: number) => (x <= to ? bottom : bottom + (x - to) / slope)
  let area = 0
  for (let x = from + ACROSS / 2; ; x += ACROSS) {
    if (x > to && slope < 1e-9) return area
    const depth = ground(station, x) - floor(x)
    // Where its side has come out of the ground the dig ends, whatever rises further back.
    if (x > to && (depth <= 0 || x > 200)) return area
    // The last slice of the floor ends at its edge.
    area += Math.max(0, depth) * (x <= to ? Math.min(ACROSS, to - x + ACROSS / 2) : ACROSS)
  }
}

/** What is dug in the ground as found, in the bank, m³; average end areas every half metre. */
export function digFound(layout: Layout, found: FoundGround): number {
  let dig = 0
  for (const s of layout.steps) {
    const at = stationsOver(s.start, s.end, 0.5)
    // At a step both sides are right: just inside of it.
    const areas = at.map((x) => cutArea(layout, found, Math.min(Math.max(x, s.start + 1e-6), s.end - 1e-6)))
    for (let i = 1; i < at.length; i++) dig += (((areas[i - 1] as number) + (areas[i] as number)) / 2) * ((at[i] as number) - (at[i - 1] as number))
  }
  return dig
}

/** From the stone to the cut at a course, m: what is filled with soil there. @example fillWidth(layout, layout.courses[2], 12) // 1.35 */
export function fillWidth({ plan, building, steps }: Layout, course: { bottom: number; top: number; offset: number }, station: number): number {
  const z = (course.bottom + course.top) / 2
  const up = z - stepAt(steps, station)
  const { behind, slope } = plan.excavation
  const stone = building.stone?.width ?? 0
  const cut = behind + slope * (up + building.foundation.thickness)
  const width = Math.max(0, cut - stone - course.offset)
  if (!plan.found) return width
  // Ground that lies lower than this course is filled on until it comes up, or as far back as the plan says.
  const { depth } = building.course(1)
  const ground = groundReader(plan.found)
  const back = plan.found.back ?? FILL_BACK
  let x = depth + cut
  while (x < back && ground(station, x) < z) x += ACROSS
  return Math.max(width, Math.min(x, Math.max(back, depth + cut)) - depth - stone - course.offset)
}

/** Compacted fill behind a course between two stations, m³; in one piece where the width is the same all along, which ground as found is not. */
export function fillVolume(
  layout: Layout,
  course: { course: number; bottom: number; top: number; offset: number },
  from: number,
  to: number,
): number {
  const at = layout.plan.found ? stationsOver(from, to, 1) : [from, to]
  const high = layout.building.course(course.course).height
  let volume = 0
  for (let i = 1; i < at.length; i++) {
    const [a, b] = [at[i - 1] as number, at[i] as number]
    volume += fillWidth(layout, course, (a + b) / 2) * high * (b - a)
  }
  return volume
}

/** Where the ground as found stays below the top of the wall further back than is filled: the first station, m. */
export function fillOpenAt(layout: Layout, found: FoundGround): number | undefined {
  const top = layout.courses[layout.courses.length - 1]
  if (!top) return undefined
  const ground = groundReader(found)
  return stationsOver(0, layout.plan.length, 1).find((s) => {
    const high = layout.tops.find((t) => s <= t.end + 1e-9)?.elevation ?? top.top
    return ground(s, found.back ?? FILL_BACK) < high - 0.3
  })
}
