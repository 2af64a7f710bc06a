import { fail, ok } from '../../base/result'
import { said } from '../../base/said'
import { choice, type InferType, optionalQuantity, optionalText, quantity, record, text, type yup } from '../../base/schema'
import { identifySoil, SOIL_QUESTIONS, type SoilAnswers } from '../../ground'
import { formatSmall, formatStation } from '../../units/length'
import { BUILDERS, defineKind } from './kind'

const answers = (id: keyof SoilAnswers) => choice((SOIL_QUESTIONS.find((q) => q.id === id)?.answers ?? []).map((a) => a[0]))

/** A soil as a hand found it; its class follows from the answers. Stations m. */
export const soilData = record({
  answers: record({
    grain: answers('grain'),
    ribbon: answers('ribbon'),
    feel: answers('feel'),
    colour: answers('colour'),
    smell: answers('smell'),
    water: answers('water'),
  }),
  from: quantity({ min: 0, max: 2000, unit: 'm' }),
  to: quantity({ min: 0, max: 2000, unit: 'm' }),
})
export type SoilData = Omit<InferType<typeof soilData>, 'answers'> & { readonly answers: SoilAnswers }
/** Dug out where soil does not carry: the verdict stays out until an undercut over the stretch re-checks it. */
export const soil = defineKind<SoilData>({
  kind: 'soil',
  beside: true,
  roles: BUILDERS,
  schema: soilData as unknown as yup.ISchema<SoilData>,
  judge(entry) {
    const found = identifySoil(entry.data.answers)
    return found.suitable
      ? { verdict: 'ok', text: `${found.meaning.name}: may stay under the pad` }
      : { verdict: 'out', text: `${found.meaning.name}, unsuitable: dig out at least ${said.small(found.undercut)} and replace` }
  },
  line(entry, reader) {
    const found = identifySoil(entry.data.answers)
    const over = `${formatStation(entry.data.from, reader.units)} to ${formatStation(entry.data.to, reader.units)}`
    return `Soil ${over}: ${found.meaning.name.toLowerCase()} (${found.because[0]})${found.suitable ? '' : `, undercut ${formatSmall(found.undercut, reader.units)}`}`
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
export const soilReport = defineKind<SoilReportData>({
  kind: 'soil-report',
  roles: ['foreman', 'inspector', 'office'],
  schema: soilReportData as unknown as yup.ISchema<SoilReportData>,
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
})
export type UndercutData = InferType<typeof undercutData>
export const undercut = defineKind<UndercutData>({
  kind: 'undercut',
  closes: ['soil', 'undercut'],
  beside: true,
  roles: BUILDERS,
  schema: undercutData as unknown as yup.ISchema<UndercutData>,
  check: ({ data }) => (data.to > data.from ? ok(true) : fail('data.to', `must be beyond ${said.given(data.from)}, not ${said.given(data.to)}`)),
  judge(entry, { find }) {
    const d = entry.data
    if (d.passes < 2) return { verdict: 'out', text: `${d.passes} passes on the fill, at least 2` }
    const of = entry.recheckOf ? find(entry.recheckOf) : undefined
    if (of?.kind === 'soil') {
      const bad = of.data as SoilData
      const wanted = identifySoil(bad.answers).undercut
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
