import { choice, type InferType, list, quantity, record, text } from '../../base/schema'
import { ROLES } from '../../rules'
import { defineKind } from './kind'

/** How somebody was told of a revision. */
export const TOLD_HOW = ['in-person', 'by-phone', 'on-paper'] as const
export const TOLD_WORDS: Readonly<Record<(typeof TOLD_HOW)[number], string>> = {
  'in-person': 'in person',
  'by-phone': 'by phone',
  'on-paper': 'on paper',
}

/** Who was told of a revision of the plan, and how. */
export const toldData = record({
  number: quantity({ min: 1, max: 10_000, whole: true }),
  people: list(text(80), 1, 30),
  how: choice(TOLD_HOW),
})
export type ToldData = InferType<typeof toldData>

export const told = defineKind({
  kind: 'told',
  roles: ROLES.filter((r) => r === 'foreman' || r === 'office'),
  schema: toldData,
  line: ({ data: d }) => `Told of revision ${d.number}, ${TOLD_WORDS[d.how]}: ${d.people.join(', ')}`,
})
