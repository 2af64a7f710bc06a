import { fail, ok } from '../../base/result'
import { choice, type InferType, optionalText, record, text } from '../../base/schema'
import { identifySoil } from '../../ground'
import { tableOf } from '../../rules'
import { defineKind } from './kind'
import type { SoilData } from './soil'

export const CLEARED_BY = {
  owner: 'Owner of the line',
  competent: 'Competent person',
  fire: 'Fire service',
  authority: 'Authority',
} as const

/** A stop lifted: who said that people may go back, as what, and what was measured or seen. */
export const clearanceData = record({
  who: text(120),
  as: choice(Object.keys(CLEARED_BY) as (keyof typeof CLEARED_BY)[]),
  seen: text(300),
  reference: optionalText(120),
})
export type ClearanceData = InferType<typeof clearanceData>

/** Answers a stop, by name; nothing else does. The soil is judged anew before anything is built on it. */
export const clearance = defineKind({
  kind: 'clearance',
  beside: true,
  closes: ['soil', 'pick'],
  roles: ['foreman', 'inspector'],
  schema: clearanceData,
  check({ recheckOf }, { find, layout }) {
    const of = recheckOf ? find(recheckOf) : undefined
    if (of?.kind === 'pick') return ok(true)
    if (of?.kind !== 'soil') return fail('recheckOf', 'is missing; name the finding that stopped the work')
    return identifySoil((of.data as SoilData).answers, tableOf(layout.plan)).stop
      ? ok(true)
      : fail('recheckOf', 'that soil did not stop the work; it is dug out and replaced')
  },
  judge: ({ data: d }) => ({ verdict: 'ok', text: `${d.who}, ${CLEARED_BY[d.as].toLowerCase()}: ${d.seen}` }),
  line: ({ data: d }) => `Stop lifted by ${d.who}, ${CLEARED_BY[d.as].toLowerCase()}: ${d.seen}${d.reference ? ` (${d.reference})` : ''}`,
})
