import { fail, ok, type Result } from '../base/result'
import { said } from '../base/said'
import { choice, type InferType, list, optionalQuantity, quantity, record } from '../base/schema'

/** A school of embedment depth; which fields it takes follows from its kind. Depths in m. */
export const embedmentSchema = record({
  kind: choice(['fixed', 'perHeight', 'fraction', 'courses'] as const),
  depth: optionalQuantity({ min: 0, max: 5, unit: 'm' }),
  base: optionalQuantity({ min: 0, max: 5, unit: 'm' }),
  perMetre: optionalQuantity({ min: 0, max: 2, unit: 'm per m' }),
  fraction: optionalQuantity({ min: 0, max: 1 }),
  count: optionalQuantity({ min: 0, max: 20, whole: true }),
})

export type EmbedmentRule = InferType<typeof embedmentSchema>

export const embedmentInput = record({
  exposedHeight: quantity({ min: 0, max: 100, unit: 'm' }),
  unitHeight: quantity({ min: 0, max: 5, unit: 'm' }),
  rules: list(embedmentSchema, 1, 20),
})
export type EmbedmentInput = InferType<typeof embedmentInput>

const FIELDS = { fixed: ['depth'], perHeight: ['base', 'perMetre'], fraction: ['fraction'], courses: ['count'] } as const
const ALL = ['depth', 'base', 'perMetre', 'fraction', 'count'] as const

/** Checks that each rule has just the fields of its kind. */
export function checkEmbedmentRules(rules: readonly EmbedmentRule[], at: string): Result<true> {
  for (const [i, rule] of rules.entries()) {
    const wanted: readonly string[] = FIELDS[rule.kind]
    for (const field of ALL) {
      if (wanted.includes(field) && rule[field] == null) return fail(`${at}[${i}].${field}`, `is missing; a ${rule.kind} rule needs it`)
      if (!wanted.includes(field) && rule[field] != null) {
        return fail(`${at}[${i}].${field}`, `${field} is not a field of a ${rule.kind} rule`)
      }
    }
  }
  return ok(true)
}

/**
 * Buried depth of the wall: the deepest of the chosen schools governs.
 *
 * @param input - exposed height and unit height in m
 * @returns depth (m), index of the first rule that gives it, and whole courses to bury (rounded up)
 * @example embedment({ exposedHeight: 2, unitHeight: 0.2, rules: [{ kind: 'fixed', depth: 0.15 }, { kind: 'fraction', fraction: 0.1 }] })
 * // depth 0.2, governing 1, courses 1
 */
export function embedment(input: EmbedmentInput): Result<{ depth: number; governing: number; courses: number }> {
  if (!(input.unitHeight > 0)) return fail('unitHeight', `must be over ${said.given(0)}, not ${said.given(input.unitHeight)}`)
  const checked = checkEmbedmentRules(input.rules, 'rules')
  if (!checked.ok) return checked
  let depth = Number.NEGATIVE_INFINITY
  let governing = 0
  for (const [i, rule] of input.rules.entries()) {
    const d = depthOf(rule, input)
    if (d > depth + 1e-12) {
      depth = d
      governing = i
    }
  }
  return ok({ depth, governing, courses: Math.ceil(depth / input.unitHeight - 1e-9) })
}

function depthOf(rule: EmbedmentRule, wall: { exposedHeight: number; unitHeight: number }): number {
  switch (rule.kind) {
    case 'fixed':
      return rule.depth ?? 0
    case 'perHeight':
      return (rule.base ?? 0) + (rule.perMetre ?? 0) * wall.exposedHeight
    case 'fraction':
      return (rule.fraction ?? 0) * wall.exposedHeight
    case 'courses':
      return (rule.count ?? 0) * wall.unitHeight
  }
}
