import { said } from '../base/said'
import type { CourseRun, LaidPiece, LaidRun } from './system'
import type { Unit } from './unit'

type Tile = NonNullable<Unit['pattern']>

/** Pieces of a tile that repeats from a shift on, cut off at both ends; slivers are shared with their neighbour. */
function laidFrom(tile: Tile, shift: number, from: number, to: number, least: number): LaidPiece[] {
  const rows = new Map<string, LaidPiece[]>()
  const keys = tile.pieces.map((p) => `${p.y}|${p.height}`)
  for (let start = from - shift; start < to; start += tile.length) {
    for (let i = 0; i < keys.length; i++) {
      const p = tile.pieces[i] as Tile['pieces'][number]
      const [a, b] = [Math.max(from, start + p.x), Math.min(to, start + p.x + p.length)]
      if (b - a < 1e-6) continue
      const piece: LaidPiece = { at: a, length: b - a, kind: b - a < p.length - 1e-6 ? 'cut' : 'full', shape: p.shape, bottom: p.y, height: p.height }
      const row = rows.get(keys[i] as string)
      if (row) row.push(piece)
      else rows.set(keys[i] as string, [piece])
    }
  }
  const all = [...rows.values()].flat().sort((x, y) => x.at - y.at)
  for (const atStart of [true, false]) share(all, atStart, atStart ? from : to, least)
  return all
}

/** Gives slivers at an end to the pieces that touch them over just their height; what no piece can take stays. */
function share(pieces: LaidPiece[], atStart: boolean, edge: number, least: number) {
  if (pieces.every((p) => p.length >= least - 1e-6)) return
  const touches = (a: number, b: number) => Math.abs(a - b) < 1e-6
  const foot = (p: LaidPiece) => p.bottom ?? 0
  const head = (p: LaidPiece) => foot(p) + (p.height ?? 0)
  for (const sliver of pieces.filter((p) => p.length < least - 1e-6 && touches(atStart ? p.at : p.at + p.length, edge))) {
    const inner = atStart ? sliver.at + sliver.length : sliver.at
    const beside = pieces.filter(
      (p) => p !== sliver && touches(atStart ? p.at : p.at + p.length, inner) && foot(p) > foot(sliver) - 1e-6 && head(p) < head(sliver) + 1e-6,
    )
    const covered = beside.reduce((sum, p) => sum + (p.height ?? 0), 0)
    if (!touches(covered, sliver.height ?? 0)) continue
    for (const p of beside) {
      pieces[pieces.indexOf(p)] = { ...p, at: atStart ? sliver.at : p.at, length: p.length + sliver.length, kind: 'cut' }
    }
    pieces.splice(pieces.indexOf(sliver), 1)
  }
}

/** Do all joints at the foot of a tile, a tile's length away from both ends, keep clearer of the joints below than `than`? */
function clearer(feet: readonly number[], tile: number, shift: number, from: number, to: number, below: ArrayLike<number>, than: number): boolean {
  if (below.length === 0) return true
  let i = 0
  for (let start = from - shift; start < to; start += tile) {
    for (const foot of feet) {
      const x = start + foot
      // What is cut or shared at an end may have its joints elsewhere.
      if (x < from + tile || x > to - tile) continue
      while (i + 1 < below.length && Math.abs((below[i + 1] as number) - x) <= Math.abs((below[i] as number) - x)) i++
      if (Math.abs((below[i] as number) - x) <= than + 1e-9) return false
    }
  }
  return true
}

/**
 * A band of a patterned wall: the tile repeated, shifted so that the joints at its foot keep the furthest from the joints
 * below; at least a quarter of a unit where that can be.
 */
export function tile(run: CourseRun, unit: Unit, pattern: Tile, from: number, to: number): LaidRun {
  const wanted = unit.length / 4
  const least = unit.minPiece ?? wanted
  let best: { pieces: LaidPiece[]; clear: number; slivers: number } | undefined
  const tries = 24
  const feet = pattern.pieces
    .filter((p) => p.y < 1e-6)
    .map((p) => p.x)
    .sort((a, b) => a - b)
  for (let n = 0; n < tries; n++) {
    // Courses start from different shifts, so that equal ones are not chosen all the way up.
    const shift = (((n + run.course * 7) % tries) * pattern.length) / tries
    // Where its joints away from the ends come no clearer than what is found already, it cannot be better.
    if (best && best.slivers === 0 && !clearer(feet, pattern.length, shift, from, to, run.below, best.clear)) continue
    const pieces = laidFrom(pattern, shift, from, to, least)
    const joints = pieces
      .filter((p) => (p.bottom ?? 0) < 1e-6)
      .map((p) => p.at)
      .filter((x) => x > from + 1e-6)
    let clear = Number.POSITIVE_INFINITY
    let i = 0
    for (const x of joints) {
      while (i + 1 < run.below.length && Math.abs((run.below[i + 1] as number) - x) <= Math.abs((run.below[i] as number) - x)) i++
      if (run.below.length > 0) clear = Math.min(clear, Math.abs((run.below[i] as number) - x))
    }
    const slivers = pieces.filter((p) => p.length < least - 1e-6).length
    // A sliver is worse than joints that come close.
    if (!best || slivers < best.slivers || (slivers === best.slivers && clear > best.clear + 1e-9)) best = { pieces, clear, slivers }
    if (best.clear >= wanted && best.slivers === 0) break
  }
  const pieces = best?.pieces ?? []
  const broken =
    best && best.slivers > 0
      ? 'a piece is a sliver'
      : best && best.clear < wanted - 1e-6
        ? `joints of the pattern come within ${said.small(best.clear)} of a joint below`
        : undefined
  return { pieces, ...(broken ? { broken } : {}) }
}
