import { pointAt } from '../geometry'
import type { Layout } from '../layout'
import { counted } from '../systems'
import type { RecordedEntry } from './entry'
import { live } from './fold'
import { kindOf } from './kinds'
import type { WallState } from './state'
import { stepKey } from './steps'
import { targetAt } from './target'

/** Recorded work that the plan in force no longer asks for as it was done. The record stays as it is. */
export interface Unmatched {
  readonly key: string
  readonly title: string
  readonly section?: string | undefined
  readonly course?: number | undefined
  /** Entries it concerns, newest last. */
  readonly entries: readonly RecordedEntry[]
  readonly message: string
}

const mm = (v: number) => `${(Math.abs(v) * 1000).toFixed(0)} mm ${v > 0 ? 'higher' : 'lower'}`

/** Furthest the face line moved, m. */
function moved(before: Layout, after: Layout): number {
  let most = 0
  const length = Math.min(before.plan.length, after.plan.length)
  for (let k = 0; k <= 40; k++) {
    const [p, q] = [pointAt(before.alignment, (length * k) / 40), pointAt(after.alignment, (length * k) / 40)]
    most = Math.max(most, Math.hypot(p.easting - q.easting, p.northing - q.northing))
  }
  return most
}

/**
 * Work recorded under an earlier revision that does not match the one in force, grouped by step.
 *
 * @example unmatched(state).map((u) => u.message)
 */
export function unmatched(state: WallState): Unmatched[] {
  const after = state.layout
  const found = new Map<
    string,
    { title: string; section?: string | undefined; course?: number | undefined; entries: RecordedEntry[]; messages: Set<string> }
  >()
  const lineMoved = new Map<Layout, number>()
  for (const recorded of state.entries) {
    const { entry } = recorded
    const before = state.layouts[entry.revision - 1]
    if (!before || before === after || !kindOf(entry.kind)?.work || !live(state, entry.id)) continue
    const message = judge(recorded, before)
    if (!message) continue
    const key = stepKey(entry.where)
    const stage = state.byStage.get(entry.where.stage ?? '')
    const known = found.get(key) ?? {
      title: stage?.title ?? entry.kind,
      section: entry.where.section,
      course: entry.where.course,
      entries: [],
      messages: new Set<string>(),
    }
    known.entries.push(recorded)
    known.messages.add(message)
    found.set(key, known)
  }
  return [...found].map(([key, f]) => ({
    key,
    title: f.title,
    section: f.section,
    course: f.course,
    entries: f.entries,
    message: [...f.messages].slice(0, 3).join('; '),
  }))

  function judge({ entry }: RecordedEntry, before: Layout): string | undefined {
    const { where } = entry
    const step = state.byKey.get(stepKey(where))
    if (!step) return 'the plan in force has no such step any more'
    const { work } = step.stage
    switch (work.type) {
      case 'readings': {
        const [was, is] = [targetAt(before, work.target, where), targetAt(after, work.target, where)]
        return Math.abs(is - was) > 0.001 ? `its target is now ${mm(is - was)}` : undefined
      }
      case 'units': {
        const key = `${where.section}/${where.course}`
        const [was, is] = [before.cells.get(key), after.cells.get(key)]
        if (!was || !is) return 'the course is not in that section any more'
        if (counted(was.pieces) !== counted(is.pieces)) return `${counted(was.pieces)} units were planned, now ${counted(is.pieces)}`
        return was.pieces.some((p, i) => Math.abs(p.start - (is.pieces[i]?.start ?? 0)) > 0.01) ? 'its joints are planned elsewhere now' : undefined
      }
      case 'lifts': {
        const [was, is] =
          work.of === 'pad' ? [before.plan.pad.thickness, after.plan.pad.thickness] : [before.plan.unit.height, after.plan.unit.height]
        return Math.abs(is - was) > 0.001
          ? `the layer is now ${mm(is - was)
              .replace('higher', 'thicker')
              .replace('lower', 'thinner')}`
          : undefined
      }
      case 'grid': {
        const [was, is] = [before, after].map((l) => l.plan.grid.find((g) => g.course === where.course))
        if (!is) return 'the plan in force has no layer here'
        return was && (was.length !== is.length || was.type !== is.type)
          ? `placed as ${was.length} m ${was.type}; the plan now asks for ${is.length} m ${is.type}`
          : undefined
      }
      case 'check': {
        if (step.stage.scope !== 'wall' || step.stage.id !== 'set-out') return undefined
        const by = lineMoved.get(before) ?? moved(before, after)
        lineMoved.set(before, by)
        return by > 0.005 ? `the face line moved by up to ${(by * 1000).toFixed(0)} mm since` : undefined
      }
    }
  }
}
