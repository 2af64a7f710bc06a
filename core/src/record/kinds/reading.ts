import { said } from '../../base/said'
import { choice, type InferType, optionalQuantity, quantity, record } from '../../base/schema'
import { formatDeviation, formatLength, formatStation } from '../../units/length'
import { limitAt, targetAt } from '../target'
import { defineKind, MEASURERS } from './kind'

const elevation = () => optionalQuantity({ min: -500, max: 9000, unit: 'm' })

/** A reading as it was taken: rod under a known HI, drop below a level string, a deviation measured directly, or the elevation of a survey point. m. */
export const readingData = record({
  method: choice(['rod', 'string', 'deviation', 'survey'] as const),
  hi: elevation(),
  string: elevation(),
  value: quantity({ min: -500, max: 9000, unit: 'm' }),
})
  .test('value', '', (d, context) => {
    // A rod or a tape reaches no further; an elevation is recorded as survey.
    if (d == null || d.method === 'survey' || typeof d.value !== 'number' || Math.abs(d.value) <= 10) return true
    return context.createError({
      path: 'value',
      message:
        d.value > 0
          ? `must be ${said.given(10)} or less, not ${said.given(d.value)}`
          : `must be ${said.given(-10)} or more, not ${said.given(d.value)}`,
    })
  })
  .test('method', 'a rod reading needs the height of instrument (hi), a string reading the string elevation (string)', (d) =>
    d == null
      ? true
      : d.method === 'rod'
        ? d.hi != null && d.string == null
        : d.method === 'string'
          ? d.string != null && d.hi == null
          : d.hi == null && d.string == null,
  )
export type ReadingData = InferType<typeof readingData>

/**
 * How far a reading is off its target: rod HI − reading − target, string string − drop − target, deviation as it is.
 *
 * @returns m; + is high, out, or back
 * @example deviationOf({ method: 'rod', hi: 11.5, value: 1.696 }, 9.8) // 0.004
 */
export function deviationOf(d: ReadingData, target: number): number {
  if (d.method === 'deviation') return d.value
  if (d.method === 'survey') return d.value - target
  const from = d.method === 'rod' ? d.hi : d.string
  return (from ?? Number.NaN) - d.value - target
}

/** What the rod or tape shows when the work is right, m. */
export const aim = (d: Pick<ReadingData, 'method' | 'hi' | 'string'>, target: number) =>
  d.method === 'deviation' ? 0 : d.method === 'survey' ? target : ((d.method === 'rod' ? d.hi : d.string) ?? Number.NaN) - target

const METHOD = { rod: 'rod', string: 'drop', survey: 'point' } as const

export const reading = defineKind({
  kind: 'reading',
  correction: {
    title: 'Right value',
    of: (d) => (d.method === 'deviation' ? 'small' : 'length'),
    value: (d) => d.value,
    put: (d, value) => ({ ...d, value }),
  },
  roles: MEASURERS,
  schema: readingData,
  work: 'readings',
  closes: ['reading', 'sighting'],
  judge(entry, { layout, stage }) {
    if (stage?.work.type !== 'readings') return undefined
    const deviation = deviationOf(entry.data, targetAt(layout, stage.work.target, entry.where))
    const limit = limitAt(layout, stage, entry.where).value
    // Half a millimetre of float and reading noise must not turn "3 mm" into "over 3 mm".
    const verdict = Math.abs(deviation) <= limit + 0.0001 ? 'ok' : 'out'
    const words = said.deviation(deviation, stage.work.sense)
    return { verdict, deviation, text: `${words}, limit ±${said.small(limit)}` }
  },
  line(entry, reader, { layout, stage }) {
    if (stage?.work.type !== 'readings') return 'Reading'
    const deviation = deviationOf(entry.data, targetAt(layout, stage.work.target, entry.where))
    const at = formatStation(entry.where.station ?? 0, reader.units)
    const raw = entry.data.method === 'deviation' ? '' : ` (${METHOD[entry.data.method]} ${formatLength(entry.data.value, reader.units)})`
    return `${stage.title} at ${at}: ${formatDeviation(deviation, stage.work.sense, reader.units)}${raw}`
  },
})
