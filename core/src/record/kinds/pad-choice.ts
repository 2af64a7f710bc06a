import { choice, type InferType, record, text } from '../../base/schema'
import { defineKind } from './kind'

/** The pad material the foreman chose, what was recommended, and why. */
export const padChoiceData = record({
  material: choice(['dense-graded', 'open-graded', 'sand', 'sand-cement', 'lean-concrete'] as const),
  recommended: choice(['dense-graded', 'open-graded', 'sand', 'sand-cement', 'lean-concrete'] as const),
  reason: text(300),
})
export type PadChoiceData = InferType<typeof padChoiceData>
export const padChoice = defineKind({
  kind: 'pad-choice',
  beside: true,
  roles: ['foreman'],
  schema: padChoiceData,
  judge: (entry, { layout }) =>
    entry.data.material === layout.building.foundation.kind
      ? { verdict: 'ok', text: 'as the plan' }
      : { verdict: 'ok', text: `the plan says ${layout.building.foundation.kind}: issue a revision before the pad is placed` },
  line: ({ data: d }) => `Pad of ${d.material.replace('-', ' ')} (recommended: ${d.recommended.replace('-', ' ')}): ${d.reason}`,
})
