import { failAll, ok, type Problem, type Result } from '../base/result'
import { choice, type InferType, list, optionalList, optionalYesNo, quantity, record, text, yesNo } from '../base/schema'
import { choiceDef, choicesOf } from './choices'
import { kinder, limitDef } from './definitions'
import { ladderOf, milder, type Rung, rungOf, STEPS, WALL_FACTS } from './ladder'
import { type InspectionPoint, POINT_KINDS, POINTS, ROLES, type Role, shippedPoint } from './points'
import { type AddedPoint, addedPointSchema, CHANGE_FIELDS, checkRules, LEVEL_NAMES, LEVELS, type Level, limitSaid, type Rules } from './rule-file'
import { type LimitName, limitNames, RULE_TABLE, shippedLimits } from './shipped'
import { STARTS, type StartName } from './starts'

/** Points of one's own on a wall, of all its levels together. */
const MOST_ADDED = 100

/** The rules a revision is built and judged by, whole: every limit, choice and point, and who set what is not as it ships. */
export const ruleBookSchema = record({
  shipped: quantity({ min: 2, max: 1000, whole: true }),
  limits: list(record({ limit: text(40), value: quantity({}) }), 0, 300),
  choices: list(record({ choice: text(40), option: text(40) }), 0, 100),
  points: list(record({ point: text(40), kind: choice(POINT_KINDS), roles: list(choice(ROLES), 0, 4), own: yesNo() }), 0, 100),
  added: list(addedPointSchema, 0, MOST_ADDED),
  /** What the planner starts from; left out in books of before. */
  starts: optionalList(record({ start: text(40), value: quantity({}) }), 100),
  /** `limit.compaction`, `choice.adhesive`, `point.subgrade`: which level set it last. */
  /** What is firm and a drawing goes past, since rule table 3: the value that is firm, and whose it is. */
  clashes: optionalList(record({ limit: text(40), value: quantity({}), level: choice(LEVELS) }), 60),
  /** Whose wall a fact makes it, since rule table 3. */
  ladder: optionalList(record({ fact: choice(WALL_FACTS), low: choice(STEPS), higher: choice(STEPS) }), 60),
  set: list(record({ rule: text(90), level: choice(LEVELS), firm: optionalYesNo(), ...CHANGE_FIELDS }), 0, 600),
})
export type RuleBook = InferType<typeof ruleBookSchema>

/** What a wall's own plan changes: its drawing's limits with their reference, and schools, points and points of its own with a reason. */
export interface WallRules {
  readonly limits?: readonly { readonly limit: string; readonly value: number; readonly source: string }[] | undefined
  readonly choices?: Rules['choices']
  readonly points?: Rules['points']
  readonly added?: Rules['added']
  readonly openCourses?: number | undefined
  readonly pointSpacing?: number | undefined
}

/** Pairs whose first must not be over the second. */
const ORDERED: readonly (readonly [LimitName, LimitName])[] = [
  ['gridFrontMin', 'gridFrontMax'],
  ['overhangMin', 'overhangMax'],
  ['gabionStoneMin', 'gabionStoneMax'],
  ['manualOne', 'manualTwo'],
  ['manualTwo', 'liftingAid'],
]

/** How a limit that an approved drawing sets is told from others. */
const DRAWN = 'The drawing says so: '
const RANK: Readonly<Record<string, number>> = { off: 0, witness: 1, hold: 2 }
/** Does a point hold less than another: listed less, released by more people, or by who did the work? */
const lessOf = (a: Pick<InspectionPoint, 'kind' | 'roles' | 'own'>, b: Pick<InspectionPoint, 'kind' | 'roles' | 'own'>): boolean =>
  (RANK[a.kind] as number) < (RANK[b.kind] as number) || (b.kind === 'hold' && (a.roles.some((r) => !b.roles.includes(r)) || (a.own && !b.own)))

/** Who may release, from the least to the most. */
const HIGH: Readonly<Record<Role, number>> = { crew: 0, office: 0, foreman: 1, inspector: 2 }
/** What cannot be looked at later keeps at least a witness. */
const SEEN: ReadonlySet<string> = new Set(['subgrade', 'pad-level', 'first-course', 'geogrid', 'final'])
/** Why a point may not be made so much less of, since rule table 3; undefined where it may. */
function madeLess(id: string, p: Pick<InspectionPoint, 'kind' | 'roles' | 'own'>): string | undefined {
  const ships = shippedPoint(id)
  if (!ships) return undefined
  if (SEEN.has(id) && p.kind === 'off') return `${ships.title} keeps at least a witness. ${ships.reason}`
  const least = Math.min(...ships.roles.map((r) => HIGH[r]))
  const under = p.kind === 'hold' ? p.roles.find((r) => HIGH[r] < least) : undefined
  return under && SEEN.has(id)
    ? `${ships.title} is released by the ${ships.roles.join(' or ')}, not by the ${under}. ${ships.reason} A company of one person says so under “People in the company”.`
    : undefined
}

