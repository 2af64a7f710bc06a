import { fail, ok } from '../../base/result'
import { said } from '../../base/said'
import { choice, type InferType, optionalChoice, quantity, record } from '../../base/schema'
import { identifySoil, type SoilAnswers, soilQuestions } from '../../ground'
import { tableOf } from '../../rules'
import { formatSmall, formatStation } from '../../units/length'
import type { Entry } from '../entry'
import { BUILDERS, defineKind } from './kind'

/** The answers of a question by their ids, of the type its question gives them. */
const ids = <K extends keyof SoilAnswers>(id: K) =>
  (soilQuestions(2).find((q) => q.id === id)?.answers ?? []).map((a) => a[0] as NonNullable<SoilAnswers[K]>)
const answers = <K extends keyof SoilAnswers>(id: K) => choice(ids(id))

/** A soil as a hand found it; its class follows from the answers. Stations m. */
export const soilData = record({
  answers: record({
    grain: answers('grain'),
    ribbon: answers('ribbon'),
    feel: answers('feel'),
    colour: answers('colour'),
    smell: answers('smell'),
    water: answers('water'),
    origin: optionalChoice(ids('origin')),
    firm: optionalChoice(ids('firm')),
  }),
  from: quantity({ min: 0, max: 2000, unit: 'm' }),
  to: quantity({ min: 0, max: 2000, unit: 'm' }),
  /** Where it lies; in both where nobody says. */
  place: optionalChoice(['floor', 'sides'] as const),
})
export type SoilData = InferType<typeof soilData>
/** Hoisted, so that a kind may look at entries of its own. */
const isSoil = (e: Entry): e is Entry<string, SoilData> => soil.is(e)
/** Dug out where soil does not carry: the verdict stays out until an undercut over the stretch re-checks it. */
export const soil = defineKind({
  kind: 'soil',
  beside: true,
  roles: BUILDERS,
  schema: soilData,
  check({ data, recheckOf }, { layout, find }) {
    const table = tableOf(layout.plan)
    const of = recheckOf ? find(recheckOf) : undefined
    if (of && isSoil(of) && table > 1) {
      // Other answers make no bad ground good: a stop is lifted by name, what never carries is dug out. What was wet may have dried.
      const bad = identifySoil(of.data.answers, table)
      if (bad.stop) return fail('recheckOf', 'that is a stop: it is answered by name, by the owner of the line or a competent person')
      if (bad.class === 'organic' || bad.class === 'made-ground' || bad.meaning.swelling)
        return fail('recheckOf', `${bad.meaning.name.toLowerCase()} is dug out and replaced (or the engineer's word given), not judged again`)
    }
    if (data.to < data.from) return table === 1 ? ok(true) : fail('data.to', `must be beyond ${said.given(data.from)}, not ${said.given(data.to)}`)
    const asked = soilQuestions(table).find((q) => data.answers[q.id] === undefined)
    return asked ? fail(`data.answers.${asked.id}`, `is missing; ${asked.ask}`) : ok(true)
  },
  judge(entry, { layout }) {
    const found = identifySoil(entry.data.answers, tableOf(layout.plan))
    if (found.stop) {
      return {
        verdict: 'out',
        stop: true,
        text: 'Stop: fuel, gas, solvent or sewage. Leave the cut, keep sparks away, let it air, call the owner of the line and the competent person',
      }
    }
    return found.suitable
      ? { verdict: 'ok', text: `${found.meaning.name}: may stay under the pad` }
      : { verdict: 'out', text: `${found.meaning.name}, unsuitable: dig out at least ${said.small(found.undercut)} and replace` }
  },
  line(entry, reader, { layout }) {
    const found = identifySoil(entry.data.answers, tableOf(layout.plan))
    const over = `${formatStation(entry.data.from, reader.units)} to ${formatStation(entry.data.to, reader.units)}`
    return `Soil ${over}: ${found.meaning.name.toLowerCase()} (${found.because[0]})${found.stop ? ', work stopped' : found.suitable ? '' : `, undercut ${formatSmall(found.undercut, reader.units)}`}`
  },
})
