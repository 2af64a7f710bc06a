import { type InferType, record, text } from '../../base/schema'
import { defineKind, MEASURERS } from './kind'

/** A wrong entry struck out; `supersedes` names it, the original stays to be read. */
export const strikeData = record({ reason: text(400) })
export type StrikeData = InferType<typeof strikeData>
export const strike = defineKind({
  kind: 'strike',
  effect: { is: 'strike' },
  stays: 'a strike cannot be corrected',
  roles: MEASURERS,
  schema: strikeData,
  line: (e) => `Struck out: ${e.data.reason}`,
})
