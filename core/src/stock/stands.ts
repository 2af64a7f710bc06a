import type { Spot } from '../layout'
import { type DeliveryData, live, type OrderedData, type PutData, type RecordedEntry, type WallState } from '../record'
import { openOrders } from './open-orders'

/** Something that stands by the wall or is on its way, and where it is put down. */
export interface Stand {
  /** The delivery or the order. */
  readonly entry: RecordedEntry
  readonly name: string
  readonly amount: number
  readonly unit: DeliveryData['unit']
  readonly expected: string | undefined
  readonly pallets: number
  readonly spot: Spot | undefined
  /** Who said that it may stand there, where something speaks against it. */
  readonly why: string | undefined
}

/** The latest so many are shown: what came long ago is built in. */
const LATEST = 40

/**
 * Deliveries that came and orders that are expected, newest first, with the place somebody gave them.
 *
 * @example standsOf(state).filter((s) => !s.spot)
 */
export function standsOf(state: WallState): readonly Stand[] {
  const places = new Map<string, PutData>()
  for (const { entry } of state.entries)
    if (entry.kind === 'put' && live(state, entry.id)) places.set((entry.data as PutData).of, entry.data as PutData)
  const stands: Stand[] = []
  // What came stands there itself, not its order.
  const open = new Map(openOrders(state).map((o) => [o.entry.entry.id, o.open]))
  for (let i = state.entries.length - 1; i >= 0 && stands.length < LATEST; i--) {
    const entry = state.entries[i] as RecordedEntry
    const { kind, id } = entry.entry
    if (!(kind === 'delivery' || (kind === 'ordered' && open.has(id))) || !live(state, id)) continue
    const d = entry.entry.data as DeliveryData & OrderedData
    const put = places.get(id)
    stands.push({
      entry,
      name: d.name,
      amount: open.get(id) ?? d.counted ?? d.amount,
      unit: d.unit,
      expected: kind === 'ordered' ? d.expected : undefined,
      pallets: put?.pallets ?? d.pallets ?? 1,
      spot: put?.spot,
      why: put?.why,
    })
  }
  return stands
}
