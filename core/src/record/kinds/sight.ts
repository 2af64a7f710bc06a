import { said } from '../../base/said'
import { choice, type InferType, optionalQuantity, quantity, record, text } from '../../base/schema'
import { limitsOf } from '../../rules'
import { formatDeviation, formatLength } from '../../units/length'
import { defineKind, MEASURERS } from './kind'

const elevation = () => optionalQuantity({ min: -500, max: 9000, unit: 'm' })

/**
 * A look through the level beside the readings of the work: a foresight to a turning point, a foresight that closes on a known
 * point (with the number of set-ups since the last one), or a check shot at a known point. m.
 */
export const sightData = record({
  sight: choice(['foresight', 'check'] as const),
  point: text(60),
  hi: quantity({ min: -500, max: 9000, unit: 'm' }),
  reading: quantity({ min: 0, max: 10, unit: 'm' }),
  known: elevation(),
  setups: optionalQuantity({ min: 1, max: 200, whole: true }),
}).test('known', 'a check shot needs the known elevation of its point', (d) => d == null || d.sight !== 'check' || d.known != null)
export type SightData = InferType<typeof sightData>

export const sight = defineKind({
  kind: 'sight',
  roles: MEASURERS,
  schema: sightData,
  judge(entry, { layout }) {
    const d = entry.data
    const limits = limitsOf(layout.plan)
    if (d.known == null) return undefined
    const deviation = d.hi - d.reading - d.known
    const n = d.sight === 'check' ? 1 : (d.setups ?? 1)
    const limit = d.sight === 'check' ? limits.levelCheck.value : limits.levelClosure.value * Math.sqrt(n)
    const off = `${said.small(deviation)} ${deviation >= 0 ? 'high' : 'low'}, limit ${said.small(limit)}`
    if (Math.abs(deviation) <= limit + 0.0001) return { verdict: 'ok', deviation, text: off }
    return {
      verdict: 'out',
      deviation,
      text:
        d.sight === 'check'
          ? `${off}: the instrument moved. Set up again and repeat what was read since the last good check`
          : `${off}: the level book does not close. Look for the blunder and level again`,
    }
  },
  line(entry, reader) {
    const d = entry.data
    const to = `${d.point}, rod ${formatLength(d.reading, reader.units)}`
    if (d.sight === 'check') return `Check shot at ${to}: ${formatDeviation(d.hi - d.reading - (d.known ?? 0), 'level', reader.units)}`
    return d.known == null
      ? `Foresight to turning point ${to}`
      : `Closed on ${to}: ${formatDeviation(d.hi - d.reading - d.known, 'level', reader.units)}`
  },
})
