import {
  failAll,
  formatLength,
  issued,
  layOut,
  limitsOf,
  misplaced,
  ok,
  PART,
  type Plan,
  type Problem,
  parseAmount,
  parseFall,
  parseLean,
  type Result,
  type RuleBook,
  read,
  readPlan,
  SYSTEMS,
  schoolBy,
  systemOf,
  tooManyPieces,
  type Unit,
  type UnitSystem,
  type WallSystem,
  withAnswer,
  type yup,
} from '@stone-tally/core'
import { aroundTexts, foundRead, padStepsRead, standsRead } from './around'
import { builtInField, builtInRead, builtInTexts } from './built-in'
import { chosenOf, startsOf } from './chosen'
import type { Draft, Was } from './draft-fields'
import { EVERY, EVERY_ROOT, partField, partRead, partTexts, startTexts } from './part'
import { signedRead, signedTexts } from './signed'
import { withStanding } from './standing'
import { frontRead, holdsRead, rulesRead, surroundingsOf } from './surroundings'

export type { Draft } from './draft-fields'

const first = SYSTEMS[0] as WallSystem
/** What every wall is asked, as texts of the form. */
const everyTexts = (plan: unknown, units: UnitSystem): Pick<Draft, 'every' | 'everyLists'> => {
  const { part, lists } = partTexts(EVERY, plan, units)
  return { every: part, everyLists: lists }
}

/** A new wall, from what the rule book has the planner start from. */
export function emptyDraft(units: UnitSystem, book?: RuleBook): Draft {
  const starts = startsOf(book)
  return {
    name: '',
    site: '',
    drawing: '',
    engineer: '',
    engineerBy: '',
    holds: '',
    frontSlope: '',
    frontErodible: '',
    frost: '',
    stands: [],
    found: '',
    foundBack: '',
    padSteps: '',
    ...everyTexts({}, units),
    ...signedTexts({}, units),
    drawn: {},
    sketches: [],
    limits: [],
    builtIn: [],
    system: first.id,
    ...startTexts(first, first.units[0] as Unit, starts, units),
    length: '',
    grades: [
      { station: '0', toe: '', top: '' },
      { station: '', toe: '', top: '' },
    ],
    benchmarkName: 'BM 1',
    benchmark: '',
    behind: '',
    slope: `${starts.value('slope')}`,
    sections: [{ id: 'A', to: '' }],
    openCourses: `${limitsOf({ book }).openCourses.value}`,
    topStyle: schoolBy({ book }, 'top-grade') === 'level' ? 'level' : 'stepped',
  }
}

const EVERY_UNIT: readonly { system: string; unit: Unit }[] = SYSTEMS.flatMap((s) => s.units.map((unit) => ({ system: s.id, unit })))
const shownBefore = new WeakMap<Plan, Partial<Record<UnitSystem, Draft>>>()
/** A plan as it was shown; made once, since every letter typed is held against it. */
function shownOf(plan: Plan, units: UnitSystem): Draft {
  const known = shownBefore.get(plan) ?? {}
  const draft = known[units] ?? draftOf(plan, units)
  shownBefore.set(plan, { ...known, [units]: draft })
  return draft
}

/** The draft of a plan in force, to make its next revision from. */
export function draftOf(plan: Plan, units: UnitSystem): Draft {
  const l = (m: number) => (units === 'metric' ? `${m}` : formatLength(m, units))
  const system = systemOf(plan.system.id)
  return {
    name: plan.name,
    site: plan.site,
    drawing: plan.drawing ?? '',
    engineer: plan.engineer ?? '',
    ...surroundingsOf(plan, units),
    ...aroundTexts(plan, units),
    ...everyTexts(plan, units),
    ...signedTexts(plan, units),
    sketches: [],
    drawn: {
      ...(plan.alignment ? { alignment: plan.alignment } : {}),
      ...(plan.references ? { references: plan.references } : {}),
      ...(plan.obstacles ? { obstacles: plan.obstacles } : {}),
      ...(plan.rules?.added ? { added: plan.rules.added } : {}),
    },
    builtIn: builtInTexts(plan.builtIn, units),
    system: plan.system.id,
    ...(system ? partTexts(system, plan.system.data, units) : { part: {}, lists: {} }),
    length: l(plan.length),
    grades: plan.grades.map((g, was) => ({ was, station: l(g.station), toe: l(g.toe), top: l(g.top) })),
    benchmarkName: plan.benchmark.name,
    benchmark: l(plan.benchmark.elevation),
    behind: l(plan.excavation.behind),
    slope: `${plan.excavation.slope}`,
    sections: plan.sections.map((s, was) => ({ was, id: s.id, to: l(s.to) })),
    openCourses: `${plan.rules?.openCourses ?? 1}`,
    topStyle: plan.top?.style ?? 'stepped',
  }
}

