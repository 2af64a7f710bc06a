import {
  type Adopted,
  failAll,
  formatLength,
  issued,
  layOut,
  limitsOf,
  misplaced,
  ok,
  type Plan,
  type Problem,
  parseLength,
  type Result,
  type RuleBook,
  readPlan,
  type StartName,
  SYSTEMS,
  schoolBy,
  startBy,
  tooManyPieces,
  type Unit,
  type UnitSystem,
} from '@stone-tally/core'

import type { Draft, Was } from './draft-fields'
import { frontRead, holdsRead, rulesRead, surroundingsOf } from './surroundings'

export type { Draft } from './draft-fields'

const PADS = ['dense-graded', 'open-graded', 'sand', 'sand-cement', 'lean-concrete'] as const
/** The pad a new wall starts from: the company's school, where a plan can have it. */
const padStart = (book: RuleBook | undefined) => PADS.find((p) => p === schoolBy({ book }, 'pad-material')) ?? 'dense-graded'

/** A new wall, from what the rule book has the planner start from. */
export function emptyDraft(units: UnitSystem, book?: RuleBook): Draft {
  const starts = (name: StartName) => startBy({ book }, name)
  const l = (m: number) => (units === 'metric' ? `${m}` : formatLength(m, units))
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
    limits: [],
    system: SYSTEMS[0]?.id ?? '',
    unit: SYSTEMS[0]?.units[0]?.id ?? '',
    length: '',
    grades: [
      { station: '0', toe: '', top: '' },
      { station: '', toe: '', top: '' },
    ],
    benchmarkName: 'BM 1',
    benchmark: '',
    embedFixed: l(starts('embedFixed')),
    embedShare: `${starts('embedShare')}`,
    padMaterial: padStart(book),
    padThickness: l(starts('padThickness')),
    padWidth: l(starts('padWidth')),
    padLift: l(starts('padLift')),
    minRun: l(starts('minRun')),
    behind: l(starts('behind')),
    slope: `${starts('slope')}`,
    stone: l(starts('stone')),
    pipe: l(starts('pipe')),
    fall: `${starts('fall')}`,
    outlets: [{ station: '0', invert: '' }],
    grid: [],
    sections: [{ id: 'A', to: '' }],
    openCourses: `${limitsOf({ book }).openCourses.value}`,
    topStyle: schoolBy({ book }, 'top-grade') === 'level' ? 'level' : 'stepped',
    wasteUnits: `${starts('wasteUnits')}`,
    wasteStone: `${starts('wasteStone')}`,
    wasteGrid: `${starts('wasteGrid')}`,
  }
}

/** The draft of a plan in force, to make its next revision from. */
export function draftOf(plan: Plan, units: UnitSystem): Draft {
  const l = (m: number) => (units === 'metric' ? `${m}` : formatLength(m, units))
  const fixed = plan.embedment.find((r) => r.kind === 'fixed')
  const share = plan.embedment.find((r) => r.kind === 'fraction')
  return {
    name: plan.name,
    site: plan.site,
    drawing: plan.drawing ?? '',
    engineer: plan.engineer ?? '',
    ...surroundingsOf(plan, units),
    system: plan.system,
    unit: plan.unit.id,
    length: l(plan.length),
    grades: plan.grades.map((g, was) => ({ was, station: l(g.station), toe: l(g.toe), top: l(g.top) })),
    benchmarkName: plan.benchmark.name,
    benchmark: l(plan.benchmark.elevation),
    embedFixed: fixed?.depth == null ? '' : l(fixed.depth),
    embedShare: share?.fraction == null ? '' : `${share.fraction * 100}`,
    padMaterial: plan.pad.material,
    padThickness: l(plan.pad.thickness),
    padWidth: l(plan.pad.width),
    padLift: l(plan.pad.maxLift),
    minRun: l(plan.pad.minRun),
    behind: l(plan.excavation.behind),
    slope: `${plan.excavation.slope}`,
    stone: l(plan.stone.width),
    pipe: l(plan.drain.diameter),
    fall: `${plan.drain.fall * 100}`,
    outlets: plan.drain.outlets.map((o, was) => ({ was, station: l(o.station), invert: l(o.invert) })),
    grid: plan.grid.map((g, was) => ({ was, course: `${g.course}`, length: l(g.length), type: g.type })),
    sections: plan.sections.map((s, was) => ({ was, id: s.id, to: l(s.to) })),
    openCourses: `${plan.rules?.openCourses ?? 1}`,
    topStyle: plan.top?.style ?? 'stepped',
    wasteUnits: `${plan.waste?.units ?? 3}`,
    wasteStone: `${plan.waste?.stone ?? 10}`,
    wasteGrid: `${plan.waste?.grid ?? 5}`,
  }
}

/** What is typed, with the length and grades of a line taken from a drawing or survey. */
export function draftAlong(draft: Draft, line: Adopted, units: UnitSystem): Draft {
  const l = (m: number) => (units === 'metric' ? `${m}` : formatLength(m, units))
  const last = draft.grades.length - 1
  return {
    ...draft,
    length: l(line.length),
    grades:
      line.grades?.map((g) => ({ station: l(g.station), toe: l(g.toe), top: l(g.top) })) ??
      draft.grades.map((g, i) => (i === last ? { ...g, station: l(line.length) } : g)),
    sections: draft.sections.map((s, i) => (i === draft.sections.length - 1 ? { ...s, to: l(line.length) } : s)),
  }
}

