import type { Role } from '../rules'
import { barriers, nextStep, openFindings } from './gate'
import { dueOf } from './inspection'
import { type CellProgress, progressOf } from './progress'
import { waitingHolds } from './release-needs'
import type { WallState } from './state'
import { titleOf } from './step'

/** A wall among others: how far it is, what is next and what is in the way. */
export interface WallOverview {
  /** By `section/course`. */
  readonly cells: Readonly<Record<string, CellProgress>>
  /** Units set, of so many planned. */
  readonly set: number
  readonly total: number
  readonly next: readonly { readonly section: string; readonly title: string; readonly blocked: string | undefined }[]
  readonly holds: readonly string[]
  /** Out of tolerance, not put right. */
  readonly findings: number
  /** What is due, by whom. */
  readonly due: readonly {
    readonly id: string
    readonly what: string
    readonly roles: readonly Role[]
    readonly step: string | undefined
    readonly urgent: boolean
  }[]
  readonly last: { readonly at: string; readonly by: string } | undefined
}

/**
 * How a wall stands, for a list of many.
 *
 * @param now - ISO 8601
 * @example overviewOf(state, new Date().toISOString()).set // 214
 */
export function overviewOf(state: WallState, now: string): WallOverview {
  const { layout } = state
  const cells: Record<string, CellProgress> = {}
  let [set, total] = [0, 0]
  for (const [key, cell] of layout.cells) {
    const progress = progressOf(state, cell.section, cell.course)
    set += progress.set
    total += progress.planned
    cells[key] = progress
  }
  const last = state.entries[state.entries.length - 1]
  return {
    cells,
    set,
    total,
    next: layout.plan.sections.map((s) => {
      const step = nextStep(state, s.id)
      return { section: s.id, title: step ? titleOf(step) : 'complete', blocked: step ? barriers(state, step, now)[0]?.message : undefined }
    }),
    holds: waitingHolds(state).map(titleOf),
    findings: openFindings(state).length,
    due: dueOf(state, now).map(({ id, what, roles, step, urgent }) => ({ id, what, roles, step, urgent })),
    last: last ? { at: last.entry.at, by: last.entry.by.name } : undefined,
  }
}
