import {
  answerIn,
  EVERY_WALL,
  formatLength,
  formatSmall,
  type Problem,
  parseAmount,
  parseLength,
  type Question,
  type QuestionOf,
  type Starts,
  smallUnit,
  typedAmount,
  type Unit,
  type UnitSystem,
  type WallSystem,
  withAnswer,
} from '@stone-tally/core'
import type { Draft, Line } from './draft-fields'

type Part = Pick<Draft, 'part' | 'lists'>
/** Who asks: a system of its part, or every wall of its plan. */
export type Asking = Pick<WallSystem, 'questions' | 'settle'>
/** Where the answers stand in the draft. */
export type Root = readonly [single: 'part' | 'every', lists: 'lists' | 'everyLists']
export const PART_ROOT: Root = ['part', 'lists']
/** What every wall is asked: its answers stand in the plan itself. */
export const EVERY: Asking = { questions: EVERY_WALL, settle: (plan) => plan }
export const EVERY_ROOT: Root = ['every', 'everyLists']
type Single = Extract<Question, { of: QuestionOf }>

/** A length, share, number or word of a part as it is shown in a field. */
export function shownAs(of: QuestionOf, value: unknown, units: UnitSystem): string {
  if (value === undefined || value === null) return ''
  if (of === 'small') return units === 'metric' ? `${+((value as number) * 1000).toFixed(3)}` : formatSmall(value as number, units)
  // What was reckoned by halves and tenths reads as somebody would write it.
  if (of === 'length') return units === 'metric' ? `${+(value as number).toFixed(9)}` : formatLength(value as number, units)
  if (of === 'mass' || of === 'area' || of === 'rain') return typedAmount(value as number, of, units)
  return of === 'share' ? `${+((value as number) * 100).toFixed(9)}` : `${value as string | number}`
}

/**
 * A system's part of a plan as texts of the form. Lists that want a line have one, empty.
 *
 * @example partTexts(system, plan.system.data, 'metric').part.padThickness // '0.15'
 */
export function partTexts(system: Asking, data: unknown, units: UnitSystem): Part {
  const texts: Part = { part: {}, lists: {} }
  for (const q of system.questions) {
    const value = answerIn(data, q.at)
    if (q.of === 'list') {
      const rows = ((value as Record<string, unknown>[] | undefined) ?? []).map(
        (row, was): Line => ({
          was,
          cells: Object.fromEntries(q.columns.map((c) => [c.id, shownAs(c.of, row[c.id], units)])),
        }),
      )
      while (rows.length < q.least) rows.push(emptyLine(q, rows.length === 0))
      texts.lists[q.id] = rows
    } else if (q.of === 'unit') texts.part[q.id] = (value as Unit | undefined)?.id ?? ''
    else
      texts.part[q.id] =
        q.of === 'choice' ? (q.yesNo && value !== undefined ? (value ? 'yes' : 'no') : `${value ?? ''}`) : shownAs(q.of, value ?? q.usual, units)
  }
  return texts
}

/**
 * What a new wall begins with, as texts: lists that stand by themselves are empty until somebody fills them in.
 *
 * @example startTexts(system, unit, starts, 'metric').lists.outlets // []
 */
export function startTexts(system: WallSystem, unit: Unit, starts: Starts, units: UnitSystem): Part {
  const { part, lists } = partTexts(system, system.start(unit, starts), units)
  return { part, lists: Object.fromEntries(Object.entries(lists).map(([id, rows]) => [id, standsOf(system, id) ? [] : rows])) }
}
const standsOf = (system: Asking, id: string) => system.questions.some((q) => q.of === 'list' && q.id === id && q.stands !== undefined)

/** A new line of a list: the first begins with what its columns say, another with what repeats of the line before it. */
export const emptyLine = (q: Extract<Question, { of: 'list' }>, first = false, before?: Line): Line => ({
  cells: Object.fromEntries(q.columns.map((c) => [c.id, first ? (c.begin ?? '') : c.again ? (before?.cells[c.id] ?? '') : ''])),
})

/** Is a question asked with these answers? @example isAsked(question, draft.part) */
export const isAsked = (q: Question, part: Record<string, string>): boolean =>
  (!q.when || q.when.is.includes(part[q.when.question] ?? '')) && !q.unless?.is.includes(part[q.unless.question] ?? '')

/** What is typed for one question or cell, in SI; problems with its field. */
export function reading(of: QuestionOf, text: string, units: UnitSystem, field: string, problems: Problem[]): number | string {
  const value = text.trim()
  const asTyped = of === 'text' || of === 'day'
  if (value === '') problems.push({ field, message: 'is missing' })
  else if (asTyped) return value
  else if (of === 'length' || of === 'small') {
    const read = parseLength(text, of === 'small' ? smallUnit(units) : units === 'metric' ? 'm' : 'ft')
    if (read.ok) return read.value
    problems.push({ field, message: read.problems[0]?.message ?? 'is not a length' })
  } else if (of === 'mass' || of === 'area' || of === 'rain') {
    const read = parseAmount(text, of, units)
    if (read.ok) return read.value
    problems.push({ field, message: read.problems[0]?.message ?? 'is not a number' })
  } else {
    const n = Number(value.replace(',', '.'))
    if (Number.isFinite(n)) return of === 'share' ? n / 100 : n
    problems.push({ field, message: `"${text}" is not a number` })
  }
  return asTyped ? '' : Number.NaN
}

