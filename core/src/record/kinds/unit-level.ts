import { fail, ok } from '../../base/result'
import { said } from '../../base/said'
import { type InferType, optionalQuantity, quantity, record } from '../../base/schema'
import { cellKey } from '../../layout'
import { limitsOf } from '../../rules'
import { formatSmall } from '../../units/length'
import { defineKind, judged, MEASURERS } from './kind'

const slope = () => optionalQuantity({ min: -0.1, max: 0.1, unit: 'm' })

/**
 * One unit of the first course under a spirit level: how far it is off over the unit, m. Along: + where the end of higher
 * stations is high. Across: + where the back is high. Diagonal: + where the back corner of higher stations is high against the front one of lower.
 */
export const unitLevelData = record({ unit: quantity({ min: 1, max: 5000, whole: true }), along: slope(), across: slope(), diagonal: slope() })
export type UnitLevelData = InferType<typeof unitLevelData>

export const unitLevel = defineKind({
  kind: 'unit-level',
  roles: MEASURERS,
  schema: unitLevelData,
  beside: true,
  check(entry, { layout }) {
    const cell = layout.cells.get(cellKey(entry.where.section ?? '', entry.where.course ?? 0))
    if (!cell || cell.pad === 'none') return fail('where.course', 'units are read one by one in a course that lies on the pad')
    const count = cell.pieces.length
    if (entry.data.unit > count) return fail('data.unit', `there are ${count} here, not ${entry.data.unit}`)
    const { along, across, diagonal } = entry.data
    if (along === undefined && across === undefined && diagonal === undefined)
      return fail('data.along', 'is missing; at least one of along, across, diagonal')
    return ok(true)
  },
  again: (entry, { data }) =>
    entry.data.unit === data.unit ? undefined : { field: 'data.unit', message: `re-check unit ${data.unit}, where the finding is` },
  judge(entry, { layout }) {
    const limit = limitsOf(layout.plan).unitLevel.value
    const { along = 0, across = 0, diagonal = 0 } = entry.data
    const sides = [
      ['along', along],
      ['across', across],
      ['corner to corner', diagonal],
    ] as const
    const off = (name: string, v: number) => `${said.small(v)} off ${name}, limit ±${said.small(limit)}`
    const [name, most] = sides.reduce((a, b) => (Math.abs(b[1]) > Math.abs(a[1]) ? b : a))
    return judged(
      sides.map(([n, v]) => Math.abs(v) > limit + 0.0001 && off(n, v)),
      off(name, most),
    )
  },
  line(entry, reader) {
    const { unit, along, across, diagonal } = entry.data
    const sign = (v: number) => `${v < 0 ? '−' : v > 0 ? '+' : ''}${formatSmall(Math.abs(v), reader.units)}`
    const parts = [
      along === undefined ? '' : `along ${sign(along)}`,
      across === undefined ? '' : `across ${sign(across)}`,
      diagonal === undefined ? '' : `diagonal ${sign(diagonal)}`,
    ]
    return `Unit ${unit} under the level: ${parts.filter(Boolean).join(', ')}`
  },
})
