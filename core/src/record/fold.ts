import type { Scatter } from '../forecast'
import { cellKey, type Layout } from '../layout'
import type { Stage, WallSystem } from '../systems'
import type { Entry, RecordedEntry, Verdict } from './entry'
import { type Context, kindOf } from './kinds'
import { NEEDED } from './needs'
import type { StepLog, StepStatus, WallState } from './state'
import { live } from './state'
import { evaluate } from './status'
import { type Step, stepKey } from './step'
import { stepsOf } from './steps'

/**
 * An empty record under the plan revisions given.
 *
 * @param layouts - one for each revision, in order; the last is in force
 * @param scatter - what courses of this company scatter by, for the line ahead
 */
export function emptyState(layouts: readonly Layout[], scatter: Scatter = {}): WallState {
  const layout = layouts[layouts.length - 1]
  if (!layout) throw new RangeError('a wall has at least one revision')
  const steps = stepsOf(layout)
  return {
    layout,
    layouts,
    steps,
    byKey: new Map(steps.map((s) => [s.key, s])),
    byStage: new Map(layout.system.stages.map((s) => [s.id, s])),
    entries: [],
    byId: new Map(),
    logs: new Map(),
    superseded: new Map(),
    outs: new Map(),
    actions: new Map(),
    rechecks: new Map(),
    revisions: new Map(),
    touched: [],
    byCell: byCell(steps),
    holds: steps.filter((s) => s.stage.hold !== undefined),
    scatter,
    seq: 0,
  }
}

function byCell(steps: readonly Step[]): ReadonlyMap<string, readonly Step[]> {
  const cells = new Map<string, Step[]>()
  for (const step of steps) {
    if (step.section === undefined || step.course === undefined) continue
    const key = cellKey(step.section, step.course)
    const list = cells.get(key)
    if (list) list.push(step)
    else cells.set(key, [step])
  }
  return cells
}

const stages = new WeakMap<WallSystem, ReadonlyMap<string, Stage>>()
/** A stage of a system by its id. */
function stageOf(system: WallSystem, id: string): Stage | undefined {
  let own = stages.get(system)
  if (!own) {
    own = new Map(system.stages.map((s) => [s.id, s]))
    stages.set(system, own)
  }
  return own.get(id)
}

/** The layout and stage an entry is to be read with: those of the revision it was made under, whatever is in force since. */
export function contextOf(state: WallState, entry: Entry): Context {
  const layout = state.layouts[entry.revision - 1] ?? state.layout
  return {
    layout,
    stage: stageOf(layout.system, entry.where.stage ?? ''),
    find: (id) => state.byId.get(id)?.entry,
    of: (kind) => state.entries.filter((e) => e.entry.kind === kind && live(state, e.entry.id)),
  }
}

const logAt = (state: WallState, key: string): StepLog => {
  let log = state.logs.get(key)
  if (!log) {
    log = { work: [], releases: [], requests: [], overrides: [], status: undefined }
    state.logs.set(key, log)
  }
  return log
}

/** Stages that need to know of the ground are looked at again when something of it is recorded anywhere in their section. */
function lookAgain(state: WallState, section: string | undefined) {
  for (const stage of state.layout.system.stages) {
    const log = stage.needs && state.logs.get(stepKey({ stage: stage.id, section }))
    if (log) log.status = undefined
  }
}

function touch(state: WallState, id: string | undefined) {
  const other = id === undefined ? undefined : state.byId.get(id)
  const log = other && state.logs.get(stepKey(other.entry.where))
  if (!log || !other) return
  log.status = undefined
  state.touched.push(other.entry.where)
}

/** What belongs to a step without being work of it. */
const AT_STEP: ReadonlySet<string | undefined> = new Set(['decision', 'asks', 'override'])

/** Does the entry belong to a step? A photo may, or stand for the wall as a whole. */
export function isPlaced(entry: Entry): boolean {
  const kind = kindOf(entry.kind)
  if (kind?.beside === 'anywhere') return entry.where.stage !== undefined
  return !!kind?.work || !!kind?.beside || AT_STEP.has(kind?.effect?.is)
}

/**
 * Takes one more entry into the state. An entry seen before changes nothing; a correction may come before what it corrects.
 *
 * @returns the state to go on with
 * @example state = advance(state, recorded)
 */