const named = (c: { by?: string | undefined }) => (c.by ? ` (${c.by})` : '')

/**
 * The effective rules of a wall: what ships, and over it what company, site and wall change.
 *
 * @param table - the shipped table it rests on; an earlier one where a wall of that day is looked at
 * @returns the whole book with who set what, or every change that does not fit, by level and field
 * @example resolveRules({ company }).value.limits.find((l) => l.limit === 'compaction')?.value // 97
 */
export function resolveRules(
  levels: { company?: Rules | undefined; site?: Rules | undefined; wall?: WallRules | undefined },
  table: number = RULE_TABLE,
): Result<RuleBook> {
  const shipped = shippedLimits(table)
  const limits = new Map<string, number>(limitNames(table).map((name) => [name, shipped[name].value]))
  const choices = new Map(choicesOf(table).map((c) => [c.id, c.standard]))
  const points = new Map(POINTS.map((p) => [p.id, { point: p.id, kind: p.kind, roles: [...p.roles], own: p.own }]))
  const starts = new Map<string, number>(Object.entries(STARTS).map(([name, d]) => [name, d.value]))
  const added = new Map<string, AddedPoint>()
  const rungs = new Map(ladderOf({}).map(({ fact, low, higher }) => [fact, { fact, low, higher }]))
  const set = new Map<string, RuleBook['set'][number]>()
  const problems: Problem[] = []
  const say = (level: Level, field: string, message: string) => problems.push({ field: `${level}.${field}`, message })
  const note = (rule: string, level: Level, c: { why: string; by?: string | undefined; on?: string | undefined; firm?: boolean | undefined }) => {
    const before = set.get(rule)
    set.set(rule, {
      rule,
      level,
      why: c.why,
      ...(c.by ? { by: c.by } : {}),
      ...(c.on ? { on: c.on } : {}),
      ...(c.firm || before?.firm ? { firm: true } : {}),
    })
  }
  /** Limits as they stood before a school set them: another school of the same choice gives them back. */
  const before = new Map<string, { choice: string; value: number; set: RuleBook['set'][number] | undefined }>()
  const bySchool = (level: Level, c: { choice: string; option: string }) => {
    for (const [limit, was] of before) {
      if (was.choice !== c.choice) continue
      limits.set(limit, was.value)
      if (was.set) set.set(`limit.${limit}`, was.set)
      else set.delete(`limit.${limit}`)
      before.delete(limit)
    }
    const def = choiceDef(c.choice)
    const school = def?.options.find((o) => o.id === c.option)
    for (const [limit, value] of Object.entries(school?.limits ?? {})) {
      const d = limitDef(limit)
      const own = set.get(`limit.${limit}`)
      const now = limits.get(limit) as number
      // What this level says of the limit itself goes before its school; what is firm above is not made kinder by one.
      if (!d || own?.level === level || (own?.firm && kinder(d, value, now))) continue
      before.set(limit, { choice: c.choice, value: now, set: own })
      limits.set(limit, value)
      note(`limit.${limit}`, level, { why: `${def?.title}: ${school?.title.toLowerCase()}.` })
    }
  }
  // A company that is one person has nobody to leave a point to.
  const alone = [levels.company, levels.site, levels.wall].some((l) => l?.choices?.some((c) => c.choice === 'crew' && c.option === 'one'))
  const clashes: NonNullable<RuleBook['clashes']>[number][] = []
  const levelsOf: readonly (readonly [Level, Rules | undefined])[] = [
    ['company', levels.company],
    ['site', levels.site],
    [
      'wall',
      levels.wall
        ? { format: 'stone-tally-rules', version: 1, shipped: table, ...levels.wall, limits: undefined, starts: undefined, ladder: undefined }
        : undefined,
    ],
  ]
  for (const [level, rules] of levelsOf) {
    if (!rules) continue
    for (const p of checkRules(rules)) say(level, p.field, p.message)
    for (const [i, l] of (rules.limits ?? []).entries()) {
      const d = limitDef(l.limit)
      const ships = shipped[l.limit as LimitName]
      if (!d || !ships) continue
      const above = limits.get(l.limit) as number
      const who = set.get(`limit.${l.limit}`)
      if (d.safety && (d.since ?? 1) <= table && kinder(d, l.value, ships.value))
        say(
          level,
          `limits[${i}].value`,
          `${limitSaid(d, l.value)} lets more pass than the ${limitSaid(d, ships.value)} that ships. ${ships.reason} ${
            d.safety === 'people' ? 'Nobody sets it kinder.' : 'Only a signed plan sets it kinder, for its own wall, with its reference.'
          }`,
        )
      else if (who?.firm && kinder(d, l.value, above))
        say(
          level,
          `limits[${i}].value`,
          `${limitSaid(d, l.value)} does not fit the ${LEVEL_NAMES[who.level].toLowerCase()}'s ${limitSaid(d, above)}${named(who)}, which may only be made stricter`,
        )
      limits.set(l.limit, l.value)
      note(`limit.${l.limit}`, level, l)
    }
    for (const [i, c] of (rules.choices ?? []).entries()) {
      const who = set.get(`choice.${c.choice}`)
      if (who?.firm && choices.get(c.choice) !== c.option)
        say(
          level,
          `choices[${i}].option`,
          `"${c.option}" does not fit: the ${LEVEL_NAMES[who.level].toLowerCase()}${named(who)} keeps "${choices.get(c.choice)}" for all below it`,
        )
      choices.set(c.choice, c.option)
      note(`choice.${c.choice}`, level, c)
      bySchool(level, c)
    }
    for (const l of rules.starts ?? []) {
      starts.set(l.start, l.value)
      note(`start.${l.start}`, level, l)
    }
    for (const [i, { fact, low, higher, ...c }] of (rules.ladder ?? []).entries()) {
      const above = rungs.get(fact) as Pick<Rung, 'low' | 'higher'>
      if (set.has(`ladder.${fact}`) && (milder(low, above.low) || milder(higher, above.higher)))
        say(level, `ladder[${i}]`, `asks for less than the level above does of ${rungOf(fact).title.toLowerCase()}, which may only be made stricter`)
      rungs.set(fact, { fact, low, higher })
      note(`ladder.${fact}`, level, c)
    }
    for (const [i, { point, kind, roles, own, ...c }] of (rules.points ?? []).entries()) {
      const who = set.get(`point.${point}`)
      const above = points.get(point)
      if (who?.firm && above && lessOf({ kind, roles, own }, above))
        say(
          level,
          `points[${i}]`,
          `makes less of ${shippedPoint(point)?.title.toLowerCase()} than the ${LEVEL_NAMES[who.level].toLowerCase()}${named(who)}, which may only be made stricter`,
        )
      const less = table > 2 && !alone ? madeLess(point, { kind, roles, own }) : undefined
      if (less) say(level, `points[${i}]`, less)
      points.set(point, { point, kind, roles: [...roles] as Role[], own })
      note(`point.${point}`, level, c)
    }
    for (const [i, p] of (rules.added ?? []).entries()) {
      if (added.has(p.id)) say(level, `added[${i}].id`, `"${p.id}" is added by a level above already; take another name`)
      if (added.size === MOST_ADDED) say(level, `added[${i}]`, `is one point too many; a wall takes ${MOST_ADDED} of its levels together`)
      added.set(p.id, p)
      note(`point.${p.id}`, level, p)
    }
  }
  // What a plan of before could say without a reason does not get past a firm rule.
  for (const name of ['openCourses', 'pointSpacing'] as const) {
    const [value, who] = [levels.wall?.[name], set.get(`limit.${name}`)]
    if (value != null && who?.firm && value > (limits.get(name) as number) + 1e-12)
      say(
        'wall',
        name,
        `${limitSaid(limitDef(name), value)} does not fit the ${LEVEL_NAMES[who.level].toLowerCase()}'s ${limitSaid(limitDef(name), limits.get(name) as number)}${named(who)}, which may only be made stricter`,
      )
  }
  for (const [i, l] of (levels.wall?.limits ?? []).entries()) {
    const [d, who, above, ships] = [limitDef(l.limit), set.get(`limit.${l.limit}`), limits.get(l.limit), shipped[l.limit as LimitName]]
    if (table > 2 && d && ships && d.safety === 'people' && kinder(d, l.value, ships.value))
      say(
        'wall',
        `limits[${i}].value`,
        `${limitSaid(d, l.value)} lets more pass than the ${limitSaid(d, ships.value)} that ships. ${ships.reason} It keeps people safe: no drawing sets it kinder.`,
      )
    else if (table > 2 && d && who?.firm && above !== undefined && kinder(d, l.value, above))
      clashes.push({ limit: l.limit, value: above, level: who.level })
    limits.set(l.limit, l.value)
    note(`limit.${l.limit}`, 'wall', { why: `${DRAWN}${l.source}` })
  }
  for (const [least, most] of ORDERED) {
    const [a, b] = [limits.get(least) as number, limits.get(most) as number]
    if (a <= b + 1e-12) continue
    const level = [set.get(`limit.${least}`)?.level, set.get(`limit.${most}`)?.level].reduce<Level>(
      (low, l) => (l && LEVELS.indexOf(l) > LEVELS.indexOf(low) ? l : low),
      'shipped',
    )
    const [da, db] = [limitDef(least), limitDef(most)]
    say(level, 'limits', `${da?.title} is ${limitSaid(da, a)}, over ${db?.title.toLowerCase()}, ${limitSaid(db, b)}`)
  }
  if (problems.length > 0) return failAll(problems)
  return ok({
    shipped: table,
    limits: [...limits].filter(([, value]) => Number.isFinite(value)).map(([limit, value]) => ({ limit, value })),
    choices: [...choices].map(([c, option]) => ({ choice: c, option })),
    points: [...points.values()],
    added: [...added.values()],
    starts: [...starts].map(([s, value]) => ({ start: s, value })),
    ...(clashes.length > 0 ? { clashes } : {}),
    ...(table > 2 ? { ladder: [...rungs.values()] } : {}),
    set: [...set.values()],
  })
}

