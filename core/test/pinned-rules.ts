// Made-up rule books of a company, a site and a wall: what they resolve to, what is refused, what of it is kinder than what ships.
import {
  CHOICES,
  checkBook,
  checkEmbedmentRules,
  checkLimits,
  checkRules,
  compareRules,
  DRAWING_LIMITS,
  type EmbedmentRule,
  embedment,
  emptyRules,
  handlingOf,
  issueUnder,
  kinderRules,
  LIMIT_DEFS,
  limitNames,
  limitsOf,
  POINTS,
  plantRule,
  pointOf,
  pointsBy,
  ROLES,
  RULE_UNITS,
  type RuleBook,
  type Rules,
  readRules,
  resolveRules,
  STARTS,
  schoolBy,
  shippedLimits,
  shippedRules,
  stampRules,
  startBy,
  type WallFacts,
  type WallRules,
} from '@stone-tally/core'
import { type Draw, maybe, on, pick, several } from './drawn'

const NAMES = Object.keys(LIMIT_DEFS) as (keyof typeof LIMIT_DEFS)[]
const PLANTS = ['hand-tamper', 'light-plate', 'heavy-plate', 'roller'] as const

/** A limit at an end of its range, as it ships, a little to either side, or beyond. */
function limitValue(draw: Draw, name: keyof typeof LIMIT_DEFS): number {
  const d = LIMIT_DEFS[name]
  const ships = shippedLimits(2)[name]?.value ?? d.range[0]
  const whole = d.of === 'count' || d.of === 'passes'
  const value = pick(draw, [d.range[0], d.range[1], ships, ships, ships * 0.9, ships * 1.1, ships * 1.1, d.range[1] * 2])
  return whole && maybe(draw, 0.9) ? Math.round(value) : Math.round(value * 1e6) / 1e6
}
const change = (draw: Draw) => ({
  why: pick(draw, ['the ground here', 'a finding', 'as agreed']),
  ...(maybe(draw, 0.3) ? { by: 'Mo' } : {}),
  ...(maybe(draw, 0.3) ? { on: '2026-05-01' } : {}),
})
const point = (draw: Draw) => ({
  kind: pick(draw, ['hold', 'hold', 'witness', 'off'] as const),
  roles: ROLES.filter(() => maybe(draw, 0.6)),
  own: maybe(draw),
})

/** What one level changes. */
export function rulesDrawn(draw: Draw): Rules {
  const some = <T>(share: number, of: () => T) => (maybe(draw, share) ? of() : undefined)
  const held = () => (maybe(draw, 0.4) ? { firm: maybe(draw, 0.8) } : {})
  return {
    ...emptyRules(some(0.3, () => 'Rules')),
    limits: some(0.8, () =>
      several(draw, 0, 4, () => {
        const limit = pick(draw, NAMES)
        return {
          limit: maybe(draw, 0.97) ? limit : 'height',
          value: limitValue(draw, limit),
          ...(maybe(draw, 0.2) ? { unit: maybe(draw, 0.8) ? RULE_UNITS[LIMIT_DEFS[limit].of] : '' } : maybe(draw, 0.05) ? { unit: 'ft' } : {}),
          ...held(),
          ...change(draw),
        }
      }),
    ),
    choices: some(0.7, () =>
      several(draw, 0, 3, () => {
        const c = pick(draw, CHOICES)
        return {
          choice: maybe(draw, 0.97) ? c.id : 'colour',
          option: maybe(draw, 0.97) ? pick(draw, c.options).id : 'none of them',
          ...held(),
          ...change(draw),
        }
      }),
    ),
    points: some(0.6, () =>
      several(draw, 0, 3, () => ({ point: maybe(draw, 0.97) ? pick(draw, POINTS).id : 'tea', ...point(draw), ...held(), ...change(draw) })),
    ),
    added: some(0.4, () =>
      several(draw, 0, 2, () => ({
        id: pick(draw, ['own-look', 'second', 'Third', 'subgrade', 'fourth']),
        title: 'A look of our own',
        kind: pick(draw, ['hold', 'witness'] as const),
        roles: [pick(draw, ROLES)],
        own: maybe(draw),
        at: { stage: 'course', ...(maybe(draw) ? { course: 3 } : {}), ...(maybe(draw) ? { section: 'A' } : {}) },
        ...change(draw),
      })),
    ),
    starts: some(0.4, () =>
      several(draw, 0, 2, () => {
        const start = pick(draw, Object.keys(STARTS)) as keyof typeof STARTS
        const d = STARTS[start]
        return {
          start: maybe(draw, 0.95) ? start : 'nothing',
          value: pick(draw, [d.range[0], d.range[1], d.value, d.range[1] * 3]),
          ...(maybe(draw, 0.2) ? { unit: maybe(draw, 0.8) ? RULE_UNITS[d.of] : 'ft' } : {}),
          ...change(draw),
        }
      }),
    ),
    keepers: some(0.2, () => ROLES.filter(() => maybe(draw, 0.5))),
  }
}
const wallDrawn = (draw: Draw): WallRules => {
  const { choices, points, added } = rulesDrawn(draw)
  return {
    choices,
    points,
    added,
    limits: maybe(draw)
      ? several(draw, 0, 3, () => {
          const limit = maybe(draw, 0.95) ? pick(draw, DRAWING_LIMITS) : 'height'
          return {
            limit,
            value: limitValue(draw, (limit in LIMIT_DEFS ? limit : 'padLevel') as keyof typeof LIMIT_DEFS),
            source: pick(draw, ['S-101', 'S-101', 'x']),
          }
        })
      : undefined,
    ...(maybe(draw, 0.2) ? { openCourses: on(draw, 1, 4, 1) } : {}),
    ...(maybe(draw, 0.2) ? { pointSpacing: on(draw, 1, 6, 1) } : {}),
  }
}

