import { cameOf, type DeliveryData, live, type OrderedData, type RecordedEntry, type WallState } from '../record'

/** An order of which something has not come. */
export interface OpenOrder {
  readonly entry: RecordedEntry
  readonly data: OrderedData
  /** So much of it is still to come. */
  readonly open: number
}
const NOTHING = 1e-9

/**
 * Orders that are still to come, in the order in which they were made: what comes is of what was ordered first, as in the book.
 *
 * @example openOrders(state).map((o) => o.data.expected)
 */
export function openOrders(state: WallState): readonly OpenOrder[] {
  const queues = new Map<string, { entry: RecordedEntry; data: OrderedData; open: number }[]>()
  const all: { entry: RecordedEntry; data: OrderedData; open: number }[] = []
  for (const entry of state.entries) {
    const { kind, id } = entry.entry
    if ((kind !== 'ordered' && kind !== 'delivery') || !live(state, id)) continue
    if (kind === 'ordered') {
      const data = entry.entry.data as OrderedData
      const order = { entry, data, open: data.amount }
      all.push(order)
      queues.set(data.item, [...(queues.get(data.item) ?? []), order])
      continue
    }
    const d = entry.entry.data as DeliveryData
    let came = cameOf(d)
    for (const o of queues.get(d.item) ?? []) {
      const of = Math.min(came, o.open)
      o.open -= of
      came -= of
    }
  }
  return all.filter((o) => o.open > NOTHING)
}
