import { type BondPiece, quickBond, type StretchToBond } from '../bond'
import type { CourseRun, LaidPiece, LaidRun } from './system'

/** Overlap of joints asked of every course: a quarter of a unit, the inspection rule. */
export const QUARTER = 0.25

interface Bonding {
  readonly full: number
  readonly half: boolean
  readonly minPiece: number
  readonly minOverlap: number
  /** A cut piece is no fault at a free end (baskets can be made to any length). */
  readonly freeCuts?: boolean
}

/**
 * Running bond over a run, or over what its corner pieces leave of it: strictly first; where that cannot be, with a cut at
 * an end, then with less overlap, and it says so.
 *
 * @param from, to - m within the run
 */
export function runningBond(run: CourseRun, b: Bonding, from: number, to: number, fixed: { start: boolean; end: boolean }): LaidRun {
  if (to - from < 1e-6) return { pieces: [] }
  const below: number[] = []
  for (let i = 0; i < run.below.length; i++) {
    const x = (run.below[i] as number) - from
    if (x > -b.full && x < to - from + b.full) below.push(x)
  }
  const hidden = (end: CourseRun['start'], at: boolean) => at || end === 'inside-corner' || end === 'opening' || b.freeCuts === true
  const strict: StretchToBond = {
    length: to - from,
    full: b.full,
    half: b.half,
    minPiece: Math.min(b.minPiece, b.full),
    minOverlap: b.minOverlap,
    below,
    cutStart: hidden(run.start, fixed.start),
    cutEnd: hidden(run.end, fixed.end),
  }
  const tries: readonly [StretchToBond, string | undefined][] = [
    [strict, undefined],
    [{ ...strict, cutStart: true, cutEnd: true }, 'a cut piece stands at an end'],
    [{ ...strict, cutStart: true, cutEnd: true, minOverlap: b.minOverlap / 2 }, 'joints overlap by less than a quarter unit'],
    [{ ...strict, cutStart: true, cutEnd: true, minOverlap: 0 }, 'joints line up'],
    [{ ...strict, cutStart: true, cutEnd: true, minOverlap: 0, minPiece: 1e-3 }, 'a piece is a sliver'],
  ]
  for (const [asked, broken] of tries) {
    const pieces = quickBond(asked)
    if (pieces) return { pieces: placed(pieces, from), ...(broken ? { broken } : {}) }
  }
  return { pieces: [{ at: from, length: to - from, kind: 'cut' }], broken: 'a piece is a sliver' }
}

function placed(pieces: readonly BondPiece[], from: number): LaidPiece[] {
  let at = from
  return pieces.map((p) => {
    const piece = { at, length: p.length, kind: p.kind }
    at += p.length
    return piece
  })
}