const bookNow = (): RuleBook => {
  const found = resolveRules({})
  if (!found.ok) throw new Error('the shipped rules do not resolve')
  return found.value
}
let shippedBook: RuleBook | undefined
/** The rules as they ship. @example shippedRules().choices.length */
export const shippedRules = (): RuleBook => {
  shippedBook ??= bookNow()
  return shippedBook
}

/** Does a book speak of a plan's rules at all? */
export interface Booked {
  readonly book?: RuleBook | undefined
}

/** The rules a plan is judged by, whatever time it is of: its own book, or the shipped one of its table. */
export function bookOf(plan: Booked & { readonly ruleTable?: number | undefined }): RuleBook {
  if (plan.book) return plan.book
  const table = plan.ruleTable ?? 1
  const limits = limitNames(table).flatMap((limit) => {
    const { value } = shippedLimits(table)[limit]
    return Number.isFinite(value) ? [{ limit, value }] : []
  })
  const now = shippedRules()
  const asked = new Set(choicesOf(table).map((c) => c.id))
  const { ladder, ...rest } = now
  return { ...rest, ...(table > 2 && ladder ? { ladder } : {}), limits, choices: now.choices.filter((c) => asked.has(c.choice)) }
}

/**
 * What a plan's rules let pass that the shipped ones do not, and which points they make less of; what its own drawing sets is not among
 * them, that has its reference.
 *
 * @example kinderRules(plan)[0] // { title: 'Compaction, of maximum density', is: '92 %', ships: '95 %', level: 'company', why: '…' }
 */
