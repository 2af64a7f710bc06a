import { counted } from '../../systems'
import type { UnitsData } from '../kinds'
import { defineWork, NOT_READ } from './work'

/** Units set, counted; they stand where they stand. */
export const units = defineWork({
  type: 'units',
  stands: true,
  progress(_state, step, work) {
    const done = work.reduce((sum, e) => sum + (e.entry.data as UnitsData).set, 0)
    const left = step.planned - done
    return { ...NOT_READ, done, total: step.planned, missing: left > 0 ? [`${left} of ${step.planned} to set`] : [] }
  },
  changed(before, after, _step, entry) {
    const { where } = entry
    const key = `${where.section}/${where.course}`
    const [was, is] = [before.cells.get(key), after.cells.get(key)]
    if (!was || !is) return 'the course is not in that section any more'
    if (counted(was.pieces) !== counted(is.pieces)) return `${counted(was.pieces)} units were planned, now ${counted(is.pieces)}`
    return was.pieces.some((p, i) => Math.abs(p.start - (is.pieces[i]?.start ?? 0)) > 0.01) ? 'its joints are planned elsewhere now' : undefined
  },
})
