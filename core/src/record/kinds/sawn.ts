import { choice, type InferType, quantity, record } from '../../base/schema'
import { formatLength, formatStation } from '../../units/length'
import { BUILDERS, defineKind } from './kind'

/** A piece cut for a place: its course and station, its length on the face, what kind of cut. m. */
export const sawnData = record({
  length: quantity({ min: 0.01, max: 5, unit: 'm' }),
  kind: choice(['cut', 'half', 'mitre'] as const),
})
export type SawnData = InferType<typeof sawnData>

/** Stands where its piece will: section, course and station; it belongs to no stage, a saw day is of many courses. */
export const sawn = defineKind({
  kind: 'sawn',
  roles: BUILDERS,
  schema: sawnData,
  line: ({ where, data }, reader) =>
    `Sawn${where.course === undefined ? '' : ` for course ${where.course}`}${where.section ? ` of ${where.section}` : ''}${where.station === undefined ? '' : ` at ${formatStation(where.station, reader.units)}`}: ${formatLength(data.length, reader.units, 3)}${data.kind === 'mitre' ? ', mitred' : ''}`,
})
