import { fail, ok, type Result } from '../../base/result'
import { said } from '../../base/said'
import { choice, type InferType, optionalChoice, optionalQuantity, optionalRecord, optionalText, quantity, record } from '../../base/schema'
import { type Curve, GRAINS, gaugeReading, judgeDensity, looksLikeShare, sandCone, standardCounts, WINDOWS } from '../../ground'
import type { Layout } from '../../layout'
import { limitsOf, type Ruled, schoolBy, tableOf } from '../../rules'
import type { Stage } from '../../systems'
import { formatStation } from '../../units/length'
import type { Entry } from '../entry'
import { type CurveData, curveOf } from './curve'
import { type Context, defineKind, MEASURERS } from './kind'

const mass = () => quantity({ min: 0, max: 100, unit: 'kg' })
/**
 * A density test of a lift in place: by sand cone, by gauge, or a method record where the material cannot be tested. Masses kg,
 * densities kg/m³, moisture per cent.
 */
export const densityData = record({
  method: choice(['sand-cone', 'gauge', 'record'] as const),
  lift: quantity({ min: 0, max: 100, whole: true }),
  curve: optionalText(36),
  cone: optionalRecord({
    massBefore: mass(),
    massAfter: mass(),
    coneMass: mass(),
    sandDensity: quantity({ min: 500, max: 3000, unit: 'kg/m³' }),
    soilMass: mass(),
    moisture: quantity({ min: 0, max: 100, unit: '%' }),
  }),
  gauge: gaugeReading.notRequired().default(undefined),
  /** What was seen, where nothing can be measured: passes with which plant until nothing moved any more. */
  seen: optionalText(300),
  /** Why it cannot be tested, asked since rule table 2: stone without fines, or more coarse stones than a test can take (per cent). */
  untestable: optionalChoice(['open-graded', 'oversize'] as const),
  oversize: optionalQuantity({ min: 0, max: 100, unit: '%' }),
}).test('method', 'each method has its own values: cone, gauge, or what was seen', (d) =>
  d == null ? true : d.method === 'sand-cone' ? d.cone != null : d.method === 'gauge' ? d.gauge != null : !!d.seen,
)
export type DensityData = InferType<typeof densityData>

/** A test worked out against its curve. kg/m³ and per cent. */
export interface DensityResult {
  readonly dryDensity: number
  readonly moisture: number
  readonly relative: number
  readonly out: boolean
  readonly text: string
  readonly curve: Curve
}

/**
 * Works a density test out.
 *
 * @returns undefined for a method record
 */
export function densityOf(
  entry: Entry<string, DensityData>,
  { stage, find, layout }: Pick<Context, 'stage' | 'find'> & { layout?: { readonly plan: Ruled } },
): Result<DensityResult | undefined> {
  const d = entry.data
  if (d.method === 'record') return ok(undefined)
  const of = d.curve ? find(d.curve) : undefined
  if (of?.kind !== 'curve') return fail('data.curve', 'is missing; choose the laboratory curve of this material, or enter it first')
  const lab = of.data as CurveData
  const made = curveOf(lab)
  if (!made.ok) return made
  let dryDensity: number
  let moisture: number
  if (d.method === 'sand-cone' && d.cone) {
    const r = sandCone({ ...d.cone, maximumDryDensity: made.value.maximumDryDensity })
    if (!r.ok) return { ok: false, problems: r.problems.map((p) => ({ ...p, field: `data.cone.${p.field}` })) }
    dryDensity = r.value.dryDensity
    moisture = d.cone.moisture
  } else if (d.gauge) {
    moisture = d.gauge.moisture
    if (looksLikeShare(moisture))
      return fail('data.gauge.moisture', `${moisture} looks like a share; moisture is in per cent, so write ${+(moisture * 100).toFixed(4)}`)
    dryDensity = d.gauge.wetDensity / (1 + moisture / 100)
  } else return fail('data', 'has no values')
  const window = stage?.work.type === 'lifts' && stage.work.of === 'backfill' ? WINDOWS.backfill : WINDOWS.pad
  const judged = judgeDensity({ dryDensity, moisture }, made.value, limitsOf(layout?.plan ?? {}).compaction.value, window, lab.gs ?? GRAINS)
  const counts = d.gauge ? standardCounts(d.gauge) : []
  return ok({
    dryDensity,
    moisture,
    relative: judged.relative,
    out: judged.out || counts.length > 0,
    text: [judged.text, ...counts].join('; '),
    curve: made.value,
  })
}

