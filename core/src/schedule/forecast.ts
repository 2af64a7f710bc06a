import type { ItemUnit, Step } from '../record'
import { RATES, type RateName } from '../rules'
import { type Load, loadOf, materialsOf, openNeeds, type RollNeed, rollNeed, type StockBook, stockPlan, usage } from '../stock'
import type { OddsInput } from './odds'
import type { Programme } from './programme'
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
  shared: sharedBy(p),
  workdays: p.calendar.data,
  lost: p.lost.map((l) => l.day),
  foreseen: p.foreseen,
  today,
  runs,
  seed,
})

/** What all work shares before anything was recorded, and what is left of it however much was. */
const UNKNOWN = 1.16
const LEFT = 1.06
/** So many recorded days are worth as much as what was believed. */
const WORTH_DAYS = 12
/**
 * How far all of the work may be off together: much while nothing was recorded, less with every day that was.
 *
 * @example sharedBy(programme) // 1.16
 */
export function sharedBy(p: Pick<Programme, 'paces'>): number {
  const days = Object.values(p.paces).reduce((n, pace) => n + (pace.seen?.days ?? 0), 0)
  const [most, least] = [Math.log(UNKNOWN), Math.log(LEFT)]
  return Math.exp(least + (most - least) / Math.sqrt(1 + days / WORTH_DAYS))
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
  /** What it weighs and how it comes. */
  readonly load: Load
  /** Rolls its strips are cut from, of all the wall. */
  readonly rolls: RollNeed | undefined
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
      const rolls = rollNeed(book.layout, m)
      const above = Math.max(m.order / (m.planned * m.loose), rolls?.above ?? 0) * Math.max(1, usage(row))
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
            load: loadOf(book.layout, m, { amount: o.amount, pack }, bought),
            rolls,
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
    if (t.kind !== 'work' || !t.step) continue
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
