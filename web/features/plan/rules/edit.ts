import {
  type AddedPoint,
  choiceDef,
  fail,
  failAll,
  formatLength,
  formatMass,
  formatSigned,
  formatSlope,
  formatTemperature,
  type LadderStep,
  type LimitDef,
  type LimitUnit,
  limitDef,
  ok,
  type Problem,
  parseAmount,
  parseLean,
  type Result,
  type Role,
  type Rules,
  rungOf,
  startDef,
  typedAmount,
  type UnitSystem,
  unitOf as unitOfMeasure,
  type WallFact,
} from '@stone-tally/core'

/** What one level sets of one rule. */
export type Change =
  | { readonly rule: 'limit'; readonly id: string; readonly value: number; readonly why: string; readonly firm: boolean }
  | { readonly rule: 'start'; readonly id: string; readonly value: number; readonly why: string }
  | { readonly rule: 'ladder'; readonly id: WallFact; readonly low: LadderStep; readonly higher: LadderStep; readonly why: string }
  | { readonly rule: 'choice'; readonly id: string; readonly option: string; readonly why: string; readonly firm: boolean }
  | { readonly rule: 'point'; readonly id: string; readonly point: Omit<NonNullable<Rules['points']>[number], 'point' | 'why'>; readonly why: string }

const others = <T>(list: readonly T[] | undefined, is: (t: T) => boolean): T[] => (list ?? []).filter((t) => !is(t))
const orNone = <T>(list: T[]): T[] | undefined => (list.length > 0 ? list : undefined)

/** Rules of a level with one rule set by it. @example withChange(rules, { rule: 'limit', id: 'compaction', value: 97, … }) */
export function withChange(rules: Rules, c: Change): Rules {
  if (c.rule === 'limit')
    return {
      ...rules,
      limits: [...others(rules.limits, (l) => l.limit === c.id), { limit: c.id, value: c.value, why: c.why, ...(c.firm ? { firm: true } : {}) }],
    }
  if (c.rule === 'start') return { ...rules, starts: [...others(rules.starts, (l) => l.start === c.id), { start: c.id, value: c.value, why: c.why }] }
  if (c.rule === 'ladder')
    return { ...rules, ladder: [...others(rules.ladder, (r) => r.fact === c.id), { fact: c.id, low: c.low, higher: c.higher, why: c.why }] }
  if (c.rule === 'choice')
    return {
      ...rules,
      choices: [
        ...others(rules.choices, (l) => l.choice === c.id),
        { choice: c.id, option: c.option, why: c.why, ...(c.firm ? { firm: true } : {}) },
      ],
    }
  return { ...rules, points: [...others(rules.points, (p) => p.point === c.id), { point: c.id, ...c.point, why: c.why }] }
}

/** Rules of a level that no longer set a rule: the level above has its say again. @example withoutChange(rules, 'limit.compaction') */
export function withoutChange(rules: Rules, rule: string): Rules {
  const [kind, id] = [rule.slice(0, rule.indexOf('.')), rule.slice(rule.indexOf('.') + 1)]
  if (kind === 'limit') return { ...rules, limits: orNone(others(rules.limits, (l) => l.limit === id)) }
  if (kind === 'start') return { ...rules, starts: orNone(others(rules.starts, (l) => l.start === id)) }
  if (kind === 'ladder') return { ...rules, ladder: orNone(others(rules.ladder, (r) => r.fact === id)) }
  if (kind === 'choice') return { ...rules, choices: orNone(others(rules.choices, (c) => c.choice === id)) }
  return { ...rules, points: orNone(others(rules.points, (p) => p.point === id)), added: orNone(others(rules.added, (p) => p.id === id)) }
}

/** Does the level itself set a rule? @example setsRule(rules, 'choice.adhesive') */
export const setsRule = (rules: Rules, rule: string): boolean => {
  const id = rule.slice(rule.indexOf('.') + 1)
  return rule.startsWith('limit.')
    ? (rules.limits ?? []).some((l) => l.limit === id)
    : rule.startsWith('start.')
      ? (rules.starts ?? []).some((l) => l.start === id)
      : rule.startsWith('ladder.')
        ? (rules.ladder ?? []).some((r) => r.fact === id)
        : rule.startsWith('choice.')
          ? (rules.choices ?? []).some((c) => c.choice === id)
          : (rules.points ?? []).some((p) => p.point === id) || (rules.added ?? []).some((p) => p.id === id)
}

