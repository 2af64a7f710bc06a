import { choice, type InferType, record, type yup } from '../../base/schema'
import { defineFoundation } from '../foundation'
import { lifts, SIZE } from './common'

const schema = record({ kind: choice(['open-graded'] as const), ...SIZE, lifts: lifts() })
type Data = InferType<typeof schema>

/** Clean stone: compacted in lifts by method, water runs through it. */
export const openGraded = defineFoundation<Data>({
  id: 'open-graded',
  name: 'Open graded',
  schema: schema as unknown as yup.ISchema<Data>,
  traits: { drains: true, cast: false },
  lifts: (d) => d.lifts,
})
