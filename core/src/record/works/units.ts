import { fail, ok } from '../../base/result'
import type { Layout } from '../../layout'
import { counted } from '../../systems'
import type { Entry } from '../entry'
import { units as kind } from '../kinds/units'
import { titleOf } from '../step'
import { defineWork, NOT_READ, whereOf } from './work'

/** Units set, counted; they stand where they stand. */
export const units = defineWork({
  type: 'units',
  stands: true,
  plan: (_layout, _step, { cell }) => ({ planned: cell ? counted(cell.pieces) : 0 }),
  progress(_state, step, work) {
    const done = kind.among(work).reduce((sum, e) => sum + e.entry.data.set, 0)
    const left = step.planned - done
    return { ...NOT_READ, done, total: step.planned, missing: left > 0 ? [`${left} of ${step.planned} to set`] : [] }
  },
  wants: (state, step) => [`${step.planned} ${step.planned === 1 ? state.layout.system.noun.one : state.layout.system.noun.many}`],
  admit(state, step, entry, status) {
    if (!kind.is(entry)) return ok(true)
    const corrected = entry.supersedes ? state.byId.get(entry.supersedes)?.entry : undefined
    const already = status().done - (corrected && kind.is(corrected) ? corrected.data.set : 0)
    const { set } = entry.data
    return already + set > step.planned
      ? fail('data.set', `${titleOf(step)} takes ${step.planned}; ${already} are set, so at most ${step.planned - already} more, not ${set}`)
      : ok(true)
  },
  sheet(_state, step, status) {
    const left = step.planned - status.done
    return { words: `${left} set`, facts: () => [{ kind: kind.kind, where: whereOf(step), data: { set: left } }] }
  },
  changed: (before, after, _step, entry) => piecesMoved(before, after, entry),
})

/** Why pieces of a course that were set do not stand where the plan in force has them; undefined where they do. */
export function piecesMoved(before: Layout, after: Layout, { where }: Pick<Entry, 'where'>): string | undefined {
  const key = `${where.section}/${where.course}`
  const [was, is] = [before.cells.get(key), after.cells.get(key)]
  if (!was || !is) return 'the course is not in that section any more'
  if (counted(was.pieces) !== counted(is.pieces)) return `${counted(was.pieces)} units were planned, now ${counted(is.pieces)}`
  return was.pieces.some((p, i) => Math.abs(p.start - (is.pieces[i]?.start ?? 0)) > 0.01) ? 'its joints are planned elsewhere now' : undefined
}
