import { cellKey, type Layout } from '../layout'
import { fillWidth, quantities } from '../materials'
import { live, type Step, type WallState } from '../record'
import { BELIEVED, RATES, type RateName, SLOWER } from '../rules'
import { materialsOf, needsOfCells } from '../stock'

/** How fast a kind of work goes here: what ships, what the record says, and both together. */
export interface Pace {
  readonly rate: RateName
  /** In an hour, as reckoned with. */
  readonly value: number
  /** One day in six takes so many times as long. */
  readonly spread: number
  /** What records say, and the days they rest on; undefined where they say nothing yet. */
  readonly seen:
    | {
        readonly median: number
        readonly spread: number
        readonly days: number
        /** Of these days, those of other walls. */
        readonly elsewhere: number
        /** By who recorded it, the most days first. */
        readonly crews: readonly { readonly crew: string; readonly median: number; readonly days: number }[]
      }
    | undefined
}

/** A day of one kind of work on one step: how much was done in an hour, of which system, by whose record. */
export interface Seen {
  readonly rate: RateName
  /** Of which system it was: a block is not a basket. */
  readonly system: string
  readonly crew: string
  readonly day: string
  readonly perHour: number
}

/** What kind of work a step is, and how much of it there is. */
export function workOfStep(state: WallState, step: Step): { readonly rate: RateName; readonly amount: number } {
  const { layout } = state
  const { work } = step.stage
  const length = lengthOf(state, step)
  if (work.type === 'units') return { rate: firstOf(state, step) ? 'first' : 'units', amount: step.planned * effort(layout, step) }
  if (work.type === 'picks') return { rate: 'picks', amount: step.planned * effort(layout, step) }
  if (work.type === 'pipe') return { rate: 'pipe', amount: (step.over ?? []).reduce((n, s) => n + s.to - s.from, 0) || length }
  if (work.type === 'grid') return { rate: 'layers', amount: length * (step.grid?.length ?? 1) }
  if (work.type === 'lifts') {
    const layers = step.lifts?.count ?? 1
    if (work.of === 'pad') return { rate: 'lifts', amount: length * layout.building.foundation.width * layers }
    const row = layout.courses.find((c) => c.course === step.course)
    const stretch = layout.cells.get(cellKey(step.section ?? '', step.course ?? 0))?.stretches[0]
    const wide = row && stretch ? fillWidth(layout, row, (stretch.from + stretch.to) / 2) : layout.plan.excavation.behind
    return { rate: 'lifts', amount: length * wide * layers }
  }
  if (work.type === 'readings') {
    const points = Math.max(1, step.points.length * Math.max(1, step.lines.length))
    return work.target === 'dig' ? { rate: 'dig', amount: digOf(state, step) } : { rate: 'readings', amount: points }
  }
  if (step.stage.places) {
    const needs = needsOfCells(layout).get(cellKey(step.section ?? '', step.course ?? 0))
    const own = needs?.whole.find((w) => materialsOf(layout)[w.material]?.placed === step.stage.places)
    if (own) return { rate: step.stage.places, amount: own.amount }
  }
  return { rate: 'checks', amount: 1 }
}
/** Stretches of the line that are curved, by their stations. */
const curved = new WeakMap<Layout, readonly (readonly [from: number, to: number])[]>()
function curvesOf(layout: Layout): readonly (readonly [number, number])[] {
  const known = curved.get(layout)
  if (known) return known
  const made = layout.alignment.segments.flatMap((s) => (s.kind === 'arc' ? [[s.station, s.station + s.length] as const] : []))
  curved.set(layout, made)
  return made
}
const cornered = new WeakMap<Layout, readonly number[]>()
/** Where its corners are: what ends at one is fitted to it, whatever it is called. */
function cornersOf(layout: Layout): readonly number[] {
  const known = cornered.get(layout)
  if (known) return known
  const made = layout.legs.flatMap((l) => (l.start === 'outside-corner' || l.start === 'inside-corner' ? [l.from] : []))
  cornered.set(layout, made)
  return made
}
/** How much longer than straight ones the units of a course take, on average: those on curves and at corners are slower. */
function effort(layout: Layout, step: Step): number {
  const pieces = (layout.cells.get(cellKey(step.section ?? '', step.course ?? 0))?.pieces ?? []).filter((p) => p.kind !== 'return')
  if (pieces.length === 0) return 1
  const curves = curvesOf(layout)
  const corners = cornersOf(layout)
  // A straight wall has nothing that is slower.
  if (curves.length === 0 && corners.length === 0 && !pieces.some((p) => p.kind === 'corner' || p.kind === 'mitre')) return 1
  const fitted = (p: (typeof pieces)[number]) => corners.some((c) => Math.min(Math.abs(p.start - c), Math.abs(p.to - c)) < p.length)
  const sum = pieces.reduce((n, p) => {
    const middle = (p.start + p.to) / 2
    const bent = curves.some(([from, to]) => middle > from && middle < to)
    return n + (p.kind === 'corner' || p.kind === 'mitre' || fitted(p) ? SLOWER.corner : bent ? SLOWER.curve : 1)
  }, 0)
  return sum / pieces.length
}
const lengthOf = (state: WallState, step: Step): number => {
  const { plan, cells } = state.layout
  const stretches =
    step.course === undefined
      ? plan.sections.filter((s) => step.section === undefined || s.id === step.section)
      : (cells.get(cellKey(step.section ?? '', step.course))?.stretches ?? [])
  return stretches.reduce((n, s) => n + s.to - s.from, 0)
}
const firstOf = (state: WallState, step: Step) => state.layout.cells.get(cellKey(step.section ?? '', step.course ?? 0))?.pad === 'whole'
const dug = new WeakMap<Layout, number>()
/** What is dug of a section, m³: its share of the trench by its length. */
function digOf({ layout }: WallState, step: Step): number {
  const all = dug.get(layout) ?? quantities(layout).find((q) => q.id === 'dig')?.value ?? 0
  dug.set(layout, all)
  const own = layout.plan.sections.find((s) => s.id === step.section)
  return own ? (all * (own.to - own.from)) / layout.plan.length : all
}

