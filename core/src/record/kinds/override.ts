import { type InferType, record, text } from '../../base/schema'
import { defineKind } from './kind'

/** A soft gate passed: the stage in `where` counts as passed, for a written reason. */
export const overrideData = record({ reason: text(400) })
export type OverrideData = InferType<typeof overrideData>
export const override = defineKind({
  kind: 'override',
  effect: { is: 'override' },
  roles: ['foreman'],
  schema: overrideData,
  line: (e, _r, c) => `Went on past ${c.stage?.title.toLowerCase() ?? 'a gate'}: ${e.data.reason}`,
})
