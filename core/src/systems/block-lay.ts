import { QUARTER, runningBond } from './running-bond'
import type { CourseRun, LaidPiece, LaidRun, RunEnd } from './system'
import { tile } from './tile'
import type { Unit } from './unit'

/** Corners between these turns take a corner unit; others are mitred (radians). */
const SQUARE = [(75 * Math.PI) / 180, (105 * Math.PI) / 180] as const

/**
 * A course of block: corner pieces first, alternating course by course so that no joint runs up the corner; then the bond
 * between them, or the tile of a patterned unit on every course that does not lie on the pad.
 */
export function layBlocks(run: CourseRun, unit: Unit): LaidRun {
  const head = cornerPiece(run, unit, run.start, run.startTurn, 'start')
  const tail = cornerPiece(run, unit, run.end, run.endTurn, 'end')
  // A leg too short for its corner pieces is bonded as if it ended there.
  const room = run.length - (head?.length ?? 0) - (tail?.length ?? 0)
  const fits = room > unit.length / 2 || Math.abs(room) < 1e-6
  const [a, b] = fits ? [head, tail] : [undefined, undefined]
  const from = a?.length ?? 0
  // At an inside corner one leg runs on behind the other by the depth of a unit, the other butts against its face.
  const behind = fits && run.end === 'inside-corner' && !b && through(run, 'end') ? unit.depth : 0
  const before = fits && run.start === 'inside-corner' && !a && through(run, 'start') ? unit.depth : 0
  const to = run.length - (b?.length ?? 0) + behind
  const fixed = { start: a !== undefined, end: b !== undefined }
  const middle =
    unit.pattern && !run.onPad
      ? tile(run, unit, unit.pattern, from - before, to)
      : runningBond(
          run,
          {
            full: unit.length,
            half: unit.half !== false,
            minPiece: unit.minPiece ?? unit.length / 4,
            minOverlap: unit.length * QUARTER,
          },
          from - before,
          to,
          fixed,
        )
  const last: LaidPiece[] = b ? [{ ...b, at: run.length - b.length }] : []
  return { pieces: [...(a ? [a] : []), ...middle.pieces, ...last], ...(middle.broken ? { broken: middle.broken } : {}) }
}

/** On which courses this leg's unit runs through the corner: its end on odd courses, its start on even ones. */
const through = (run: CourseRun, side: 'start' | 'end') => (run.course % 2 === 1) === (side === 'end')

function cornerPiece(run: CourseRun, unit: Unit, end: RunEnd, turn: number, side: 'start' | 'end'): LaidPiece | undefined {
  if (end !== 'outside-corner') return undefined
  const runs = through(run, side)
  if (turn > SQUARE[0] && turn < SQUARE[1] && unit.cornerLength) {
    return runs ? { at: 0, length: unit.cornerLength, kind: 'corner' } : { at: 0, length: unit.depth, kind: 'return' }
  }
  // One stone cut at the whole angle against a whole one: what is cut on this course lies over what is whole on the next.
  if (run.mitre === 'turn') return runs ? { at: 0, length: unit.length, kind: 'full' } : { at: 0, length: unit.length / 2, kind: 'mitre' }
  // Mitred on both sides; long and short change places with every course.
  return { at: 0, length: runs ? unit.length : unit.length / 2, kind: 'mitre' }
}
