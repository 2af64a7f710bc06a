import { said } from '../../base/said'
import type { Layout, Stretch } from '../../layout'
import { limitsOf } from '../../rules'
import type { RecordedEntry } from '../entry'
import type { LiftData } from '../kinds'
import { tableAt, uncovered } from '../needs'
import type { WallState } from '../state'
import type { Step } from '../steps'
import { mm, NOISE } from './changed'
import { defineWork, gapWords, NOT_READ } from './work'

/** Lifts that together fill a height, each over the whole section. */
export const lifts = defineWork({
  type: 'lifts',
  progress(state, step, work) {
    const total = step.lifts?.count ?? 1
    const own = state.layout.plan.sections.find((s) => s.id === step.section)
    const missing: string[] = []
    for (let i = 1; i <= total; i++) {
      const laid = work.filter((e) => liftOf(state, e) === i).map((e) => e.entry.data as LiftData)
      const gaps = own ? uncovered(own, laid) : laid.length > 0 ? [] : [{ from: 0, to: 0 }]
      if (gaps.length === 0) continue
      const where = laid.length > 0 ? `, ${gapWords(gaps)}` : ''
      missing.push(`lift ${i} of ${total}${where}`)
    }
    const done = total - missing.length
    if (missing.length > 0 || !own || work.some((e) => tableAt(state, e) === 1)) return { ...NOT_READ, done, total, missing }
    // Thin lifts are more lifts: what counts is that the fill stands at its height.
    const short = shortest(state, step, work, own)
    return short ? { ...NOT_READ, done, total: done + 1, missing: [short] } : { ...NOT_READ, done, total, missing }
  },
  changed(before, after, step) {
    const { work } = step.stage
    const of = ({ building }: Layout) => (work.of === 'pad' ? building.foundation.thickness : building.course(step.course ?? 1).height)
    const [was, is] = [of(before), of(after)]
    return Math.abs(is - was) > NOISE
      ? `the layer is now ${mm(is - was)
          .replace('higher', 'thicker')
          .replace('lower', 'thinner')}`
      : undefined
  },
})

/** Where the lifts of a step do not come up to its height: how much is missing at most, and where. */
function shortest(state: WallState, step: Step, work: readonly RecordedEntry[], own: Stretch): string | undefined {
  const wanted = (step.lifts?.count ?? 0) * (step.lifts?.compacted ?? 0)
  // The last word on each lift, where it reaches: a re-check replaces what it re-checks.
  const laid = work.map((e) => ({ lift: liftOf(state, e), from: own.from, to: own.to, ...tidied(e.entry.data as LiftData) }))
  const ends = [...new Set([own.from, own.to, ...laid.flatMap((d) => [d.from, d.to])])]
    .filter((s) => s >= own.from && s <= own.to)
    .sort((a, b) => a - b)
  const least = limitsOf(state.layout.plan).fillShort.value
  let worst = { by: least, from: 0, to: 0 }
  for (let i = 1; i < ends.length; i++) {
    const [from, to] = [ends[i - 1] as number, ends[i] as number]
    if (to - from <= 0.05) continue
    const last = new Map<number, number>()
    for (const d of laid) if (d.from <= from + 1e-6 && d.to >= to - 1e-6) last.set(d.lift, d.thickness)
    const by = wanted - [...last.values()].reduce((n, t) => n + t, 0)
    if (by > worst.by) worst = { by, from, to }
  }
  return worst.by > least ? `${said.small(worst.by)} of fill, ${gapWords([worst])}` : undefined
}
const tidied = ({ from, to, thickness }: LiftData) => ({ thickness, ...(from == null ? {} : { from }), ...(to == null ? {} : { to }) })

/** Which lift an entry speaks of: a re-check speaks of the lift it re-checks, whatever number stands on it. */
function liftOf(state: WallState, { entry }: RecordedEntry): number {
  let of = entry
  for (let i = 0; i < 20 && of.recheckOf !== undefined; i++) {
    const before = state.byId.get(of.recheckOf)?.entry
    if (before?.kind !== 'lift') break
    of = before
  }
  return (of.data as LiftData).lift
}
