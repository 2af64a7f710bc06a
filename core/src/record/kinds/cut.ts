import { fail, ok } from '../../base/result'
import { said } from '../../base/said'
import { choice, type InferType, optionalChoice, optionalList, optionalQuantity, optionalText, optionalYesNo, record } from '../../base/schema'
import { LENGTH_TOLERANCE } from '../../geometry'
import { cutTopAt, type Layout, stepAt } from '../../layout'
import { limitsOf, since, tableOf } from '../../rules'
import { formatLength, formatStation } from '../../units/length'
import { formatSlope } from '../../units/slope'
import type { Verdict } from '../entry'
import { BUILDERS, defineKind, judged } from './kind'

/** The trench as dug at a station: width and room behind the face, side slope (m across per m up), spoil from the edge. m. */
export const cutData = record({
  /** The stretch it speaks for, stations in m; about its station where left out. One look speaks for so much at most, and for one soil. */
  from: optionalQuantity({ min: 0, max: 2000, unit: 'm' }),
  to: optionalQuantity({ min: 0, max: 2000, unit: 'm' }),
  width: optionalQuantity({ min: 0, max: 30, unit: 'm' }),
  behind: optionalQuantity({ min: 0, max: 50, unit: 'm' }),
  slope: optionalQuantity({ min: 0, max: 6, unit: 'm across per m up' }),
  spoil: optionalQuantity({ min: 0, max: 100, unit: 'm' }),
  /** Nearest that plant stands or passes to the edge, m. */
  plant: optionalQuantity({ min: 0, max: 100, unit: 'm' }),
  shored: optionalYesNo(),
  benched: optionalYesNo(),
  water: optionalYesNo(),
  /** A ladder or ramp in the trench, and how far it is to the next one at most, m. */
  ladder: optionalQuantity({ min: 0, max: 200, unit: 'm' }),
  /** The class a competent person gave the soil of the sides; only then may they stand steeper. */
  soil: optionalChoice(['stiff-clay', 'other'] as const),
  /** Dry and without cracks, as that person saw it. */
  sound: optionalYesNo(),
  /** The competent person who judged the cut. */
  by: optionalText(80),
  /** What of it stood as planned and was recorded so, without another figure. */
  planned: optionalList(choice(['width', 'behind', 'slope'] as const), 3),
})
export type CutData = InferType<typeof cutData>

/** Room the longest layer at a station needs behind the face of course 1, m; the trench of the plan where there is none. */
export function roomBehind(layout: Layout): number {
  const longest = Math.max(0, ...layout.building.layers.map((g) => g.length))
  return Math.max(layout.building.course(1).depth + layout.plan.excavation.behind, longest)
}

/**
 * Depth of the cut behind the wall at a station: top grade to the bottom of the trench, m. Where the pad steps, down to the lower side, which is
 * where people stand (since rule table 3; before it was the side the step begins).
 *
 * @example cutDepth(layout, 12) // 1.95
 */
export function cutDepth(layout: Layout, station: number): number {
  const { plan, steps, building } = layout
  const beside = since(plan, 3) ? steps.filter((s) => s.start <= station + LENGTH_TOLERANCE && s.end >= station - LENGTH_TOLERANCE) : []
  const pad = Math.min(stepAt(steps, station), ...beside.map((s) => s.elevation))
  return cutTopAt(plan, station) - (pad - building.foundation.thickness)
}

/**
 * What a cut asks for over the depth at which sides bury people: how it is held, who judged it, and what lies and stands at its edge.
 * A side nobody has classified is laid back as loose soil is.
 */
function judgeCut(d: CutData, layout: Layout, station: number): Verdict {
  const { plan } = layout
  const limits = limitsOf(plan)
  const deep = cutDepth(layout, station)
  const m = (v: number) => said.length(v, 2)
  const room = roomBehind(layout)
  const over = deep > limits.shoreAbove.value + 1e-6
  const held = !!d.shored || !!d.benched
  const clay = d.soil === 'stiff-clay' && d.sound === true && d.water === false && !!d.by?.trim()
  const least = clay ? limits.cutStiffClay.value : limits.cutSlope.value
  // Written one way everywhere since rule table 3.
  const slope = (across: number) => (since(plan, 3) ? formatSlope(across) : `${across} across per m up`)
  const outs = [
    d.width != null &&
      d.width < layout.building.foundation.width - 0.005 &&
      `${m(d.width)} wide, the pad needs ${m(layout.building.foundation.width)}`,
    d.behind != null && d.behind < room - 0.005 && `${m(d.behind)} behind the face, the longest layer and its stone need ${m(room)}`,
    over &&
      !held &&
      (d.slope ?? 0) < least - 1e-6 &&
      `the cut is ${m(deep)} deep and stands ${d.slope == null ? 'at no slope anybody gave' : since(plan, 3) && d.slope === 0 ? 'upright' : `at ${slope(d.slope)}`}, at least ${since(plan, 3) ? slope(least) : least}: ${
        clay ? 'lay it back, or shore it' : 'nobody goes in before it is laid back, or shored as a named competent person decides'
      }`,
    over && held && !d.by?.trim() && `${d.shored ? 'shored' : 'benched'}, but nobody is named who decided how`,
    d.benched && !d.shored && d.water === true && 'benches do not stand in wet soil: lay it back or shore it',
    deep > limits.cutDesigned.value && !plan.engineer && `a cut of ${m(deep)} is designed by an engineer; name the plan`,
    d.spoil != null && d.spoil < limits.spoilSetback.value - 0.0005 && `spoil ${m(d.spoil)} from the edge, at least ${m(limits.spoilSetback.value)}`,
    over &&
      d.plant != null &&
      d.plant < limits.plantEdge.value - 0.0005 &&
      `plant ${m(d.plant)} from the edge, at least ${m(limits.plantEdge.value)}`,
    over && d.ladder != null && d.ladder > limits.ladder.value + 0.0005 && `${m(d.ladder)} to a ladder, at most ${m(limits.ladder.value)}`,
  ]
  return judged(outs, d.water ? 'as planned; water in the cut: lead it to the lowest point and out' : 'as planned')
}

