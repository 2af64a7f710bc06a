import { barriers, dueOf, nextStep, openFindings, type Plan, progressOf, type Role, titleOf, waitingHolds } from '@stone-tally/core'
import type { Person } from './accounts'
import { stateOf } from './record-store'
import { wallsOf, whyNotShown } from './walls'

/** What the Yard shows of a wall. */
export interface YardWall {
  readonly id: string
  readonly name: string
  readonly site: string
  readonly plan: Plan
  /** Units set per `section/course`, and whether it is filled. */
  readonly cells: Readonly<Record<string, { set: number; filled: boolean; open: boolean }>>
  readonly set: number
  readonly total: number
  readonly next: readonly { section: string; title: string; blocked: string | undefined }[]
  readonly holds: readonly string[]
  readonly findings: number
  /** What is due, by whom. */
  readonly due: readonly { id: string; what: string; roles: readonly Role[]; step: string | undefined; urgent: boolean }[]
  readonly last: { at: string; by: string } | undefined
}

/** A wall that cannot be shown, and why; it hides no other. */
export interface HiddenWall {
  readonly id: string
  readonly name: string
  readonly site: string
  readonly why: string
}

export async function yardOf(person: Person): Promise<{ walls: YardWall[]; hidden: HiddenWall[] }> {
  const result: YardWall[] = []
  const hidden: HiddenWall[] = []
  for (const wall of await wallsOf(person.companyId)) {
    const why = await whyNotShown(wall.id)
    if (why !== undefined) {
      hidden.push({ id: wall.id, name: wall.name, site: wall.site, why })
      continue
    }
    const state = await stateOf(wall.id)
    const now = new Date().toISOString()
    const { layout } = state
    const cells: Record<string, { set: number; filled: boolean; open: boolean }> = {}
    let [set, total] = [0, 0]
    for (const [key, cell] of layout.cells) {
      const progress = progressOf(state, cell.section, cell.course)
      set += progress.set
      total += progress.planned
      cells[key] = progress
    }
    const last = state.entries[state.entries.length - 1]
    result.push({
      ...wall,
      plan: layout.plan,
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
    })
  }
  return { walls: result, hidden }
}
