import { fail, failAll, type Problem, type Result } from '../base/result'
import { said } from '../base/said'
import {
  choice,
  type InferType,
  list,
  optionalList,
  optionalQuantity,
  optionalText,
  optionalYesNo,
  quantity,
  read,
  record,
  text,
  yesNo,
} from '../base/schema'
import { formatSlope } from '../units/slope'
import { CHOICES, choiceDef } from './choices'
import { LIMIT_DEFS, type LimitUnit, limitDef } from './definitions'
import { milder, rungOf, STEP_NAMES, STEPS, WALL_FACTS } from './ladder'
import { POINT_KINDS, ROLES, shippedPoint } from './points'
import { RULE_TABLE } from './shipped'
import { STARTS, startDef } from './starts'

/** Who sets a rule, each over the one before: what ships, the company, the site, the wall. */
export const LEVELS = ['shipped', 'company', 'site', 'wall'] as const
export type Level = (typeof LEVELS)[number]
export const LEVEL_NAMES: Readonly<Record<Level, string>> = { shipped: 'Shipped', company: 'Company', site: 'Site', wall: 'Wall' }

/** Why it was changed, and by whom and when where the house recorded it. */
export const CHANGE_FIELDS = { why: text(300), by: optionalText(120), on: optionalText(40) }
/** Nobody below makes less of it: a limit may only be stricter, a choice stays. An approved drawing goes before it all the same. */
const firm = { firm: optionalYesNo() }

export const choiceChangeSchema = record({ choice: text(40), option: text(40), ...firm, ...CHANGE_FIELDS })
export const pointChangeSchema = record({
  point: text(40),
  kind: choice(POINT_KINDS),
  roles: list(choice(ROLES), 0, 4),
  own: yesNo(),
  ...firm,
  ...CHANGE_FIELDS,
})
export const addedPointSchema = record({
  id: text(40),
  title: text(80),
  kind: choice(['hold', 'witness'] as const),
  roles: list(choice(ROLES), 1, 4),
  own: yesNo(),
  at: record({
    stage: text(40),
    section: optionalText(8),
    course: optionalQuantity({ min: 1, max: 200, whole: true }),
    station: optionalQuantity({ min: 0, max: 2000, unit: 'm' }),
  }),
  ...CHANGE_FIELDS,
})

/** What one level changes, and why: the open file of rules, and what company and site keep. SI. */
export const rulesSchema = record({
  format: choice(['stone-tally-rules'] as const),
  version: quantity({ min: 1, max: 1, whole: true }),
  /** Shipped rules it was written against. */
  shipped: quantity({ min: 1, max: 1000, whole: true }),
  title: optionalText(120),
  limits: optionalList(record({ limit: text(40), value: quantity({}), unit: optionalText(20), ...firm, ...CHANGE_FIELDS }), 200),
  choices: optionalList(choiceChangeSchema, 100),
  points: optionalList(pointChangeSchema, 100),
  added: optionalList(addedPointSchema, 100),
  /** What the planner starts from. */
  starts: optionalList(record({ start: text(40), value: quantity({}), unit: optionalText(20), ...CHANGE_FIELDS }), 100),
  /** Where company or site is stricter about whose wall a fact makes it. */
  ladder: optionalList(record({ fact: choice(WALL_FACTS), low: choice(STEPS), higher: choice(STEPS), ...CHANGE_FIELDS }), 60),
  /** Company only: the roles that may change the rule book. */
  keepers: optionalList(choice(ROLES), 4),
})
export type Rules = InferType<typeof rulesSchema>
export type AddedPoint = InferType<typeof addedPointSchema>

/** The unit a rule file gives a limit in. */
export const RULE_UNITS: Readonly<Record<LimitUnit, string>> = {
  length: 'm',
  mass: 'kg',
  '%': '%',
  '°': '°',
  passes: 'passes',
  share: 'share',
  ratio: 'ratio',
  count: 'count',
  days: 'days',
  temperature: '°C',
  pressure: 'kPa',
  hours: 'h',
  speed: 'km/h',
  rain: 'mm',
}

