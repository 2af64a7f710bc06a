import { fail, ok } from '../../base/result'
import { said } from '../../base/said'
import { choice, type InferType, list, optionalText, quantity, record, text, yesNo } from '../../base/schema'
import { bedOf } from '../../layout'
import { since } from '../../rules'
import { formatSmall, formatStation } from '../../units/length'
import { BUILDERS, covers, defineKind, judged } from './kind'

/** How an end of a stretch is left. */
export const PIPE_ENDS = [
  ['outlet', 'Outlet'],
  ['joined', 'Joined on'],
  ['tee', 'Tee'],
  ['cap', 'Capped, wrapped'],
  ['open', 'Open'],
] as const
const ENDS = PIPE_ENDS.map(([id]) => id)

/** A stretch of pipe as it lies, before anything covers it; stations, diameter and bed in m. */
export const pipeData = record({
  from: quantity({ min: 0, max: 2000, unit: 'm' }),
  to: quantity({ min: 0, max: 2000, unit: 'm' }),
  diameter: quantity({ min: 0.02, max: 1, unit: 'm' }),
  bed: quantity({ min: 0, max: 1, unit: 'm' }),
  sock: yesNo(),
  start: choice(ENDS),
  end: choice(ENDS),
  laps: choice(['with', 'against'] as const),
  confirmed: list(text(40), 0, 20),
  note: optionalText(200),
})
export type PipeData = InferType<typeof pipeData>

/** As near to a planned outlet an end of a stretch is that outlet's, m. */
const AT_OUTLET = 0.3
/** Ends at a planned outlet that are none. */
const endsWrong = (d: PipeData, outlets: readonly { readonly station: number }[]): string[] =>
  (
    [
      [d.from, d.start],
      [d.to, d.end],
    ] as const
  ).flatMap(([station, end]) =>
    outlets.some((o) => Math.abs(o.station - station) <= AT_OUTLET) && end !== 'outlet' && end !== 'tee'
      ? [`its end at ${said.station(station)} is ${end === 'cap' ? 'capped' : end === 'joined' ? 'joined on' : 'open'}, where the plan has an outlet`]
      : [],
  )

export const pipe = defineKind({
  kind: 'pipe',
  roles: BUILDERS,
  schema: pipeData,
  work: 'pipe',
  check(entry, { layout }) {
    const { from, to } = entry.data
    const own = layout.plan.sections.find((s) => s.id === entry.where.section)
    if (to - from < 0.05) return fail('data.to', `${said.given(to)} is not beyond ${said.given(from)}`)
    if (own && (from < own.from - 0.05 || to > own.to + 0.05)) {
      return fail(from < own.from - 0.05 ? 'data.from' : 'data.to', `section ${own.id} runs from ${said.given(own.from)} to ${said.given(own.to)}`)
    }
    return ok(true)
  },
  again: (entry, finding) => covers(entry.data, finding.data),
  judge(entry, { layout, stage }) {
    const d = entry.data
    const { plan } = layout
    const { drain } = layout.building
    const mm = (v: number) => said.small(v)
    const bed = bedOf(plan)
    const missing = stage?.work.type === 'pipe' ? stage.work.items.filter((i) => !d.confirmed.includes(i.id)) : []
    return judged(
      [
        drain && d.diameter < drain.diameter - 0.005 && `pipe of ${mm(d.diameter)}, the plan wants ${mm(drain.diameter)}`,
        d.bed < bed - 0.005 && `bed of ${mm(d.bed)}, at least ${mm(bed)}`,
        (d.start === 'open' || d.end === 'open') && 'an open end takes in soil; cap and wrap it',
        ...(since(plan, 3) ? endsWrong(d, drain?.outlets ?? []) : []),
        d.laps === 'against' && 'laps against the flow catch soil; turn them with it',
        plan.water?.sock === true && !d.sock && 'laid without a sock, the plan wants one',
        missing.length > 0 && `not confirmed: ${missing.map((i) => i.text.toLowerCase()).join('; ')}`,
      ],
      'as planned',
    )
  },
  line(entry, reader) {
    const d = entry.data
    const name = (id: string) => PIPE_ENDS.find((e) => e[0] === id)?.[1].toLowerCase()
    const over = `${formatStation(d.from, reader.units)} to ${formatStation(d.to, reader.units)}`
    return `Pipe ${formatSmall(d.diameter, reader.units)} laid ${over}, bed ${formatSmall(d.bed, reader.units)}, ${d.sock ? 'sock' : 'no sock'}, ${name(d.start)} to ${name(d.end)}, laps ${d.laps} the flow${d.note ? ` (${d.note})` : ''}`
  },
})
