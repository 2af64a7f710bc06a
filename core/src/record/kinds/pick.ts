import { fail, ok } from '../../base/result'
import { said } from '../../base/said'
import { type InferType, optionalQuantity, optionalText, quantity, record } from '../../base/schema'
import { withoutWord } from '../../base/typed'
import { type Layout, onPad, type PlannedPick, pickAt, pickWrong, windOf } from '../../layout'
import { limitsOf, since } from '../../rules'
import { unproved } from '../../systems'
import { formatLength, formatSigned } from '../../units/length'
import { say } from '../../units/say'
import type { Entry } from '../entry'
import { BUILDERS, defineKind, judged } from './kind'

/** One unit set by the machine: its number in its course, how its top lies and leans, m; the reach it was set at; its delivery ticket. */
export const pickData = record({
  number: quantity({ min: 1, max: 5000, whole: true }),
  /** Of its top, + where high. */
  level: quantity({ min: -0.5, max: 0.5, unit: 'm' }),
  /** Front against back, + where the front is high. */
  tilt: optionalQuantity({ min: -0.2, max: 0.2, unit: 'm' }),
  reach: optionalQuantity({ min: 0.5, max: 80, unit: 'm' }),
  /** Wind while it hung, km/h: asked since rule table 3. */
  wind: optionalQuantity({ min: 0, max: 200, unit: 'km/h' }),
  ticket: optionalText(60),
})
export type PickData = InferType<typeof pickData>

/** What made a pick dangerous: no proof of table or gear, beyond the table, more wind than machine or gear allow. */
function dangerOf(d: PickData, planned: PlannedPick | undefined, layout: Layout): string[] {
  const { lifting } = layout.building
  if (!lifting || !planned) return []
  const most = windOf(layout.plan, lifting)
  return [
    ...unproved(lifting).map((u) => `lifted without ${u}`),
    ...pickWrong(layout, lifting, planned.mass, d.reach ?? planned.reach, planned.height),
    ...(d.wind != null && d.wind > most + 1e-9 ? [`lifted in ${said.speed(d.wind)} of wind, at most ${said.speed(most)}`] : []),
  ]
}

/**
 * Does a unit lie as it should, whatever made its pick dangerous?
 *
 * @example liesWell(entry, layout)
 */
export function liesWell({ data: { level, tilt, number }, where }: Entry<string, PickData>, layout: Layout): boolean {
  const limits = limitsOf(layout.plan)
  const planned = pickAt(layout, where.course ?? 0, number)
  const row = layout.courses.find((c) => c.course === where.course)
  const limit = row !== undefined && planned !== undefined && onPad(layout, row, planned.station) ? limits.firstLevel.value : limits.courseLevel.value
  return Math.abs(level) <= limit + 0.0001 && (tilt == null || Math.abs(tilt) <= limits.tilt.value + 0.0001)
}

export const pick = defineKind({
  kind: 'pick',
  roles: BUILDERS,
  schema: pickData,
  work: 'picks',
  check(entry, { layout }) {
    const { where, data } = entry
    if (where.section === undefined || where.course === undefined)
      return fail(where.section === undefined ? 'where.section' : 'where.course', 'is missing; say which section and course the unit was set in')
    const planned = pickAt(layout, where.course, data.number)
    if (!planned || planned.section !== where.section)
      return fail('data.number', `there is no unit ${data.number} of course ${where.course} in section ${where.section}`)
    const { lifting } = layout.building
    if (!lifting) return ok(true)
    // What was lifted all the same is kept as a finding that stops the next one; it is not told away.
    if (since(layout.plan, 3))
      return data.wind == null ? fail('data.wind', 'is missing; say the wind of today, as it was measured or told for this place') : ok(true)
    const wrong = pickWrong(layout, lifting, planned.mass, data.reach ?? planned.reach, planned.height)
    return wrong.length > 0
      ? fail(
          'data.reach',
          `${planned.name} is not lifted like this: ${wrong.join('; ')}. Bring the machine closer and say how far it reached, or a larger one.`,
        )
      : ok(true)
  },
  again: (entry, { data }) =>
    entry.data.number === data.number ? undefined : { field: 'data.number', message: `re-check unit ${data.number}, where the finding is` },
  judge(entry, { layout }) {
    const limits = limitsOf(layout.plan)
    const { number, level, tilt } = entry.data
    const planned = pickAt(layout, entry.where.course ?? 0, number)
    const row = layout.courses.find((c) => c.course === entry.where.course)
    const lies = row !== undefined && planned !== undefined && onPad(layout, row, planned.station)
    const limit = lies ? limits.firstLevel.value : limits.courseLevel.value
    const mend = lies ? 'it comes off again, and its pad is mended and read' : 'it comes off again, and what it lies on is cleaned and read'
    const outs = [
      Math.abs(level) > limit + 0.0001 && `${said.deviation(level, 'level')}, limit ±${said.small(limit)}`,
      tilt != null &&
        Math.abs(tilt) > limits.tilt.value + 0.0001 &&
        `leans ${said.small(Math.abs(tilt))} front against back, limit ±${said.small(limits.tilt.value)}`,
    ]
    const out = outs.some(Boolean)
    const danger = since(layout.plan, 3) ? dangerOf(entry.data, planned, layout) : []
    if (danger.length > 0)
      return {
        verdict: 'out',
        stop: true,
        text: [...danger, ...outs.filter((o): o is string => typeof o === 'string'), ...(out ? [`it cannot be tapped down: ${mend}`] : [])].join(
          '; ',
        ),
      }
    return judged([...outs, out && `it cannot be tapped down: ${mend}`], `set, ${said.deviation(level, 'level')}`)
  },
  line(entry, reader, { layout }) {
    const { number, level, tilt, reach, wind, ticket } = entry.data
    const planned = pickAt(layout, entry.where.course ?? 0, number)
    const parts = [
      `level ${formatSigned(level, reader.units)}`,
      tilt == null ? '' : `front to back ${formatSigned(tilt, reader.units)}`,
      reach == null ? '' : `set at ${formatLength(reach, reader.units, 1)} out`,
      wind == null ? '' : `wind ${say(said.speed(wind), reader.units)}`,
      ticket ? `ticket ${withoutWord('ticket', ticket)}` : '',
    ]
    return `${planned?.name ?? number} set: ${parts.filter(Boolean).join(', ')}`
  },
})
