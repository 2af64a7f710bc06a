import { type InferType, record, text } from '../../base/schema'
import { defineKind } from './kind'

/** What a person wrote, with its full stop. */
const sentence = (text: string) => (/[.!?]$/.test(text.trim()) ? text.trim() : `${text.trim()}.`)

/** Cause and action for an entry that was out of tolerance. */
export const actionData = record({ of: text(40), cause: text(400), action: text(400) })
export type ActionData = InferType<typeof actionData>
export const action = defineKind({
  kind: 'action',
  effect: { is: 'answer', of: (data) => data.of },
  roles: ['foreman', 'inspector'],
  schema: actionData,
  line: (e) => `Nonconformance: ${sentence(e.data.cause)} Action: ${sentence(e.data.action)}`,
})
