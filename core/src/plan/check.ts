import { failAll, ok, type Problem, type Result } from '../base/result'
import { said } from '../base/said'
import { read } from '../base/schema'
import { below, same } from '../geometry'
import { checkBook } from '../rules'
import { checkAlignment } from './alignment'
import { type Plan, planSchema } from './plan'

/**
 * Reads a plan from outside: types and limits by the schema, then what only the whole can tell
 * (stations inside the wall, top over toe, sections that cover it).
 *
 * @returns the plan, or every problem with its field path
 * @example readPlan(JSON.parse(text))
 */
export function readPlan(value: unknown): Result<Plan> {
  const shape = read(planSchema, value)
  if (!shape.ok) return shape
  const plan = shape.value
  const problems: Problem[] = []
  const say = (field: string, message: string) => problems.push({ field, message })

  plan.grades.forEach((g, i) => {
    const before = plan.grades[i - 1]
    if (before && !below(before.station, g.station)) {
      say(`grades[${i}].station`, `must be after ${said.given(before.station)}, not ${said.given(g.station)}; list stations in order, each once`)
    }
    if (below(plan.length, g.station)) {
      say(`grades[${i}].station`, `${said.given(g.station)} is beyond the wall, which ends at ${said.given(plan.length)}`)
    }
    if (!below(g.toe, g.top)) {
      say(`grades[${i}].top`, `top grade ${said.given(g.top)} must be above toe grade ${said.given(g.toe)} at station ${said.given(g.station)}`)
    }
    if (g.top - g.toe > 15) {
      say(`grades[${i}].top`, `${said.length(g.top - g.toe, 2)} of wall is over the limit of ${said.given(15)}; are the grades in feet?`)
    }
  })
  if (!same(plan.grades[0]?.station ?? 0, 0)) say('grades[0].station', 'the first station must be 0, the start of the wall')
  const last = plan.grades[plan.grades.length - 1]
  if (last && below(last.station, plan.length)) {
    say(`grades[${plan.grades.length - 1}].station`, `grades end at ${said.given(last.station)}, the wall at ${said.given(plan.length)}`)
  }

  let at = 0
  const ids = new Set<string>()
  plan.sections.forEach((s, i) => {
    if (ids.has(s.id)) say(`sections[${i}].id`, `"${s.id}" is used twice`)
    ids.add(s.id)
    if (!/^[A-Za-z0-9]+$/.test(s.id)) say(`sections[${i}].id`, `"${s.id}" must be letters and digits`)
    if (!same(s.from, at)) say(`sections[${i}].from`, `must start at ${said.given(at)} where the one before ends, not ${said.given(s.from)}`)
    if (!below(s.from, s.to)) say(`sections[${i}].to`, `must be beyond ${said.given(s.from)}, not ${said.given(s.to)}`)
    at = s.to
  })
  if (!same(at, plan.length)) {
    say(`sections[${plan.sections.length - 1}].to`, `sections end at ${said.given(at)}, the wall at ${said.given(plan.length)}`)
  }

  plan.drain.outlets.forEach((o, i) => {
    if (below(plan.length, o.station)) {
      say(`drain.outlets[${i}].station`, `${said.given(o.station)} is beyond the wall, which ends at ${said.given(plan.length)}`)
    }
  })
  if (plan.pad.width < plan.unit.depth) {
    say('pad.width', `${said.given(plan.pad.width)} is narrower than the unit, ${said.given(plan.unit.depth)} deep`)
  }
  const seen = new Set<number>()
  plan.grid.forEach((g, i) => {
    if (seen.has(g.course)) say(`grid[${i}].course`, `course ${g.course} has a layer already`)
    seen.add(g.course)
    // The cut leans back, so a layer higher up has more room behind it.
    const room = plan.unit.depth + plan.excavation.behind + plan.excavation.slope * g.course * plan.unit.height
    if (below(room, g.length)) {
      say(
        `grid[${i}].length`,
        `${said.given(g.length)} of grid does not fit: the excavation gives ${said.length(room, 2)} at course ${g.course}; dig deeper behind or shorten the layer`,
      )
    }
  })
  problems.push(...checkAlignment(plan))
  plan.openings?.forEach((o, i) => {
    if (below(plan.length, o.station))
      say(`openings[${i}].station`, `${said.given(o.station)} is beyond the wall, which ends at ${said.given(plan.length)}`)
  })
  plan.water?.possible?.forEach((o, i) => {
    if (below(plan.length, o.station))
      say(`water.possible[${i}].station`, `${said.given(o.station)} is beyond the wall, which ends at ${said.given(plan.length)}`)
  })
  const rolls = new Set<string>()
  plan.gridRolls?.forEach((r, i) => {
    if (rolls.has(r.type)) say(`gridRolls[${i}].type`, `there is a roll of ${r.type} already`)
    rolls.add(r.type)
    const longest = Math.max(0, ...plan.grid.filter((g) => g.type === r.type).map((g) => g.length))
    if (below(r.length, longest))
      say(`gridRolls[${i}].length`, `${said.given(r.length)} is shorter than the layer of ${said.given(longest)} cut from it`)
  })
  plan.obstacles?.forEach((o, i) => {
    if (o.points.length === 1 && !o.radius) say(`obstacles[${i}].radius`, 'a single point needs a radius')
  })
  const tile = plan.unit.pattern
  tile?.pieces.forEach((p, i) => {
    if (below(tile.length, p.x + p.length))
      say(`unit.pattern.pieces[${i}].length`, `reaches ${said.length(p.x + p.length, 3)}, past the tile of ${said.given(tile.length)}`)
    if (below(plan.unit.height, p.y + p.height))
      say(`unit.pattern.pieces[${i}].height`, `reaches ${said.length(p.y + p.height, 3)}, over the course of ${said.given(plan.unit.height)}`)
  })
  if (tile) {
    const filled = tile.pieces.reduce((sum, p) => sum + p.length * p.height, 0)
    if (!same(filled, tile.length * plan.unit.height)) {
      say(
        'unit.pattern',
        `its pieces cover ${filled.toFixed(4)} m² of a tile of ${(tile.length * plan.unit.height).toFixed(4)} m²; they must fill it without overlap`,
      )
    }
  }
  if (plan.book) problems.push(...checkBook(plan.book))
  return problems.length > 0 ? failAll(problems) : ok(plan)
}
