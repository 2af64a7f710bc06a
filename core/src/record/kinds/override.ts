import { dayText } from '../../base/day'
import { fail, ok } from '../../base/result'
import { type InferType, optionalRecord, quantity, record, text } from '../../base/schema'
import { ended } from '../../base/sentence'
import { fullDay } from '../../units/day'
import { defineKind } from './kind'

/** A soft gate passed: the stage in `where` counts as passed, for a written reason. */
export const overrideData = record({
  reason: text(400),
  /** A strength that was tested, which opens a clock: found and wanted, N/mm²; the day of the test, and who tested it, by which paper. */
  strength: optionalRecord({
    value: quantity({ min: 0.1, max: 120, unit: 'N/mm²' }),
    wanted: quantity({ min: 0.1, max: 120, unit: 'N/mm²' }),
    on: dayText(),
    source: text(160),
  }),
})
export type OverrideData = InferType<typeof overrideData>
export const override = defineKind({
  kind: 'override',
  effect: { is: 'override' },
  roles: ['foreman'],
  schema: overrideData,
  check: ({ data: { strength: s } }) =>
    s && s.value < s.wanted
      ? fail('data.strength.value', `${s.value} N/mm² is under the ${s.wanted} N/mm² that is wanted; wait, and test again`)
      : ok(true),
  line: (e, _r, c) => {
    const { reason, strength: s } = e.data
    const tested = s ? ` Tested ${s.value} of ${s.wanted} N/mm² on ${fullDay(s.on)} (${s.source}).` : ''
    return `Went on past ${c.stage?.title.toLowerCase() ?? 'a gate'}: ${s ? ended(reason) : reason}${tested}`
  },
})
