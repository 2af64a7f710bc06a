import { fail, ok } from '../../base/result'
import { type InferType, optionalQuantity, optionalText, record, text } from '../../base/schema'
import { withoutWord } from '../../base/typed'
import { ROLES } from '../../rules'
import type { Entry } from '../entry'
import { amountOf, amountSaid, itemShape } from '../item'
import { defineKind } from './kind'

/** A delivery as it came: what the docket says, what was counted, what went back, its lot, and where it was put down. */
export const deliveryData = record({
  ...itemShape,
  /** As the docket says. */
  amount: amountOf(),
  docket: text(80),
  supplier: optionalText(120),
  /** As counted; taken for what the docket says where nobody counted. */
  counted: optionalQuantity({ min: 0, max: 1e6 }),
  /** Of it sent back, broken or wrong. */
  refused: optionalQuantity({ min: 0, max: 1e6 }),
  why: optionalText(200),
  pallets: optionalQuantity({ min: 0, max: 10_000, whole: true }),
  lot: optionalText(80),
  /** Where it was put down, in words; along the wall where it is said as a station, m. */
  put: optionalText(120),
  price: optionalQuantity({ min: 0, max: 1e7 }),
})
export type DeliveryData = InferType<typeof deliveryData>

/** What stayed on site of a delivery. @example cameOf({ amount: 60, counted: 58, refused: 2 }) // 56 */
export const cameOf = (d: Pick<DeliveryData, 'amount' | 'counted' | 'refused'>): number => (d.counted ?? d.amount) - (d.refused ?? 0)
const same = (a: string | undefined, b: string | undefined) => (a ?? '').trim().toLowerCase() === (b ?? '').trim().toLowerCase()

export const delivery = defineKind({
  kind: 'delivery',
  roles: ROLES.filter((r) => r !== 'inspector'),
  schema: deliveryData,
  check(entry, { of }) {
    const d = entry.data
    if (d.docket.trim() === '') return fail('data.docket', 'is missing; write what stands on the paper, or "none" and the time')
    if ((d.refused ?? 0) > (d.counted ?? d.amount) + 1e-9)
      return fail('data.refused', `is more than the ${amountSaid(d.counted ?? d.amount, d.unit)} that came`)
    if ((d.refused ?? 0) > 0 && !d.why?.trim()) return fail('data.why', 'is missing; say what was wrong with what went back')
    const twin = of('delivery')
      .map((r) => ({ ...r, entry: r.entry as Entry<string, DeliveryData> }))
      .find(
        ({ entry: e }) => e.id !== entry.supersedes && e.data.item === d.item && same(e.data.docket, d.docket) && same(e.data.supplier, d.supplier),
      )
    return twin
      ? fail(
          'data.docket',
          `docket ${d.docket.trim()} of ${d.name} is in the record already, ${twin.waiting ? 'not sent yet' : `as no. ${twin.seq}`}, by ${twin.entry.by.name}; correct that one, or write the number of this one`,
        )
      : ok(true)
  },
  line({ data: d }) {
    const parts = [
      `docket ${withoutWord('docket', d.docket)}${d.supplier ? ` of ${d.supplier}` : ''}`,
      d.counted == null || Math.abs(d.counted - d.amount) < 1e-9 ? '' : `${amountSaid(d.counted, d.unit)} counted`,
      d.refused ? `${amountSaid(d.refused, d.unit)} sent back: ${d.why}` : '',
      d.pallets ? (d.pallets === 1 ? '1 pallet' : `${d.pallets} pallets`) : '',
      d.lot ? `lot ${withoutWord('lot', d.lot)}` : '',
      d.put ? `put down ${d.put}` : '',
    ]
    return `Delivered: ${amountSaid(d.amount, d.unit)} ${d.name}, ${parts.filter(Boolean).join(', ')}`
  },
})
