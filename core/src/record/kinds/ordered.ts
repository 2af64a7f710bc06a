import { fail, ok } from '../../base/result'
import { type InferType, optionalQuantity, optionalText, record } from '../../base/schema'
import { ROLES } from '../../rules'
import { fullDay } from '../../units/day'
import { amountOf, amountSaid, dayText, itemShape } from '../item'
import { defineKind } from './kind'

/** Material that was ordered: how much, from whom, and the day it is promised for. */
export const orderedData = record({
  ...itemShape,
  amount: amountOf(),
  supplier: optionalText(120),
  expected: dayText(),
  reference: optionalText(80),
  /** Of one unit, in the company's own money; never asked for. */
  price: optionalQuantity({ min: 0, max: 1e7 }),
})
export type OrderedData = InferType<typeof orderedData>

export const ordered = defineKind({
  kind: 'ordered',
  roles: ROLES.filter((r) => r !== 'inspector'),
  schema: orderedData,
  check: ({ data }) => (data.amount > 0 ? ok(true) : fail('data.amount', 'must be more than nothing; strike an order out that was called off')),
  line: ({ data: d }) =>
    `Ordered: ${amountSaid(d.amount, d.unit)} ${d.name}${d.supplier ? ` from ${d.supplier}` : ''}, expected ${fullDay(d.expected)}${d.reference ? ` (${d.reference})` : ''}`,
})
