import { live, type MixData, type WallState } from '../record'
import type { StockBook } from './book'

/** Pallets of a mix that bring what is still wanted of its shapes, and what they bring besides. */
export interface MixOrder {
  readonly mix: string
  readonly supplier: string | undefined
  readonly pallets: number
  readonly shapes: readonly {
    readonly item: string
    readonly name: string
    readonly wanted: number
    readonly brought: number
    readonly over: number
  }[]
  /** The shape that asks for the last pallet: a few of it by themselves would save so many pallets. */
  readonly by: { readonly name: string; readonly pieces: number; readonly saves: number } | undefined
}

/** Mixes that are sold, the newest of each name. */
export function mixesOf(state: WallState): readonly MixData[] {
  const found = new Map<string, MixData>()
  for (const { entry } of state.entries) {
    if (entry.kind !== 'mix' || !live(state, entry.id)) continue
    const d = entry.data as MixData
    found.set(d.mix, d)
  }
  return [...found.values()].filter((m) => m.state === 'sold')
}

/**
 * The fewest pallets of each mix that bring what is still to come of every shape on it, above what is here and expected.
 *
 * @example mixOrders(book, mixesOf(state))[0]?.pallets // 4
 */
export function mixOrders(book: StockBook, mixes: readonly MixData[]): readonly MixOrder[] {
  return mixes.flatMap((mix): MixOrder[] => {
    const shapes = mix.holds.map((h) => {
      const row = book.of(h.item)
      const m = row?.material
      // With what is ordered above the plan for breakage.
      const open = row && m && m.planned > 0 ? ((m.planned - row.placed) * m.order) / m.planned - Math.max(0, row.left) - row.expected : 0
      const wanted = Math.max(0, Math.ceil(open - 1e-9))
      return { ...h, wanted }
    })
    const needs = shapes.map((s) => Math.ceil(s.wanted / s.count))
    const pallets = Math.max(0, ...needs)
    if (pallets === 0) return []
    const last = needs.indexOf(pallets)
    const next = Math.max(0, ...needs.filter((_, i) => i !== last))
    const worst = shapes[last]
    return [
      {
        mix: mix.mix,
        supplier: mix.supplier,
        pallets,
        shapes: shapes.map((s) => ({ item: s.item, name: s.name, wanted: s.wanted, brought: pallets * s.count, over: pallets * s.count - s.wanted })),
        by:
          worst && shapes.length > 1 && next < pallets
            ? { name: worst.name, pieces: worst.wanted - next * worst.count, saves: pallets - next }
            : undefined,
      },
    ]
  })
}
