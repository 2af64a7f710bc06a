import { cellKey } from '../layout'
import type { RecordedEntry, Step } from '../record'
import { buildable, type Material, materialsOf, openNeeds, type StockBook, usage } from '../stock'
import { dayAfter } from './calendar'

/** A step that has to wait for what it builds in, and until when. */
export interface Supplied {
  readonly material: string
  /** As 2026-05-31. */
  readonly day: string
  /** Ordered for that day; otherwise as soon as it could come if it were ordered today. */
  readonly ordered: boolean
}

/** Without a word of how it is bought: so many days from order to site. */
export const LEAD = 7

/** Deliveries that are still to come of a material, soonest first: what was ordered last is what has not come. */
export function coming(ordered: readonly RecordedEntry[], expected: number, today: string): { day: string; amount: number }[] {
  const list: { day: string; amount: number }[] = []
  let left = expected
  for (let i = ordered.length - 1; i >= 0 && left > 1e-9; i--) {
    const d = ordered[i]?.entry.data as { amount: number; expected: string }
    const amount = Math.min(left, d.amount)
    left -= amount
    // Promised for a day that is over: it comes tomorrow at the soonest.
    list.push({ day: d.expected < today ? dayAfter(today, 1) : d.expected, amount })
  }
  return list.sort((a, b) => (a.day < b.day ? -1 : 1))
}

/** Does this step build that material in? */
const builds = (step: Step, m: Material): boolean => {
  const { work, places } = step.stage
  if (m.placed === 'pieces' || m.placed === undefined) return work.type === 'units' || work.type === 'picks'
  if (m.placed === 'layers') return work.type === 'grid'
  if (m.placed === 'backfill') return work.type === 'lifts' && work.of === 'backfill'
  return places === m.placed
}

/**
 * Which steps wait for material, course by course in the order of the work: what is here is used up first, then what is ordered as it
 * comes. Only materials somebody keeps account of make anybody wait.
 *
 * @returns by the step's key
 * @example suppliedOn(book, steps, '2026-05-31').get('caps|B|12')?.day // '2026-06-09'
 */
export function suppliedOn(book: StockBook, steps: readonly Step[], today: string): ReadonlyMap<string, Supplied> {
  const materials = materialsOf(book.layout)
  const stores = materials.map((m) => {
    const row = book.of(m.id)
    if (!row || !(row.kept || row.ordered > 0 || book.supplies.has(m.id))) return undefined
    return { left: row.left, coming: coming(row.entries.ordered ?? [], row.expected, today), day: '', row }
  })
  const byCell = new Map<string, Step[]>()
  for (const s of steps) {
    const key = cellKey(s.section ?? '', s.course ?? 0)
    byCell.set(key, [...(byCell.get(key) ?? []), s])
  }
  const found = new Map<string, Supplied>()
  for (const { section, course } of buildable(book)) {
    for (const { material, amount } of openNeeds(book, section, course)) {
      const store = stores[material]
      const m = materials[material] as Material
      if (!store) continue
      store.left -= amount * m.loose * usage(store.row)
      while (store.left < -1e-6 && store.coming.length > 0) {
        const next = store.coming.shift() as { day: string; amount: number }
        store.left += next.amount
        store.day = next.day
      }
      const ordered = store.left >= -1e-6
      const day = ordered ? store.day : dayAfter(today, book.supplies.get(m.id)?.lead ?? LEAD)
      if (day <= today) continue
      for (const step of byCell.get(cellKey(section, course)) ?? []) {
        const known = found.get(step.key)
        if (builds(step, m) && (!known || known.day < day)) found.set(step.key, { material: m.name, day, ordered })
      }
    }
  }
  return found
}
