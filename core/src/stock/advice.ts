import { said } from '../base/said'
import { amountSaid, statusOf, type WallState } from '../record'
import { openNeeds, type StockBook, type StockRow } from './book'
import { materialsOf } from './material'

/** What the store says early, in words: what runs over, what is short and where, what does not add up. */
export interface StockWord {
  readonly id: string
  /** Of a material that runs out first. */
  readonly of: 'short' | 'over' | 'missing' | 'waits' | 'lots' | 'unplanned'
  readonly text: string
  /** Where it runs out. */
  readonly section?: string
  readonly course?: number
}

/** A course of a section in the order of the work, and whether what is here builds it. */
export interface Lit {
  readonly section: string
  readonly course: number
  readonly lit: boolean
  /** What runs out in it. */
  readonly lacks: readonly string[]
}

/** Shares below which a count says nothing, and within which it says that all is well. */
const EARLY = 0.1
const USUAL = 0.05
const EXACT = 1e-6

/** How much more of it goes than the plan has, by the last count; 1 where nobody counted, or too early. Never less: a count that finds more than came says that a docket is missing, not that less is needed. */
export function usage(row: StockRow): number {
  const m = row.material
  if (!m || !row.counted || row.counted.placed < EARLY * m.planned) return 1
  return Math.max(1, row.counted.used / (row.counted.placed * m.loose))
}

/** Cells in the order in which they are built: course by course from the bottom. */
const inOrder = (book: StockBook) => [...book.layout.cells.values()].sort((a, b) => a.course - b.course || (a.section < b.section ? -1 : 1))

/**
 * Which courses can be built with what is here, in the order of the work. Only materials somebody keeps account of are looked at.
 *
 * @param more - counts what is ordered and not here as here
 * @example buildable(book).filter((l) => l.lit).length // 3 courses
 */
export function buildable(book: StockBook, more = false): readonly Lit[] {
  const materials = materialsOf(book.layout)
  const rows = materials.map((m) => book.of(m.id))
  const left = rows.map((r) => (r?.kept ? r.left + (more ? r.expected : 0) : Number.POSITIVE_INFINITY))
  return inOrder(book).flatMap((c): Lit[] => {
    const needs = openNeeds(book, c.section, c.course)
    if (needs.length === 0) return []
    const lacks: string[] = []
    for (const { material, amount } of needs) {
      const row = rows[material]
      const m = materials[material]
      if (!row || !m) continue
      left[material] = (left[material] as number) - amount * m.loose * usage(row)
      if ((left[material] as number) < -EXACT) lacks.push(m.name)
    }
    return [{ section: c.section, course: c.course, lit: lacks.length === 0, lacks }]
  })
}

/** What else of the record explains that more goes than planned. */
function likely(state: WallState, row: StockRow): string {
  const m = row.material
  const causes: string[] = []
  if (row.damaged + row.refused > 0 && m && row.damaged > USUAL * row.placed) causes.push(`${amountSaid(row.damaged, row.unit)} broken or spoiled`)
  if (m?.placed === 'pad' || m?.placed === 'stone') {
    const low = state.steps.flatMap((s) =>
      s.stage.work.type === 'readings' && s.stage.work.target === 'dig' ? [...statusOf(state, s).deviations].filter((d) => !Number.isNaN(d)) : [],
    )
    const mean = low.reduce((a, b) => a + b, 0) / Math.max(1, low.length)
    if (mean < -0.01) causes.push(`dug ${said.small(-mean)} too deep on average`)
  }
  if (row.counted && row.counted.reckoned - row.counted.amount > 0 && causes.length === 0) causes.push('spilled, spread thicker or taken elsewhere')
  return causes.length > 0 ? `; likely ${causes.join(', ')}` : ''
}

/**
 * What the store has to say, the most pressing first.
 *
 * @example stockWords(state, book)[0].text // 'Drainage stone runs 18 % over: 6.2 m³ short, from course 9 of section A'
 */
