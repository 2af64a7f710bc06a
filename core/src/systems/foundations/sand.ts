import { choice, type InferType, record, type yup } from '../../base/schema'
import { defineFoundation } from '../foundation'
import { lifts, SIZE } from './common'

const schema = record({ kind: choice(['sand'] as const), ...SIZE, lifts: lifts() })
type Data = InferType<typeof schema>

/** Coarse sand under the smallest walls. */
export const sand = defineFoundation<Data>({
  id: 'sand',
  name: 'Coarse sand',
  schema: schema as unknown as yup.ISchema<Data>,
  traits: { drains: false, cast: false },
  lifts: (d) => d.lifts,
})
