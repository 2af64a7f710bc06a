import { fail, ok } from '../../base/result'
import { choice, type InferType, optionalQuantity, optionalText, quantity, record } from '../../base/schema'
import { MACHINE_KINDS, MACHINES, ROLES } from '../../rules'
import { fullDay } from '../../units/day'
import { dayText, farDay, optionalDay } from '../item'
import { defineKind } from './kind'

/** Plant that is here from one day to another; its own, where it has no last day. Struck out when it is called off. */
export const hireData = record({
  plant: choice(MACHINE_KINDS),
  /** What it is called on this site: the three-tonner. */
  name: optionalText(60),
  count: quantity({ min: 1, max: 20, whole: true }),
  from: dayText(),
  /** The last day; without one it stays. */
  to: optionalDay(),
  supplier: optionalText(120),
  /** Of one for one day, in the company's own money; never asked for. */
  perDay: optionalQuantity({ min: 0, max: 1e6 }),
})
export type HireData = InferType<typeof hireData>

export const hire = defineKind({
  kind: 'hire',
  roles: ROLES.filter((r) => r === 'foreman' || r === 'office'),
  schema: hireData,
  check({ data: d, at }) {
    if (d.to !== undefined && d.to < d.from)
      return fail('data.to', `is ${fullDay(d.to)}, before it comes on ${fullDay(d.from)}; give its last day, or none`)
    const far = farDay(d.from, at)
    if (far) return fail('data.from', far)
    const long = farDay(d.to, at)
    return long ? fail('data.to', long) : ok(true)
  },
  line: ({ data: d }) =>
    `${d.to === undefined ? 'Here' : 'On hire'}: ${d.count > 1 ? `${d.count} × ` : ''}${d.name ?? MACHINES[d.plant].title.toLowerCase()}, ${fullDay(d.from)}${d.to === undefined ? ' and on' : ` to ${fullDay(d.to)}`}${d.supplier ? `, from ${d.supplier}` : ''}`,
})
