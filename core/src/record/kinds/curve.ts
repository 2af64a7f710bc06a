import { fail, ok, type Result } from '../../base/result'
import { said } from '../../base/said'
import { type InferType, list, optionalChoice, optionalQuantity, optionalRecord, quantity, record, text } from '../../base/schema'
import { type Curve, coarseCorrection, fitCurve } from '../../ground'
import { tableOf } from '../../rules'
import { defineKind } from './kind'

/** A laboratory curve of one material. Moisture and oversize per cent, dry density kg/m³. */
export const curveData = record({
  name: text(80),
  points: list(record({ moisture: quantity({ min: 0, max: 100, unit: '%' }), dryDensity: quantity({ min: 500, max: 3500, unit: 'kg/m³' }) }), 4, 40),
  gs: optionalQuantity({ min: 1.5, max: 4 }),
  oversize: optionalRecord({
    share: quantity({ min: 0, max: 100, unit: '%' }),
    gs: quantity({ min: 1.5, max: 4 }),
    moisture: quantity({ min: 0, max: 30, unit: '%' }),
    /** The sieve the laboratory took the stones off with, mm: each correction holds to a share of its own. */
    sieve: optionalChoice(['4.75', '19'] as const),
  }),
  source: text(160),
})
export type CurveData = InferType<typeof curveData>

const fitted = new WeakMap<object, Result<Curve>>()
/** Optimum and maximum of a curve entry, its stones corrected for; fitted once. */
export function curveOf(d: CurveData): Result<Curve> {
  let result = fitted.get(d)
  if (!result) {
    const fit = fitCurve({ points: d.points, ...(d.gs == null ? {} : { gs: d.gs }) })
    result = fit.ok && d.oversize ? coarseCorrection(fit.value, d.oversize) : fit
    fitted.set(d, result)
  }
  return result
}

export const curve = defineKind({
  kind: 'curve',
  roles: ['foreman', 'inspector', 'office'],
  schema: curveData,
  check(entry, { layout }) {
    const stones = entry.data.oversize
    // Each sieve has a share of its own up to which its correction holds (common test standards); unsaid, the lower.
    const most = stones?.sieve === '4.75' ? 40 : 30
    if (stones && tableOf(layout.plan) > 1 && stones.share > most)
      return fail(
        'data.oversize.share',
        `is ${stones.share} %; stones off the sieve of ${stones.sieve ?? '19'} mm are corrected for up to ${most} %. Beyond that, a method record`,
      )
    const made = curveOf(entry.data)
    return made.ok ? ok(true) : { ok: false, problems: made.problems.map((p) => ({ ...p, field: `data.${p.field}` })) }
  },
  line({ data }) {
    const made = curveOf(data)
    return `Laboratory curve ${data.name}: ${made.ok ? `${said.density(made.value.maximumDryDensity)} at ${made.value.optimumMoisture.toFixed(1)} %` : 'no curve'} (${data.source})`
  },
})
