// Made-up days on walls of every system: good work, bad work, re-checks, corrections, odd values, a revision; and a short mark of all that is made of them.
import {
  admit,
  advance,
  barriers,
  beddingAdvice,
  CHOICES,
  cleared,
  clockOf,
  courseSheet,
  crewSheet,
  dailyNeeds,
  densityReport,
  digReport,
  drainPlan,
  dueOf,
  type Entry,
  emptyRules,
  emptyState,
  entriesJsonSchema,
  fillHeld,
  filterOf,
  glimpsed,
  glimpseOf,
  growthReport,
  inspectionPoints,
  issueUnder,
  type Layout,
  laidPipe,
  latestSetup,
  layerReport,
  levelBooks,
  limitNames,
  limitsOf,
  lineOf,
  neededBefore,
  needsOf,
  nextStep,
  nonconformances,
  nowOf,
  openDepth,
  openFindings,
  openStops,
  outOfCalibration,
  overridesOf,
  overviewOf,
  owedBefore,
  type Plan,
  padChoiceOf,
  padFacts,
  padReadings,
  padThickness,
  placeOf,
  planHash,
  progressBook,
  progressOf,
  type Rules,
  readEntry,
  rollBook,
  type Step,
  scatterIn,
  soilParameters,
  soilsOf,
  statusOf,
  stepKey,
  stricter,
  toldOf,
  underOlder,
  unmatched,
  verdictOf,
  type WallState,
  waitingHolds,
  weatherAt,
  weatherOf,
  whileAway,
} from '@stone-tally/core'
import { good, morningLook } from './build'
import { type Draw, drawn, type JsonSchema, pick } from './drawn'
import { formsThen } from './forms-then'
import { mark, numbers, pinnedPlan } from './pinned'
import { layoutOf, WALL } from './plans'
import { startedThen } from './started'

/** Systems the made-up days are spent on; a wall of each as the planner starts it, and pinned ones of other shapes. */
const SYSTEMS_THEN = ['hollow-core', 'rear-lip', 'tongue-groove', 'pattern', 'landscape', 'glued', 'gabion', 'big-block', 'masonry'] as const
const SHAPES = [0, 2, 5, 7, 10, 13, 14, 19, 21] as const
/** A third round of them is spent on what lies exactly at a limit. */
const COMMON = SYSTEMS_THEN.length * 2
/** A fourth on walls of a company with schools of its own, and with entries of a newer Stone Tally among them. */
const SCHOOLED = SYSTEMS_THEN.length * 3
/** A fifth on walls begun before there were rule tables, and gone on with under the rules of today. */
const GONE_ON = SYSTEMS_THEN.length * 4
export const RECORDS = SYSTEMS_THEN.length * 5

const KINDS = formsThen((entriesJsonSchema() as { properties: Record<string, JsonSchema> }).properties)

/** The same data with some of it otherwise: numbers moved by little or much, or to a limit of their size; yes for no, a choice of the others. */
function otherwise(value: unknown, draw: Draw, limits: readonly number[] = []): unknown {
  if (typeof value === 'number' && limits.length > 0 && draw(0, 1) < 0.6) {
    const size = Math.abs(value) || 0.003
    const near = limits.filter((l) => l >= size / 5 && l <= size * 5)
    return near.length > 0 ? pick(draw, near) * (draw(0, 1) < 0.5 ? 1 : -1) : value
  }
  if (typeof value === 'number' && draw(0, 1) < 0.4)
    return Math.round(value * pick(draw, [0.4, 0.9, 0.97, 1.02, 1.1, 2.5]) * 1000 + draw(-20, 20)) / 1000
  if (typeof value === 'boolean') return draw(0, 1) < 0.4 ? !value : value
  if (Array.isArray(value)) return value.filter(() => draw(0, 1) < 0.9).map((v) => otherwise(v, draw, limits))
  if (value && typeof value === 'object') return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, otherwise(v, draw, limits)]))
  return value
}

const PEOPLE = [
  { id: 'foreman', name: 'Fay', role: 'foreman' },
  { id: 'crew', name: 'Cal', role: 'crew' },
  { id: 'inspector', name: 'Ian', role: 'inspector' },
  { id: 'office', name: 'Olu', role: 'office' },
] as const
const MORNING = Date.parse('2026-05-20T07:00:00Z')

export interface Days {
  readonly state: WallState
  /** What came in, and what it was refused for. */
  readonly refused: readonly (readonly [kind: string, problems: readonly string[]])[]
  /** What was asked and answered along the way. */
  readonly way: readonly unknown[]
}

