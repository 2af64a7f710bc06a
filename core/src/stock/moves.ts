import { cellKey, type Layout } from '../layout'
import { fillWidth } from '../materials'
import { cameOf, type Entry, type ItemUnit, kindOf, type RecordedEntry, type WallState } from '../record'
import { needsOfCells } from './cells'
import { type Material, materialsOf } from './material'

/** What an amount did: where it stands in the row of its material. */
export const SIDES = ['ordered', 'delivered', 'refused', 'placed', 'damaged', 'out', 'in', 'counted'] as const
export type Side = (typeof SIDES)[number]

/** One amount of one material that moved, by one entry. */
export interface Move {
  readonly material: string
  readonly name: string
  readonly unit: ItemUnit
  readonly side: Side
  readonly amount: number
  /** The course of a section it went into. */
  readonly cell?: string
  /** The same work recorded again (a re-check) is placed once. */
  readonly once?: string
}

/** Placed piece by piece: so many more of a course. */
export interface Set {
  readonly cell: string
  readonly pieces: number
  readonly rejected: number
  /** The same unit set again is set once. */
  readonly once?: string
}

interface Item {
  readonly item: string
  readonly name: string
  readonly unit: ItemUnit
  readonly amount: number
}
const moved = (d: Item, side: Side, amount = d.amount): Move => ({ material: d.item, name: d.name, unit: d.unit, side, amount })

/** What entries of the store say of themselves. */
const STORE: Readonly<Record<string, (data: never) => Move[]>> = {
  ordered: (d: Item) => [moved(d, 'ordered')],
  delivery: (d: Item & { counted?: number; refused?: number }) => [
    moved(d, 'delivered', cameOf(d) + (d.refused ?? 0)),
    ...(d.refused ? [moved(d, 'refused', d.refused)] : []),
  ],
  stock: (d: Item & { what: 'counted' | 'damaged' | 'moved-out' | 'moved-in' }) => [
    moved(d, d.what === 'moved-out' ? 'out' : d.what === 'moved-in' ? 'in' : d.what),
  ],
}

const place = (m: Material, amount: number, more: Pick<Move, 'cell' | 'once'> = {}): Move => ({
  material: m.id,
  name: m.name,
  unit: m.unit,
  side: 'placed',
  amount,
  ...more,
})
/** The length of a section, or of a course of it, between two stations, m. */
function lengthBetween(layout: Layout, entry: Entry, from: number | undefined, to: number | undefined): number {
  const { section, course } = entry.where
  const own = layout.plan.sections.find((s) => s.id === section)
  const stretches = course === undefined ? (own ? [own] : []) : (layout.cells.get(cellKey(section ?? '', course))?.stretches ?? [])
  const [a, b] = [from ?? Number.NEGATIVE_INFINITY, to ?? Number.POSITIVE_INFINITY]
  return stretches.reduce((n, s) => n + Math.max(0, Math.min(b, s.to) - Math.max(a, s.from)), 0)
}

/** What a layer of pad or fill takes: as thick as it was placed, over the stretch it covers. */
function lifted(layout: Layout, entry: Entry, of: 'pad' | 'backfill', materials: readonly Material[]): Move[] {
  const own = materials.find((m) => m.placed === of)
  const d = entry.data as { lift: number; thickness: number; from?: number; to?: number }
  const length = lengthBetween(layout, entry, d.from, d.to)
  const { foundation } = layout.building
  const once = `${of} ${entry.where.section} ${entry.where.course ?? ''} ${d.lift} ${d.from ?? ''} ${d.to ?? ''}`
  if (!own || length === 0) return []
  if (of === 'pad') return [place(own, d.thickness * foundation.width * length, { once })]
  const row = layout.courses.find((c) => c.course === entry.where.course)
  const stretch = layout.cells.get(cellKey(entry.where.section ?? '', entry.where.course ?? 0))?.stretches[0]
  if (!row || !stretch) return []
  const width = fillWidth(layout, row, ((d.from ?? stretch.from) + (d.to ?? stretch.to)) / 2)
  return [place(own, d.thickness * width * length, { once, cell: cellKey(entry.where.section ?? '', entry.where.course ?? 0) })]
}

/**
 * What an entry does to the store: what came, went, and was built in by it.
 *
 * @returns amounts by material, and pieces that were set
 * @example movesOf(state, recorded).moves[0] // { material: 'stone', side: 'delivered', amount: 8, … }
 */
export function movesOf(state: WallState, { entry }: RecordedEntry): { readonly moves: readonly Move[]; readonly set?: Set } {
  const own = Object.hasOwn(STORE, entry.kind) ? STORE[entry.kind] : undefined
  if (own) return { moves: own(entry.data as never) }
  const layout = state.layouts[entry.revision - 1] ?? state.layout
  const { section, course } = entry.where
  const stage = layout.system.stages.find((s) => s.id === entry.where.stage)
  const work = kindOf(entry.kind)?.work
  // A re-check is of what lies there already.
  if (!stage || !work || entry.recheckOf) return NOTHING
  const cell = cellKey(section ?? '', course ?? 0)
  const materials = materialsOf(layout)
  if (work === 'units') {
    const d = entry.data as { set: number; rejected?: number }
    return { moves: [], set: { cell, pieces: d.set, rejected: d.rejected ?? 0 } }
  }
  if (work === 'picks') return { moves: [], set: { cell, pieces: 1, rejected: 0, once: `pick ${cell} ${(entry.data as { number: number }).number}` } }
  if (work === 'lifts' && stage.work.type === 'lifts') return { moves: lifted(layout, entry, stage.work.of, materials) }
  if (work === 'pipe') {
    const pipe = materials.find((m) => m.placed === 'pipe')
    const d = entry.data as { from: number; to: number }
    return pipe ? { moves: [place(pipe, d.to - d.from, { once: `pipe ${d.from} ${d.to}` })] } : NOTHING
  }
  if (work === 'grid') {
    const layers = materials.find((m) => m.placed === 'layers')
    const d = entry.data as { length: number; from?: number; to?: number }
    const once = `layer ${cell} ${d.from ?? ''} ${d.to ?? ''}`
    return layers ? { moves: [place(layers, d.length * lengthBetween(layout, entry, d.from, d.to), { once, cell })] } : NOTHING
  }
  if (work !== 'check' || stage.places === undefined) return NOTHING
  const whole = needsOfCells(layout).get(cell)?.whole ?? []
  return {
    moves: whole.flatMap(({ material, amount }) => {
      const m = materials[material] as Material
      return m.placed === stage.places ? [place(m, amount, { once: `${m.id} ${cell}`, cell })] : []
    }),
  }
}
const NOTHING = { moves: [] } as const
