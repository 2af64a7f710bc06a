import { fail, ok } from '../../base/result'
import { said } from '../../base/said'
import { type InferType, optionalText, quantity, record, text } from '../../base/schema'
import { standWrong } from '../../layout'
import { ROLES } from '../../rules'
import { defineKind } from './kind'

/** Where a delivery stands, or is to be put down: its entry, and the spot by the wall. The newest of an entry holds. */
export const putData = record({
  /** The delivery or the order it is of. */
  of: text(60),
  name: text(120),
  spot: record({ station: quantity({ min: -50, max: 2050, unit: 'm' }), out: quantity({ min: -60, max: 100, unit: 'm' }) }),
  /** So many pallets side by side, along the wall. */
  pallets: quantity({ min: 1, max: 200, whole: true }),
  /** Why there, where something speaks against it. */
  why: optionalText(200),
})
export type PutData = InferType<typeof putData>

export const put = defineKind({
  kind: 'put',
  roles: ROLES.filter((r) => r !== 'inspector'),
  schema: putData,
  check({ data: d }, { layout, find }) {
    const of = find(d.of)
    if (of?.kind !== 'delivery' && of?.kind !== 'ordered')
      return fail('data.of', 'is no delivery and no order of this wall; choose one from the list')
    const [wrong] = standWrong(layout, d.spot, d.pallets)
    return wrong && !d.why?.trim() ? fail('data.spot', `${wrong}. Choose another place, or write who said that it may stand there`) : ok(true)
  },
  line: ({ data: d }) =>
    `Put down: ${d.name}${d.pallets > 1 ? `, ${d.pallets} pallets` : ''}, at ${said.station(Math.max(0, d.spot.station))}, ${said.length(Math.abs(d.spot.out), 1)} ${d.spot.out < 0 ? 'behind' : 'in front of'} the face${d.why ? `; ${d.why}` : ''}`,
})
