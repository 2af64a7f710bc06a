import { said } from '../base/said'
import type { Layout } from '../layout'
import { layerSchedule, rollCuttings } from '../reinforcement'
import { HEAVY, PACKS, PALLET_MASS } from '../rules'
import { capacityAt } from '../systems'
import type { Material } from './material'

/** A way a material is sold: what a pack holds in its unit. */
export interface PackKind {
  readonly name: string
  readonly holds: number
  readonly access: number | undefined
  readonly load: number | undefined
}

/** Rolls of geogrid that its strips are cut from, and how much that is of what they take as an area; undefined where it comes in no roll. */
export interface RollNeed {
  readonly rolls: number
  readonly holds: number
  readonly bound: number
  /** Ordered for what is built in. */
  readonly above: number
}

/** The type of geogrid a material is. */
const gridOf = (layout: Layout, m: Material) =>
  m.placed === 'layers'
    ? (layout.building.layers.map((l) => l.type).find((t) => m.id.includes(t) || m.name.includes(t)) ?? layout.building.layers[0]?.type)
    : undefined

/** Strips are cut from rolls: what is left over at the end of a roll is lost, so that area alone orders too little. */
export function rollNeed(layout: Layout, m: Material): RollNeed | undefined {
  const type = gridOf(layout, m)
  if (type === undefined) return undefined
  const cut = rollCuttings(layout, layerSchedule(layout)).find((c) => c.roll.type === type)
  if (!cut) return undefined
  const holds = cut.roll.width * cut.roll.length
  const rolls = cut.cutting.rolls.length
  return { rolls, holds, bound: cut.cutting.lowerBound, above: m.planned > 0 ? (rolls * holds) / m.planned : 1 }
}

/**
 * What one of it weighs as it comes, kg: what was said of it, the mass of its unit, or what such a material commonly weighs.
 *
 * @returns undefined where nobody knows
 * @example massOf(layout, stone, undefined) // 1600
 */
export function massOf(layout: Layout, m: Material, said: number | undefined): number | undefined {
  if (said !== undefined) return said
  if (m.unit === 'kg') return 1
  if (m.unit === 'm³') {
    if (layout.building.foundation.cast && m.placed === 'pad') return HEAVY.concrete
    return m.placed === 'pad' || m.placed === 'stone' || m.placed === 'backfill' ? HEAVY[m.placed] : m.id === 'rock' ? HEAVY.rock : undefined
  }
  if (m.placed !== 'pieces') return undefined
  const unit = layout.building.course(1)
  return m.id === 'half' ? unit.mass / 2 : unit.mass
}

/**
 * How a material is commonly sold, those that suit its amount first: cartridges, bags, lorries with the way they need, rolls, lengths,
 * pallets as heavy as one may be.
 *
 * @example packsFor(layout, stone).map((p) => p.name) // ['lorry of 4 m³', 'lorry of 10 m³', 'big bag', 'bag of 25 kg']
 */
export function packsFor(layout: Layout, m: Material): readonly PackKind[] {
  const key = `${m.id} ${m.name} ${m.placed ?? ''}`.toLowerCase()
  const need = rollNeed(layout, m)
  const cast = layout.building.foundation.cast
  const made: PackKind[] = PACKS.filter(
    (p) => p.of === m.unit && p.fits.some((f) => key.includes(f)) && !(m.placed === 'pad' && cast !== p.name.startsWith('mixer')),
  ).map((p) => ({ name: p.name, holds: p.holds, access: p.access, load: p.load }))
  if (need) made.unshift({ name: 'roll, by its cut plan', holds: need.holds, access: undefined, load: undefined })
  const unit = layout.building.course(1)
  if (m.unit === 'pieces' && m.placed === 'pieces') {
    const mass = massOf(layout, m, undefined) ?? 0
    const held = unit.perPallet ?? Math.floor(PALLET_MASS / Math.max(1, mass))
    if (held > 1) made.push({ name: `pallet of ${held}`, holds: held, access: undefined, load: undefined })
  }
  // The fewest packs that do not bring far more than is wanted.
  const waste = (p: PackKind) => {
    const packs = Math.ceil(m.order / p.holds - 1e-9)
    return Math.abs(Math.log(Math.max(1, packs) / 3)) + (packs * p.holds - m.order) / Math.max(1e-9, m.order)
  }
  return made.sort((a, b) => waste(a) - waste(b))
}

/** What an order weighs and how it comes. */
export interface Load {
  /** kg; undefined where nobody knows what one weighs. */
  readonly mass: number | undefined
  /** Of one pack. */
  readonly pack: number | undefined
  readonly lorries: number | undefined
  readonly access: number | undefined
  /** What speaks against unloading it with the machine of the plan. */
  readonly wrong: string | undefined
}

/** A lorry that is no further named carries this, kg. */
const LORRY = 18_000
/** Of what a table gives, a load that is set down may weigh so much. */
const SHARE = 0.75

/**
 * An order as it comes: its mass, lorries, the way it needs, and whether the machine of the plan lifts a pack where it stands.
 *
 * @example loadOf(layout, m, { amount: 360, pack: 60 }, supply).lorries // 1
 */
export function loadOf(
  layout: Layout,
  m: Material,
  order: { readonly amount: number; readonly pack: number },
  supply: { readonly mass?: number | undefined; readonly load?: number | undefined; readonly access?: number | undefined } | undefined,
): Load {
  const one = massOf(layout, m, supply?.mass)
  const mass = one === undefined ? undefined : one * order.amount
  const pack = one === undefined ? undefined : one * order.pack
  const { lifting } = layout.building
  // Loose material is tipped, not lifted.
  const lifted = m.unit === 'pieces' && pack !== undefined && lifting !== undefined
  const best = lifted ? Math.max(0, ...lifting.table.map((r) => capacityAt(lifting.table, r.reach, r.height ?? 0) ?? 0)) : 0
  const wrong =
    lifted && pack > SHARE * best
      ? `a pack weighs ${said.mass(pack)}: the ${lifting.machine} lifts ${said.mass(best)} at the best of its table. Have it unloaded by the lorry, or open the pack`
      : undefined
  return { mass, pack, lorries: mass === undefined ? undefined : Math.ceil(mass / (supply?.load ?? LORRY) - 1e-9), access: supply?.access, wrong }
}