/** Schools of a company, another for each wall. */
function schoolsOf(n: number): Rules {
  const draw = numbers(15485863 * (n + 1))
  const choices = CHOICES.map((c) => ({ choice: c.id, option: pick(draw, c.options).id, why: 'how we build' }))
  return { ...emptyRules(), choices }
}
/** The same wall as a company with schools of its own plans it; as it was where they do not fit it. */
function schooled(plan: Plan, n: number): Plan {
  const made = issueUnder(plan, { company: schoolsOf(n) }, 2)
  return made.ok ? made.value : plan
}

function layoutsOf(n: number): readonly [Layout, Layout] {
  if (n >= GONE_ON) {
    const before = layoutOf(pinnedPlan(SHAPES[n - GONE_ON] as number) as never)
    const today = issueUnder(before.plan, {}, 2)
    if (!today.ok) throw new Error(JSON.stringify(today.problems))
    return [before, layoutOf(today.value)]
  }
  if (n >= SCHOOLED) {
    const [a, b] = layoutsOf(n % SYSTEMS_THEN.length)
    return [layoutOf(schooled(a.plan, n)), layoutOf(schooled(b.plan, n))]
  }
  const id = SYSTEMS_THEN[n % SYSTEMS_THEN.length] as (typeof SYSTEMS_THEN)[number]
  const shaped = n < SYSTEMS_THEN.length || id === 'big-block' || id === 'masonry'
  if (shaped) {
    const length = 6 + (n % 5)
    const two = {
      sections: [
        { id: 'A', from: 0, to: 3 },
        { id: 'B', from: 3, to: length },
      ],
    }
    const change = { length, ...(n % 2 ? two : {}) }
    return [layoutOf(startedThen(id, change)), layoutOf(startedThen(id, { ...change, frost: 0.4, excavation: { behind: 1.5, slope: 1.5 } }))]
  }
  const plan = pinnedPlan(SHAPES[n - SYSTEMS_THEN.length] as number) as never
  return [layoutOf(plan), layoutOf({ ...(plan as object), pad: { ...(plan as { pad: object }).pad, thickness: 0.2 } } as never)]
}