export function stockWords(state: WallState, book: StockBook): readonly StockWord[] {
  const words: StockWord[] = []
  const ahead = buildable(book, true)
  for (const row of book.rows()) {
    const m = row.material
    const amount = (n: number) => amountSaid(n, row.unit)
    if (!m) {
      if (row.delivered > 0)
        words.push({
          id: row.id,
          of: 'unplanned',
          text: `${row.name} is in no plan of this wall: ${amount(row.delivered)} came. Say whether it was meant for another one.`,
        })
      continue
    }
    if (!row.kept) continue
    const lots = lotsOf(row)
    if (m.seen && lots.length > 1)
      words.push({
        id: row.id,
        of: 'lots',
        text: `${m.name} came in ${lots.length} lots (${lots.join(', ')}): colours differ from lot to lot. Keep each to a stretch of its own, or set from several pallets at once.`,
      })
    const rate = usage(row)
    const toPlace = Math.max(0, m.planned - row.placed) * m.loose * rate
    const short = toPlace - row.left - row.expected
    const first = ahead.find((l) => l.lacks.includes(m.name))
    const from = first ? `, from course ${first.course} of section ${first.section}` : ''
    const over = rate > 1 + USUAL ? `${m.name} runs ${Math.round((rate - 1) * 100)} % over` : ''
    const tail = over ? likely(state, row) : ''
    const at = first ? { section: first.section, course: first.course } : {}
    // What is left below nothing was never brought: a paper is missing, or something was counted twice.
    if (row.left < -Math.max(EXACT, USUAL * EARLY * m.order))
      words.push({
        id: row.id,
        of: 'missing',
        text: `${amount(-row.left)} more ${m.name} is built in than came: a docket is missing, or work was recorded twice.`,
      })
    else if (short > Math.max(EXACT, USUAL * EARLY * m.order))
      words.push({ id: row.id, of: 'short', text: `${over || m.name}: ${amount(short)} short${from}${tail}.`, ...at })
    else if (over) words.push({ id: row.id, of: 'over', text: `${over}; what is here and ordered is still enough${tail}.` })
    const late = lateBy(row, state)
    if (row.expected > EXACT && late !== undefined)
      words.push({ id: row.id, of: 'waits', text: `${amount(row.expected)} ${m.name} was expected by ${said.day(late)} and has not come.` })
  }
  const rank = { missing: 0, short: 1, waits: 2, over: 3, lots: 4, unplanned: 5 }
  return words.sort((a, b) => rank[a.of] - rank[b.of])
}
/** Lots that came, each once. */
const lotsOf = (row: StockRow): string[] => [
  ...new Set((row.entries.delivered ?? []).flatMap((e) => (e.entry.data as { lot?: string }).lot?.trim() || [])),
]
/** The day by which what is still expected was promised, where the newest entry of the wall is after it. */
function lateBy(row: StockRow, state: WallState): string | undefined {
  const days = (row.entries.ordered ?? []).map((e) => (e.entry.data as { expected: string }).expected).sort()
  const last = days[days.length - 1]
  const newest = state.entries[state.entries.length - 1]?.entry.at.slice(0, 10) ?? ''
  return last !== undefined && newest > last ? last : undefined
}

/**
 * Is an amount that was typed far from anything the wall could want? Asked about, never refused.
 *
 * @returns the question in words
 * @example questionable(book, 'stone', 40) // '40.0 m³ is more than all the 3.9 m³ still wanted …'
 */
export function questionable(book: StockBook, id: string, amount: number): string | undefined {
  const row = book.of(id)
  const m = row?.material
  if (!row || !m) return undefined
  const wanted = Math.max(0, m.order - row.delivered - row.in + row.refused + row.damaged + row.out)
  if (amount <= Math.max(2 * wanted, EARLY * m.order)) return undefined
  return `${amountSaid(amount, m.unit)} is far more than the ${amountSaid(wanted, m.unit)} this wall still wants of ${m.name}. Is a digit wrong, or is it for another wall too?`
}
