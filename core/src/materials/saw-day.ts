import { said } from '../base/said'
import { cutting } from '../bond'
import type { Layout } from '../layout'
import { live, type RecordedEntry, type SawnData, type WallState } from '../record'
import { schoolBy } from '../rules'
import { KERF } from './cut-list'

/** A piece to cut: where it goes, how long on its face, at which angle, and which end of the unit is kept. m, radians. */
export interface SawCut {
  readonly key: string
  readonly section: string
  readonly course: number
  readonly station: number
  readonly length: number
  readonly kind: 'cut' | 'half' | 'mitre'
  /** Off square, where it is mitred. */
  readonly angle?: number
  /** The finished end that stays: seen at a free end or corner; any where both are joints. */
  readonly keep: 'left' | 'right' | 'any'
  /** The whole unit it comes out of, from 1; `offcut` where that was begun for another piece. */
  readonly unit: number
  readonly offcut: boolean
  /** The entry that says that it is cut. */
  readonly done: RecordedEntry | undefined
}

/** Something that was cut and has no place in the plan in force. */
export interface SawnAstray {
  readonly entry: RecordedEntry
  readonly message: string
}

/** All cuts of some courses on one list. */
export interface SawDay {
  readonly cuts: readonly SawCut[]
  /** Whole units to set aside for the saw. */
  readonly units: number
  readonly astray: readonly SawnAstray[]
}

/** What a piece that was cut may be off the one that is planned and still be it, m. */
const SAME = 0.003
/** Where it may lie off, m. */
const BESIDE = 0.02

type Planned = Omit<SawCut, 'unit' | 'offcut' | 'done'>

const plannedOf = new WeakMap<Layout, readonly Planned[]>()
/** Every piece that is cut, course by course, by station. */
function planned(layout: Layout): readonly Planned[] {
  const known = plannedOf.get(layout)
  if (known) return known
  const found: Planned[] = []
  const sections = layout.plan.sections
  layout.runs.forEach((runs, i) => {
    const course = layout.courses[i]?.course ?? 0
    const { half } = layout.building.course(course)
    for (const run of runs) {
      const leg = layout.legs[run.leg]
      run.pieces.forEach((p, k) => {
        const kind = p.kind === 'cut' || p.kind === 'mitre' ? p.kind : p.kind === 'half' && !half ? 'half' : undefined
        if (!kind) return
        const [first, last] = [k === 0, k === run.pieces.length - 1]
        const middle = (p.start + p.to) / 2
        const section = sections.find((s) => middle >= s.from - 1e-9 && middle < s.to - 1e-9) ?? sections[sections.length - 1]
        // Two pieces meet at a corner: each takes half of its turn, or one of them all of it.
        const turn = first && kind === 'mitre' ? leg?.startTurn : last && kind === 'mitre' ? leg?.endTurn : undefined
        found.push({
          key: `${section?.id}/${course}/${p.start.toFixed(3)}`,
          section: section?.id ?? '',
          course,
          station: p.start,
          length: Math.round(p.length * 1000) / 1000,
          kind,
          ...(turn ? { angle: schoolBy(layout.plan, 'corner') === 'mitred-turn' ? turn : turn / 2 } : {}),
          keep:
            kind === 'mitre'
              ? first
                ? 'right'
                : 'left'
              : first && run.start !== 'inside-corner'
                ? 'left'
                : last && run.end !== 'inside-corner'
                  ? 'right'
                  : 'any',
        })
      })
    }
  })
  found.sort((a, b) => a.course - b.course || a.station - b.station)
  plannedOf.set(layout, found)
  return found
}

/**
 * All cuts of the courses chosen on one list: out of which whole unit each comes, off-cuts used again, what is done, and what was cut for a
 * plan that has changed since. Mitred pieces take a whole unit each.
 *
 * @param of - courses from and to, and one section; the whole wall where left out
 * @example sawDay(state, { from: 3, to: 6 }).cuts.filter((c) => !c.done).length
 */
