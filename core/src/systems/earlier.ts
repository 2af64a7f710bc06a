import { choice, type InferType, optionalRecord, quantity, record, text } from '../base/schema'
import { type Plan, planFields } from '../plan'
import { parts } from './blocks'
import { unitSchema } from './unit'

const metres = (min: number, max: number) => quantity({ min, max, unit: 'm' })
const { system: _system, ...common } = planFields

/**
 * A plan as it was written before the part of a system was its own: every wall was of units on a pad with a pipe behind it, all in one.
 * Files and revisions of then are read for ever; what is stored, and its fingerprint, stay as they are.
 */
export const earlierPlanSchema = record({
  ...common,
  system: text(40),
  unit: unitSchema,
  waste: parts.waste,
  embedment: parts.embedment,
  pad: record({
    material: choice(['dense-graded', 'open-graded', 'sand', 'sand-cement', 'lean-concrete'] as const),
    thickness: metres(0.05, 1),
    width: metres(0.15, 4),
    maxLift: metres(0.03, 0.5),
    looseFactor: quantity({ min: 1, max: 2 }),
    minRun: metres(0, 50),
  }),
  stone: optionalRecord({ width: metres(0, 3) }).required('is missing'),
  drain: parts.drain.required('is missing'),
  gridRolls: parts.rolls,
  grid: parts.layers,
})
export type EarlierPlan = InferType<typeof earlierPlanSchema>

/** Was it written before a system had a part of its own? @example isEarlier({ system: 'gabion' }) // true */
export const isEarlier = (value: unknown): boolean =>
  value !== null && typeof value === 'object' && typeof (value as { system?: unknown }).system === 'string'

/** An earlier plan as it is worked with today: the same wall, to the last digit. */
export function upgraded(plan: EarlierPlan): Plan {
  const { system, unit, waste, embedment, pad, stone, drain, gridRolls, grid, ...rest } = plan
  const { material, thickness, width, minRun, maxLift, looseFactor } = pad
  return {
    ...rest,
    system: {
      id: system,
      data: {
        unit,
        foundation: { kind: material, thickness, width, minRun, lifts: { max: maxLift, loose: looseFactor } },
        embedment,
        stone,
        drain,
        layers: grid,
        ...(gridRolls ? { rolls: gridRolls } : {}),
        ...(waste ? { waste } : {}),
      },
    },
  }
}

/** Fields of today by what they were called: the first that fits is taken. */
const RENAMED: readonly (readonly [now: string, then: string])[] = [
  ['system.data.foundation.kind', 'pad.material'],
  ['system.data.foundation.lifts.max', 'pad.maxLift'],
  ['system.data.foundation.lifts.loose', 'pad.looseFactor'],
  ['system.data.foundation', 'pad'],
  ['system.data.rolls', 'gridRolls'],
  ['system.data.layers', 'grid'],
  ['system.data.', ''],
  ['system.id', 'system'],
]

/** A field of today's plan as an earlier file calls it. @example earlierField('system.data.layers[2].course') // 'grid[2].course' */
export function earlierField(field: string): string {
  const known = RENAMED.find(([now]) => field.startsWith(now))
  return known ? known[1] + field.slice(known[0].length) : field
}

const known = new WeakMap<object, Plan>()
/**
 * A plan revision as it is stored, worked with: what was written earlier is brought up to today, what is of today is taken as it is. The
 * stored one is not touched, and its fingerprint is that of the stored one. The same object for the same revision.
 *
 * @param stored - a plan that was read and issued once
 * @example storedPlan(JSON.parse(row.plan)).system.id
 */
export function storedPlan(stored: object): Plan {
  if (!isEarlier(stored)) return stored as Plan
  const before = known.get(stored)
  if (before) return before
  const plan = upgraded(stored as EarlierPlan)
  known.set(stored, plan)
  return plan
}