const spent = new Map<number, Days>()
/** What people do on a wall of a number, in order; everything they send goes through the same gates as on the site. */
export function daysOf(n: number): Days {
  const days = spent.get(n) ?? spend(n)
  spent.set(n, days)
  return days
}
function spend(n: number): Days {
  const draw = numbers(104729 * (n + 1))
  const chance = (p: number) => draw(0, 1) < p
  const [first, second] = layoutsOf(n < SCHOOLED ? n % COMMON : n)
  const limits =
    n < COMMON
      ? []
      : [...new Set(limitNames(2).map((name) => limitsOf(first.plan)[name].value))].filter((v) => v > 0 && Number.isFinite(v)).sort((a, b) => a - b)
  let state = emptyState([first])
  let [seq, made, day] = [0, 0, 0]
  let before = ''
  const refused: (readonly [string, readonly string[]])[] = []
  const way: unknown[] = []
  const known: Entry[] = []
  const stamp = (e: Entry, by: Entry['by'] = e.by): Entry => ({
    ...e,
    id: `01900000-0000-7000-8${n.toString(16).padStart(3, '0')}-${(++made).toString(16).padStart(12, '0')}`,
    wall: WALL,
    revision: state.layouts.length > 1 && chance(0.1) ? 1 : state.layouts.length,
    at: new Date(MORNING + day * 86_400_000 + made * 60_000).toISOString(),
    by,
  })
  const send = (e: Entry) => {
    const read = readEntry(e)
    const judged = read.ok ? admit(state, read.value, MORNING + day * 86_400_000 + made * 60_000) : read
    if (!read.ok || !judged.ok) return void refused.push([e.kind, (judged.ok ? [] : judged.problems).map((p) => `${p.field}: ${p.message}`)])
    state = advance(state, { seq: ++seq, receivedAt: e.at, entry: read.value })
    known.push(read.value)
  }
  const raw = (kind: string, where: Entry['where'], data: unknown, more: Partial<Entry> = {}): Entry =>
    ({ id: '', wall: WALL, revision: 1, at: '', by: PEOPLE[0], kind, where, data, ...more }) as Entry
  const ids = () => ['01900000-0000-7000-8000-00000000dead', ...known.slice(-12).map((e) => e.id), ...first.plan.sections.map((s) => s.id)]
  const put = (e: Entry) => send(stamp(e, chance(0.06) ? pick(draw, PEOPLE) : e.by))

  put(morningLook())
  for (let turn = 0; turn < 70; turn++) {
    if (turn % 12 === 11) {
      day += pick(draw, [1, 1, 3, 8])
      if (chance(0.8)) put(morningLook())
    }
    if (n >= GONE_ON ? turn === 24 : turn === 40 && n % 3 === 0) {
      state = { ...emptyState([first, second]), ...rebuilt(state, [first, second]) }
      send({ ...stamp(raw('revision', {}, { number: 2, plan: planHash(second.plan) })), revision: 2 })
    }
    const step =
      first.plan.sections.map((s) => nextStep(state, s.id)).find((s) => s !== undefined && chance(0.7)) ??
      nextStep(state) ??
      (state.steps.at(-1) as Step)
    way.push(look(state, step, MORNING + day * 86_400_000))
    // What stands still is done with care: a wall that never gets on shows little.
    const careful = step.key === before && turn % 3 !== 0
    before = step.key
    for (const e of openStops(state))
      put(raw('clearance', e.entry.where, { who: 'gas board', as: 'owner', seen: 'shut off' }, { recheckOf: e.entry.id }))
    const { state: stands, hold } = statusOf(state, step)
    // What was rejected is done again before it is asked for again.
    if (stands !== 'done' || hold === 'rejected')
      for (const e of good(step, state.layout)) {
        const wrong = !careful && chance(n < COMMON ? 0.15 : 0.4)
        put(wrong ? { ...e, data: otherwise(e.data, draw, limits), where: chance(0.2) ? (otherwise(e.where, draw) as Entry['where']) : e.where } : e)
      }
    // Findings are answered, and read again, mostly well.
    for (const { entry: of } of openFindings(state).slice(0, 6)) {
      if (chance(0.9)) put(raw('action', of.where, { of: of.id, cause: 'sunk', action: 'lifted and plated' }))
      const again = good(state.byKey.get(stepKey(of.where)) ?? step, state.layout).find((e) => e.kind === of.kind)
      if (again && chance(0.9)) put({ ...again, where: of.where, data: { ...(of.data as object), ...(again.data as object) }, recheckOf: of.id })
    }
    const last = known.at(-1)
    if (last && chance(0.12))
      put({ ...last, data: otherwise(last.data, draw, limits), supersedes: last.id, ...(chance(0.8) ? { reason: 'read wrongly' } : {}) })
    if (last && chance(0.06)) put(raw('strike', last.where, { reason: 'of another wall' }, { supersedes: pick(draw, known).id }))
    for (const h of waitingHolds(state).slice(0, 1)) {
      const where = { stage: h.stage.id, section: h.section, course: h.course }
      const signature = chance(0.9) ? { typed: 'Ian' } : { typed: 'I' }
      const reported = chance(0.2) ? { reported: { name: 'R. Tarn', role: 'engineer', ...(chance(0.6) ? { document: 'letter 7' } : {}) } } : {}
      if (chance(0.75))
        put(
          raw(
            'release',
            where,
            { decision: chance(0.85) ? 'released' : 'rejected', reason: 'seen', signature, ...reported },
            { by: pick(draw, [PEOPLE[0], PEOPLE[2]]) },
          ),
        )
    }
    if (chance(0.1)) put(raw('override', { stage: step.stage.id, section: step.section, course: step.course }, { reason: 'level fell in the water' }))
    // What a newer version recorded stands in the record, whatever it is.
    if (n >= SCHOOLED && turn % 16 === 5)
      state = advance(state, {
        seq: ++seq,
        receivedAt: new Date(MORNING + day * 86_400_000).toISOString(),
        entry: stamp(raw('x-ray', { stage: step.stage.id, section: step.section, course: step.course }, { of: known.at(-1)?.id, seen: 'bars' })),
      })
    // Whatever a device may send besides, of any kind.
    for (let i = 0; i < 3; i++) {
      const kind = pick(
        draw,
        Object.keys(KINDS).filter((k) => k !== 'revision'),
      )
      const station = chance(0.5) ? { station: Math.round(draw(0, first.plan.length) * 10) / 10 } : {}
      const where = chance(0.3) ? {} : { stage: step.stage.id, section: step.section, course: step.course, ...station }
      const instrument = chance(0.3) ? { instrument: { name: 'laser', serial: '7', calibratedUntil: chance(0.5) ? '2026-05-21' : '2027-01-01' } } : {}
      put(
        raw(kind, where, drawn(KINDS[kind] as JsonSchema, draw, ids()), {
          ...instrument,
          ...(chance(0.1) ? { clock: Math.round(draw(-9000, 9000)) } : {}),
        }),
      )
    }
  }
  return { state, refused, way }
}

