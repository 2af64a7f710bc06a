import type { Problem } from '../base/result'
import { said } from '../base/said'
import { below, same } from '../geometry'
import { checkBook } from '../rules'
import { checkAlignment } from './alignment'
import { checkBuiltIn } from './built-in'
import { checkFound } from './found-ground'
import { aroundOf, type Plan } from './plan'

/**
 * What only the whole of a plan can tell (stations inside the wall, top over toe, sections that cover it); what its system's part asks
 * is said by the system.
 *
 * @returns every problem with its field path
 */
export function checkPlan(plan: Plan): Problem[] {
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

  problems.push(...checkAlignment(plan))
  plan.openings?.forEach((o, i) => {
    if (below(plan.length, o.station))
      say(`openings[${i}].station`, `${said.given(o.station)} is beyond the wall, which ends at ${said.given(plan.length)}`)
  })
  plan.padSteps?.forEach((at, i) => {
    const before = plan.padSteps?.[i - 1] ?? 0
    if (!below(before, at)) say(`padSteps[${i}]`, `must be after ${said.given(before)}, not ${said.given(at)}; list the steps in order, each once`)
    if (!below(at, plan.length)) say(`padSteps[${i}]`, `${said.given(at)} is not inside the wall, which ends at ${said.given(plan.length)}`)
  })
  problems.push(...checkFound(plan))
  plan.water?.possible?.forEach((o, i) => {
    if (below(plan.length, o.station))
      say(`water.possible[${i}].station`, `${said.given(o.station)} is beyond the wall, which ends at ${said.given(plan.length)}`)
  })
  plan.water?.heel?.outlets?.forEach((o, i) => {
    if (below(plan.length, o.station))
      say(`water.heel.outlets[${i}].station`, `${said.given(o.station)} is beyond the wall, which ends at ${said.given(plan.length)}`)
  })
  plan.obstacles?.forEach((o, i) => {
    if (o.points.length === 1 && !o.radius) say(`obstacles[${i}].radius`, 'a single point needs a radius')
  })
  problems.push(...checkBuiltIn(plan.builtIn ?? [], aroundOf(plan)))
  if (plan.book) problems.push(...checkBook(plan.book))
  return problems
}