/** A limit as people read it; the reader's units. @example limitSaid(limitDef('padLevel'), 0.005) */
export const limitSaid = (d: { readonly of: LimitUnit; readonly slope?: 'across' | 'up' } | undefined, value: number): string =>
  d?.slope && value > 0
    ? formatSlope(d.slope === 'across' ? value : 1 / value)
    : d?.of === 'length'
      ? said.given(value)
      : d?.of === 'mass'
        ? said.mass(value)
        : d?.of === 'temperature'
          ? said.temperature(value)
          : d?.of === 'pressure'
            ? said.pressure(value)
            : d?.of === 'speed'
              ? said.speed(value)
              : d?.of === 'rain'
                ? said.rain(value)
                : d?.of === '%' || d?.of === '°' || d?.of === 'days' || d?.of === 'hours'
                  ? `${value} ${value === 1 && (d.of === 'days' || d.of === 'hours') ? d.of.slice(0, -1) : d.of}`
                  : // A third and two thirds as people write them.
                    `${Math.round(value * 1000) / 1000}`

/**
 * Reads rules from outside: an open file, or what a form sends.
 *
 * @returns the rules, or every problem with its field
 * @example readRules({ format: 'stone-tally-rules', version: 1, shipped: 2, choices: [] }).ok // true
 */
export function readRules(value: unknown): Result<Rules> {
  const version = (value as { version?: unknown } | null)?.version
  if (typeof version === 'number' && version > 1)
    return fail(
      'version',
      `this file is of version ${version}, written by a newer Stone Tally; this one reads version 1. Update it, or export the rules again there`,
    )
  const shape = read(rulesSchema, value)
  if (!shape.ok) return shape
  if (shape.value.shipped > RULE_TABLE)
    return fail(
      'shipped',
      `these rules rest on shipped rules ${shape.value.shipped}, which this Stone Tally does not have yet (it ships ${RULE_TABLE}); update it first`,
    )
  const problems = checkRules(shape.value)
  return problems.length > 0 ? failAll(problems) : shape
}

