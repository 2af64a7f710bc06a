import { runningBond } from '../running-bond'
import type { CourseRun, LaidPiece, LaidRun } from '../system'
import type { Unit } from '../unit'

/** Seams between baskets are kept this far from the seams below, m; a tall seam is where a gabion wall opens. */
const SEAM = 0.3

/**
 * A row of baskets: the longest where they fit, the half size to stagger, one cut down and laced again where the run is
 * odd. At an outside corner one leg's basket runs through and the other butts against its side, course by course in turn.
 */
export function lay(run: CourseRun, unit: Unit): LaidRun {
  const b = {
    full: unit.length,
    half: unit.half !== false,
    minPiece: unit.minPiece ?? 0.5,
    minOverlap: Math.min(SEAM, unit.length / 4),
    freeCuts: true,
  }
  const butts = (side: 'start' | 'end') =>
    (side === 'start' ? run.start : run.end) === 'outside-corner' && (run.course % 2 === 1) !== (side === 'end') && run.length > 2 * unit.depth
  const head: LaidPiece[] = butts('start') ? [{ at: 0, length: unit.depth, kind: 'return' }] : []
  const tail: LaidPiece[] = butts('end') ? [{ at: run.length - unit.depth, length: unit.depth, kind: 'return' }] : []
  const middle = runningBond(run, b, head.length * unit.depth, run.length - tail.length * unit.depth, { start: true, end: true })
  return { pieces: [...head, ...middle.pieces, ...tail], ...(middle.broken ? { broken: middle.broken } : {}) }
}
