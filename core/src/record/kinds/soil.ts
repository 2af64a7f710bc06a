import { fail, ok } from '../../base/result'
import { said } from '../../base/said'
import { choice, type InferType, optionalChoice, optionalQuantity, optionalText, quantity, record, text } from '../../base/schema'
import { identifySoil, type SoilAnswers, soilQuestions } from '../../ground'
import type { Plan } from '../../plan'
import { limitsOf, plantRule, tableOf } from '../../rules'
import { formatSmall, formatStation } from '../../units/length'
import type { Entry, Verdict } from '../entry'
import { BUILDERS, defineKind, judged } from './kind'

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

/** Values of a soil report, entered once with their source: degrees, kN/m³, kPa. */
export const soilReportData = record({
  zone: choice(['retained', 'reinforced', 'foundation'] as const),
  phi: quantity({ min: 0, max: 50, unit: '°' }),
  gamma: quantity({ min: 8, max: 30, unit: 'kN/m³' }),
  c: quantity({ min: 0, max: 500, unit: 'kPa' }),
  source: text(160),
})
export type SoilReportData = InferType<typeof soilReportData>
export const soilReport = defineKind({
  kind: 'soil-report',
  roles: ['foreman', 'inspector', 'office'],
  schema: soilReportData,
  line: ({ data: d }) => `Soil report, ${d.zone} soil: ${d.phi}°, ${said.weight(d.gamma)}, ${said.pressure(d.c)} (${d.source})`,
})

/** Bad soil dug out and replaced. Stations and depth m. */
export const undercutData = record({
  from: quantity({ min: 0, max: 2000, unit: 'm' }),
  to: quantity({ min: 0, max: 2000, unit: 'm' }),
  depth: quantity({ min: 0.02, max: 5, unit: 'm' }),
  fill: text(80),
  passes: quantity({ min: 0, max: 40, whole: true }),
  fabricLap: optionalQuantity({ min: 0, max: 3, unit: 'm' }),
  note: optionalText(200),
  /** How firm grown ground was seen at the bottom; or the engineer of record's word for going no deeper. */
  firm: optionalChoice(['heel', 'bar', 'proof-roll'] as const),
  engineer: optionalText(160),
  /** What it was filled with, and in how many lifts. */
  material: optionalChoice(['pad-material', 'clean-stone', 'lean-concrete', 'site-soil'] as const),
  lifts: optionalQuantity({ min: 1, max: 60, whole: true }),
})
export type UndercutData = InferType<typeof undercutData>
/** An undercut goes down to ground somebody saw to be firm, or as deep as the engineer of record says, and is filled with what carries. */
function judgeUndercut(d: UndercutData, of: Entry | undefined, plan: Plan): Verdict {
  const bad = of?.kind === 'soil' ? (of.data as SoilData) : undefined
  const wanted = bad ? identifySoil(bad.answers, tableOf(plan)).undercut : 0
  const poured = d.material === 'lean-concrete'
  const rule = plantRule(plan, 'heavy-plate', 'granular')
  const word = !!d.engineer?.trim()
  return judged(
    [
      !d.firm && !word && 'nobody says that firm ground was seen at the bottom, by heel, bar or proof roll; or give the engineer’s word',
      d.depth < wanted - 0.005 && !word && `${said.small(d.depth)} dug out, at least ${said.small(wanted)}`,
      bad &&
        (d.from > bad.from + 0.05 || d.to < bad.to - 0.05) &&
        `dug out ${said.given(d.from)} to ${said.given(d.to)}, but the bad soil runs ${said.given(bad.from)} to ${said.given(bad.to)}`,
      !d.material && 'nobody says what it was filled with',
      d.material === 'site-soil' && !word && 'filled with soil of the site: only by the engineer’s word',
      !poured && d.passes < rule.passes && `${d.passes} passes a lift, at least ${rule.passes}`,
      !poured &&
        d.depth / (d.lifts ?? 1) > rule.compacted + 0.0005 &&
        `${said.small(d.depth)} in ${d.lifts ?? 'nobody says how many'} ${d.lifts === 1 ? 'lift' : 'lifts'}, at most ${said.small(rule.compacted)} each`,
    ],
    `${said.small(d.depth)} replaced with ${d.fill}${word ? `, by ${d.engineer}` : ', on firm ground'}`,
  )
}

export const undercut = defineKind({
  kind: 'undercut',
  closes: ['soil', 'undercut'],
  beside: true,
  roles: BUILDERS,
  schema: undercutData,
  check({ data, recheckOf }, { find, layout }) {
    if (data.to <= data.from) return fail('data.to', `must be beyond ${said.given(data.from)}, not ${said.given(data.to)}`)
    const of = recheckOf ? find(recheckOf) : undefined
    if (of?.kind === 'soil' && identifySoil((of.data as SoilData).answers, tableOf(layout.plan)).stop)
      return fail('recheckOf', 'that is a stop: digging does not answer it. The owner of the line or a competent person says by name that it is safe')
    return ok(true)
  },
  judge(entry, { find, layout }) {
    const d = entry.data
    if (tableOf(layout.plan) > 1) return judgeUndercut(entry.data, entry.recheckOf ? find(entry.recheckOf) : undefined, layout.plan)
    const { passes } = limitsOf(layout.plan)
    if (d.passes < passes.value) return { verdict: 'out', text: `${d.passes} passes on the fill, at least ${passes.value}` }
    const of = entry.recheckOf ? find(entry.recheckOf) : undefined
    if (of?.kind === 'soil') {
      const bad = of.data as SoilData
      const wanted = identifySoil(bad.answers, 1).undercut
      if (d.depth < wanted - 0.005) return { verdict: 'out', text: `${said.small(d.depth)} dug out, at least ${said.small(wanted)}` }
      if (d.from > bad.from + 0.05 || d.to < bad.to - 0.05) {
        return {
          verdict: 'out',
          text: `dug out ${said.given(d.from)} to ${said.given(d.to)}, but the bad soil runs ${said.given(bad.from)} to ${said.given(bad.to)}`,
        }
      }
    }
    return { verdict: 'ok', text: `${said.small(d.depth)} replaced with ${d.fill}` }
  },
  line(entry, reader) {
    const d = entry.data
    return `Undercut ${formatStation(d.from, reader.units)} to ${formatStation(d.to, reader.units)}: ${formatSmall(d.depth, reader.units)} dug out, ${d.fill}, ${d.passes} passes`
  },
})