/** What a part is made from: what was typed, and the part it is an edit of, with what was shown of it. */
interface From {
  readonly system: Asking
  readonly typed: Part
  readonly units: UnitSystem
  /** The part to start from: the plan's own, or what a new wall starts with. */
  readonly data: unknown
  /** What stands in the fields where nobody touched them; left out where everything was typed. */
  readonly shown?: Part | undefined
  /** Of its units, where it has one. */
  readonly unit?: Unit
  readonly root?: Root
  readonly problems: Problem[]
}

/**
 * The part of a plan as it was typed. A field that still reads as it was shown keeps the value of the part to the last digit, and what no
 * question asks stays as it is.
 */
export function partRead({ system, typed, units, data, shown, unit, root = PART_ROOT, problems }: From): unknown {
  let part = data
  for (const q of system.questions) {
    if (!isAsked(q, typed.part)) continue
    const put = (answer: unknown) => {
      part = withAnswer(part, q.at, answer)
    }
    if (q.of === 'unit') {
      // What a new wall starts with is of its unit already, as the rules have it.
      const own = answerIn(data, q.at) as Unit | undefined
      if (unit && own?.id !== unit.id) put(unit)
    } else if (q.of === 'choice') {
      const chosen = typed.part[q.id] ?? ''
      if (shown ? shown.part[q.id] !== chosen : chosen !== '' || answerIn(data, q.at) !== undefined)
        put(chosen === '' ? undefined : q.yesNo ? chosen === 'yes' : chosen)
    } else if (q.of === 'list') {
      // A list the part does not have, and nobody began, stays away.
      if (answerIn(data, q.at) !== undefined || (typed.lists[q.id] ?? []).length > 0)
        put(linesRead(q, { system, typed, units, data, shown, root, problems }))
    } else if (!shown || shown.part[q.id] !== typed.part[q.id]) put(singleRead(q, typed.part[q.id] ?? '', units, root, problems))
  }
  return system.settle(part)
}

function singleRead(q: Single, text: string, units: UnitSystem, root: Root, problems: Problem[]): number | string | undefined {
  return q.optional && text.trim() === '' ? undefined : reading(q.of, text, units, `${root[0]}.${q.id}`, problems)
}

function linesRead(q: Extract<Question, { of: 'list' }>, { typed, units, data, shown, root = PART_ROOT, problems }: From): unknown[] | undefined {
  const own = (answerIn(data, q.at) as Record<string, unknown>[] | undefined) ?? []
  const lines = typed.lists[q.id] ?? []
  if (q.optional && lines.length === 0) return undefined
  return lines.map((line, i) => {
    const before = shown && line.was !== undefined ? own[line.was] : undefined
    const asShown = shown && line.was !== undefined ? shown.lists[q.id]?.[line.was] : undefined
    const cells = q.columns.flatMap((c) => {
      const text = line.cells[c.id] ?? ''
      if (before && asShown?.cells[c.id] === text) return [[c.id, before[c.id]] as const]
      if (c.optional && text.trim() === '') return []
      return [[c.id, reading(c.of, text, units, `${root[1]}.${q.id}.${i}.cells.${c.id}`, problems)] as const]
    })
    const emptied = q.columns.filter((c) => c.optional && !cells.some(([id]) => id === c.id)).map((c) => c.id)
    const kept = Object.fromEntries(Object.entries(before ?? {}).filter(([id]) => !emptied.includes(id)))
    return { ...kept, ...Object.fromEntries(cells) }
  })
}

/**
 * Where a field of the part stands on the form; undefined for one that no question asks.
 *
 * @param field - within the part
 * @example partField(system, 'drain.outlets[0].station') // 'lists.outlets.0.cells.station'
 */
export function partField(system: Asking, field: string, [single, lists]: Root = PART_ROOT): string | undefined {
  for (const q of system.questions) {
    if (q.of === 'list') {
      if (field === q.at) return `${lists}.${q.id}`
      const line = field.startsWith(`${q.at}[`) ? /^\[(\d+)\](?:\.(.+))?$/.exec(field.slice(q.at.length)) : null
      if (line) return `${lists}.${q.id}.${line[1]}${line[2] ? `.cells.${line[2]}` : ''}`
    } else if (field === q.at || (q.of === 'unit' && field.startsWith(`${q.at}.`))) return `${single}.${q.id}`
  }
  // A list whose lines are told apart by a field of theirs is one question each: the first of them takes what is said of it.
  const first = system.questions.find((q) => q.at.startsWith(`${field.split(/[.[]/)[0]}[`))
  return first && `${single}.${first.id}`
}

/** A field of the part in the words of the form. @example partLabel(system, 'lists.grid.0.cells.length') // 'Geogrid 1: length' */
export function partLabel(system: Asking, field: string): string | undefined {
  const [of, id, line, , column] = field.split('.')
  const q = system.questions.find((x) => x.id === id)
  if (!q || !['part', 'lists', 'every', 'everyLists'].includes(of ?? '')) return undefined
  if (q.of !== 'list' || line === undefined) return q.name ?? q.label
  const n = Number(line) + 1
  return column ? `${q.one} ${n}: ${column}` : `${q.one}, no. ${n}`
}
