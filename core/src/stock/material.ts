import type { Layout } from '../layout'
import { quantities } from '../materials'
import type { ItemUnit } from '../record'
import type { Bought } from '../systems'

/** A material of a wall as it is ordered, brought, built in and left over. */
export interface Material {
  /** Of the quantity it is. */
  readonly id: string
  readonly name: string
  readonly unit: ItemUnit
  /** Built in by the plan. */
  readonly planned: number
  /** With what is ordered above it. */
  readonly order: number
  /** So much loose makes one in its place. */
  readonly loose: number
  readonly placed: Bought['placed']
  readonly seen: boolean
  readonly working: string
}

const cache = new WeakMap<Layout, readonly Material[]>()

/**
 * What a wall takes as it is bought, from its quantities.
 *
 * @returns in the order of the quantities; amounts SI or pieces
 * @example materialsOf(layout).find((m) => m.id === 'stone')?.order // 33.0
 */
export function materialsOf(layout: Layout): readonly Material[] {
  const known = cache.get(layout)
  if (known) return known
  const made = quantities(layout).flatMap((q): Material[] => {
    if (q.bought === false || !(q.value > 0)) return []
    const { id = q.id, name = q.name, planned = q.value, order, loose = 1, placed, seen = false } = q.bought ?? {}
    return [{ id, name, unit: q.unit, planned, order: (order ?? q.value) * loose, loose, placed, seen, working: q.working }]
  })
  // What most of the wall is made of stands first.
  const sorted = made.filter((m) => m.placed === 'pieces').sort((a, b) => b.planned - a.planned)
  const all = [...sorted, ...made.filter((m) => m.placed !== 'pieces')]
  cache.set(layout, all)
  return all
}
