import Papa from 'papaparse'
import type { FixedData, TaskData, WallState } from '../record'
import { MACHINE_KINDS } from '../rules'
import { allTasksOf, fixesOf, type Programme } from '../schedule'

/** What a table of tasks would change, and rows that cannot be read. Nothing is recorded by reading. */
export interface TasksIn {
  readonly tasks: readonly TaskData[]
  readonly fixed: readonly FixedData[]
  /** Rows that say what is so already. */
  readonly same: number
  readonly bad: readonly { readonly line: number; readonly message: string }[]
  /** What was not taken over though it could be read: a step's hours and links come from its gates. */
  readonly left: readonly string[]
}

/** At most so many rows are read. */
const MOST = 5000
const DAY = /^\d{4}-\d\d-\d\d$/
const isDay = (v: string) => DAY.test(v) && new Date(`${v}T00:00:00Z`).toJSON()?.slice(0, 10) === v

/** Rows of a CSV text, the first with the names of its columns. @example rowsOfCsv('id,title\nhedge,Move the hedge') */
export function rowsOfCsv(text: string): readonly (readonly string[])[] {
  const read = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: false })
  return read.data
}

/** What one row says. */
type Read =
  | { readonly says: 'wrong'; readonly message: string }
  | { readonly says: 'done'; readonly title: string }
  | { readonly says: 'new'; readonly task: TaskData | undefined; readonly fixed: FixedData | undefined }

/** What of a wall a row is held against. */
interface Known {
  readonly state: WallState
  /** Steps and cuts still to be done, which the gates order. */
  readonly own: ReadonlySet<string>
  readonly steps: ReadonlySet<string>
  readonly tasks: ReadonlyMap<string, TaskData>
  readonly fixes: ReturnType<typeof fixesOf>
}
/** Cells of a row by the names of their columns. */
interface Row {
  has(name: string): boolean
  cell(name: string): string
}

const wrong = (message: string): Read => ({ says: 'wrong', message })
const machine = (name: string) => MACHINE_KINDS.find((k) => k === name)

function readRow(id: string, row: Row, { state, own, steps, tasks, fixes }: Known): Read {
  const { cell, has } = row
  const day = cell('not_before')
  if (day !== '' && !isDay(day)) return wrong(`not_before is "${day}"; a day is written 2026-05-31`)
  const title = cell('title') || id
  const fix = fixes.get(id)
  const fixed: FixedData | undefined =
    !has('not_before') || (fix?.day ?? '') === day
      ? undefined
      : { task: id, title, ...(day === '' ? {} : { day }), ...(fix ? { over: fix.entry } : {}) }
  if (own.has(id)) return { says: 'new', task: undefined, fixed }
  if (steps.has(id) || id.startsWith('release ') || id.startsWith('saw ')) return { says: 'done', title }
  const number = cell('hours').replace(',', '.')
  const hours = number === '' ? Number.NaN : Number(number)
  if (!Number.isFinite(hours) || hours < 0 || hours > 2000)
    return wrong(number === '' ? 'has no hours: how long it takes' : `hours are "${cell('hours')}"; a number from 0 to 2000`)
  const section = cell('section')
  const sections = state.layout.plan.sections.map((s) => s.id)
  if (section !== '' && !sections.includes(section)) return wrong(`section is "${section}"; this wall has ${sections.join(', ')}`)
  const plant = machine(cell('plant'))
  if (cell('plant') !== '' && !plant) return wrong(`plant is "${cell('plant')}"; one of ${MACHINE_KINDS.join(', ')}`)
  const status = cell('state') || 'open'
  if (status !== 'open' && status !== 'done' && status !== 'dropped') return wrong(`state is "${status}"; open, done or dropped`)
  if (id.includes(';') || id.length > 60) return wrong(`the id "${id.slice(0, 60)}" is too long or has a semicolon; at most 60 characters`)
  const links = (name: string) =>
    cell(name)
      .split(';')
      .flatMap((l) => l.trim().replace(/\+[\d.]+h$/, '') || [])
      .slice(0, 50)
  const was = tasks.get(id)
  const task: TaskData = {
    task: id,
    title: title.slice(0, 120),
    hours,
    ...(section ? { section } : {}),
    // As this program wrote it, what it waits for has the crews' order in it, which is no link of the task.
    after: was && has('kind') ? was.after : links('after'),
    before: links('before'),
    crew: !/^(no|false|0)$/i.test(cell('crew')),
    ...(plant ? { plant } : {}),
    state: status,
  }
  return { says: 'new', task: was && alike(was, task) ? undefined : task, fixed }
}
const alike = (a: TaskData, b: TaskData) =>
  (Object.keys({ ...a, ...b }) as (keyof TaskData)[]).every(
    (k) => JSON.stringify(a[k] ?? '') === JSON.stringify(b[k] ?? '') || (k === 'hours' && Math.abs(a.hours - b.hours) < 0.001),
  )

