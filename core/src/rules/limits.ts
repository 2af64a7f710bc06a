import type { Problem } from '../base/result'
import type { RuleBook } from './book'
import { DRAWING_LIMITS, drawingMay } from './definitions'
import { type Limit, type LimitName, type Limits, RULE_TABLE, shippedLimits } from './shipped'

/** What a plan says of the rules it is judged by. */
export interface Ruled {
  readonly ruleTable?: number | undefined
  readonly book?: RuleBook | undefined
  readonly rules?: { readonly limits?: readonly PlanLimit[] | undefined } | undefined
  readonly water?: { readonly bed?: number | undefined; readonly cover?: number | undefined } | undefined
}
/** A limit the drawing sets, with where it says so. */
export interface PlanLimit {
  readonly limit: string
  readonly value: number
  readonly source: string
}

/** @example tableOf({}) // 1: issued before tables had numbers */
export const tableOf = (plan: Ruled): number => plan.ruleTable ?? 1
/** Is a plan judged by a rule table or a later one? @example since({ ruleTable: 2 }, 3) // false */
export const since = (plan: Ruled, table: number): boolean => tableOf(plan) >= table

/** What a frozen book says other than its table, each with who said so and why. */
function bookLimits(book: RuleBook, table: Limits): [string, Limit][] {
  const by = new Map(book.set.map((s) => [s.rule, s]))
  return book.limits.flatMap(({ limit, value }): [string, Limit][] => {
    const shipped = Object.hasOwn(table, limit) ? table[limit as LimitName] : undefined
    const set = by.get(`limit.${limit}`)
    if (!shipped || (!set && shipped.value === value)) return []
    return [[limit, { value, reason: set ? `${LEVEL_WORDS[set.level]}: ${set.why}` : shipped.reason }]]
  })
}
const LEVEL_WORDS = { shipped: 'As it ships', company: 'A rule of the company', site: 'A rule of this site', wall: 'A rule of this wall' } as const

const effective = new WeakMap<Ruled, Limits>()
/**
 * The limits a plan revision is judged by: the table it was issued under, and what its drawing says otherwise.
 *
 * @example limitsOf(layout.plan).compaction.value // 95, or what the drawing asks for
 */
export function limitsOf(plan: Ruled): Limits {
  let found = effective.get(plan)
  if (!found) {
    const table = shippedLimits(plan.book?.shipped ?? tableOf(plan))
    const book = plan.book ? bookLimits(plan.book, table) : []
    // Bed and cover that the plan draws are judged as drawn; table 1 judged the standard cover.
    const water = [
      ['pipeBed', plan.water?.bed],
      ['pipeCover', plan.water?.cover],
    ] as const
    const asRuled = (name: LimitName) => book.find(([n]) => n === name)?.[1].value ?? table[name].value
    const drawn =
      tableOf(plan) === 1
        ? []
        : water.flatMap(([name, value]) =>
            // Less than the rules takes a drawing's limit with its reference, since table 3.
            value == null || (since(plan, 3) && value < asRuled(name)) ? [] : [[name, { value, reason: 'The plan draws it so.' }] as const],
          )
    const set = (plan.rules?.limits ?? []).map((l) => [l.limit, { value: l.value, reason: `The drawing says so: ${l.source}.` }])
    const own = [...book, ...drawn, ...set]
    found = own.length > 0 ? { ...table, ...Object.fromEntries(own) } : table
    effective.set(plan, found as Limits)
  }
  return found as Limits
}

/** Has the drawing set this limit itself? @example setByPlan(plan, 'passes')?.source */
export const setByPlan = (plan: Ruled, name: LimitName): PlanLimit | undefined => plan.rules?.limits?.find((l) => l.limit === name)

/** What is wrong with the limits a drawing sets, each with its field. */
export function checkLimits(plan: Ruled): Problem[] {
  const problems: Problem[] = []
  const seen = new Set<string>()
  for (const [i, l] of (plan.rules?.limits ?? []).entries()) {
    const at = `rules.limits[${i}]`
    const may = drawingMay(l.limit)?.range
    if (seen.has(l.limit)) problems.push({ field: `${at}.limit`, message: `"${l.limit}" is set twice` })
    seen.add(l.limit)
    if (!may) problems.push({ field: `${at}.limit`, message: `"${l.limit}" is not a limit a plan may set; it may set ${DRAWING_LIMITS.join(', ')}` })
    else if (l.value < may[0] || l.value > may[1])
      problems.push({ field: `${at}.value`, message: `must be ${may[0]} to ${may[1]}, not ${l.value}; is the unit right?` })
    if (l.source.trim().length < 3)
      problems.push({ field: `${at}.source`, message: 'is missing; name the drawing or specification that says so, with its number' })
  }
  const front = limitsOf(plan)
  if (front.gridFrontMin.value > front.gridFrontMax.value)
    problems.push({ field: 'rules.limits', message: 'the least distance of a layer from the face is over the most' })
  return problems
}

/**
 * A plan as it is issued today: under the table in force.
 *
 * @param table - an earlier one, where a wall of that day is looked at
 * @example issued(plan).ruleTable // 3
 */
export const issued = <P extends Ruled>(plan: P, table: number = RULE_TABLE): P & { ruleTable: number } => ({ ...plan, ruleTable: table })