export function sawDay(state: Sawn, of: { readonly from?: number; readonly to?: number; readonly section?: string } = {}): SawDay {
  const { layout } = state
  const all = planned(layout)
  const { made, astray } = sawnOf(state, all)
  const chosen = all.filter(
    (c) => c.course >= (of.from ?? 1) && c.course <= (of.to ?? Number.POSITIVE_INFINITY) && (of.section === undefined || c.section === of.section),
  )
  const units = assigned(layout, chosen)
  return {
    cuts: chosen.map((c) => ({ ...c, ...(units.get(c.key) as { unit: number; offcut: boolean }), done: made.get(c.key) })),
    units: new Set([...units.values()].map((u) => u.unit)).size,
    astray,
  }
}

type Sawn = Pick<WallState, 'layout' | 'entries' | 'superseded'>
/** How many pieces are still to be cut, by section and course, whichever unit they come out of. @example cutsLeft(state).get('B')?.get(4) */
export function cutsLeft(state: Sawn): ReadonlyMap<string, ReadonlyMap<number, number>> {
  const all = planned(state.layout)
  const { made } = sawnOf(state, all)
  const left = new Map<string, Map<number, number>>()
  for (const c of all) {
    if (made.has(c.key)) continue
    const own = left.get(c.section) ?? new Map<number, number>()
    left.set(c.section, own.set(c.course, (own.get(c.course) ?? 0) + 1))
  }
  return left
}

/** What was cut, by the piece it is; and what was cut for a plan that has changed since. */
function sawnOf(state: Sawn, all: readonly Planned[]): { made: ReadonlyMap<string, RecordedEntry>; astray: readonly SawnAstray[] } {
  const sawn = state.entries.filter((e) => e.entry.kind === 'sawn' && live(state as WallState, e.entry.id))
  const of_ = new Map<string, RecordedEntry>()
  const astray: SawnAstray[] = []
  for (const e of sawn) {
    const { where, data } = e.entry as { where: { section?: string; course?: number; station?: number }; data: SawnData }
    const there = all.filter((c) => c.course === where.course && Math.abs(c.station - (where.station ?? -1)) <= BESIDE && !of_.has(c.key))
    const match = there.find((c) => c.kind === data.kind && Math.abs(c.length - data.length) <= SAME)
    if (match) of_.set(match.key, e)
    else {
      const now = there[0]
      const was = `${said.length(data.length, 3)} for course ${where.course ?? ''} at ${said.station(where.station ?? 0)}`
      astray.push({
        entry: e,
        message: now
          ? `${was}: the plan in force wants ${said.length(now.length, 3)} there${now.kind === 'mitre' ? ', mitred' : ''}`
          : `${was}: nothing is cut there any more`,
      })
    }
  }
  return { made: of_, astray }
}
/** Which whole unit each piece comes out of; the longest of a unit first, the others out of its off-cut. */
function assigned(layout: Layout, cuts: readonly Planned[]): Map<string, { unit: number; offcut: boolean }> {
  const result = new Map<string, { unit: number; offcut: boolean }>()
  let next = 0
  const byLength = new Map<number, Planned[]>()
  for (const c of cuts) {
    const { length } = layout.building.course(c.course)
    if (c.kind === 'mitre' || c.length > length - KERF) result.set(c.key, { unit: ++next, offcut: false })
    else byLength.set(c.length, [...(byLength.get(c.length) ?? []), c])
  }
  if (byLength.size === 0) return result
  const stock = layout.building.course(1).length
  const wanted = [...byLength].map(([length, list]) => ({ length: Math.min(stock, length) + KERF, count: list.length }))
  for (const roll of cutting(stock + KERF, wanted, 4000).rolls) {
    next++
    ;[...roll]
      .sort((a, b) => b - a)
      .forEach((x, k) => {
        const list = byLength.get(Math.round((x - KERF) * 1000) / 1000)
        const piece = list?.shift()
        if (piece) result.set(piece.key, { unit: next, offcut: k > 0 })
      })
  }
  return result
}
