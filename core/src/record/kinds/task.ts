import { fail, ok } from '../../base/result'
import { choice, type InferType, list, optionalChoice, optionalText, quantity, record, text, yesNo } from '../../base/schema'
import { MACHINE_KINDS, ROLES } from '../../rules'
import type { Entry } from '../entry'
import { defineKind } from './kind'

/** Work that is in no stage of the system: a hedge to move, a fence to set, a clean-up. The newest of its name holds. */
export const taskData = record({
  /** Its name in links: short, without a semicolon. */
  task: text(60).matches(/^[^;]+$/, 'must have no semicolon: links are told apart by it'),
  title: text(120),
  hours: quantity({ min: 0, max: 2000, unit: 'h' }),
  section: optionalText(8),
  /** What must be done before: steps of the programme or tasks, by their names. */
  after: list(text(200), 0, 50),
  /** What must not begin before it is done. */
  before: list(text(200), 0, 50),
  /** Does it take a crew of this wall? Otherwise somebody else does it. */
  crew: yesNo(),
  plant: optionalChoice(MACHINE_KINDS),
  state: choice(['open', 'done', 'dropped'] as const),
})
export type TaskData = InferType<typeof taskData>

/** A way back to itself through what tasks wait for, by name. */
function circle(tasks: ReadonlyMap<string, TaskData>, start: string): readonly string[] | undefined {
  const way: string[] = []
  const seen = new Set<string>()
  const visit = (name: string): boolean => {
    way.push(name)
    const own = tasks.get(name)
    const next = [...(own?.after ?? []), ...[...tasks.values()].filter((t) => t.before.includes(name)).map((t) => t.task)]
    for (const n of next) {
      if (n === start) return true
      if (seen.has(n)) continue
      seen.add(n)
      if (visit(n)) return true
    }
    way.pop()
    return false
  }
  return visit(start) ? way : undefined
}

export const task = defineKind({
  kind: 'task',
  roles: ROLES.filter((r) => r === 'foreman' || r === 'office'),
  schema: taskData,
  check({ data: d }, { of, layout }) {
    if (d.section !== undefined && !layout.plan.sections.some((s) => s.id === d.section))
      return fail('data.section', `is ${d.section}, which this wall has not; it has ${layout.plan.sections.map((s) => s.id).join(', ')}`)
    if (d.after.includes(d.task) || d.before.includes(d.task)) return fail('data.after', `${d.task} cannot wait for itself`)
    const tasks = new Map(of('task').map((r) => [(r.entry as Entry<string, TaskData>).data.task, (r.entry as Entry<string, TaskData>).data]))
    tasks.set(d.task, d)
    const round = circle(tasks, d.task)
    return round ? fail('data.after', `makes a circle: ${[...round, d.task].join(' waits for ')}; take one of these links out`) : ok(true)
  },
  line: ({ data: d }) =>
    d.state === 'open'
      ? `To do: ${d.title}, ${d.hours} h${d.section ? `, section ${d.section}` : ''}${d.crew ? '' : ', by others'}`
      : `${d.state === 'done' ? 'Done' : 'Not to be done'}: ${d.title}`,
})
