import { type InferType, quantity, record, text } from '../../base/schema'
import { defineKind } from './kind'

/** A plan revision came into force; its fingerprint ties the plan into the chain. */
export const revisionData = record({ number: quantity({ min: 1, max: 10_000, whole: true }), plan: text(64) })
export type RevisionData = InferType<typeof revisionData>

export const revision = defineKind({
  kind: 'revision',
  effect: { is: 'revision', number: (data) => data.number },
  stays: 'a revision cannot be corrected',
  roles: [],
  schema: revisionData,
  line: (e) => `Plan revision ${e.data.number} issued`,
})
