import { fail, ok } from '../../base/result'
import { type InferType, optionalQuantity, optionalText, quantity, record } from '../../base/schema'
import { ROLES } from '../../rules'
import { amountOf, amountSaid, itemShape } from '../item'
import { defineKind } from './kind'

/** How a material is bought for this wall: from whom, days from order to site, what it is sold in, what stays in reserve. The newest holds. */
export const supplyData = record({
  ...itemShape,
  supplier: optionalText(120),
  lead: quantity({ min: 0, max: 365, unit: 'days', whole: true }),
  pack: amountOf(),
  /** What it is sold in is called: pallet, roll, lorry, cartridge, bag. */
  packName: optionalText(30),
  reserve: amountOf(),
  price: optionalQuantity({ min: 0, max: 1e7 }),
  /** Of one unit, kg: for what a lorry or a machine may carry. */
  mass: optionalQuantity({ min: 0, max: 1e5, unit: 'kg' }),
  /** What a lorry brings at once, kg, and the width it needs to come in, m. */
  load: optionalQuantity({ min: 10, max: 60_000, unit: 'kg' }),
  access: optionalQuantity({ min: 0.5, max: 12, unit: 'm' }),
})
export type SupplyData = InferType<typeof supplyData>

export const supply = defineKind({
  kind: 'supply',
  roles: ROLES.filter((r) => r !== 'inspector' && r !== 'crew'),
  schema: supplyData,
  check: ({ data }) => (data.pack > 0 ? ok(true) : fail('data.pack', 'must be more than nothing: what it is sold in')),
  line: ({ data: d }) =>
    `Bought: ${d.name}${d.supplier ? ` from ${d.supplier}` : ''}, ${d.lead === 1 ? '1 day' : `${d.lead} days`} ahead, ${d.packName ? `by the ${d.packName} of` : 'in packs of'} ${amountSaid(d.pack, d.unit)}${d.reserve > 0 ? `, ${amountSaid(d.reserve, d.unit)} in reserve` : ''}`,
})
