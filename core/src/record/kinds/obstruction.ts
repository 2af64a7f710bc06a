import { fail, ok } from '../../base/result'
import { said } from '../../base/said'
import { choice, type InferType, optionalText, quantity, record } from '../../base/schema'
import { limitsOf } from '../../rules'
import { formatSmall, formatStation } from '../../units/length'
import { BUILDERS, defineKind } from './kind'

export const OBSTRUCTIONS = { rock: 'Rock', roots: 'Roots', service: 'Service', 'old-work': 'Old work', water: 'Water' } as const
export const WAYS = {
  'break-out': 'break out',
  step: 'step over',
  thicken: 'thin or thicken the pad',
  'lead-away': 'lead away',
  'stop-ask': 'stop and ask',
} as const

/**
 * Something in the way of the trench and the choice it forces. `above` is how far it stands above the trench bottom, m: what the
 * pad over it would be thinner by.
 */
export const obstructionData = record({
  what: choice(Object.keys(OBSTRUCTIONS) as (keyof typeof OBSTRUCTIONS)[]),
  from: quantity({ min: 0, max: 2000, unit: 'm' }),
  to: quantity({ min: 0, max: 2000, unit: 'm' }),
  above: quantity({ min: -2, max: 5, unit: 'm' }),
  way: choice(Object.keys(WAYS) as (keyof typeof WAYS)[]),
  note: optionalText(200),
})
export type ObstructionData = InferType<typeof obstructionData>
export const obstruction = defineKind({
  kind: 'obstruction',
  beside: true,
  roles: BUILDERS,
  schema: obstructionData,
  check: ({ data }) => (data.to >= data.from ? ok(true) : fail('data.to', `must not be before ${said.given(data.from)}`)),
  judge(entry, { layout }) {
    const d = entry.data
    const limit = limitsOf(layout.plan).padThickness.value
    if (d.what === 'service' && d.way !== 'stop-ask')
      return { verdict: 'out', text: 'a service is not broken out or built over: stop and ask its owner' }
    if (d.way === 'thicken' && Math.abs(d.above) > limit + 1e-6) {
      return {
        verdict: 'out',
        text: `the pad would be ${said.small(d.above)} ${d.above > 0 ? 'thinner' : 'thicker'} here, at most ${said.small(limit)}: break out, or step`,
      }
    }
    if (d.way === 'step') {
      const { height } = layout.building.course(1)
      const up = Math.ceil(d.above / height - 1e-9)
      const off = Math.abs(d.above / height - Math.round(d.above / height)) * height
      if (d.above > 0 && d.above > height + limit)
        return { verdict: 'ok', text: `over one course high: ${up} ${up === 1 ? 'course' : 'courses'} up, by a revision of the plan` }
      return {
        verdict: 'ok',
        text:
          off <= limit
            ? 'a step of a whole course, by a revision of the plan'
            : 'the step is a whole course: dig or fill to it, by a revision of the plan',
      }
    }
    return { verdict: 'ok', text: WAYS[d.way] }
  },
  line(entry, reader) {
    const d = entry.data
    return `${OBSTRUCTIONS[d.what]} at ${formatStation(d.from, reader.units)} to ${formatStation(d.to, reader.units)}, ${formatSmall(d.above, reader.units)} ${d.above >= 0 ? 'above' : 'below'} the bottom: ${WAYS[d.way]}${d.note ? ` (${d.note})` : ''}`
  },
})
