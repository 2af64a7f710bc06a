import { choice, type InferType, quantity, record, type yup } from '../../base/schema'
import { defineFoundation } from '../foundation'
import { lifts, SIZE } from './common'

const schema = record({ kind: choice(['sand'] as const), ...SIZE, thickness: quantity({ min: 0.02, max: 1, unit: 'm' }), lifts: lifts() })
type Data = InferType<typeof schema>

/** Coarse sand under the smallest walls. */
export const sand = defineFoundation<Data>({
  id: 'sand',
  name: 'Coarse sand',
  schema: schema as unknown as yup.ISchema<Data>,
  traits: { drains: false, cast: false },
  lifts: (d) => d.lifts,
})
