import type { Spot } from '../layout'
import { type DeliveryData, live, type OrderedData, type PutData, type RecordedEntry, type WallState } from '../record'

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
  const came = new Map<string, number>()
  for (let i = state.entries.length - 1; i >= 0 && stands.length < LATEST; i--) {
    const entry = state.entries[i] as RecordedEntry
    const { kind, id } = entry.entry
    if ((kind !== 'delivery' && kind !== 'ordered') || !live(state, id)) continue
    const d = entry.entry.data as DeliveryData & OrderedData
    if (kind === 'delivery') came.set(d.item, (came.get(d.item) ?? 0) + d.amount)
    else if ((came.get(d.item) ?? 0) >= d.amount - 1e-9) {
      // It came: the delivery stands there, not its order.
      came.set(d.item, (came.get(d.item) ?? 0) - d.amount)
      continue
    }
    const put = places.get(id)
    stands.push({
      entry,
      name: d.name,
      amount: d.counted ?? d.amount,
      unit: d.unit,
      expected: kind === 'ordered' ? d.expected : undefined,
      pallets: put?.pallets ?? d.pallets ?? 1,
      spot: put?.spot,
      why: put?.why,
    })
  }
  return stands
}
