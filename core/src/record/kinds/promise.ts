import { type InferType, optionalText, quantity, record } from '../../base/schema'
import { ROLES } from '../../rules'
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
  line: ({ data: d }) => `Promised${d.to ? ` to ${d.to}` : ''}: done by ${d.finish}, in ${Math.round(d.odds)} of a hundred`,
})
