import { choice, type InferType, optionalText, quantity, record, text, yesNo, type yup } from '../../base/schema'
import { LIMITS } from '../../rules'
import { formatLength, formatSmall } from '../../units/length'
import { BUILDERS, defineKind } from './kind'

/** A layer as placed: length from the face and distance of its front edge behind it (m). */
export const geogridData = record({
  type: text(60),
  length: quantity({ min: 0.1, max: 30, unit: 'm' }),
  front: quantity({ min: -0.5, max: 2, unit: 'm' }),
  direction: choice(['across', 'along'] as const),
  tight: yesNo(),
  roll: optionalText(60),
})
export type GeogridData = InferType<typeof geogridData>

export const geogrid = defineKind<GeogridData>({
  kind: 'geogrid',
  roles: BUILDERS,
  schema: geogridData as unknown as yup.ISchema<GeogridData>,
  work: 'grid',
  judge(entry, { layout }) {
    const plan = layout.plan.grid.find((g) => g.course === entry.where.course)
    const d = entry.data
    const out = (text: string) => ({ verdict: 'out' as const, text })
    if (!plan) return out('the plan has no layer on this course')
    if (d.length < plan.length - 0.005)
      return out(`${formatLength(d.length, 'metric', 2)} long, the plan wants ${formatLength(plan.length, 'metric', 2)}`)
    if (d.type !== plan.type) return out(`type ${d.type}, the plan wants ${plan.type}`)
    if (d.direction === 'along') return out('strength direction along the wall; turn it across')
    if (!d.tight) return out('slack; pull tight and pin')
    if (d.front < LIMITS.gridFrontMin.value - 0.0005 || d.front > LIMITS.gridFrontMax.value + 0.0005) {
      return out(
        `front edge ${formatSmall(d.front, 'metric')} behind the face, wanted ${formatSmall(LIMITS.gridFrontMin.value, 'metric')} to ${formatSmall(LIMITS.gridFrontMax.value, 'metric')}`,
      )
    }
    return { verdict: 'ok', text: 'as planned' }
  },
  line(entry, reader) {
    const d = entry.data
    return `Geogrid ${d.type} ${formatLength(d.length, reader.units, 2)}, strength ${d.direction}, front ${formatSmall(d.front, reader.units)} behind face${d.roll ? `, roll ${d.roll}` : ''}`
  },
})