/** Where a field of the plan stands in the draft, to put a problem beside what was typed. */
const FIELD: Record<string, string> = {
  'benchmark.name': 'benchmarkName',
  'benchmark.elevation': 'benchmark',
  'excavation.behind': 'behind',
  'excavation.slope': 'slope',
  'rules.openCourses': 'openCourses',
  'engineerCovers.height': 'coversHeight',
  'engineerCovers.from': 'coversFrom',
  'engineerCovers.to': 'coversTo',
  'soil.by': 'soilBy',
}
const ASKED_OF_EVERY = /^(water|openings|rules\.(pointSpacing|engineeredAbove|heightFrom|ownRelease)|top\.minRun)/
const draftField = (field: string, system: WallSystem) =>
  FIELD[field] ??
  (field.startsWith('found') ? 'found' : field.startsWith('padSteps') ? 'padSteps' : undefined) ??
  (ASKED_OF_EVERY.test(field) ? partField(EVERY, field, EVERY_ROOT) : undefined) ??
  builtInField(field) ??
  (field.startsWith(PART) ? partField(system, field.slice(PART.length)) : undefined) ??
  field
    .replace(/^rules\.limits/, 'limits')
    .replace(/^asked\[(\d+)\]\.(\w+)$/, 'asked.$1.cells.$2')
    .replace(/\[(\d+)\]/g, '.$1')

/** Problems of a plan, each at the field of the draft it was typed in. */
export const placedIn = (
  draft: Pick<Draft, 'part'>,
  catalogue: readonly { system: string; unit: Unit }[],
  base: Plan | undefined,
  list: readonly Problem[],
): Problem[] => {
  const system = chosenOf(draft, catalogue, base)?.system
  return list.map((p) => ({ field: system ? draftField(p.field, system) : p.field, message: p.message }))
}

/**
 * What was typed, as a plan the core has checked and laid out; problems carry the path of the draft's field.
 *
 * With a plan in force what was typed is *edits* of it: a field that still reads as the plan was shown keeps the plan's own value,
 * however that was rounded for reading, and what the form does not show stays as it is.
 *
 * @param units - decides what a number without a unit means: metres or feet
 * @param base - the plan in force, where this is its next revision
 * @param issue - the plan as it would be issued; by the shipped rules where left out
 * @param book - rules that a new wall starts from; as they ship where left out
 * @example planOf(draftOf(plan, 'imperial'), 'imperial', undefined, plan) // the plan itself, to the last digit
 */
export function planOf(
  draft: Draft,
  units: UnitSystem,
  catalogue: readonly { system: string; unit: Unit }[] = EVERY_UNIT,
  base?: Plan,
  issue: (plan: Plan) => Result<Plan> = (plan) => ok(issued(plan)),
  book?: RuleBook,
): Result<Plan> {
  const plan = planRead(draft, units, catalogue, base, book)
  if (!plan.ok) return plan
  const placed = (list: readonly Problem[]) => failAll(placedIn(draft, catalogue, base, list))
  const large = tooManyPieces(plan.value)
  if (large) return placed([large])
  // As it would be issued: by the rules of company and site.
  const under = issue(plan.value)
  if (!under.ok) return placed(under.problems)
  const laid = layOut(under.value)
  if (!laid.ok) return placed(laid.problems)
  const nowhere = misplaced(laid.value)
  return nowhere.length > 0 ? placed(nowhere) : plan
}

/**
 * What was typed, as a plan that is one; whether it can be laid out is not looked at. As {@link planOf} otherwise.
 *
 * @example planRead(draft, 'metric').ok
 */
