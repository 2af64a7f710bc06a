import { said } from '../../base/said'
import { choice, type InferType, optionalQuantity, optionalText, quantity, record, text, yesNo } from '../../base/schema'
import { withoutWord } from '../../base/typed'
import { gridOn, layerEdge } from '../../layout'
import { limitsOf } from '../../rules'
import { formatLength, formatSmall, formatStation } from '../../units/length'
import { BUILDERS, covers, defineKind, judged } from './kind'

/** A layer as placed: length from the face and distance of its front edge behind it (m). */
export const geogridData = record({
  type: text(60),
  length: quantity({ min: 0.1, max: 30, unit: 'm' }),
  front: quantity({ min: -0.5, max: 2, unit: 'm' }),
  direction: choice(['across', 'along'] as const),
  tight: yesNo(),
  roll: optionalText(60),
  lot: optionalText(60),
  /** Pins along the layer. */
  pins: optionalQuantity({ min: 0, max: 10_000, whole: true }),
  /** Fill on it before anything drove there, m. */
  cover: optionalQuantity({ min: 0, max: 2, unit: 'm' }),
  /** Soil between overlapping strips on a curve, m. */
  between: optionalQuantity({ min: 0, max: 1, unit: 'm' }),
  /** The stretch it covers, stations in m; the whole section when left out. */
  from: optionalQuantity({ min: 0, max: 2000, unit: 'm' }),
  to: optionalQuantity({ min: 0, max: 2000, unit: 'm' }),
})
export type GeogridData = InferType<typeof geogridData>

export const geogrid = defineKind({
  kind: 'geogrid',
  roles: BUILDERS,
  schema: geogridData,
  work: 'grid',
  again: (entry, finding) => covers(entry.data, finding.data),
  judge(entry, { layout }) {
    const plan = gridOn(layout, entry.where.course ?? 0)
    const d = entry.data
    const limits = limitsOf(layout.plan)
    if (!plan) return judged(['the plan has no layer on this course'], '')
    const mm = (v: number) => said.small(v)
    const short = d.length < plan.length - 0.005
    const edge = layerEdge(layout.plan, entry.where.course ?? 1)
    const away = d.front < edge.least - 0.0005 || d.front > edge.most + 0.0005
    return judged(
      [
        short && `${said.length(d.length, 2)} long, the plan wants ${said.length(plan.length, 2)}`,
        d.type !== plan.type && `type ${d.type}, the plan wants ${plan.type}`,
        d.direction === 'along' && 'strength direction along the wall; turn it across',
        !d.tight && 'slack; pull tight and pin',
        away &&
          `front edge ${mm(d.front)} ${d.front < -0.0005 ? 'in front of' : 'behind'} the face, wanted ${mm(edge.least)} to ${mm(edge.most)} behind it`,
        d.cover != null &&
          d.cover < limits.gridCover.value - 0.0005 &&
          `driven on with ${mm(d.cover)} of fill, at least ${mm(limits.gridCover.value)}`,
        d.between != null &&
          d.between < limits.gridLapSoil.value - 0.0005 &&
          `${mm(d.between)} of soil between overlaps, at least ${mm(limits.gridLapSoil.value)}`,
      ],
      'as planned',
    )
  },
  line(entry, reader) {
    const d = entry.data
    const more = [
      d.roll ? `roll ${withoutWord('roll', d.roll)}${d.lot ? ` of lot ${withoutWord('lot', d.lot)}` : ''}` : '',
      d.pins == null ? '' : `${d.pins} pins`,
      d.cover == null ? '' : `${formatSmall(d.cover, reader.units)} of fill before traffic`,
      d.between == null ? '' : `${formatSmall(d.between, reader.units)} of soil between overlaps`,
      d.from == null || d.to == null ? '' : `${formatStation(d.from, reader.units)} to ${formatStation(d.to, reader.units)}`,
    ].filter(Boolean)
    return [
      `Geogrid ${d.type} ${formatLength(d.length, reader.units, 2)}, strength ${d.direction}, front ${formatSmall(d.front, reader.units)} ${d.front < -0.0005 ? 'in front of' : 'behind'} face`,
      ...more,
    ].join(', ')
  },
})