export function kinderRules(
  plan: Booked,
): { readonly title: string; readonly is: string; readonly ships: string; readonly level: Level; readonly why: string }[] {
  const { book } = plan
  if (!book) return []
  const shipped = shippedLimits(book.shipped)
  const by = new Map(book.set.map((s) => [s.rule, s]))
  return [
    ...book.limits.flatMap(({ limit, value }) => {
      const [d, set, ships] = [limitDef(limit), by.get(`limit.${limit}`), shipped[limit as LimitName]]
      if (!d || !set || !ships || (set.level === 'wall' && set.why.startsWith(DRAWN)) || !kinder(d, value, ships.value)) return []
      return [{ title: d.title, is: limitSaid(d, value), ships: limitSaid(d, ships.value), level: set.level, why: set.why }]
    }),
    ...book.points.flatMap((p) => {
      const [ships, set] = [shippedPoint(p.point), by.get(`point.${p.point}`)]
      return ships && set && (RANK[p.kind] as number) < (RANK[ships.kind] as number)
        ? [{ title: ships.title, is: p.kind, ships: ships.kind, level: set.level, why: set.why }]
        : []
    }),
  ]
}

/** A limit its drawing sets kinder than it ships, or kinder than somebody above holds firm. */
export interface Clash {
  readonly limit: string
  readonly clash: boolean
  readonly message: string
}
/**
 * What a drawing lets pass that the rules do not, since rule table 3: a clash with what is firm, else a deviation with its reference.
 *
 * @example clashesOf(plan)[0]?.message
 */