/** A point of one's own, as it is typed. */
export interface TypedPoint {
  readonly title: string
  readonly stage: string
  readonly kind: 'hold' | 'witness'
  readonly roles: readonly Role[]
  /** One section only, or all; one course of it only, or each. */
  readonly section: string
  readonly course: string
  readonly why: string
}

/**
 * A point of one's own in the book's shape, under a name that no other has: one called like another would take its place without a word.
 *
 * @param taken - points there are: of the book, and those added
 * @returns problems at `title` and `course`
 * @example addedPoint({ title: 'Drain tape', stage: 'grid', kind: 'hold', roles: ['inspector'], section: '', course: '', why: 'drawing D-4' }, [])
 */
export function addedPoint(p: TypedPoint, taken: readonly { readonly id: string; readonly title: string }[]): Result<AddedPoint> {
  const title = p.title.trim()
  const [section, course] = [p.section.trim(), p.course.trim()]
  const problems: Problem[] = []
  if (!title) problems.push({ field: 'title', message: 'say what is looked at' })
  else if (taken.some((t) => t.title.toLowerCase() === title.toLowerCase()))
    problems.push({ field: 'title', message: 'is a point already; change that one, or call this another' })
  if (course && (!/^[1-9]\d{0,2}$/.test(course) || Number(course) > 200))
    problems.push({ field: 'course', message: 'must be a whole number from 1 to 200' })
  else if (course && !section) problems.push({ field: 'course', message: 'is one of a section: say which' })
  if (problems.length > 0) return failAll(problems)
  // Letters that the file of rules does not take leave nothing of some names.
  const name =
    title
      .toLowerCase()
      .normalize('NFKD')
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 36) || 'point'
  let id = name
  for (let i = 2; taken.some((t) => t.id === id); i++) id = `${name}-${i}`
  const at = { stage: p.stage, ...(section ? { section } : {}), ...(course ? { course: Number(course) } : {}) }
  return ok({ id, title, kind: p.kind, roles: [...p.roles], own: false, why: p.why, at } as AddedPoint)
}

/** A limit, or what the planner starts from, by its name. */
export const defOf = (
  name: string,
): { readonly title: string; readonly of: LimitUnit; readonly range: readonly [number, number]; readonly sense?: LimitDef['sense'] } | undefined =>
  limitDef(name) ?? startDef(name)

/** Lengths that may be over this are of a person's size, others small, m. */
const LARGE = 2

/** How a number of the book is measured; undefined for one that has no unit of its own to turn into another. */
export const measureOf = (name: string): 'length' | 'small' | 'mass' | 'temperature' | 'pressure' | 'speed' | 'rain' | undefined => {
  const d = defOf(name)
  return d?.of === 'length'
    ? d.range[1] >= LARGE
      ? 'length'
      : 'small'
    : d?.of === 'mass' || d?.of === 'temperature' || d?.of === 'pressure' || d?.of === 'speed' || d?.of === 'rain'
      ? d.of
      : undefined
}

/** The unit a limit is typed and read in. @example unitOf('padLevel', 'metric') // 'mm' */
export function unitOf(name: string, units: UnitSystem): string {
  const d = defOf(name)
  const measure = measureOf(name)
  if (!d) return ''
  if (measure) return unitOfMeasure(measure, units)
  const words: Readonly<Record<Exclude<LimitUnit, 'length' | 'mass' | 'temperature' | 'pressure' | 'speed' | 'rain'>, string>> = {
    '%': '%',
    '°': '°',
    passes: 'passes',
    share: 'of 1',
    ratio: ': 1',
    count: '',
    days: 'days',
    hours: 'h',
  }
  return words[d.of as keyof typeof words]
}

