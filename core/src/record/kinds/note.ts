import { type InferType, record, text } from '../../base/schema'
import { ROLES } from '../../rules'
import { defineKind } from './kind'

/** A note in the diary. */
export const noteData = record({ text: text(2000) })
export type NoteData = InferType<typeof noteData>
export const note = defineKind({
  kind: 'note',
  roles: ROLES,
  schema: noteData,
  line: (e) => e.data.text,
})