/** What is wrong with the changes of a level by themselves. */
export function checkRules(rules: Rules): Problem[] {
  const problems: Problem[] = []
  const say = (field: string, message: string) => problems.push({ field, message })
  const once = (seen: Set<string>, field: string, name: string) => {
    if (seen.has(name)) say(field, `"${name}" is set twice`)
    seen.add(name)
  }
  const limits = new Set<string>()
  for (const [i, l] of (rules.limits ?? []).entries()) {
    const at = `limits[${i}]`
    const d = limitDef(l.limit)
    once(limits, `${at}.limit`, l.limit)
    if (!d) {
      say(`${at}.limit`, `"${l.limit}" is not a limit of the rule book; it has ${Object.keys(LIMIT_DEFS).join(', ')}`)
      continue
    }
    if (l.unit !== undefined && l.unit !== '' && l.unit !== RULE_UNITS[d.of])
      say(`${at}.unit`, `is ${l.unit}; ${d.title.toLowerCase()} is given in ${RULE_UNITS[d.of]}`)
    else if (l.value < d.range[0] - 1e-12 || l.value > d.range[1] + 1e-12)
      say(`${at}.value`, `must be ${limitSaid(d, d.range[0])} to ${limitSaid(d, d.range[1])}, not ${limitSaid(d, l.value)}; is the unit right?`)
    else if ((d.of === 'count' || d.of === 'passes') && !Number.isInteger(l.value)) say(`${at}.value`, `must be a whole number, not ${l.value}`)
  }
  const starts = new Set<string>()
  for (const [i, l] of (rules.starts ?? []).entries()) {
    const at = `starts[${i}]`
    const d = startDef(l.start)
    once(starts, `${at}.start`, l.start)
    if (!d) say(`${at}.start`, `"${l.start}" is nothing the planner starts from; there are ${Object.keys(STARTS).join(', ')}`)
    else if (l.unit !== undefined && l.unit !== '' && l.unit !== RULE_UNITS[d.of])
      say(`${at}.unit`, `is ${l.unit}; ${d.title.toLowerCase()} is given in ${RULE_UNITS[d.of]}`)
    else if (l.value < d.range[0] - 1e-12 || l.value > d.range[1] + 1e-12)
      say(`${at}.value`, `must be ${limitSaid(d, d.range[0])} to ${limitSaid(d, d.range[1])}, not ${limitSaid(d, l.value)}; is the unit right?`)
  }
  const rungs = new Set<string>()
  for (const [i, r] of (rules.ladder ?? []).entries()) {
    once(rungs, `ladder[${i}].fact`, r.fact)
    const ships = rungOf(r.fact)
    for (const which of ['low', 'higher'] as const)
      if (milder(r[which], ships[which]))
        say(
          `ladder[${i}].${which}`,
          `asks for less than what ships (${STEP_NAMES[ships[which]].toLowerCase()}). ${ships.reason} It is made stricter alone`,
        )
  }
  const choices = new Set<string>()
  for (const [i, c] of (rules.choices ?? []).entries()) {
    const d = choiceDef(c.choice)
    once(choices, `choices[${i}].choice`, c.choice)
    if (!d) say(`choices[${i}].choice`, `"${c.choice}" is not a choice of the rule book; it has ${CHOICES.map((x) => x.id).join(', ')}`)
    else if (!d.options.some((o) => o.id === c.option))
      say(`choices[${i}].option`, `"${c.option}" is not a school of ${d.title.toLowerCase()}; there are ${d.options.map((o) => o.id).join(', ')}`)
  }
  if (rules.keepers && rules.keepers.length === 0) say('keepers', 'is empty; somebody must be able to change the rule book')
  const points = new Set<string>()
  for (const [i, p] of (rules.points ?? []).entries()) {
    const shipped = shippedPoint(p.point)
    once(points, `points[${i}].point`, p.point)
    if (!shipped) say(`points[${i}].point`, `"${p.point}" is not a point of the rule book; add your own under "added"`)
    else if (shipped.fixed && p.kind !== 'hold') say(`points[${i}].kind`, `${shipped.title} stays a hold point. ${shipped.reason}`)
    else if (shipped.fixed && p.own && !shipped.own) say(`points[${i}].own`, `${shipped.title} takes a second pair of eyes. ${shipped.reason}`)
    if (p.kind === 'hold' && p.roles.length === 0) say(`points[${i}].roles`, 'is empty; a hold point needs somebody who may release it')
  }
  for (const [i, p] of (rules.added ?? []).entries()) {
    once(points, `added[${i}].id`, p.id)
    if (shippedPoint(p.id)) say(`added[${i}].id`, `"${p.id}" is the name of a shipped point; take another`)
    if (!/^[a-z0-9][a-z0-9-]*$/.test(p.id)) say(`added[${i}].id`, 'must be small letters, digits and dashes')
    if (p.at.course !== undefined && !p.at.section) say(`added[${i}].at.section`, 'is missing; a course is one of a section')
  }
  return problems
}

/**
 * Rules with each change signed: what is as it was before keeps its author and day, what is new has this one's.
 *
 * @param on - when, ISO 8601
 * @example stampRules(rules, before, 'Olu', '2026-05-20T08:00:00Z').limits?.[0]?.by // 'Olu'
 */
export function stampRules(rules: Rules, before: Rules, by: string, on: string): Rules {
  const plain = (c: object) =>
    JSON.stringify(
      Object.entries({ ...c, by: undefined, on: undefined })
        .filter(([, v]) => v !== undefined && v !== null && v !== '' && v !== false)
        .sort(),
    )
  const stamp = <C extends object>(now: readonly C[] | undefined, old: readonly C[] | undefined): C[] | undefined =>
    now && now.length > 0
      ? now.map((c) => {
          const kept = old?.find((o) => plain(o) === plain(c))
          return kept ?? { ...c, by, on }
        })
      : undefined
  return {
    ...rules,
    limits: stamp(rules.limits, before.limits),
    choices: stamp(rules.choices, before.choices),
    points: stamp(rules.points, before.points),
    added: stamp(rules.added, before.added),
    starts: stamp(rules.starts, before.starts),
    ladder: stamp(rules.ladder, before.ladder),
  }
}

/** Rules of nobody: what an empty level is. @example emptyRules('Company') */
export const emptyRules = (title?: string): Rules => ({
  format: 'stone-tally-rules',
  version: 1,
  shipped: RULE_TABLE,
  ...(title ? { title } : {}),
  limits: undefined,
  choices: undefined,
  points: undefined,
  added: undefined,
  starts: undefined,
  ladder: undefined,
  keepers: undefined,
})
