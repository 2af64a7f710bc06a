import { fail, ok, type Result } from '../base/result'
import { type InferType, list, optionalList, optionalQuantity, quantity, record, text } from '../base/schema'
import { Network } from './network'

/** A hundred walls of forty courses and ten stages, and as many again. */
const MOST = 100_000
const LONGEST = 100_000

export const criticalPathInput = record({
  tasks: list(
    record({
      id: text(120),
      duration: quantity({ min: 0, max: LONGEST }),
      after: optionalList(record({ id: text(120), lag: optionalQuantity({ min: 0, max: LONGEST }) }), MOST),
      notBefore: optionalQuantity({ min: 0, max: LONGEST }),
    }),
    1,
    MOST,
  ),
})
export type CriticalPathInput = InferType<typeof criticalPathInput>

/** When a task begins and ends at the earliest, and by how much it may slip; in the unit of the durations. */
export interface TimedTask {
  readonly id: string
  readonly start: number
  readonly finish: number
  /** How much it may slip before the end does. */
  readonly float: number
  readonly critical: boolean
}
const NOTHING = 1e-9

/**
 * Critical path, finish to start with lags: the earliest of everything, and what may slip by how much.
 *
 * @returns tasks in the order they were given, or the field that is wrong: an id twice, one that is none, a circle
 * @example criticalPath({ tasks: [{ id: 'dig', duration: 2 }, { id: 'pad', duration: 1, after: [{ id: 'dig' }] }] }).value.duration // 3
 */
export function criticalPath({ tasks }: CriticalPathInput): Result<{ duration: number; tasks: TimedTask[] }> {
  const numbers = new Map<string, number>()
  for (const [i, t] of tasks.entries()) {
    const other = numbers.get(t.id)
    if (other !== undefined) return fail(`tasks[${i}].id`, `"${t.id}" is the name of task ${other + 1} already; give each its own`)
    numbers.set(t.id, i)
  }
  const after: [number, number][][] = []
  for (const [i, t] of tasks.entries()) {
    const own: [number, number][] = []
    for (const a of t.after ?? []) {
      const before = numbers.get(a.id)
      if (before === undefined) return fail(`tasks[${i}].after`, `"${a.id}" is no task of this list; name one of them or leave it out`)
      own.push([before, a.lag ?? 0])
    }
    after.push(own)
  }
  const network = Network.of({ durations: tasks.map((t) => t.duration), notBefore: tasks.map((t) => t.notBefore ?? 0), after })
  if (!(network instanceof Network)) {
    const { circle } = network
    return fail(
      `tasks[${circle}].after`,
      `"${tasks[circle]?.id}" waits for itself in the end: ${roundOf(tasks, circle)}; take one of these links out`,
    )
  }
  return ok({
    duration: network.end,
    tasks: tasks.map((t, i) => {
      const float = network.float(i)
      const critical = float < NOTHING
      return { id: t.id, start: network.start[i] as number, finish: network.finish[i] as number, float: critical ? 0 : float, critical }
    }),
  })
}

/** So many names of a circle are read. */
const NAMED = 6
/** The shortest way round a circle in words, from a task that stands in it. */
function roundOf(tasks: CriticalPathInput['tasks'], from: number): string {
  const byId = new Map(tasks.map((t) => [t.id, t]))
  const start = tasks[from]?.id as string
  const came = new Map<string, string>()
  const queue = [start]
  for (const at of queue) {
    for (const a of byId.get(at)?.after ?? []) {
      if (a.id === start) {
        const way = [at]
        for (let w = at; w !== start; w = way[way.length - 1] as string) way.push(came.get(w) as string)
        const named = way.map((w) => `"${w}"`)
        return named.length > NAMED ? `${named.slice(0, NAMED - 1).join(', ')} and ${named.length - NAMED + 1} more` : named.join(', ')
      }
      if (!came.has(a.id)) {
        came.set(a.id, at)
        queue.push(a.id)
      }
    }
  }
  return `"${start}"`
}