/**
 * The plan of a draft on the very line of the drawing: its alignment, and its length, stations and grades to the last digit wherever a field
 * still reads as the drawing was shown.
 *
 * @param plan - what {@link planOf} made of the draft
 */
export function planAlong(plan: Plan, line: Adopted, draft: Draft, units: UnitSystem): Plan {
  const l = (m: number) => (units === 'metric' ? `${m}` : formatLength(m, units))
  const own = (value: number, text: string | undefined, exact: number | undefined) => (exact !== undefined && text === l(exact) ? exact : value)
  return {
    ...plan,
    length: line.length,
    alignment: line.alignment,
    grades: plan.grades.map((g, i) => {
      const text = draft.grades[i]
      const of = line.grades?.find((x) => l(x.station) === text?.station)
      return {
        ...g,
        station: own(g.station, text?.station, of?.station ?? line.length),
        toe: own(g.toe, text?.toe, of?.toe),
        top: own(g.top, text?.top, of?.top),
      }
    }),
    sections: plan.sections.map((s, i) => ({
      ...s,
      to: draft.sections[i]?.to.trim() === '' ? line.length : own(s.to, draft.sections[i]?.to, line.length),
    })),
    drain: { ...plan.drain, outlets: plan.drain.outlets.map((o, i) => ({ ...o, station: own(o.station, draft.outlets[i]?.station, line.length) })) },
  }
}

/** Where a field of the plan stands in the draft, to put a problem beside what was typed. */
const FIELD: Record<string, string> = {
  'unit.id': 'unit',
  'benchmark.name': 'benchmarkName',
  'benchmark.elevation': 'benchmark',
  'pad.material': 'padMaterial',
  'pad.thickness': 'padThickness',
  'pad.width': 'padWidth',
  'pad.maxLift': 'padLift',
  'pad.minRun': 'minRun',
  'excavation.behind': 'behind',
  'excavation.slope': 'slope',
  'stone.width': 'stone',
  'drain.diameter': 'pipe',
  'drain.fall': 'fall',
  'rules.openCourses': 'openCourses',
}
const draftField = (field: string) =>
  FIELD[field] ??
  (field.startsWith('embedment') ? 'embedFixed' : undefined) ??
  field
    .replace(/^drain\.outlets/, 'outlets')
    .replace(/^rules\.limits/, 'limits')
    .replace(/\[(\d+)\]/g, '.$1')

/**
 * What was typed, as a plan the core has checked and laid out; problems carry the path of the draft's field.
 *
 * With a plan in force what was typed is *edits* of it: a field that still reads as the plan was shown keeps the plan's own value,
 * however that was rounded for reading, and what the form does not show stays as it is.
 *
 * @param units - decides what a number without a unit means: metres or feet
 * @param base - the plan in force, where this is its next revision
 * @example planOf(draftOf(plan, 'imperial'), 'imperial', undefined, plan) // the plan itself, to the last digit
 */
