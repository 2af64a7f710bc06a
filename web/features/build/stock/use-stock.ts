'use client'

import { buildable, orderList, programmeOf, type StockBook, stockBook, stockWords, trucksOf, type WallState } from '@stone-tally/core'
import { useMemo, useRef } from 'react'

/** The store of a wall as it stands: after an entry only that entry is looked at. */
export function useStockBook(state: WallState): StockBook {
  const kept = useRef<StockBook>(undefined)
  return useMemo(() => {
    // What waits stands on a branch of the record, which a book kept in step with the record itself must not be made of.
    kept.current = stockBook(state, state.entries.some((e) => e.waiting) ? undefined : kept.current)
    return kept.current
  }, [state])
}

/** What the store says, what can be built with it, and what must be ordered. @param today - as 2026-05-31 */
export function useStock(state: WallState, today: string) {
  const book = useStockBook(state)
  return useMemo(() => {
    const programme = programmeOf(state, today, { stocked: true })
    return {
      book,
      rows: book.rows(),
      words: stockWords(state, book),
      lit: buildable(book),
      orders: orderList(book, programme, today),
      trucks: trucksOf(state.layout, programme, (cell) => book.set.get(cell) ?? 0),
    }
  }, [state, book, today])
}