export function planRead(
  typed: Draft,
  units: UnitSystem,
  catalogue: readonly { system: string; unit: Unit }[] = EVERY_UNIT,
  base?: Plan,
  book?: RuleBook,
): Result<Plan> {
  const draft = withStanding(typed, units)
  const problems: Problem[] = []
  const metres = (field: string, value: string): number => {
    const read = parseAmount(value, 'length', units)
    if (read.ok) return read.value
    problems.push({ field, message: value.trim() === '' ? 'is missing' : (read.problems[0]?.message ?? 'is not a length') })
    return Number.NaN
  }
  const number = (field: string, value: string): number => {
    const n = Number(value.replace(',', '.'))
    if (value.trim() !== '' && Number.isFinite(n)) return n
    problems.push({ field, message: value.trim() === '' ? 'is missing' : `"${value}" is not a number` })
    return Number.NaN
  }
  const reading = (parse: (text: string) => Result<number>) => (field: string, value: string) => {
    const made = value.trim() === '' ? undefined : parse(value)
    if (made?.ok) return made.value
    problems.push({ field, message: made?.problems[0]?.message ?? 'is missing' })
    return Number.NaN
  }
  const [fall, lean] = [reading(parseFall), reading(parseLean)]
  const shown = base && shownOf(base, units)
  type Typed = { [K in keyof Draft]-?: Draft[K] extends string ? K : never }[keyof Draft]
  /** The plan's own value while the field reads as it was shown; else what was typed. */
  const edit = <T>(name: Typed, own: T | undefined, parse: (field: string, value: string) => T): T =>
    shown && own !== undefined && draft[name] === shown[name] ? own : parse(name, draft[name])
  const words = (name: Typed, own: string | undefined): string | undefined =>
    shown && draft[name] === shown[name] ? own : draft[name].trim() || undefined

  const chosen = chosenOf(draft, catalogue, base)
  if (!chosen) return failAll([{ field: 'part.unit', message: 'choose a unit from the catalogue' }])
  const { system } = chosen
  // The set-out rules the length of a wall that has one.
  const length = base?.alignment && draft.drawn.alignment ? base.length : edit('length', base?.length, metres)

  /** One field of a line of a list. What ended with the wall ends with it still. */
  const cell = (list: 'grades' | 'sections', i: number, name: string, own: number | undefined, parse = metres): number => {
    const row = draft[list][i] as unknown as Record<string, string> & Was
    const before = row.was === undefined ? undefined : (shown?.[list][row.was] as unknown as Record<string, string> | undefined)
    if (own === undefined || !before || before[name] !== row[name]) return parse(`${list}.${i}.${name}`, row[name] ?? '')
    const atEnd = base && own === base.length && (name === 'to' || (list === 'grades' && name === 'station'))
    return atEnd ? length : own
  }
  const own = <T>(list: readonly T[] | undefined, row: Was): T | undefined => (row.was === undefined ? undefined : list?.[row.was])

  const ends = draft.sections.map((s, i) =>
    i === draft.sections.length - 1 && s.to.trim() === '' ? length : cell('sections', i, 'to', own(base?.sections, s)?.to),
  )
  const lastGrade = (g: Draft['grades'][number], i: number) => i === draft.grades.length - 1 && g.station.trim() === ''
  const openCourses = edit('openCourses', base?.rules?.openCourses, (f, v) => (shown && v === shown.openCourses ? undefined : number(f, v)) as number)
  const value = {
    ...base,
    name: words('name', base?.name) ?? '',
    site: words('site', base?.site) ?? '',
    drawing: words('drawing', base?.drawing),
    engineer: words('engineer', base?.engineer),
    engineerBy: words('engineerBy', base?.engineerBy),
    ...signedRead(draft, shown, base, units, length, problems),
    holds: draft.holds === (shown?.holds ?? '') ? base?.holds : holdsRead(draft.holds),
    front: frontRead(draft, shown, base?.front, fall),
    frost: draft.frost === (shown?.frost ?? '') ? base?.frost : draft.frost.trim() ? metres('frost', draft.frost) : undefined,
    top: draft.topStyle === (shown?.topStyle ?? 'stepped') ? base?.top : { ...base?.top, style: draft.topStyle },
    system: { id: system.id, data: partRead({ system, typed: draft, units, ...partFrom(system, chosen.unit), unit: chosen.unit, problems }) },
    length,
    grades: draft.grades.map((g, i) => ({
      ...own(base?.grades, g),
      station: lastGrade(g, i) ? length : cell('grades', i, 'station', own(base?.grades, g)?.station),
      toe: cell('grades', i, 'toe', own(base?.grades, g)?.toe),
      top: cell('grades', i, 'top', own(base?.grades, g)?.top),
    })),
    benchmark: {
      ...base?.benchmark,
      name: words('benchmarkName', base?.benchmark.name) ?? '',
      elevation: edit('benchmark', base?.benchmark.elevation, metres),
    },
    excavation: {
      ...base?.excavation,
      // Left empty it stands by itself, below.
      behind: draft.behind.trim() === '' ? 0 : edit('behind', base?.excavation.behind, metres),
      slope: edit('slope', base?.excavation.slope, lean),
    },
    builtIn: builtInRead(draft.builtIn, shown?.builtIn, base?.builtIn, units, problems),
    sections: draft.sections.map((s, i) => ({
      ...own(base?.sections, s),
      id: s.id.trim(),
      from: i === 0 ? 0 : (ends[i - 1] ?? 0),
      to: ends[i] ?? length,
    })),
    stands: standsRead(draft.stands, shown?.stands, base?.stands, units, problems),
    found: foundRead(draft, shown, base?.found, units, problems),
    padSteps: padStepsRead(draft, shown, base?.padSteps, units, problems),
    alignment: draft.drawn.alignment ?? (shown?.drawn.alignment ? undefined : base?.alignment),
    references: draft.drawn.references ?? (shown?.drawn.references ? undefined : base?.references),
    obstacles: draft.drawn.obstacles ?? (shown?.drawn.obstacles ? undefined : base?.obstacles),
    rules: rulesRead(draft, shown, openCourses === undefined ? base?.rules : { ...base?.rules, openCourses }, units, problems),
  }
  const whole = withEvery(withAdded(value))
  if (problems.length > 0) return failAll(problems)
  // What is undefined was left out: the plan's own JSON has no such key.
  const plan = readPlan(Object.fromEntries(Object.entries(stood(whole as unknown as Plan)).filter(([, v]) => v !== undefined)))
  return plan.ok ? plan : failAll(placedIn(draft, catalogue, base, plan.problems))

  /** With what stands in lists of its part that nobody filled in. */
  function stood(of: Plan): Plan {
    // By the rules it will be issued under.
    const under = issued({ ...of, ...(book ? { book } : {}) })
    const data = system.stands?.(under, of.system.data) ?? of.system.data
    const { slope } = of.excavation
    const room = Math.max(startsOf(base?.book ?? book).value('behind'), Math.ceil((system.room?.(data, slope) ?? 0) * 100 - 1e-6) / 100)
    return {
      ...of,
      system: { ...of.system, data },
      excavation: draft.behind.trim() === '' ? { ...of.excavation, behind: room } : of.excavation,
    }
  }

  /** Inspection points of this wall's own, which are taken in where what stands around is said. */
  function withAdded<V extends { rules: Plan['rules'] }>(of: V): V {
    if (JSON.stringify(draft.drawn.added) === JSON.stringify(shown?.drawn.added)) return of
    const { added: _, ...rules } = of.rules ?? {}
    return { ...of, rules: draft.drawn.added?.length ? { ...rules, added: draft.drawn.added } : rules }
  }

  /** What every wall is asked, put where the plan has it. */
  function withEvery(of: object): Record<string, unknown> {
    const typed = { part: draft.every, lists: draft.everyLists }
    const asShown = shown ? { part: shown.every, lists: shown.everyLists } : { ...partTexts(EVERY, {}, units) }
    const made = partRead({ system: EVERY, typed, units, data: of, shown: asShown, root: EVERY_ROOT, problems }) as Record<string, unknown>
    const top = made.top as { style?: string } | undefined
    return top && top.style === undefined ? { ...made, top: { ...top, style: draft.topStyle } } : made
  }

  /** The part the typed one is an edit of: the plan's own wherever the system can read it, else what a new wall starts with. */
  function partFrom(of: WallSystem, unit: Unit): { data: unknown; shown?: Pick<Draft, 'part' | 'lists'> | undefined } {
    const at = of.questions.find((q) => q.of === 'unit')?.at
    const own = base && at !== undefined ? withAnswer(base.system.data, at, unit) : base?.system.data
    if (base && shown && (of.id === base.system.id || read(of.schema as yup.AnySchema, own).ok)) return { data: base.system.data, shown }
    const starts = startsOf(base?.book ?? book)
    return { data: of.start(unit, starts), shown: startTexts(of, unit, starts, units) }
  }
}
