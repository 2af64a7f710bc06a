import {
  formatLength,
  formatSmall,
  HOLDS,
  type Holds,
  limitDef,
  type Plan,
  type Problem,
  parseAmount,
  typedAmount,
  type UnitSystem,
} from '@stone-tally/core'
import type { Draft } from './draft-fields'

/** What stands round the wall and what its drawing sets itself, as texts of the form. */
export type Surroundings = Pick<Draft, 'engineerBy' | 'holds' | 'frontSlope' | 'frontErodible' | 'frost' | 'limits'>

/** How a limit of the drawing is measured; undefined where it is a number of its own. */
export function measureOfLimit(limit: string): 'small' | 'mass' | 'temperature' | 'pressure' | undefined {
  const of = limitDef(limit)?.of
  return of === 'length' ? 'small' : of === 'mass' || of === 'temperature' || of === 'pressure' ? of : undefined
}

export function surroundingsOf(plan: Plan, units: UnitSystem): Surroundings {
  const small = (m: number) => (units === 'metric' ? `${+(m * 1000).toFixed(3)}` : formatSmall(m, units))
  const shownLimit = (limit: string, value: number) => {
    const measure = measureOfLimit(limit)
    return measure === 'small' ? small(value) : measure ? typedAmount(value, measure, units) : `${value}`
  }
  return {
    engineerBy: plan.engineerBy ?? '',
    holds: plan.holds === undefined ? '' : plan.holds.length === 0 ? 'none' : plan.holds.join(','),
    frontSlope: plan.front ? `${plan.front.slope}` : '',
    frontErodible: plan.front ? (plan.front.erodible ? 'yes' : 'no') : '',
    frost: plan.frost === undefined ? '' : units === 'metric' ? `${plan.frost}` : formatLength(plan.frost, units),
    limits: (plan.rules?.limits ?? []).map((l, was) => ({
      was,
      limit: l.limit,
      value: shownLimit(l.limit, l.value),
      source: l.source,
    })),
  }
}

/** @example holdsRead('slope,water') // ['slope', 'water'] */
export const holdsRead = (text: string): Holds[] | undefined => (text === '' ? undefined : HOLDS.filter((h) => text.split(',').includes(h)))

export function frontRead(
  draft: Draft,
  shown: Draft | undefined,
  base: Plan['front'],
  number: (field: string, value: string) => number,
): Plan['front'] {
  if (shown && draft.frontSlope === shown.frontSlope && draft.frontErodible === shown.frontErodible) return base
  if (!draft.frontSlope.trim() && !draft.frontErodible) return undefined
  return { slope: number('frontSlope', draft.frontSlope.trim() || '0'), erodible: draft.frontErodible === 'yes' }
}

/** The rules of the plan with the limits of its drawing as they are typed; a line nobody touched stays to the last digit. */
export function rulesRead(draft: Draft, shown: Draft | undefined, rules: Plan['rules'], units: UnitSystem, problems: Problem[]): Plan['rules'] {
  const own = rules?.limits
  if (shown && JSON.stringify(draft.limits) === JSON.stringify(shown.limits)) return rules
  const limits = draft.limits.map((l, i) => {
    const before = l.was === undefined ? undefined : own?.[l.was]
    const asShown = l.was === undefined ? undefined : shown?.limits[l.was]
    if (before && asShown && asShown.limit === l.limit && asShown.value === l.value) return { ...before, source: l.source.trim() }
    const field = `limits.${i}.value`
    const measure = measureOfLimit(l.limit)
    const read = measure ? parseAmount(l.value, measure, units) : undefined
    if (read && !read.ok) problems.push(...read.problems.map((p) => ({ ...p, field })))
    const plainly = Number(l.value.replace(',', '.'))
    if (!read && (l.value.trim() === '' || !Number.isFinite(plainly)))
      problems.push({ field, message: l.value.trim() === '' ? 'is missing' : `"${l.value}" is not a number` })
    return { limit: l.limit, value: read ? (read.ok ? read.value : 0) : Number.isFinite(plainly) ? plainly : 0, source: l.source.trim() }
  })
  if (limits.length > 0) return { ...rules, limits }
  if (!rules) return undefined
  const { limits: _, ...rest } = rules
  return Object.keys(rest).length > 0 ? rest : undefined
}
