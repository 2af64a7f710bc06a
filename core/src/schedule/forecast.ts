import { type ItemUnit, live, type PromiseData, type RecordedEntry, type Step, statusOf, titleOf, type WallState } from '../record'
import { RATES, type RateName } from '../rules'
import { materialsOf, openNeeds, type StockBook, stockPlan, usage } from '../stock'
import type { OddsInput } from './odds'
import { type Otherwise, type Programme, programmeOf } from './programme'
import { coming, LEAD } from './supplied'

const RATE_NAMES = Object.keys(RATES) as RateName[]

/** What the simulation of a programme needs. @example odds(oddsInput(programme, '2026-05-31')) */
export const oddsInput = (p: Programme, today: string, runs = 1000, seed = 1): OddsInput => ({
  wiring: {
    durations: [...(p.levelled.wiring.durations as readonly number[])],
    after: p.levelled.wiring.after,
    notBefore: [...((p.levelled.wiring.notBefore ?? []) as readonly number[])],
  },
  spreads: p.tasks.map((t) => t.spread),
  groups: p.tasks.map((t) => RATE_NAMES.indexOf(t.rate as RateName) + 1),
  workdays: p.calendar.data,
  today,
  runs,
  seed,
})

/** Something that would win days back, and how many. */
export interface WinBack {
  readonly id: 'crew' | 'notice'
  readonly title: string
  readonly finish: string
  /** Working days. */
  readonly days: number
}

/**
 * What would win days back, tried one by one on the whole programme; what wins nothing is left out.
 *
 * @example winBack(state, programme, '2026-05-31')[0] // { title: 'A second crew', days: 4, … }
 */
export function winBack(state: WallState, p: Programme, today: string): readonly WinBack[] {
  const { crews, notice, hours } = p.calendar.data
  const tries: readonly (readonly [WinBack['id'], string, Otherwise])[] = [
    ['crew', crews === 1 ? 'A second crew' : 'One crew more', { crews: crews + 1 }],
    ...(notice > 0 ? [['notice', 'Inspections booked ahead, so that nobody waits', { notice: 0 }] as const] : []),
  ]
  return tries
    .map(([id, title, otherwise]) => {
      const q = programmeOf(state, today, otherwise)
      return { id, title, finish: q.finish, days: Math.round(((p.hours - q.hours) / hours) * 10) / 10 }
    })
    .filter((w) => w.days >= 0.5)
    .sort((a, b) => b.days - a.days)
}

/** The promise that stands: the newest that was not taken back. */
export function promised(state: WallState): (RecordedEntry & { readonly data: PromiseData }) | undefined {
  for (let i = state.entries.length - 1; i >= 0; i--) {
    const e = state.entries[i] as RecordedEntry
    if (e.entry.kind === 'promise' && live(state, e.entry.id)) return { ...e, data: e.entry.data as PromiseData }
  }
  return undefined
}

/** What makes the wall later than promised, as far as the record tells. */
export interface Slip {
  readonly title: string
  readonly why: string
}
/**
 * What holds the wall up, on the longest way: work that goes slower than reckoned, releases that wait, findings that are open.
 *
 * @example slips(state, programme)[0] // { title: 'units', why: '9 an hour on 3 days of the record' }
 */
export function slips(state: WallState, p: Programme): readonly Slip[] {
  const slow = Object.values(p.paces).flatMap((pace): Slip[] => {
    const { seen } = pace
    const share = p.tasks.filter((t) => t.rate === pace.rate && t.critical).reduce((n, t) => n + t.hours, 0)
    const shipped = pace.value
    return seen && share > 0 && seen.median < 0.9 * shipped
      ? [{ title: pace.rate, why: `${Math.round(seen.median * 10) / 10} an hour on ${seen.days} ${seen.days === 1 ? 'day' : 'days'} of the record` }]
      : []
  })
  const waits = p.tasks.flatMap((t): Slip[] =>
    t.kind === 'release' && statusOf(state, t.step).state === 'done' ? [{ title: titleOf(t.step), why: 'is done and waits for its release' }] : [],
  )
  const open = p.tasks.flatMap((t): Slip[] => {
    const found = t.kind === 'work' ? statusOf(state, t.step).open.length : 0
    return found > 0 ? [{ title: titleOf(t.step), why: `${found} out of tolerance, not closed` }] : []
  })
  // What waits longest for each material says it for all of it.
  const supplies = new Map<string, Slip>()
  for (const t of p.tasks) {
    const w = t.waitsFor
    if (!w || p.calendar.hoursUntil(w.day) < t.start - 1e-6 || supplies.has(w.material)) continue
    supplies.set(w.material, {
      title: t.title,
      why: w.ordered
        ? `waits for ${w.material.toLowerCase()}, expected ${w.day}`
        : `waits for ${w.material.toLowerCase()}, which is not ordered; ordered today it is here on ${w.day}`,
    })
  }
  return [...waits, ...open, ...supplies.values(), ...slow]
}

