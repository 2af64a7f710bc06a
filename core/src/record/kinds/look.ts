import { type InferType, optionalText, record, text, yesNo } from '../../base/schema'
import { defineKind, MEASURERS } from './kind'

/** The trench looked at before anyone goes in: by which competent person, what was seen, and whether people may go in. */
export const lookData = record({ by: text(120), safe: yesNo(), seen: text(300), next: optionalText(200) })
export type LookData = InferType<typeof lookData>

/** Every day, and again after rain: sides, cracks, water, spoil, the way out. */
export const look = defineKind({
  kind: 'look',
  roles: MEASURERS,
  schema: lookData,
  line: ({ data: d }) => `Trench looked at by ${d.by}: ${d.safe ? 'safe to go in' : 'nobody goes in'}, ${d.seen}`,
})
