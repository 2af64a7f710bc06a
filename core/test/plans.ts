import {
  type EarlierPlan,
  type Entry,
  fold,
  type Layout,
  layOut,
  type Plan,
  type RecordedEntry,
  type Role,
  say,
  storedPlan,
  WALL_FACTS,
  type WallState,
  type Where,
} from '@stone-tally/core'

/** A wall as a test writes it: of today, or in one piece as plans of before had it. */
export type AnyPlan = Plan | EarlierPlan
/** It as it is worked with. */
export const built = (plan: AnyPlan): Plan => storedPlan(plan)

/** A small wall with a step, two sections and one geogrid layer. */
export const smallPlan: EarlierPlan = {
  name: 'Loading bay wall',
  site: 'Test yard',
  engineer: 'plan E-1',
  system: 'hollow-core',
  unit: { id: 'lug-200', name: 'Lug block 200', height: 0.2, length: 0.45, depth: 0.3, setback: 0.02, coreVolume: 0.0105, mass: 34, capHeight: 0.1 },
  length: 9,
  grades: [
    { station: 0, toe: 10.3, top: 11.3 },
    { station: 9, toe: 10, top: 11.3 },
  ],
  benchmark: { name: 'BM', elevation: 10 },
  embedment: [{ kind: 'fixed', depth: 0.2 }],
  pad: { material: 'dense-graded', thickness: 0.15, width: 0.6, maxLift: 0.1, looseFactor: 1.25, minRun: 1.35 },
  excavation: { behind: 1.2, slope: 0.5 },
  stone: { width: 0.3 },
  drain: { diameter: 0.1, fall: 0.01, outlets: [{ station: 9, invert: 9.85 }], maxOutletSpacing: 15 },
  grid: [{ course: 2, length: 1.2, type: 'uniaxial 30' }],
  sections: [
    { id: 'A', from: 0, to: 4.5 },
    { id: 'B', from: 4.5, to: 9 },
  ],
}

/** A whole engineer's plan that covers whatever the wall is: who, by which register, which plan of which day, for what. */
export const ENGINEERED = {
  engineer: 'plan E-1',
  engineerBy: 'E. Record',
  engineerLicence: 'register 4711',
  engineerOn: '2026-04-01',
  engineerCovers: { height: 15, from: 0, to: 2000, facts: [...WALL_FACTS] },
}

export const layoutOf = (plan: AnyPlan = smallPlan): Layout => {
  const laid = layOut(built(plan))
  if (!laid.ok) throw new Error(JSON.stringify(laid.problems))
  return laid.value
}

export const WALL = '01900000-0000-7000-8000-0000000000aa'
export const NOW = Date.UTC(2026, 4, 20, 12)
const who = { foreman: 'Fay', crew: 'Cal', inspector: 'Ian', office: 'Olu' }

/** Sentences of the core within a value, as a reader in metres has them. */
export const plain = <T>(value: T): T => (value === undefined ? value : (JSON.parse(say(JSON.stringify(value), 'metric')) as T))

/** What was worked out; fails with what was wrong where it was not. */
export const value = <T>(r: { ok: true; value: T } | { ok: false; problems: readonly unknown[] }): T => {
  if (!r.ok) throw new Error(JSON.stringify(r.problems))
  return r.value
}

/** Signed by hand: whoever it is. */
export const SIGNED = { drawn: [[0.1, 0.3, 0.5, 0.7].map((x) => ({ x, y: 0.5 }))] }

let made = 0
/** An entry as a device would make it. */
export function entry(kind: string, where: Where, data: unknown, more: Partial<Entry> & { role?: Role } = {}): Entry {
  made++
  const { role = 'foreman', ...rest } = more
  return {
    id: `01900000-0000-7000-8000-${made.toString(16).padStart(12, '0')}`,
    wall: WALL,
    revision: 1,
    at: '2026-05-20T08:00:00Z',
    by: { id: role, name: who[role], role },
    kind,
    where,
    data,
    ...rest,
  }
}

export const recorded = (entries: readonly Entry[]): RecordedEntry[] =>
  entries.map((e, i) => ({ seq: i + 1, receivedAt: '2026-05-20T08:00:01.000Z', entry: e }))
export const stateOf = (entries: readonly Entry[], plan?: AnyPlan): WallState => fold([layoutOf(plan)], recorded(entries))