export function advance(state: WallState, recorded: RecordedEntry): WallState {
  const { entry } = recorded
  if (state.byId.has(entry.id)) return state
  state.byId.set(entry.id, recorded)
  // Almost always the newest; a late one is put where its number says.
  let at = state.entries.length
  while (at > 0 && (state.entries[at - 1] as RecordedEntry).seq > recorded.seq) at--
  if (at === state.entries.length) state.entries.push(recorded)
  else state.entries.splice(at, 0, recorded)

  const kind = kindOf(entry.kind)
  const effect = kind?.effect
  if (effect?.is === 'revision') state.revisions.set(effect.number(entry.data), Date.parse(entry.at))
  if (entry.supersedes) {
    state.superseded.set(entry.supersedes, entry.id)
    touch(state, entry.supersedes)
    lookAgain(state, state.byId.get(entry.supersedes)?.entry.where.section)
  }
  if (isPlaced(entry)) {
    const log = logAt(state, stepKey(entry.where))
    log.status = undefined
    state.touched.push(entry.where)
    if (NEEDED.has(entry.kind)) lookAgain(state, entry.where.section)
    if (kind?.work || kind?.beside) log.work.push(recorded)
    else if (effect?.is === 'decision') log.releases.push(recorded)
    else if (effect?.is === 'asks') log.requests.push(recorded)
    else log.overrides.push(recorded)
    const verdict = kind?.judge?.(entry, contextOf(state, entry))
    if (verdict?.verdict === 'out') state.outs.set(entry.id, verdict)
  } else if (effect?.is === 'answer') {
    const of = effect.of(entry.data)
    state.actions.set(of, recorded)
    touch(state, of)
  }
  if (kind?.judge && !kind.work && !kind.beside) {
    const verdict = kind.judge(entry, contextOf(state, entry))
    if (verdict?.verdict === 'out') state.outs.set(entry.id, verdict)
  }
  if (entry.recheckOf) {
    const list = state.rechecks.get(entry.recheckOf)
    if (list) list.push(recorded)
    else state.rechecks.set(entry.recheckOf, [recorded])
    touch(state, entry.recheckOf)
  }
  return { ...state, seq: Math.max(state.seq, recorded.seq) }
}

const copied = <T>(lists: ReadonlyMap<string, T[]>) => new Map([...lists].map(([k, list]) => [k, [...list]]))

/**
 * A state of its own that goes on from this one: what is advanced there is not seen here. It costs a copy of the indexes, so it is made
 * only while something waits.
 *
 * @example advance(branch(state), waiting) // `state` is as it was
 */
export function branch(state: WallState): WallState {
  return {
    ...state,
    entries: [...state.entries],
    byId: new Map(state.byId),
    logs: new Map(
      [...state.logs].map(([k, l]) => [
        k,
        { work: [...l.work], releases: [...l.releases], requests: [...l.requests], overrides: [...l.overrides], status: l.status },
      ]),
    ),
    superseded: new Map(state.superseded),
    outs: new Map(state.outs),
    actions: new Map(state.actions),
    rechecks: copied(state.rechecks),
    revisions: new Map(state.revisions),
    touched: [...state.touched],
  }
}

/**
 * Takes an entry in that is kept on this device and not in the record yet: folded and judged like the rest, after everything that is.
 *
 * @param state - a {@link branch}; never the state of the record itself
 * @param now - ms since 1970, from the caller
 * @example shown = advanceWaiting(branch(state), entry, Date.now())
 */
export function advanceWaiting(state: WallState, entry: Entry, now: number): WallState {
  const last = state.entries[state.entries.length - 1]
  // Far behind every number the record will ever have.
  const seq = last?.waiting ? last.seq + 1 : Math.floor(Number.MAX_SAFE_INTEGER / 2)
  return advance(state, { seq, receivedAt: new Date(now).toISOString(), entry, waiting: true })
}

/**
 * Plan and entries into what is known of the wall.
 *
 * @example fold([layout], entries).outs.size
 */
export function fold(layouts: readonly Layout[], entries: Iterable<RecordedEntry>): WallState {
  let state = emptyState(layouts)
  for (const entry of entries) state = advance(state, entry)
  return state
}

/** How an entry was judged, with the limits of its own revision. */
export const verdictOf = (state: WallState, entry: Entry): Verdict | undefined => kindOf(entry.kind)?.judge?.(entry, contextOf(state, entry))

const NOTHING: StepLog = { work: [], releases: [], requests: [], overrides: [], status: undefined }

/** Status of a step, computed when first asked after a change. */
export function statusOf(state: WallState, step: Step): StepStatus {
  const log = state.logs.get(step.key)
  if (!log) return evaluate(state, step, NOTHING)
  log.status ??= evaluate(state, step, log)
  return log.status
}