/** An order that has to be made, of one material. */
export interface OrderLine {
  readonly id: string
  readonly name: string
  readonly unit: ItemUnit
  readonly supplier: string
  /** Days, as 2026-05-31. */
  readonly order: string
  readonly arrive: string
  readonly amount: number
  readonly packs: number
  readonly pack: number
  readonly packName: string
  readonly late: boolean
  /** Does anybody keep account of it? Otherwise it is what is still wanted, and may be here. */
  readonly kept: boolean
  readonly price: number | undefined
}

const DAY = 86_400_000
const dayNumber = (day: string) => Math.round(Date.parse(`${day}T00:00:00Z`) / DAY)
const dayName = (n: number) => new Date(n * DAY).toISOString().slice(0, 10)

/**
 * What must be ordered by when for what is left of the wall: its needs on the days its programme has them, less what is here and expected.
 *
 * @param p - a programme that waits for no delivery: what is late for it is what makes the wall late
 * @example orderList(state, book, programme, '2026-05-31')[0] // { name: 'Drainage stone', order: '2026-06-02', amount: 12, … }
 */
export function orderList(book: StockBook, p: Programme, today: string): readonly OrderLine[] {
  const needs = needsByDay(book, p)
  return materialsOf(book.layout)
    .flatMap((m, i): OrderLine[] => {
      const row = book.of(m.id)
      const own = needs.get(i)
      if (!row || !own) return []
      const bought = book.supplies.get(m.id)
      const kept = row.kept || row.ordered > 0 || bought !== undefined
      const lead = bought?.lead ?? LEAD
      // What is ordered above the plan covers breakage; what a count says runs over comes on top.
      const above = (m.order / (m.planned * m.loose)) * Math.max(1, usage(row))
      const expected = coming(row.entries.ordered ?? [], row.expected, today).map((c) => ({ day: dayNumber(c.day), amount: c.amount }))
      const wanted = [...own.values()].reduce((n, amount) => n + amount * m.loose * above, 0)
      const pack = bought?.pack ?? wholeOf(m.unit, wanted + (bought?.reserve ?? 0) - row.left - row.expected)
      const plan = stockPlan({
        onHand: row.left,
        reserve: bought?.reserve ?? 0,
        needs: [...own].sort((a, b) => a[0] - b[0]).map(([day, amount]) => ({ day, amount: amount * m.loose * above })),
        expected,
        lead,
        pack,
        today: dayNumber(today),
      })
      return plan.ok
        ? plan.value.orders.map((o) => ({
            id: m.id,
            name: m.name,
            unit: m.unit,
            supplier: bought?.supplier ?? '',
            order: dayName(o.order),
            arrive: dayName(o.arrive),
            amount: o.amount,
            packs: Math.round(o.amount / pack),
            pack,
            packName: bought?.packName ?? '',
            // Of what nobody keeps account of it is not known whether it is here.
            late: o.late && kept,
            kept,
            price: bought?.price,
          }))
        : []
    })
    .sort((a, b) => (a.order < b.order ? -1 : a.order > b.order ? 1 : a.name < b.name ? -1 : 1))
}
/** Whole pieces, and bulk to two figures: nobody orders 3.5642 m³, and nobody a hundred litres of glue for three. */
function wholeOf(unit: ItemUnit, amount: number): number {
  if (unit === 'pieces') return Math.max(1, Math.ceil(amount - 1e-6))
  const step = 10 ** (Math.floor(Math.log10(Math.max(amount, 1e-4))) - 1)
  return Math.max(step, Number((Math.ceil(amount / step - 1e-6) * step).toPrecision(6)))
}
/** What is needed on which day, by material: a course's share on the day its work begins; pad and pipe on the first day of theirs. */
function needsByDay(book: StockBook, p: Programme): ReadonlyMap<number, ReadonlyMap<number, number>> {
  const needs = new Map<number, Map<number, number>>()
  const add = (material: number, day: string, amount: number) => {
    const own = needs.get(material) ?? new Map<number, number>()
    const n = dayNumber(day)
    own.set(n, (own.get(n) ?? 0) + amount)
    needs.set(material, own)
  }
  const begins = new Map<string, string>()
  const firsts = new Map<string, string>()
  const note = (map: Map<string, string>, key: string, day: string) => {
    const known = map.get(key)
    if (known === undefined || day < known) map.set(key, day)
  }
  for (const t of p.tasks) {
    if (t.kind !== 'work') continue
    if (t.step.course !== undefined) note(begins, `${t.step.section}/${t.step.course}`, t.from)
    const of = kindOfStep(t.step)
    if (of) note(firsts, of, t.from)
  }
  for (const c of book.layout.cells.values()) {
    const day = begins.get(`${c.section}/${c.course}`)
    if (day === undefined) continue
    for (const { material, amount } of openNeeds(book, c.section, c.course)) add(material, day, amount)
  }
  materialsOf(book.layout).forEach((m, i) => {
    const day = m.placed === 'pad' || m.placed === 'pipe' ? firsts.get(m.placed) : undefined
    const left = m.planned - (book.of(m.id)?.placed ?? 0)
    if (day !== undefined && left > 1e-9) add(i, day, left)
  })
  return needs
}
const kindOfStep = (s: Step): 'pad' | 'pipe' | undefined =>
  s.stage.work.type === 'pipe' ? 'pipe' : s.stage.work.type === 'lifts' && s.stage.work.of === 'pad' ? 'pad' : undefined
