import { choice, type InferType, record, type yup } from '../../base/schema'
import { defineFoundation } from '../foundation'
import { optionalLifts, SIZE } from './common'

const schema = record({ kind: choice(['sand-cement'] as const), ...SIZE, lifts: optionalLifts() })
type Data = InferType<typeof schema>

/** Dry sand and cement, about 6 : 1: screeded dry, then watered. */
export const sandCement = defineFoundation<Data>({
  id: 'sand-cement',
  name: 'Sand-cement',
  schema: schema as unknown as yup.ISchema<Data>,
  traits: { drains: false, cast: true },
  lifts: (d) => d.lifts,
})