/** Books of up to three levels and all that is said of them. */
export function rulesSaid(draw: Draw): unknown {
  const [company, site, wall] = [rulesDrawn(draw), rulesDrawn(draw), wallDrawn(draw)]
  const levels = {
    company: maybe(draw, 0.8) ? company : undefined,
    site: maybe(draw, 0.7) ? site : undefined,
    wall: maybe(draw, 0.6) ? wall : undefined,
  }
  const found = resolveRules(levels, 2)
  const alone = resolveRules({ company: { ...company, points: undefined, added: undefined } }, 2)
  const table = maybe(draw, 0.7) ? 2 : 1
  const books = [found, alone].flatMap((f) => (f.ok ? [f.value] : []))
  return [
    found,
    alone,
    checkRules(company),
    stampRules(site, company, 'Ada', '2026-06-01'),
    stampRules({ ...company, limits: [...(company.limits ?? []), ...(site.limits ?? [])] }, company, 'Ada', '2026-06-01'),
    checkLimits({ ruleTable: 2, rules: { limits: wall.limits } }),
    issueUnder({ rules: wall, name: 'W' }, { site: levels.site }, 2),
    ...books.map((book) => {
      const plan = {
        book,
        ruleTable: table,
        rules: { limits: wall.limits?.filter((l) => l.limit in LIMIT_DEFS) },
        ...(maybe(draw) ? { water: { bed: 0.08, cover: 0.25 } } : {}),
      }
      return [
        compareRules(book),
        compareRules(shippedRules(), book),
        books.map((b) => compareRules(book, b)),
        kinderRules(plan),
        checkBook(book),
        Object.fromEntries(limitNames(2).map((name) => [name, limitsOf(plan)[name]])),
        pointsBy(plan),
        POINTS.map((p) => pointOf(plan, p.id)?.kind),
        CHOICES.map((c) => schoolBy(plan, c.id)),
        (Object.keys(STARTS) as (keyof typeof STARTS)[]).map((s) => startBy(plan, s)),
        PLANTS.map((p) => [plantRule(plan, p, 'fine'), plantRule(plan, p, 'granular'), plantRule(plan, p, undefined)]),
        [limitsOf(plan).manualOne, limitsOf(plan).manualTwo, limitsOf(plan).liftingAid].map((l) => [
          handlingOf(plan, l.value),
          handlingOf(plan, l.value + 0.1),
        ]),
      ]
    }),
  ]
}

/** Books from outside that hold what this version does not know, and files of another version. */
export function strangeBooks(draw: Draw): unknown {
  const book = shippedRules()
  const strange: RuleBook = {
    ...book,
    shipped: pick(draw, [2, 2, 3]),
    limits: book.limits.map((l) => (maybe(draw, 0.02) ? { ...l, limit: 'height' } : l)),
    choices: book.choices.map((c) => (maybe(draw, 0.05) ? { ...c, choice: 'colour' } : maybe(draw, 0.05) ? { ...c, option: 'blue' } : c)),
    points: book.points.map((p) => (maybe(draw, 0.05) ? { ...p, point: 'tea' } : p)),
  }
  return [
    checkBook(strange),
    readRules({ ...rulesDrawn(draw), version: pick(draw, [1, 1, 2]), shipped: pick(draw, [1, 2, 3]) }),
    readRules(pick(draw, [null, 3, {}, []])),
  ]
}

const facts = (draw: Draw): WallFacts => ({
  height: on(draw, 0.25, 3, 0.25),
  unit: {
    height: pick(draw, [0.1, 0.15, 0.2, 0.5, 1]),
    length: pick(draw, [0.2, 0.4, 1, 2]),
    mass: pick(draw, [10, 20, 25, 40, 250, 1000]),
    ...(maybe(draw) ? { profile: pick(draw, ['lug', 'lip', 'tongue', 'flat', 'basket', 'hollow']) } : {}),
    hollow: maybe(draw),
  },
  courses: on(draw, 1, 15, 1),
  pad: pick(draw, ['dense-graded', 'open-graded', 'lean-concrete']),
  drains: maybe(draw),
  ...(maybe(draw) ? { frost: on(draw, 0, 1, 0.25) } : {}),
  slope: maybe(draw),
  load: maybe(draw),
  engineered: maybe(draw),
  weakToe: maybe(draw),
})
/** Which school is spoken for, wall by wall. */
export const recommended = (draw: Draw): unknown => {
  const wall = facts(draw)
  return CHOICES.map((c) => c.recommend?.(wall))
}

const rule = (draw: Draw): EmbedmentRule => {
  const kind = pick(draw, ['fixed', 'perHeight', 'fraction', 'courses'] as const)
  const own = {
    fixed: { depth: on(draw, 0, 0.5, 0.1) },
    perHeight: { base: on(draw, 0, 0.2, 0.1), perMetre: on(draw, 0, 0.2, 0.05) },
    fraction: { fraction: on(draw, 0, 0.3, 0.05) },
    courses: { count: on(draw, 0, 3, 1) },
  }[kind]
  return {
    kind,
    ...own,
    ...(maybe(draw, 0.05) ? { depth: 0.1 } : {}),
    ...(maybe(draw, 0.03) ? { base: undefined, count: undefined } : {}),
  } as EmbedmentRule
}
export const buried = (draw: Draw): unknown => {
  const rules = several(draw, 1, 3, () => rule(draw))
  return [
    embedment({ exposedHeight: on(draw, 0, 3, 0.5), unitHeight: pick(draw, [0, 0.1, 0.15, 0.2]), rules }),
    checkEmbedmentRules(rules, 'embedment'),
  ]
}