export function clashesOf(plan: Booked & { readonly rules?: WallRules | undefined }): Clash[] {
  const { book } = plan
  if (!book || book.shipped < 3) return []
  const shipped = shippedLimits(book.shipped)
  return (plan.rules?.limits ?? []).flatMap((l): Clash[] => {
    const [d, ships] = [limitDef(l.limit), shipped[l.limit as LimitName]]
    const firm = book.clashes?.find((c) => c.limit === l.limit)
    if (!d || !ships || (!firm && !kinder(d, l.value, ships.value))) return []
    const is = `${d.title}: the drawing (${l.source}) has ${limitSaid(d, l.value)}`
    return [
      firm
        ? {
            limit: l.limit,
            clash: true,
            message: `${is}, the ${LEVEL_NAMES[firm.level].toLowerCase()} holds ${limitSaid(d, firm.value)} firm. Both stand: settle it with the office and the engineer who signed the drawing.`,
          }
        : {
            limit: l.limit,
            clash: false,
            message: `${is}, a deviation from the ${limitSaid(d, ships.value)} of the rules. The engineer who signs for the wall is told.`,
          },
    ]
  })
}

/**
 * A plan as it is judged: an issued revision by its own table, a file that was never issued by the newest one.
 *
 * @returns the plan, and in words which table was taken and why; or what of its own rules does not fit the newest table
 * @example judgedBy(plan).value.table // 'rule table 3, the newest: the file names none'
 */
export function judgedBy<P extends Booked & { readonly ruleTable?: number | undefined; readonly rules?: WallRules | undefined }>(
  plan: P,
): Result<{ readonly plan: P; readonly table: string }> {
  if (plan.ruleTable !== undefined) {
    const newest = plan.ruleTable === RULE_TABLE ? ', the newest' : ''
    return ok({ plan, table: `rule table ${plan.ruleTable}${newest}: the one it was issued under` })
  }
  const made = issueUnder(plan, {})
  return made.ok ? ok({ plan: made.value, table: `rule table ${RULE_TABLE}, the newest: the file names none` }) : made
}

/** The school a plan is built by; the standard one where it has no book. @example schoolBy(plan, 'adhesive') // 'caps' */
export function schoolBy(plan: Booked, id: string): string {
  const def = choiceDef(id)
  if (!def) throw new RangeError(`no choice ${id}`)
  return plan.book?.choices.find((c) => c.choice === id)?.option ?? def.standard
}

/** What the planner starts from by a book, or as it ships. @example startBy({}, 'padWidth') // 0.6 */
export const startBy = (plan: Booked, name: StartName): number => plan.book?.starts?.find((s) => s.start === name)?.value ?? STARTS[name].value

/** What a book from outside holds that this version does not know. */
export function checkBook(book: RuleBook): Problem[] {
  const problems: Problem[] = []
  const say = (field: string, message: string) => problems.push({ field, message })
  if (book.shipped > RULE_TABLE) say('book.shipped', `rests on shipped rules ${book.shipped}; this Stone Tally ships ${RULE_TABLE}. Update it first`)
  for (const [i, l] of book.limits.entries()) if (!limitDef(l.limit)) say(`book.limits[${i}].limit`, `"${l.limit}" is not a limit of the rule book`)
  for (const [i, c] of book.choices.entries()) {
    const d = choiceDef(c.choice)
    if (!d) say(`book.choices[${i}].choice`, `"${c.choice}" is not a choice of the rule book`)
    else if (!d.options.some((o) => o.id === c.option)) say(`book.choices[${i}].option`, `"${c.option}" is not a school of ${d.title.toLowerCase()}`)
  }
  for (const [i, p] of book.points.entries())
    if (!shippedPoint(p.point)) say(`book.points[${i}].point`, `"${p.point}" is not a point of the rule book`)
  return problems
}

/**
 * A plan as it is issued: its rules worked out and put into it whole. A book it brought along is not believed.
 *
 * @example issueUnder(plan, { company }).value.book?.set.length
 */
export function issueUnder<P extends Booked & { readonly rules?: WallRules | undefined }>(
  plan: P,
  levels: { company?: Rules | undefined; site?: Rules | undefined },
  table: number = RULE_TABLE,
): Result<P & { ruleTable: number; book: RuleBook }> {
  const book = resolveRules({ ...levels, wall: plan.rules }, table)
  if (!book.ok) return failAll(book.problems.map((p) => ({ ...p, field: p.field.startsWith('wall.') ? `rules.${p.field.slice(5)}` : p.field })))
  return ok({ ...plan, ruleTable: table, book: book.value })
}
