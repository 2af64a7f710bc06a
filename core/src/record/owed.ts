import { said } from '../base/said'
import { type Role, since, tableOf } from '../rules'
import type { RecordedEntry } from './entry'
import { densityReport } from './ground-report'
import { kindOf } from './kinds'
import { pipe } from './kinds/pipe'
import { levelBooks } from './level-book'
import { live, type WallState } from './state'
import { isClosed } from './status'
import { type Step, stepKey } from './step'

const doubted = new WeakMap<WallState, ReadonlySet<string>>()
/**
 * Readings taken from an instrument that had moved, or in a leg that does not close. They are read again: corrected, or read anew after
 * another set-up.
 *
 * @returns ids of entries
 */
export function doubtful(state: WallState): ReadonlySet<string> {
  let found = doubted.get(state)
  if (!found) {
    found = new Set(
      levelBooks(state).flatMap(({ book }) =>
        book.ok ? book.value.rows.flatMap((r) => (r.doubtful && r.kind === 'intermediate' && r.id !== undefined ? [r.id] : [])) : [],
      ),
    )
    doubted.set(state, found)
  }
  return found
}

/** Readings that count at a step and are in doubt. */
function inDoubt(state: WallState, step: Step): RecordedEntry[] {
  const doubts = doubtful(state)
  if (doubts.size === 0) return []
  const work = (state.logs.get(step.key)?.work ?? []).filter((e) => live(state, e.entry.id))
  const last = new Map<string, RecordedEntry>()
  for (const e of work) {
    if (e.entry.kind !== 'reading') continue
    const key = `${(e.entry.where.station ?? 0).toFixed(1)}|${(e.entry.where.offset ?? 0).toFixed(1)}`
    const before = last.get(key)
    if (!before || before.seq < e.seq) last.set(key, e)
  }
  return [...last.values()].filter((e) => doubts.has(e.entry.id))
}

/** Findings that stand at no step: a level book that does not close, a check shot that was off. */
export const placelessFindings = (state: WallState): RecordedEntry[] =>
  [...state.outs.keys()].flatMap((id) => {
    const found = state.byId.get(id)
    return found && found.entry.where.stage === undefined && live(state, id) && !isClosed(state, id) ? [found] : []
  })

/** Where what is owed is done: on a step's own card, among density tests, in the level book, at the drain, in the plan, by the soil found. */
export type OwedAt = 'step' | 'density' | 'levels' | 'drain' | 'plan' | 'soil'

/** Something a release waits for, besides the work of its own step. */
export interface Owed {
  readonly id: string
  readonly message: string
  readonly at: OwedAt
  /** The step it is done at. */
  readonly step: Step
  /** Who does it. */
  readonly roles: readonly Role[]
}

/**
 * What else a release waits for, in words; nothing under rule table 1.
 *
 * @example owedBefore(state, step) // ['2 density tests of Pad lifts, section B', '3 readings of Pad level, section B in doubt: read them again']
 */
export const owedBefore = (state: WallState, step: Step): string[] => owedOf(state, step).map((o) => o.message)

/** Density tests of the lifts of a step that nobody has made; known from the first lift on. @example testsOwedAt(state, step)?.message */
export function testsOwedAt(state: WallState, step: Step): Owed | undefined {
  if (step.stage.work.type !== 'lifts' || !state.logs.has(step.key)) return undefined
  const { owed } = densityReport(state, step.key)
  if (owed === 0) return undefined
  const place = `${step.stage.title}${step.section ? `, section ${step.section}` : ''}${step.course === undefined ? '' : ` course ${step.course}`}`
  return {
    id: `tests ${step.key}`,
    message: `${owed} density ${owed === 1 ? 'test' : 'tests'} of ${place}`,
    at: 'density',
    step,
    roles: kindOf('density')?.roles ?? [],
  }
}

/**
 * What else a release waits for, besides the work of its own step: density tests of the lifts it covers, readings in doubt, and at the
 * final every finding without a place. Nothing under rule table 1.
 *
 * @example owedOf(state, step)[0]?.at // 'density'
 */
