import { fail, ok } from '../../base/result'
import { type InferType, optionalText, quantity, record } from '../../base/schema'
import { ROLES, since } from '../../rules'
import { fullDay } from '../../units/day'
import { dayText } from '../item'
import { defineKind } from './kind'

/** A day somebody was told: when the wall will be done, and with what odds by the reckoning of then. */
export const promiseData = record({
  finish: dayText(),
  /** Of a hundred. */
  odds: quantity({ min: 1, max: 99, unit: '%' }),
  to: optionalText(120),
})
export type PromiseData = InferType<typeof promiseData>

export const promise = defineKind({
  kind: 'promise',
  roles: ROLES.filter((r) => r === 'foreman' || r === 'office'),
  schema: promiseData,
  check({ data: d, supersedes }, { of, layout }) {
    if (!since(layout.plan, 3)) return ok(true)
    const said = of('promise')
    const last = said[said.length - 1]?.entry.data as PromiseData | undefined
    const again = !supersedes && last && last.finish === d.finish && (last.to ?? '') === (d.to ?? '') && Math.round(last.odds) === Math.round(d.odds)
    return again ? fail('data.finish', `${fullDay(d.finish)} is promised already${d.to ? ` to ${d.to}` : ''}; it stands`) : ok(true)
  },
  line: ({ data: d }) => `Promised${d.to ? ` to ${d.to}` : ''}: done by ${fullDay(d.finish)}, ${Math.round(d.odds)} % likely`,
})
