import type { Layout } from '../layout'
import type { RecordedEntry } from './entry'
import { emptyState, statusOf } from './fold'
import { nextStep } from './gate'
import type { StepStatus, WallState } from './state'

/** A status as it travels: entries by their number, readings without the entry behind them. */
interface TravellingStatus extends Omit<StepStatus, 'open' | 'conflicts' | 'unmatched' | 'decision' | 'override' | 'read' | 'deviations'> {
  readonly open: readonly number[]
  readonly decision?: number | undefined
  readonly override?: number | undefined
  readonly unmatched: readonly { readonly seq: number; readonly message: string }[]
  /** Station, offset or null, whether it was read. */
  readonly read: readonly (readonly [number, number | null, 0 | 1])[]
  /** Null where none was taken. */
  readonly deviations: readonly (number | null)[]
}

/**
 * What a wall looks like at one entry of its record: how every step stands, for a device that does not have the record yet. It says
 * nothing that the record does not say, is made from it at will, and is never folded on.
 */
export interface Glimpse {
  /** Number and link of the last entry it was made from. */
  readonly seq: number
  readonly hash: string
  /** Plan revisions it was made under. */
  readonly revisions: number
  readonly statuses: readonly (readonly [string, TravellingStatus])[]
  /** The entries its statuses speak of. */
  readonly entries: readonly RecordedEntry[]
  readonly outs: readonly (readonly [string, string])[]
  /** What is next in each section, by the key of its step. */
  readonly next: readonly (readonly [section: string, step: string])[]
}

/** What is next in each section that has something left to do. @example nextSteps(state) // [['A', 'setting|A|3'], …] */
export const nextSteps = (state: WallState): (readonly [section: string, step: string])[] =>
  state.layout.plan.sections.flatMap((s) => {
    const next = nextStep(state, s.id)
    return next ? [[s.id, next.key] as const] : []
  })

/**
 * @param at - number and link of the last entry in the state
 * @example const glimpse = glimpseOf(state, { seq: 812, hash })
 */
export function glimpseOf(state: WallState, at: { seq: number; hash: string }): Glimpse {
  const entries = new Map<number, RecordedEntry>()
  const number = (e: RecordedEntry | undefined): number | undefined => {
    if (e) entries.set(e.seq, e)
    return e?.seq
  }
  const statuses = [...state.logs.keys()].flatMap((key) => {
    const step = state.byKey.get(key)
    if (!step) return []
    const { open, conflicts: _c, unmatched, decision, override, read, deviations, ...rest } = statusOf(state, step)
    const status: TravellingStatus = {
      ...rest,
      open: open.map((e) => number(e) as number),
      decision: number(decision),
      override: number(override),
      unmatched: unmatched.map((u) => ({ seq: number(u.recorded) as number, message: u.message })),
      deviations: [...deviations].map((d) => (Number.isNaN(d) ? null : d)),
      read: read.map((r) => [r.station, r.offset ?? null, r.entry ? 1 : 0] as const),
    }
    return [[key, status] as const]
  })
  const outs = [...entries.values()].flatMap((e) => {
    const out = state.outs.get(e.entry.id)
    return out ? [[e.entry.id, out.text] as const] : []
  })
  return { ...at, revisions: state.layouts.length, statuses, entries: [...entries.values()], outs, next: nextSteps(state) }
}

/**
 * The glimpse as a state to be looked at, until the record itself is here. Nothing is recorded on it and nothing folded into it.
 *
 * @param layouts - as many as it was made under; otherwise there is nothing to be shown
 * @example const shown = glimpsed(glimpse, layouts)
 */
export function glimpsed(glimpse: Glimpse, layouts: readonly Layout[]): WallState | undefined {
  if (glimpse.revisions !== layouts.length) return undefined
  const state = emptyState(layouts)
  const bySeq = new Map(glimpse.entries.map((e) => [e.seq, e]))
  const at = (seq: number | undefined) => (seq === undefined ? undefined : bySeq.get(seq))
  for (const e of glimpse.entries) state.byId.set(e.entry.id, e)
  for (const [id, text] of glimpse.outs) state.outs.set(id, { verdict: 'out', text })
  for (const [key, t] of glimpse.statuses) {
    const status: StepStatus = {
      ...t,
      open: t.open.flatMap((seq) => at(seq) ?? []),
      conflicts: [],
      unmatched: t.unmatched.flatMap((u) => {
        const recorded = at(u.seq)
        return recorded ? [{ recorded, message: u.message }] : []
      }),
      decision: at(t.decision),
      override: at(t.override),
      read: t.read.map(([station, offset, read]) => ({
        station,
        ...(offset === null ? {} : { offset }),
        entry: read === 1 ? UNSEEN : undefined,
      })),
      deviations: Float64Array.from(t.deviations, (d) => d ?? Number.NaN),
    }
    state.logs.set(key, { work: [], releases: [], requests: [], overrides: [], status })
  }
  return { ...state, seq: glimpse.seq }
}

/** Stands for an entry that is in the record and not on the device. */
const UNSEEN: RecordedEntry = {
  seq: 0,
  receivedAt: '',
  entry: { id: '', wall: '', revision: 1, at: '', by: { id: '', name: '', role: '' }, kind: '', where: {}, data: {} },
}
