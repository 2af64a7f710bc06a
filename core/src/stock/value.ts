import type { StockBook } from './book'

/** What materials with a price are worth, in the company's own money. */
export interface StockValue {
  readonly ordered: number
  readonly came: number
  readonly placed: number
  readonly left: number
  /** Materials that have one. */
  readonly priced: number
}

/**
 * Value ordered, come, built in and left, of what somebody gave a price; undefined where nobody did.
 *
 * @example stockValue(book)?.left // 412.5
 */
export function stockValue(book: StockBook): StockValue | undefined {
  const sums = { ordered: 0, came: 0, placed: 0, left: 0, priced: 0 }
  for (const row of book.rows()) {
    const price = book.supplies.get(row.id)?.price
    if (price === undefined) continue
    sums.priced++
    sums.ordered += price * row.ordered
    sums.came += price * (row.delivered - row.refused)
    sums.placed += price * row.placed * (row.material?.loose ?? 1)
    sums.left += price * Math.max(0, row.left)
  }
  return sums.priced > 0 ? sums : undefined
}