/** The record folded anew once another revision is there. */
function rebuilt(state: WallState, layouts: readonly Layout[]): WallState {
  return state.entries.reduce((s, e) => advance(s, e), emptyState(layouts))
}

/** What is said of where the work stands, along the way. */
function look(state: WallState, step: Step, now: number) {
  const at = new Date(now).toISOString()
  return [
    step.key,
    barriers(state, step, at),
    needsOf(state, step),
    owedBefore(state, step),
    dailyNeeds(state, step, at),
    fillHeld(state, step, at),
    openDepth(state, step),
    nowOf(state, step.section, at),
    dueOf(state, at),
    stricter(state),
  ]
}
const parts: Readonly<Record<string, (d: Days) => unknown>> = {
  refused: (d) => d.refused,
  way: (d) => d.way,
  verdicts: ({ state }) => state.entries.map(({ entry }) => [entry.kind, verdictOf(state, entry)]),
  lines: ({ state }) =>
    state.entries.map((e) => [
      placeOf(e.entry),
      lineOf(state, e.entry, { units: 'metric' }),
      lineOf(state, e.entry, { units: 'imperial' }),
      clockOf(state, e),
      outOfCalibration(e.entry),
      underOlder(state, e.entry),
    ]),
  steps: ({ state }) => state.steps.map((s) => [s.key, { ...statusOf(state, s), step: 0 }, cleared(statusOf(state, s)), neededKeys(state, s)]),
  findings: ({ state }) => [nonconformances(state), openFindings(state), openStops(state), overridesOf(state)],
  points: ({ state }) => inspectionPoints(state).map((p) => ({ ...p, step: 0 })),
  unmatched: ({ state }) => unmatched(state),
  dig: ({ state }) => digReport(state),
  pads: ({ state }) => state.layout.plan.sections.map((s) => [padReadings(state, s.id), padThickness(state, s.id)]),
  soils: ({ state }) => [
    soilsOf(state),
    (['foundation', 'retained', 'reinforced'] as const).map((z) => soilParameters(state, z)),
    padFacts(state),
    padChoiceOf(state),
  ],
  density: ({ state }) => densityReport(state),
  books: ({ state }) => [levelBooks(state), latestSetup(state)],
  layers: ({ state }) => [layerReport(state), rollBook(state)],
  water: ({ state }) => [laidPipe(state), filterOf(state), drainPlan(state.layout)],
  weather: ({ state }) => [weatherOf(state), weatherAt(state, '2026-05-25T09:00:00Z')],
  progress: ({ state }) => [
    state.layout.plan.sections.flatMap((s) => [1, 2, 3].map((c) => progressOf(state, s.id, c))),
    state.layout.plan.sections.map((s) => progressBook(state).of(s.id, 1)),
  ],
  courses: ({ state }) =>
    state.layout.plan.sections.flatMap((s) => [
      beddingAdvice(state, s.id),
      ...[2, 3]
        .map((c) => courseSheet(state, s.id, c))
        .map((sheet) => sheet && [sheet.like, sheet.lines, sheet.wantsLevel, sheet.limit, sheet.facts(0.003, 20)]),
      (['level', 'line'] as const).map((of) => growthReport(state, s.id, of)).map((g) => [g.columns, g.worst?.station, g.leaves]),
    ]),
  scatter: ({ state }) => scatterIn(state),
  sheet: ({ state }) => crewSheet(state, { at: '2026-05-25T09:00:00Z' }),
  overview: ({ state }) => overviewOf(state, '2026-05-25T09:00:00Z'),
  told: ({ state }) => [toldOf(state, 1), toldOf(state, 2)],
  away: ({ state }) =>
    whileAway(
      state,
      state.entries.slice(-40).map((e) => ({ id: e.entry.id, knew: e.seq - 9 })),
    ),
  glimpse: ({ state }) => {
    const seen = glimpseOf(state, { seq: state.entries.length, hash: 'h' })
    const back = glimpsed(seen, state.layouts)
    return [seen, back && state.steps.map((s) => statusOf(back, s).state)]
  },
}
const neededKeys = (state: WallState, s: Step) => (s.stage.requires ?? []).map((r) => neededBefore(state, s, r).map((x) => x.key))

/** Marks of the days of a number, part by part. */
export const marksOfDays = (n: number): Record<string, string> => {
  const days = daysOf(n)
  return Object.fromEntries(Object.entries(parts).map(([name, of]) => [name, mark(of(days))]))
}