/** A limit as it stands, in the reader's units. @example limitText('padLevel', 0.005, 'metric') // '±5 mm' */
export function limitText(name: string, value: number, units: UnitSystem): string {
  const measure = measureOf(name)
  const either = defOf(name)?.sense === 'within' ? '±' : ''
  const { slope } = limitDef(name) ?? {}
  if (slope && value > 0) return formatSlope(slope === 'across' ? value : 1 / value)
  if (measure === 'mass') return `${either}${formatMass(value, units)}`
  if (measure === 'pressure' || measure === 'speed' || measure === 'rain')
    return `${either}${typedAmount(value, measure, units)} ${unitOf(name, units)}`
  if (measure === 'temperature') return `${either}${formatTemperature(value, units)}`
  if (measure === 'length') return `${either}${formatLength(value, units, 2)}`
  if (measure === 'small') return `${either}${formatSigned(value, units)}`
  const unit = unitOf(name, units)
  const one: Readonly<Record<string, string>> = { days: 'day', passes: 'pass' }
  return `${either}${+value.toFixed(3)} ${(value === 1 ? one[unit] : undefined) ?? unit}`.trim()
}

/** What was typed for a limit, in SI. @example readLimit('padLevel', '4', 'metric') // ok(0.004) */
export function readLimit(name: string, text: string, units: UnitSystem): Result<number> {
  const measure = measureOf(name)
  if (!defOf(name)) return fail('value', 'is no limit')
  if (!text.trim()) return fail('value', 'is missing')
  if (measure) return parseAmount(text, measure, units)
  const { slope } = limitDef(name) ?? {}
  const written = slope && /h/i.test(text) ? parseLean(text) : undefined
  if (written) return written.ok && slope === 'up' ? ok(1 / written.value) : written
  const value = Number(text.trim().replace(',', '.'))
  return Number.isFinite(value) ? ok(value) : fail('value', `"${text}" is not a number`)
}

/** Where a problem of a level is said: by the name of its rule, not its place in a list. */
export function named(problems: readonly Problem[], rules: Rules): Problem[] {
  return problems.map((p) => {
    const at = /(limits|starts|choices|ladder|points|added)\[(\d+)\]/.exec(p.field)
    if (!at) return { ...p, field: /^(company|site|wall)/.test(p.field) ? '' : p.field }
    const i = Number(at[2])
    const title =
      at[1] === 'starts'
        ? defOf(rules.starts?.[i]?.start ?? '')?.title
        : at[1] === 'limits'
          ? limitDef(rules.limits?.[i]?.limit ?? '')?.title
          : at[1] === 'choices'
            ? choiceDef(rules.choices?.[i]?.choice ?? '')?.title
            : at[1] === 'ladder'
              ? rungOf(rules.ladder?.[i]?.fact ?? 'height').title
              : at[1] === 'points'
                ? rules.points?.[i]?.point
                : rules.added?.[i]?.title
    return { field: title ?? p.field, message: p.message }
  })
}

/**
 * What somebody changed of older rules, made of the newest ones: what others changed meanwhile stays, where both changed one rule it is
 * this one's.
 *
 * @param from - the rules the change was begun from
 * @example merged(from, mine, theirs).limits
 */
export function merged(from: Rules, mine: Rules, theirs: Rules): Rules {
  const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)
  const list = <T extends object>(key: (t: T) => string, was: readonly T[] = [], is: readonly T[] = [], now: readonly T[] = []): T[] | undefined => {
    const gone = was.filter((w) => !is.some((i) => key(i) === key(w))).map(key)
    const changed = is.filter(
      (i) =>
        !same(
          was.find((w) => key(w) === key(i)),
          i,
        ),
    )
    return orNone([...now.filter((n) => !gone.includes(key(n)) && !changed.some((c) => key(c) === key(n))), ...changed])
  }
  return {
    ...theirs,
    limits: list((l) => l.limit, from.limits, mine.limits, theirs.limits),
    starts: list((l) => l.start, from.starts, mine.starts, theirs.starts),
    ladder: list((r) => r.fact, from.ladder, mine.ladder, theirs.ladder),
    choices: list((c) => c.choice, from.choices, mine.choices, theirs.choices),
    points: list((p) => p.point, from.points, mine.points, theirs.points),
    added: list((p) => p.id, from.added, mine.added, theirs.added),
    keepers: same(from.keepers, mine.keepers) ? theirs.keepers : mine.keepers,
  }
}