export function owedOf(state: WallState, step: Step): Owed[] {
  if (tableOf(state.layout.plan) === 1 || !step.stage.hold) return []
  const final = step.stage.hold === 'final'
  const covered = final ? state.steps : [step, ...step.stage.requires.filter((r) => r.of === 'same').flatMap((r) => at(state, step, r.stage))]
  const words: Owed[] = []
  for (const s of covered) {
    const place = `${s.stage.title}${s.section ? `, section ${s.section}` : ''}${s.course === undefined ? '' : ` course ${s.course}`}`
    const tests = testsOwedAt(state, s)
    if (tests) words.push(tests)
    if (s.stage.work.type === 'readings') {
      const doubts = inDoubt(state, s)
      const where = doubts.map((d) => said.station(d.entry.where.station ?? 0)).slice(0, 6)
      if (doubts.length > 0)
        words.push({
          id: `doubt ${s.key}`,
          message: `${doubts.length} ${doubts.length === 1 ? 'reading' : 'readings'} of ${place} in doubt (${where.join(', ')}): read again from a good set-up`,
          at: 'step',
          step: s,
          roles: kindOf('reading')?.roles ?? [],
        })
    }
  }
  if (step.stage.hold === 'drain' && since(state.layout.plan, 3)) words.push(...noOutlet(state, step))
  if (final) {
    const open = placelessFindings(state)
    if (open.length > 0)
      words.push({
        id: 'levels',
        message: `${open.length} ${open.length === 1 ? 'finding' : 'findings'} of the level book, not closed: ${open.map((f) => state.outs.get(f.entry.id)?.text ?? '').join('; ')}`,
        at: 'levels',
        step,
        roles: kindOf('sight')?.roles ?? [],
      })
  }
  return words
}

/** Two stretches of pipe meet where their ends are so near, m. */
const MEETS = 0.1
/** A drain that leads nowhere: from the pipe of a section no laid stretch leads to an outlet. */
function noOutlet(state: WallState, step: Step): Owed[] {
  const laid = state.entries.flatMap((e) =>
    pipe.is(e.entry) && live(state, e.entry.id) ? [{ section: e.entry.where.section, ...e.entry.data }] : [],
  )
  if (!laid.some((l) => l.section === step.section)) return []
  const closed = (end: string) => end === 'cap' || end === 'open'
  const reached = new Set(laid.filter((l) => l.start === 'outlet' || l.end === 'outlet' || l.start === 'tee' || l.end === 'tee'))
  for (let grew = true; grew; ) {
    grew = false
    for (const a of laid) {
      if (reached.has(a)) continue
      const meets = [...reached].some(
        (b) =>
          (Math.abs(a.to - b.from) <= MEETS && !closed(a.end) && !closed(b.start)) ||
          (Math.abs(b.to - a.from) <= MEETS && !closed(b.end) && !closed(a.start)) ||
          (a.from < b.to && b.from < a.to),
      )
      if (meets) {
        reached.add(a)
        grew = true
      }
    }
  }
  const lost = laid.filter((l) => l.section === step.section && !reached.has(l))
  return lost.length > 0
    ? [
        {
          id: `outlet ${step.key}`,
          message: `an outlet that the pipe from ${said.station(Math.min(...lost.map((l) => l.from)))} to ${said.station(Math.max(...lost.map((l) => l.to)))} leads to: none was laid yet`,
          at: 'drain',
          step,
          roles: kindOf('pipe')?.roles ?? [],
        },
      ]
    : []
}

const at = (state: WallState, step: Step, stage: string): Step[] => {
  const found = state.byStage.get(stage)
  if (!found) return []
  if (found.scope === 'wall') return pick(state, stepKey({ stage }))
  return pick(state, stepKey({ stage, section: step.section, ...(found.scope === 'course' ? { course: step.course } : {}) }))
}
const pick = (state: WallState, key: string) => {
  const step = state.byKey.get(key)
  return step ? [step] : []
}
