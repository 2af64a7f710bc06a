import { fail, ok } from '../../base/result'
import { choice, type InferType, list, optionalText, quantity, record, text } from '../../base/schema'
import { ROLES } from '../../rules'
import { defineKind } from './kind'

/** A pallet that comes with several shapes on it, as it is sold: a pattern is bought by the mix. The newest of its name holds. */
export const mixData = record({
  mix: text(60),
  supplier: optionalText(120),
  /** So many of each on one pallet. */
  holds: list(record({ item: text(80), name: text(120), count: quantity({ min: 1, max: 1000, whole: true }) }), 1, 20),
  state: choice(['sold', 'gone'] as const),
})
export type MixData = InferType<typeof mixData>

export const mix = defineKind({
  kind: 'mix',
  roles: ROLES.filter((r) => r === 'foreman' || r === 'office'),
  schema: mixData,
  check({ data: d }) {
    const twice = d.holds.findIndex((h, i) => d.holds.findIndex((o) => o.item === h.item) < i)
    return twice >= 0 ? fail(`data.holds[${twice}].item`, `is ${d.holds[twice]?.name}, which stands above already; give its number once`) : ok(true)
  },
  line: ({ data: d }) =>
    d.state === 'gone'
      ? `Sold no longer: pallet ${d.mix}`
      : `Sold as: pallet ${d.mix}${d.supplier ? ` of ${d.supplier}` : ''} with ${d.holds.map((h) => `${h.count} ${h.name}`).join(', ')}`,
})