export const cut = defineKind({
  kind: 'cut',
  beside: true,
  roles: BUILDERS,
  schema: cutData,
  check(entry, { layout }) {
    const d = entry.data
    const deep = cutDepth(layout, entry.where.station ?? 0)
    if ((d.from == null) !== (d.to == null)) return fail(d.from == null ? 'data.from' : 'data.to', 'is missing; a stretch has two ends')
    if (d.from != null && d.to != null && !(d.from < d.to)) return fail('data.to', `must be beyond ${said.given(d.from)}, not ${said.given(d.to)}`)
    if (tableOf(layout.plan) === 1 || deep <= limitsOf(layout.plan).shoreAbove.value + 1e-6) return ok(true)
    const missing = (field: keyof CutData, what: string) =>
      fail(`data.${field}`, `is missing; the cut is ${said.length(deep, 2)} deep here: say ${what}`)
    if (d.slope == null && !d.shored && !d.benched) return missing('slope', 'how far its side is laid back, or that it is benched or shored')
    if (d.water == null) return missing('water', 'whether water is in it')
    if (d.spoil == null) return missing('spoil', 'how far the spoil lies from its edge')
    if (d.plant == null) return missing('plant', 'how near plant comes to its edge')
    if (d.ladder == null) return missing('ladder', 'how far it is to a ladder or ramp')
    if (!d.by?.trim()) return missing('by', 'which competent person looked at it')
    return ok(true)
  },
  judge(entry, { layout }) {
    const d = entry.data
    const { plan } = layout
    const station = entry.where.station ?? 0
    const deep = cutDepth(layout, station)
    const m = (v: number) => said.length(v, 2)
    const room = roomBehind(layout)
    const limits = limitsOf(plan)
    if (tableOf(plan) > 1) return judgeCut(d, layout, station)
    if (d.width != null && d.width < layout.building.foundation.width - 0.005)
      return { verdict: 'out', text: `${m(d.width)} wide, the pad needs ${m(layout.building.foundation.width)}` }
    if (d.behind != null && d.behind < room - 0.005)
      return { verdict: 'out', text: `${m(d.behind)} behind the face, the longest layer and its stone need ${m(room)}` }
    if (d.slope != null && deep > limits.shoreAbove.value && d.slope < limits.cutSlope.value && !d.shored) {
      return {
        verdict: 'out',
        text: `the cut is ${m(deep)} deep and stands at ${d.slope} across per m up: lay it back, bench it or shore it, as a competent person decides`,
      }
    }
    if (d.spoil != null && d.spoil < limits.spoilSetback.value)
      return { verdict: 'out', text: `spoil ${m(d.spoil)} from the edge, at least ${m(limits.spoilSetback.value)}` }
    return { verdict: 'ok', text: d.water ? 'water in the cut: lead it to the lowest point and out' : 'as planned' }
  },
  line(entry, reader, { layout }) {
    const d = entry.data
    const as = (field: 'width' | 'behind' | 'slope') => (d.planned?.includes(field) ? ' as planned' : '')
    const parts = [
      ...(d.width == null ? [] : [`${formatLength(d.width, reader.units, 2)} wide${as('width')}`]),
      ...(d.behind == null ? [] : [`${formatLength(d.behind, reader.units, 2)} behind the face${as('behind')}`]),
      ...(d.slope == null ? [] : [since(layout.plan, 3) ? `sides ${formatSlope(d.slope)}${as('slope')}` : `sides ${d.slope} across per m up`]),
      ...(d.shored ? ['shored'] : []),
      ...(d.benched ? ['benched'] : []),
      ...(d.soil === 'stiff-clay' ? [`stiff clay${d.sound ? ', dry and sound' : ''}`] : []),
      ...(d.plant == null ? [] : [`plant ${formatLength(d.plant, reader.units, 2)} off`]),
      ...(d.ladder == null ? [] : [`ladder within ${formatLength(d.ladder, reader.units, 2)}`]),
      ...(d.spoil == null ? [] : [`spoil ${formatLength(d.spoil, reader.units, 2)} off`]),
      ...(d.water ? ['water in the cut'] : []),
    ]
    return `Cut at ${formatStation(entry.where.station ?? 0, reader.units)}: ${parts.join(', ') || 'looked at'}${d.by ? `, judged by ${d.by}` : ''}`
  },
})
