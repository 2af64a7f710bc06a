import Papa from 'papaparse'
import type { OrderLine } from '../schedule'
import { inert } from './inert'

/**
 * The order list as CSV: one order a line, SI units, days as 2026-05-31.
 *
 * @example orderCsv(orderList(book, programme, today))
 */
export const orderCsv = (orders: readonly OrderLine[]): string =>
  Papa.unparse(
    orders.map((o) => ({
      order_by: o.order,
      on_site: o.arrive,
      late: o.late ? 'yes' : 'no',
      supplier: inert(o.supplier),
      material: inert(o.name),
      amount: o.amount,
      unit: o.unit,
      packs: o.packs,
      pack: o.pack,
      price: o.price ?? '',
    })),
    { newline: '\n' },
  )
