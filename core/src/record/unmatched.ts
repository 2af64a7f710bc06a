import type { RecordedEntry } from './entry'
import { kindOf } from './kinds'
import { mismatch } from './match'
import { live, type WallState } from './state'
import { stepKey } from './step'

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

/**
 * Work recorded under an earlier revision that does not match the one in force, of every kind of work, grouped by step.
 *
 * @example unmatched(state).map((u) => u.message)
 */
export function unmatched(state: WallState): Unmatched[] {
  const found = new Map<string, Omit<Unmatched, 'key' | 'message' | 'entries'> & { entries: RecordedEntry[]; messages: Set<string> }>()
  for (const recorded of state.entries) {
    const { entry } = recorded
    const before = state.layouts[entry.revision - 1]
    if (!before || before === state.layout || !kindOf(entry.kind)?.work || !live(state, entry.id)) continue
    const key = stepKey(entry.where)
    const step = state.byKey.get(key)
    const message = step ? mismatch(before, state.layout, step, entry) : 'the plan in force has no such step any more'
    if (!message) continue
    const title = step?.stage.title ?? before.system.stages.find((s) => s.id === entry.where.stage)?.title ?? entry.kind
    const group = found.get(key) ?? { title, section: entry.where.section, course: entry.where.course, entries: [], messages: new Set<string>() }
    group.entries.push(recorded)
    group.messages.add(message)
    found.set(key, group)
  }
  return [...found].map(([key, { messages, ...f }]) => ({ key, ...f, message: [...messages].slice(0, 3).join('; ') }))
}