const HOUR = 3_600_000
/** Less of a day than this says nothing of a pace, h. */
const LEAST = 0.25
/** More hours than this between two entries of one step are no work on it. */
const PAUSE = 3

/** Work by kind, a day of a step each: from its first entry to its last, without the pauses. @example observed(state)[0]?.perHour // 21 */
export function observed(state: WallState): readonly Seen[] {
  const found: Seen[] = []
  for (const [key, log] of state.logs) {
    const step = state.byKey.get(key)
    const type = step?.stage.work.type
    if (!step || (type !== 'units' && type !== 'picks' && type !== 'pipe')) continue
    const days = new Map<string, { at: number; amount: number; crew: string }[]>()
    for (const { entry } of log.work) {
      if (!live(state, entry.id) || entry.recheckOf) continue
      const d = entry.data as { set?: number; from?: number; to?: number }
      const amount = type === 'units' ? (d.set ?? 0) : type === 'picks' ? 1 : (d.to ?? 0) - (d.from ?? 0)
      const day = entry.at.slice(0, 10)
      days.set(day, [...(days.get(day) ?? []), { at: Date.parse(entry.at), amount, crew: entry.by.name }])
    }
    const { rate } = workOfStep(state, step)
    for (const [day, list] of days) {
      list.sort((a, b) => a.at - b.at)
      let [hours, amount] = [0, 0]
      // What was recorded first was done before it: only what comes after it has a time it took.
      for (let i = 1; i < list.length; i++) {
        const gap = ((list[i]?.at ?? 0) - (list[i - 1]?.at ?? 0)) / HOUR
        if (gap > PAUSE) continue
        hours += gap
        amount += list[i]?.amount ?? 0
      }
      if (hours >= LEAST && amount > 0) found.push({ rate, system: state.layout.system.id, crew: list[0]?.crew ?? '', day, perHour: amount / hours })
    }
  }
  return found
}

const quantile = (sorted: readonly number[], q: number) => {
  const at = (sorted.length - 1) * q
  const low = sorted[Math.floor(at)] as number
  return low + ((sorted[Math.ceil(at)] as number) - low) * (at - Math.floor(at))
}

const medianOf = (list: readonly number[]) =>
  quantile(
    [...list].sort((a, b) => a - b),
    0.5,
  )

/**
 * The pace of every kind of work: what ships, drawn towards what the records say the more days they rest on. Other walls count where they are
 * built of the same system.
 *
 * @param elsewhere - what was seen on other walls of the company
 * @param as - as it ships, whatever any record says
 * @example paces(state).units.value // 17.3 an hour, of 14 that ship and 21 seen on six days
 */
export function paces(state: WallState, elsewhere: readonly Seen[] = [], as?: 'shipped'): Readonly<Record<RateName, Pace>> {
  const own = as === 'shipped' ? [] : observed(state)
  const others = as === 'shipped' ? [] : elsewhere.filter((s) => s.system === state.layout.system.id)
  const made = (Object.keys(RATES) as RateName[]).map((rate): [RateName, Pace] => {
    const def = RATES[rate]
    const [here, there] = [own.filter((s) => s.rate === rate), others.filter((s) => s.rate === rate)]
    const all = [...here, ...there]
    const list = all.map((s) => s.perHour).sort((a, b) => a - b)
    if (list.length === 0) return [rate, { rate, value: def.value, spread: def.spread, seen: undefined }]
    const median = quantile(list, 0.5)
    // A sixth on either side; of a few days only their range is known, and the shipped one is wider.
    const wide = list.length >= BELIEVED ? Math.sqrt(quantile(list, 5 / 6) / quantile(list, 1 / 6)) : def.spread
    const weight = list.length / (list.length + BELIEVED)
    const between = (a: number, b: number) => Math.exp(Math.log(a) * (1 - weight) + Math.log(b) * weight)
    const crews = [...new Set(all.map((s) => s.crew))]
      .map((crew) => {
        const days = all.filter((s) => s.crew === crew)
        return { crew, median: medianOf(days.map((s) => s.perHour)), days: days.length }
      })
      .sort((a, b) => b.days - a.days)
    return [
      rate,
      {
        rate,
        value: between(def.value, median),
        spread: Math.max(1.05, between(def.spread, Math.max(1.05, wide))),
        seen: { median, spread: wide, days: list.length, elsewhere: there.length, crews },
      },
    ]
  })
  return Object.fromEntries(made) as Record<RateName, Pace>
}
