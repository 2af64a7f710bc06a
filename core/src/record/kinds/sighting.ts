import { fail, ok } from '../../base/result'
import { said } from '../../base/said'
import { type InferType, optionalQuantity, record } from '../../base/schema'
import { formatDeviation, formatStation } from '../../units/length'
import { limitAt, readPointByPoint } from '../target'
import { defineKind, MEASURERS } from './kind'

/**
 * The instrument run along a whole course: the largest deviation met (m; + is high, out or back) and, in `where`, its station if somebody said it.
 * Without a number: sighted along, nothing met over the limit. It stands for every point that was not read by itself.
 */
export const sightingData = record({ worst: optionalQuantity({ min: -0.5, max: 0.5, unit: 'm' }) })
export type SightingData = InferType<typeof sightingData>

export const sighting = defineKind({
  kind: 'sighting',
  roles: MEASURERS,
  schema: sightingData,
  work: 'readings',
  check(entry, { layout, stage }) {
    if (stage?.work.type !== 'readings') return ok(true)
    // What every course above copies, what lies on the pad and what is buried for good is read point by point.
    if (stage.scope !== 'course' || stage.when === 'first' || readPointByPoint(layout, stage, entry.where.section ?? '', entry.where.course ?? 0)) {
      return fail('kind', `${stage.title} here is read point by point; it cannot be sighted along`)
    }
    const { worst } = entry.data
    if (stage.work.sense === 'level' && worst === undefined) return fail('data.worst', 'is missing; level is a number')
    if (worst !== undefined && Math.abs(worst) > limitAt(layout, stage, entry.where).value + 0.0001 && entry.where.station === undefined) {
      return fail('where.station', 'is missing; what is over the limit is put right where it was met, so say where')
    }
    return ok(true)
  },
  judge(entry, { layout, stage }) {
    if (stage?.work.type !== 'readings') return undefined
    const limit = limitAt(layout, stage, entry.where).value
    const { worst } = entry.data
    if (worst === undefined) return { verdict: 'ok', text: `nothing over ±${said.small(limit)}` }
    const words = said.deviation(worst, stage.work.sense)
    return { verdict: Math.abs(worst) <= limit + 0.0001 ? 'ok' : 'out', deviation: worst, text: `${words}, limit ±${said.small(limit)}` }
  },
  line(entry, reader, { stage }) {
    const sense = stage?.work.type === 'readings' ? stage.work.sense : 'level'
    const { worst } = entry.data
    const at = entry.where.station === undefined ? '' : ` at ${formatStation(entry.where.station, reader.units)}`
    return `${stage?.title ?? 'Course'} run along: ${worst === undefined ? 'nothing over the limit' : `most ${formatDeviation(worst, sense, reader.units)}${at}`}`
  },
})
