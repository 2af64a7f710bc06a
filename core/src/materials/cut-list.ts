import { type Cutting, cutting } from '../bond'
import type { Layout } from '../layout'

/** What the saw takes away, m. */
export const KERF = 0.004

/** A piece to cut and where it goes. */
export interface CutPiece {
  readonly course: number
  readonly station: number
  readonly length: number
}

export interface CutList {
  readonly pieces: readonly CutPiece[]
  /** Which lengths come out of each whole unit, off-cuts used again; m. */
  readonly units: readonly (readonly number[])[]
  /** No cutting can do with fewer whole units. */
  readonly lowerBound: number
}

/** It follows from the layout alone, and many ask for it. */
const listed = new WeakMap<Layout, CutList>()

/**
 * Every piece to cut, and the fewest whole units they come out of; off-cuts are used again where they are long enough.
 * Halves count as cuts where the unit has none made. Mitred pieces take a whole unit each and are not listed.
 *
 * @example cutList(layout).units.length // whole units to set aside for the saw
 */
export function cutList(layout: Layout): CutList {
  const known = listed.get(layout)
  if (known) return known
  const made = listAll(layout)
  listed.set(layout, made)
  return made
}

function listAll(layout: Layout): CutList {
  const unit = layout.building.course(1)
  const pieces: CutPiece[] = []
  layout.runs.forEach((runs, i) => {
    const course = layout.courses[i]?.course ?? 0
    for (const run of runs) {
      for (const p of run.pieces) {
        // Pieces of a patterned band are cut from their own shape, one for one.
        if (p.shape !== undefined || p.length > unit.length) continue
        if (p.kind === 'cut' || (p.kind === 'half' && !unit.half))
          pieces.push({ course, station: p.start, length: Math.round(p.length * 1000) / 1000 })
      }
    }
  })
  if (pieces.length === 0) return { pieces, units: [], lowerBound: 0 }
  const counts = new Map<number, number>()
  for (const p of pieces) counts.set(p.length, (counts.get(p.length) ?? 0) + 1)
  const wanted = [...counts].map(([length, count]) => ({ length: Math.min(unit.length, length) + KERF, count }))
  const made: Cutting = cutting(unit.length + KERF, wanted, 4000)
  return { pieces, units: made.rolls.map((r) => r.map((x) => Math.round((x - KERF) * 1000) / 1000)), lowerBound: made.lowerBound }
}
