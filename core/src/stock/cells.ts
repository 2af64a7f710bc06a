import { type Cell, cellKey, gridOn, type Layout } from '../layout'
import { cutList, fillVolume } from '../materials'
import type { Piece } from '../systems'
import { type Material, materialsOf } from './material'

/** What one course of one section takes of each material that goes by courses, in the order of {@link materialsOf}. */
export interface CellNeeds {
  /** By material: after so many of its pieces are set, so much is placed. Of those that go piece by piece. */
  readonly byPiece: readonly { readonly material: number; readonly upTo: Float64Array }[]
  /** The whole course's share of the others. */
  readonly whole: readonly { readonly material: number; readonly amount: number }[]
}

const cache = new WeakMap<Layout, ReadonlyMap<string, CellNeeds>>()

/** What a piece takes of a material that is counted by pieces: whole units are full, mitred, and a share of one for what is cut. */
function takes(id: string, p: Piece, half: boolean, perCut: number): number {
  if (p.kind === 'return') return 0
  if (p.shape !== undefined) return id === `shape-${p.shape}` ? 1 : 0
  if (id === 'half') return p.kind === 'half' ? 1 : 0
  if (id === 'corner') return p.kind === 'corner' ? 1 : 0
  if (id !== 'whole') return 0
  if (p.kind === 'cut') return perCut
  return p.kind === 'full' || p.kind === 'mitre' ? 1 : p.kind === 'half' && !half ? perCut : 0
}

/** Shares of a material by cells, that add up to what is planned. */
function shared(cells: readonly Cell[], planned: number, of: (c: Cell) => number): number[] {
  const raw = cells.map(of)
  const sum = raw.reduce((a, b) => a + b, 0)
  return raw.map((r) => (sum > 0 ? (r / sum) * planned : 0))
}

/**
 * What each course of each section takes, by `section/course`. Courses add up to the wall.
 *
 * @example needsOfCells(layout).get(cellKey('A', 3))
 */
export function needsOfCells(layout: Layout): ReadonlyMap<string, CellNeeds> {
  const known = cache.get(layout)
  if (known) return known
  const cells = [...layout.cells.values()]
  const materials = materialsOf(layout)
  const cuts = cutList(layout)
  const unit = layout.building.course(1)
  const perCut = cuts.pieces.length > 0 ? cuts.units.length / cuts.pieces.length : 0
  const height = (c: Cell) => layout.building.course(c.course).height
  const run = (c: Cell) => c.stretches.reduce((n, s) => n + s.to - s.from, 0)
  const face = (c: Cell) => run(c) * height(c)
  const row = new Map(layout.courses.map((c) => [c.course, c]))
  const by: Partial<Record<NonNullable<Material['placed']>, (c: Cell) => number>> = {
    stone: face,
    caps: (c) => (c.last ? run(c) : 0),
    backfill: (c) => {
      const own = row.get(c.course)
      return own ? c.stretches.reduce((n, s) => n + fillVolume(layout, own, s.from, s.to), 0) : 0
    },
    layers: (c) => gridOn(layout, c.course)?.length ?? 0,
  }
  const made = cells.map((): { byPiece: CellNeeds['byPiece'][number][]; whole: CellNeeds['whole'][number][] } => ({ byPiece: [], whole: [] }))
  materials.forEach((m, material) => {
    if (m.placed === 'pieces') {
      cells.forEach((c, i) => {
        const upTo = new Float64Array(c.pieces.length + 1)
        c.pieces.forEach((p, k) => {
          upTo[k + 1] = (upTo[k] as number) + takes(m.id, p, unit.half !== undefined && unit.half, perCut)
        })
        if ((upTo[upTo.length - 1] as number) > 0) made[i]?.byPiece.push({ material, upTo })
      })
      return
    }
    // Pad and pipe are not of courses; what the record says nothing of goes as the wall grows.
    if (m.placed === 'pad' || m.placed === 'pipe') return
    shared(cells, m.planned, m.placed ? (by[m.placed] ?? face) : face).forEach((amount, i) => {
      if (amount > 0) made[i]?.whole.push({ material, amount })
    })
  })
  const map = new Map(cells.map((c, i) => [cellKey(c.section, c.course), made[i] as CellNeeds]))
  cache.set(layout, map)
  return map
}
