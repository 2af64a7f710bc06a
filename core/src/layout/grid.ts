import { below } from '../geometry'
import { tableOf } from '../rules'
import type { Leg } from './face'
import type { Layout } from './layout'
import { carrying, type Stretch } from './rows'

/** A layer of geogrid as it lies on one course: as long from the face as the plan says, over these stretches (m). */
export interface GridLayer {
  readonly course: number
  readonly length: number
  readonly type: string
  readonly over: readonly Stretch[]
  /** The other leg of an outside corner, one course above the layer it belongs to: never grid on grid. */
  readonly crossing?: true
}

/** From this turn on the two legs of an outside corner cross; under it tails only overlap, as on a curve. Radians, 45°. */
const SHARP = Math.PI / 4
/** Do the layers of the two legs cross at the start of this one? @example crossesAt(layout.legs[1]) // true at a square corner */
export const crossesAt = (leg: Leg): boolean => leg.start === 'outside-corner' && leg.startTurn >= SHARP - 1e-9

const clip = (a: Stretch, b: Stretch): Stretch[] => {
  const cut = { from: Math.max(a.from, b.from), to: Math.min(a.to, b.to) }
  return below(cut.from, cut.to) ? [cut] : []
}

/**
 * The layer on a course: the plan's own, or what crosses the layer below at outside corners, as wide as that one is long. Where the plan
 * has a layer of its own on the course above, that one crosses, with soil between; and nothing lies on a course that carries none.
 * Walls of rule table 1 were built without.
 *
 * @example gridOn(layout, 4)?.over // [{ from: 0, to: 36 }]
 */
export function gridOn(layout: Layout, course: number): GridLayer | undefined {
  const { layers } = layout.building
  const own = layers.find((g) => g.course === course)
  if (own) return { course, length: own.length, type: own.type, over: carrying(layout.courses, course) }
  const lower = layers.find((g) => g.course === course - 1)
  if (!lower || tableOf(layout.plan) === 1) return undefined
  const carried = carrying(layout.courses, course)
  const over = layout.legs
    .slice(1)
    .filter(crossesAt)
    .flatMap((leg) => carried.flatMap((s) => clip({ from: leg.from, to: Math.min(leg.to, leg.from + lower.length) }, s)))
  return over.length > 0 ? { course, length: lower.length, type: lower.type, over, crossing: true } : undefined
}

/**
 * The layer of a course within a section, if any.
 *
 * @example gridIn(layout, 4, { from: 0, to: 18 })?.crossing // undefined
 */
export function gridIn(layout: Layout, course: number, section: Stretch): GridLayer | undefined {
  const layer = gridOn(layout, course)
  const over = layer?.over.flatMap((s) => clip(s, section)) ?? []
  return layer && over.length > 0 ? { ...layer, over } : undefined
}