/**
 * Tasks from a table as this program writes it, or one made by another: `id`, `title`, `hours`, `section`, `after`, `before` (several with
 * semicolons), `crew`, `plant`, `not_before`, `state`. Rows of steps only take a day they may not begin before; what they wait for is a
 * matter of the gates.
 *
 * @param rows - the first has the names of the columns
 * @returns what would be recorded, and rows that are wrong by the line they stand in, counted from 1
 * @example tasksIn(state, programme, rowsOfCsv(text)).tasks.length
 */
export function tasksIn(state: WallState, p: Programme, rows: readonly (readonly (string | undefined)[])[]): TasksIn {
  const bad: { line: number; message: string }[] = []
  const left: string[] = []
  const names = (rows[0] ?? []).map((c) => `${c ?? ''}`.trim().toLowerCase())
  const at = (name: string) => names.indexOf(name)
  const none = { tasks: [], fixed: [], same: 0, left }
  if (at('id') < 0 && at('title') < 0)
    return { ...none, bad: [{ line: 1, message: 'has no column "id" or "title"; the first line names the columns' }] }
  if (rows.length - 1 > MOST) return { ...none, bad: [{ line: MOST + 2, message: `there are ${rows.length - 1} rows; at most ${MOST} are read` }] }
  const known: Known = {
    state,
    own: new Set(p.tasks.flatMap((t) => ((t.step && t.kind === 'work') || t.id.startsWith('saw ') ? [t.id] : []))),
    steps: new Set(state.steps.map((s) => s.key)),
    tasks: new Map(allTasksOf(state).map((t) => [t.task, t])),
    fixes: fixesOf(state),
  }
  const tasks: TaskData[] = []
  const fixed: FixedData[] = []
  const seen = new Map<string, number>()
  let same = 0
  rows.slice(1).forEach((cells, k) => {
    const line = k + 2
    if (cells.every((c) => `${c ?? ''}`.trim() === '')) return
    const row: Row = {
      has: (name) => at(name) >= 0,
      cell: (name) => (at(name) < 0 ? '' : `${cells[at(name)] ?? ''}`.trim().replace(/^'(?=[=+\-@])/, '')),
    }
    const id = row.cell('id') || row.cell('title').slice(0, 60)
    const before = seen.get(id)
    const read =
      id === ''
        ? wrong('has neither an id nor a title')
        : before !== undefined
          ? wrong(`"${id}" stands in line ${before} already`)
          : readRow(id, row, known)
    if (before === undefined) seen.set(id, line)
    if (read.says === 'wrong') bad.push({ line, message: read.message })
    else if (read.says === 'done') left.push(`${read.title} is done, or waits by itself`)
    else {
      if (read.task) tasks.push(read.task)
      if (read.fixed) fixed.push(read.fixed)
      if (!read.task && !read.fixed) same++
    }
  })
  return { tasks: inOrder(tasks, bad, seen), fixed, same, bad, left }
}

/** Tasks so that none is told before what it waits for; a circle of them is named by the lines it goes through. */
function inOrder(tasks: readonly TaskData[], bad: { line: number; message: string }[], lines: ReadonlyMap<string, number>): readonly TaskData[] {
  const byName = new Map(tasks.map((t) => [t.task, t]))
  const waits = new Map(tasks.map((t) => [t.task, new Set(t.after.filter((a) => byName.has(a)))]))
  for (const t of tasks) for (const b of t.before) waits.get(b)?.add(t.task)
  const done: TaskData[] = []
  const open = new Set(byName.keys())
  for (let moved = true; moved; ) {
    moved = false
    for (const name of open) {
      if ([...(waits.get(name) ?? [])].some((w) => open.has(w))) continue
      open.delete(name)
      done.push(byName.get(name) as TaskData)
      moved = true
    }
  }
  if (open.size > 0) {
    const list = [...open]
    bad.push({
      line: Math.min(...list.map((n) => lines.get(n) ?? 0)),
      message: `${list.slice(0, 6).join(', ')} wait for each other in a circle (lines ${list
        .slice(0, 6)
        .map((n) => lines.get(n))
        .join(', ')}); take one link out`,
    })
  }
  return done
}
