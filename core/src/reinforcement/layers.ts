import { said } from '../base/said'
import { type Cutting, gridCut } from '../bond'
import { below } from '../geometry'
import { crossesAt, gridIn, gridOn, type Layout, type Stretch } from '../layout'
import { limitsOf, tableOf } from '../rules'

/** Rolls when the plan says nothing of them, m. */
export const COMMON_ROLL = { width: 2, length: 50 }

export interface Roll {
  readonly type: string
  readonly width: number
  readonly length: number
  /** From the plan, or the common size. */
  readonly assumed: boolean
}
export const rollOf = (layout: Layout, type: string): Roll => {
  const planned = layout.building.rolls.find((r) => r.type === type)
  return { type, width: planned?.width ?? COMMON_ROLL.width, length: planned?.length ?? COMMON_ROLL.length, assumed: !planned }
}

/**
 * How strips lie where the face is curved: on a convex face their tails run into one another and want soil between; on a concave one
 * gaps open between the tails, which the next layer covers. At a corner two layers cross, one course apart.
 */
export interface Lie {
  readonly kind: 'straight' | 'convex' | 'concave' | 'corner'
  readonly from: number
  readonly to: number
  /** Radius of the face there, m; for curves. */
  readonly radius?: number
  /** How much two tails overlap, or how far they stand apart, m. */
  readonly tail?: number
  readonly words: string
}

/** One layer of one section. */
export interface Layer {
  readonly section: string
  readonly course: number
  readonly elevation: number
  readonly type: string
  readonly length: number
  readonly from: number
  readonly to: number
  /** Strips side by side, cut across the roll at the layer's length. */
  readonly strips: number
  readonly area: number
  readonly lies: readonly Lie[]
  /** The other leg of an outside corner, laid one course higher: never grid on grid. */
  readonly crossing?: true
}

const clip = (a: { from: number; to: number }, b: { from: number; to: number }) => {
  const cut = { from: Math.max(a.from, b.from), to: Math.min(a.to, b.to) }
  return below(cut.from, cut.to) ? [cut] : []
}

/**
 * Every layer to be laid, section by section from the lowest: the plan's, and what crosses them at outside corners.
 *
 * @example layerSchedule(layout).map((l) => [l.section, l.course, l.strips]) // [['A', 2, 9], …]
 */
export function layerSchedule(layout: Layout): Layer[] {
  return layout.plan.sections.flatMap((section) =>
    layout.courses.flatMap((row): Layer[] => {
      const g = gridIn(layout, row.course, section)
      if (!g) return []
      const { width } = rollOf(layout, g.type)
      const { over } = g
      return [
        {
          section: section.id,
          course: row.course,
          elevation: row.top,
          type: g.type,
          length: g.length,
          from: Math.min(...over.map((s) => s.from)),
          to: Math.max(...over.map((s) => s.to)),
          strips: over.reduce((sum, s) => sum + Math.ceil((s.to - s.from) / width - 1e-6), 0),
          area: over.reduce((sum, s) => sum + s.to - s.from, 0) * g.length,
          lies: g.crossing ? over.map((s) => crossingLie(row.course, s)) : over.flatMap((s) => liesOf(layout, row.course, g.length, width, s)),
          ...(g.crossing ? { crossing: true as const } : {}),
        },
      ]
    }),
  )
}

const crossingLie = (course: number, s: Stretch): Lie => ({
  kind: 'corner',
  from: s.from,
  to: s.to,
  words: `Outside corner: this crosses the layer on course ${course - 1}, ${said.length(s.to - s.from, 2)} along the leg after the corner; never grid on grid.`,
})

function liesOf(layout: Layout, course: number, length: number, width: number, over: { from: number; to: number }): Lie[] {
  const lies: Lie[] = []
  const cautious = tableOf(layout.plan) > 1
  // By the order of the layers: courses may all be even, and every layer would leave the same gap.
  const order = [...layout.building.layers]
    .map((g) => g.course)
    .sort((a, b) => a - b)
    .indexOf(course)
  const tall = Math.max(...layout.tops.map((t) => t.elevation)) - Math.min(...layout.steps.map((s) => s.elevation))
  for (const leg of layout.legs.slice(1)) {
    if (leg.from < over.from - 1e-6 || leg.from > over.to + 1e-6) continue
    const first = cautious ? order % 2 === 0 : course % 2 === 0
    lies.push({
      kind: 'corner',
      from: leg.from,
      to: leg.from,
      words:
        leg.start === 'inside-corner'
          ? `Inside corner: run this layer ${cautious ? `at least ${said.length(tall / 4, 2)} ` : ''}${first ? 'past the corner from the first leg' : 'past the corner from the second leg'}; the next one the other way.`
          : cautious && !crossesAt(leg)
            ? `Outside corner of ${Math.round((leg.startTurn * 180) / Math.PI)}°: the tails of the two legs overlap; at least ${said.small(limitsOf(layout.plan).gridLapSoil.value)} of soil between them.`
            : cautious && !gridOn(layout, course + 1)
              ? `Outside corner: no course above carries the other leg's layer; both legs cross here, with at least ${said.small(limitsOf(layout.plan).gridLapSoil.value)} of soil between them.`
              : `Outside corner: ${first ? 'first' : 'second'} leg through to its full length, the other leg one course higher; never grid on grid.`,
    })
  }
  for (const piece of layout.alignment.segments) {
    const inside = clip({ from: piece.station, to: piece.station + piece.length }, over)[0]
    if (!inside || piece.kind !== 'arc') continue
    // The fill lies on the left; a turn to the left has its centre in the fill.
    const convex = piece.sweep > 0
    const tail = convex ? width * (1 - Math.max(0, piece.radius - length) / piece.radius) : width * (length / piece.radius)
    lies.push({
      kind: convex ? 'convex' : 'concave',
      ...inside,
      radius: piece.radius,
      tail,
      words: convex
        ? `Outward curve: tails overlap by up to ${said.length(tail, 2)}; at least ${said.small(0.075)} of soil between two strips.`
        : `Inward curve: tails stand up to ${said.length(tail, 2)} apart; the next layer covers these gaps, start it half a strip on.`,
    })
  }
  return lies
}

/** Strips to cut from the rolls of one type. */
export interface RollCutting {
  readonly roll: Roll
  readonly strips: readonly { readonly length: number; readonly count: number }[]
  readonly cutting: Cutting
}

/**
 * What is cut from which roll, type by type, with as few rolls as possible.
 *
 * @param layers - those still to be placed, or all of them
 * @example rollCuttings(layout, layerSchedule(layout))[0].cutting.rolls.length
 */
export function rollCuttings(layout: Layout, layers: readonly Layer[]): RollCutting[] {
  return [...new Set(layers.map((l) => l.type))].flatMap((type) => {
    const counts = new Map<number, number>()
    for (const l of layers) if (l.type === type) counts.set(l.length, (counts.get(l.length) ?? 0) + l.strips)
    const strips = [...counts].map(([length, count]) => ({ length, count })).sort((a, b) => b.length - a.length)
    const roll = rollOf(layout, type)
    const cut = gridCut({ rollLength: roll.length, strips })
    return cut.ok ? [{ roll, strips, cutting: cut.value }] : []
  })
}
