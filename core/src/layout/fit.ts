import type { Problem } from '../base/result'
import { said } from '../base/said'
import { type Alignment, nearItself } from '../geometry'
import type { Plan } from '../plan'
import { type Building, fieldOfPart, type WallSystem } from '../systems'
import type { PadStep } from './base-steps'
import { type Course, carrying } from './rows'

/** What of a layout is looked at. */
interface Laid {
  readonly plan: Plan
  readonly courses: readonly Course[]
  readonly steps: readonly PadStep[]
  readonly tops: readonly PadStep[]
  readonly cells: ReadonlyMap<string, { readonly section: string; readonly course: number }>
  readonly system: WallSystem
  readonly building: Building
  readonly alignment: Alignment
}

/**
 * What a plan asks for at courses or stations that its own layout does not have: work nobody would ever be asked to do. Also a line
 * that comes back beside itself, where two units have no room. Looked at when a plan is made or changed; plans issued before stay readable,
 * and show it as a caution.
 *
 * @returns a problem for each, with the field of the plan
 * @example misplaced(layout).map((p) => p.field) // ['grid[2].course']
 */
export function misplaced(layout: Laid): Problem[] {
  const { plan, building, courses, steps, tops } = layout
  const problems: Problem[] = []
  const say = (field: string, message: string) => problems.push({ field, message })
  const { depth } = building.course(1)
  // Both sides lean back into the fill between them.
  const lean = Math.max(...courses.map((c) => c.offset))
  const near = nearItself(layout.alignment, { backs: 2 * (depth + lean), faces: depth })
  if (near) {
    const where = `the line comes within ${said.length(near.distance, 2)} of itself: station ${said.length(near.first, 2)} beside station ${said.length(near.second, 2)}`
    say(
      `alignment.vertices[${near.element}]`,
      near.facing === 'backs'
        ? `${where}, back to back. Units ${said.length(depth, 2)} deep that lean back by ${said.length(lean, 2)} need ${said.length(2 * (depth + lean), 2)} there; move the line, or plan two walls`
        : `${where}, face to face. With less than ${said.length(depth, 2)} between them nothing there can be built or looked at; move the line`,
    )
  }
  const highest = Math.max(...courses.map((c) => c.course))
  building.layers.forEach((g, i) => {
    if (g.course > highest)
      say(
        fieldOfPart(`${building.at.layers}[${i}].course`),
        `there is no course ${g.course}; the wall has ${highest}, and a layer lies on one that carries another`,
      )
    else if (carrying(courses, g.course).length === 0)
      say(
        fieldOfPart(`${building.at.layers}[${i}].course`),
        `course ${g.course} carries no course above it, so a layer on it would never be laid; ${highest - 1} is the highest that does`,
      )
  })
  plan.rules?.added?.forEach((p, i) => {
    const stage = layout.system.stages.find((s) => s.id === p.at.stage)
    const at = `rules.added[${i}].at`
    const own = plan.sections.find((s) => s.id === p.at.section)
    if (!stage) say(`${at}.stage`, `"${p.at.stage}" is not a stage of ${layout.system.name.toLowerCase()}`)
    else if (p.at.section && !own)
      say(`${at}.section`, `there is no section ${p.at.section}; the wall has ${plan.sections.map((s) => s.id).join(', ')}`)
    else if (p.at.course !== undefined && stage.scope !== 'course') say(`${at}.course`, `${stage.title} is not done course by course`)
    else if (p.at.course !== undefined && ![...layout.cells.values()].some((c) => c.section === p.at.section && c.course === p.at.course))
      say(`${at}.course`, `there is no course ${p.at.course} in section ${p.at.section}`)
    if (p.at.station !== undefined && p.at.station > plan.length + 1e-6)
      say(`${at}.station`, `${said.given(p.at.station)} is beyond the wall, which ends at ${said.given(plan.length)}`)
  })
  const [low, high] = [Math.min(...steps.map((s) => s.elevation)), Math.max(...tops.map((s) => s.elevation))]
  plan.openings?.forEach((o, i) => {
    const [from, to] = [o.station - o.width / 2, o.station + o.width / 2]
    const own = plan.sections.find((x) => o.station >= x.from - 1e-9 && o.station <= x.to + 1e-9)
    if (own && o.width > own.to - own.from + 1e-6)
      say(
        `openings[${i}].width`,
        `${o.name} is ${said.given(o.width)} wide, wider than section ${own.id}, ${said.length(own.to - own.from, 2)}: nothing of it would be left to build`,
      )
    if (from < -1e-6 || to > plan.length + 1e-6)
      say(
        `openings[${i}].station`,
        `${o.name} reaches from ${said.length(from, 2)} to ${said.length(to, 2)}, past an end of the wall (${said.given(0)} to ${said.given(plan.length)})`,
      )
    if (o.bottom >= high - 1e-6)
      say(`openings[${i}].bottom`, `${o.name} begins at ${said.given(o.bottom)}, above the wall, which ends at ${said.given(high)}`)
    else if (o.bottom + o.height <= low + 1e-6)
      say(
        `openings[${i}].bottom`,
        `${o.name} ends at ${said.length(o.bottom + o.height, 2)}, below the pad, which lies at ${said.given(low)} or higher`,
      )
  })
  const worked = new Set([...layout.cells.values()].map((c) => c.section))
  plan.sections.forEach((s, i) => {
    if (!worked.has(s.id))
      say(`sections[${i}].to`, `section ${s.id} is shorter than a unit: no course of it could be worked on; join it to its neighbour`)
  })
  const seen = new Map<string, number>()
  building.drain?.outlets.forEach((o, i) => {
    const before = seen.get(o.station.toFixed(2))
    if (before !== undefined)
      say(fieldOfPart(`${building.at.outlets}[${i}].station`), `there is an outlet at ${said.given(o.station)} already (no. ${before + 1})`)
    seen.set(o.station.toFixed(2), i)
  })
  return problems
}
