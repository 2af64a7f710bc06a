import { said } from '../base/said'
import { limitsOf, tableOf } from '../rules'
import { deviationOf, type ReadingData } from './kinds/reading'
import { tableAt } from './needs'
import type { StepStatus, WallState } from './state'
import type { Step } from './step'
import { targetAt } from './target'

/** Half a millimetre of reading noise makes no hollow, m. */
const NOISE = 0.0005

/**
 * Does the pipe fall from point to point as it was read? Each point may be within its limit and water still stand between two: it never
 * rises with the flow, and the share of the planned fall the rules ask for is there. In words, one for each stretch that does not; empty
 * under rule table 1.
 *
 * @example fallNeeds(state, step, statusOf(state, step).read) // ['the pipe rises 4 mm with the flow between 6.00 and 9.00']
 */
export function fallNeeds(state: WallState, step: Step, read: StepStatus['read']): string[] {
  const { layout } = state
  if (tableOf(layout.plan) === 1 || step.stage.work.type !== 'readings' || step.stage.work.target !== 'invert') return []
  if (read.some((r) => r.entry && tableAt(state, r.entry) === 1)) return []
  const share = limitsOf(layout.plan).pipeFallShare.value
  const points = read.flatMap((r) => {
    if (r.entry?.entry.kind !== 'reading') return []
    const target = targetAt(layout, 'invert', { station: r.station })
    return [{ station: r.station, target, invert: target + deviationOf(r.entry.entry.data as ReadingData, target) }]
  })
  const words: string[] = []
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1], points[i]] as const
    if (!a || !b) continue
    const planned = a.target - b.target
    // Where the plan has a summit between two points either way is with the flow.
    if (Math.abs(planned) < 1e-9) continue
    const fall = (a.invert - b.invert) * Math.sign(planned)
    const where = `between ${said.station(a.station)} and ${said.station(b.station)}`
    if (fall < -NOISE) words.push(`the pipe rises ${said.small(-fall)} with the flow ${where}: water stands there`)
    else if (fall < share * Math.abs(planned) - NOISE)
      words.push(
        `the pipe falls ${said.small(Math.max(0, fall))} ${where}, at least ${said.small(share * Math.abs(planned))} of the planned ${said.small(Math.abs(planned))}`,
      )
  }
  return words
}
