import { choice, type InferType, record, type yup } from '../../base/schema'
import { defineFoundation } from '../foundation'
import { optionalLifts, SIZE } from './common'

const schema = record({ kind: choice(['lean-concrete'] as const), ...SIZE, lifts: optionalLifts() })
type Data = InferType<typeof schema>

/** Lean concrete: cast in one go. */
export const leanConcrete = defineFoundation<Data>({
  id: 'lean-concrete',
  name: 'Lean concrete',
  schema: schema as unknown as yup.ISchema<Data>,
  traits: { drains: false, cast: true },
  lifts: (d) => d.lifts,
})