export function planOf(
  draft: Draft,
  units: UnitSystem,
  catalogue: readonly { system: string; unit: Unit }[] = SYSTEMS.flatMap((s) => s.units.map((unit) => ({ system: s.id, unit }))),
  base?: Plan,
): Result<Plan> {
  const problems: Problem[] = []
  const metres = (field: string, value: string): number => {
    const read = parseLength(value, units === 'metric' ? 'm' : 'ft')
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
  const percent = (field: string, value: string) => number(field, value) / 100
  const shown = base && draftOf(base, units)
  type Typed = { [K in keyof Draft]: Draft[K] extends string ? K : never }[keyof Draft]
  /** The plan's own value while the field reads as it was shown; else what was typed. */
  const edit = <T>(name: Typed, own: T | undefined, parse: (field: string, value: string) => T): T =>
    shown && own !== undefined && draft[name] === shown[name] ? own : parse(name, draft[name])
  const words = (name: Typed, own: string | undefined): string | undefined =>
    shown && draft[name] === shown[name] ? own : draft[name].trim() || undefined

  // A wall keeps its own unit until another is chosen, whatever became of the catalogue since.
  const kept = base && base.unit.id === draft.unit ? { system: base.system, unit: base.unit } : undefined
  const chosen = kept ?? catalogue.find((u) => u.unit.id === draft.unit)
  const unit = chosen?.unit
  if (!unit) return failAll([{ field: 'unit', message: 'choose a unit from the catalogue' }])
  // The set-out rules the length of a wall that has one.
  const length = base?.alignment ? base.length : edit('length', base?.length, metres)

  /** One field of a line of a list. What ended with the wall ends with it still. */
  const cell = (list: 'grades' | 'outlets' | 'grid' | 'sections', i: number, name: string, own: number | undefined, parse = metres): number => {
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
  const waste = shown && !base?.waste && (['wasteUnits', 'wasteStone', 'wasteGrid'] as const).every((w) => draft[w] === shown[w])
  const openCourses = edit('openCourses', base?.rules?.openCourses, (f, v) => (shown && v === shown.openCourses ? undefined : number(f, v)) as number)
  const value = {
    ...base,
    name: words('name', base?.name) ?? '',
    site: words('site', base?.site) ?? '',
    drawing: words('drawing', base?.drawing),
    engineer: words('engineer', base?.engineer),
    engineerBy: words('engineerBy', base?.engineerBy),
    holds: draft.holds === (shown?.holds ?? '') ? base?.holds : holdsRead(draft.holds),
    front: frontRead(draft, shown, base?.front, number),
    frost: draft.frost === (shown?.frost ?? '') ? base?.frost : draft.frost.trim() ? metres('frost', draft.frost) : undefined,
    top: draft.topStyle === (shown?.topStyle ?? 'stepped') ? base?.top : { ...base?.top, style: draft.topStyle },
    waste: waste
      ? undefined
      : {
          units: edit('wasteUnits', base?.waste?.units, number),
          stone: edit('wasteStone', base?.waste?.stone, number),
          grid: edit('wasteGrid', base?.waste?.grid, number),
        },
    system: chosen.system,
    unit,
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
    embedment: embedmentOf(),
    pad: {
      looseFactor: 1.25,
      ...base?.pad,
      material: draft.padMaterial,
      thickness: edit('padThickness', base?.pad.thickness, metres),
      width: edit('padWidth', base?.pad.width, metres),
      maxLift: edit('padLift', base?.pad.maxLift, metres),
      minRun: edit('minRun', base?.pad.minRun, metres),
    },
    excavation: {
      ...base?.excavation,
      behind: edit('behind', base?.excavation.behind, metres),
      slope: edit('slope', base?.excavation.slope, number),
    },
    stone: { ...base?.stone, width: edit('stone', base?.stone.width, metres) },
    drain: {
      maxOutletSpacing: 15,
      ...base?.drain,
      diameter: edit('pipe', base?.drain.diameter, metres),
      fall: edit('fall', base?.drain.fall, percent),
      outlets: draft.outlets.map((o, i) => ({
        ...own(base?.drain.outlets, o),
        station: cell('outlets', i, 'station', own(base?.drain.outlets, o)?.station),
        invert: cell('outlets', i, 'invert', own(base?.drain.outlets, o)?.invert),
      })),
    },
    grid: draft.grid.map((g, i) => ({
      ...own(base?.grid, g),
      course: cell('grid', i, 'course', own(base?.grid, g)?.course, number),
      length: cell('grid', i, 'length', own(base?.grid, g)?.length),
      type: g.type.trim(),
    })),
    sections: draft.sections.map((s, i) => ({
      ...own(base?.sections, s),
      id: s.id.trim(),
      from: i === 0 ? 0 : (ends[i - 1] ?? 0),
      to: ends[i] ?? length,
    })),
    rules: rulesRead(draft, shown, openCourses === undefined ? base?.rules : { ...base?.rules, openCourses }, units, problems),
  }
  if (problems.length > 0) return failAll(problems)
  // What is undefined was left out: the plan's own JSON has no such key.
  const plan = readPlan(Object.fromEntries(Object.entries(value).filter(([, v]) => v !== undefined)))
  const placed = (list: readonly Problem[]) => failAll(list.map((p) => ({ field: draftField(p.field), message: p.message })))
  if (!plan.ok) return placed(plan.problems)
  const large = tooManyPieces(plan.value)
  if (large) return placed([large])
  // As it would be issued: today's limits and cautions.
  const laid = layOut(issued(plan.value))
  if (!laid.ok) return placed(laid.problems)
  const nowhere = misplaced(laid.value)
  return nowhere.length > 0 ? placed(nowhere) : ok(plan.value)

  /** The schools the form shows are edited where they stand; the others stay as the plan has them. */
  function embedmentOf() {
    const share = draft.embedShare.trim()
    if (!base || !shown) {
      const fraction = share ? [{ kind: 'fraction' as const, fraction: percent('embedShare', share) }] : []
      return [{ kind: 'fixed' as const, depth: metres('embedFixed', draft.embedFixed) }, ...fraction, { kind: 'courses' as const, count: 1 }]
    }
    type Rule = Plan['embedment'][number]
    const edited = (list: Rule[], kind: Rule['kind'], name: Typed, made: () => Rule): Rule[] => {
      if (draft[name] === shown[name]) return list
      const i = list.findIndex((r) => r.kind === kind)
      const now = draft[name].trim() ? [made()] : []
      return i < 0 ? [...list, ...now] : [...list.slice(0, i), ...now, ...list.slice(i + 1)]
    }
    const fixed = edited([...base.embedment], 'fixed', 'embedFixed', () => ({ kind: 'fixed', depth: metres('embedFixed', draft.embedFixed) }))
    return edited(fixed, 'fraction', 'embedShare', () => ({ kind: 'fraction', fraction: percent('embedShare', share) }))
  }
}
