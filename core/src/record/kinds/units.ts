import { type InferType, optionalQuantity, quantity, record } from '../../base/schema'
import { BUILDERS, defineKind } from './kind'

/** Units set since the last such entry, and those thrown out. */
export const unitsData = record({
  set: quantity({ min: 0, max: 5000, whole: true }),
  rejected: optionalQuantity({ min: 0, max: 1000, whole: true }),
})
export type UnitsData = InferType<typeof unitsData>

export const units = defineKind({
  kind: 'units',
  roles: BUILDERS,
  schema: unitsData,
  work: 'units',
  correction: { title: 'Units set', of: () => 'count', value: (d) => d.set, put: (d, set) => ({ ...d, set }) },
  line(entry, _reader, { layout }) {
    const { set, rejected } = entry.data
    const noun = set === 1 ? layout.system.noun.one : layout.system.noun.many
    return `Set ${set} ${noun}${rejected ? `, ${rejected} rejected` : ''}`
  },
})
