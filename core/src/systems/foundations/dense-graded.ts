import { choice, type InferType, record, type yup } from '../../base/schema'
import { defineFoundation } from '../foundation'
import { lifts, SIZE } from './common'

const schema = record({ kind: choice(['dense-graded'] as const), ...SIZE, lifts: lifts() })
type Data = InferType<typeof schema>

/** Crushed stone with fines: compacted in lifts, tested for density. */
export const denseGraded = defineFoundation<Data>({
  id: 'dense-graded',
  name: 'Dense graded',
  schema: schema as unknown as yup.ISchema<Data>,
  traits: { drains: false, cast: false },
  lifts: (d) => d.lifts,
})