/** A method record serves only what cannot be tested: the plan or the stones say so, not convenience. */
function checkRecord(d: DensityData, { layout, stage }: Context): Result<true> {
  const { plan } = layout
  if (d.method !== 'record' || tableOf(plan) === 1) return ok(true)
  const pad = stage?.work.type === 'lifts' && stage.work.of === 'pad'
  // Where the rules prove the pad by method, that is what is asked of it; one record a lift all the same.
  if (pad && schoolBy(plan, 'pad-test') === 'method') return ok(true)
  const limit = limitsOf(plan).oversize.value
  if (d.untestable === undefined)
    return fail(
      'data.untestable',
      `is missing; a method record serves stone without fines, or fill with over ${limit} % of coarse stones. Test anything else`,
    )
  if (d.untestable === 'open-graded' && pad && !layout.building.foundation.drains)
    return fail(
      'data.untestable',
      `the pad of the plan is ${layout.building.foundation.kind.replace('-', ' ')}, which can be tested: by sand cone or gauge`,
    )
  if (d.untestable === 'oversize' && d.oversize == null) return fail('data.oversize', 'is missing; give the share of coarse stones in per cent')
  if (d.untestable === 'oversize' && (d.oversize ?? 0) <= limit)
    return fail('data.oversize', `${d.oversize} % of coarse stones can be tested; over ${limit} % a method record serves`)
  return ok(true)
}

/**
 * Is a stage's density proven by how it was done: a pad whose rules say so, or one without fines, which no test measures.
 *
 * @example provenByMethod(layout, layout.system.stages.find((s) => s.id === 'pad')) // false: a dense graded pad is tested
 */
export function provenByMethod(layout: Layout, stage: Stage | undefined): boolean {
  if (stage?.work.type !== 'lifts' || stage.work.of !== 'pad') return false
  return schoolBy(layout.plan, 'pad-test') === 'method' || layout.building.foundation.drains
}

export const density = defineKind({
  kind: 'density',
  beside: true,
  roles: MEASURERS,
  schema: densityData,
  check(entry, context) {
    const beyond = checkRecord(entry.data, context)
    if (!beyond.ok) return beyond
    const r = densityOf(entry, context)
    return r.ok ? ok(true) : r
  },
  again: (entry, { data }) =>
    entry.data.lift === data.lift
      ? undefined
      : { field: 'data.lift', message: `re-check lift ${data.lift}, where the finding is, not lift ${entry.data.lift}` },
  judge(entry, context) {
    const r = densityOf(entry, context)
    if (!r.ok) return undefined
    if (!r.value) return { verdict: 'ok', text: 'method record' }
    return { verdict: r.value.out ? 'out' : 'ok', text: r.value.text }
  },
  line(entry, reader, context) {
    const r = densityOf(entry, context)
    const at = entry.where.station === undefined ? '' : ` at ${formatStation(entry.where.station, reader.units)}`
    const lift = entry.data.lift > 0 ? `, lift ${entry.data.lift}` : ''
    if (!r.ok) return `Density test${at}${lift}`
    if (!r.value) return `Method record${at}${lift}: ${entry.data.seen}`
    const name = entry.data.method === 'gauge' ? 'Gauge' : 'Sand cone'
    return `${name}${at}${lift}: ${said.density(r.value.dryDensity)} at ${r.value.moisture} %, ${r.value.relative.toFixed(1)} %`
  },
})
