import Papa from 'papaparse'
import type { WallState } from '../record'
import { allTasksOf, type OrderLine, type PlantDays, type Programme } from '../schedule'
import type { StockRow } from '../stock'
import { inert } from './inert'

/** A sheet of a workbook, or a CSV file: names of its columns and its rows, in SI and pieces, days as 2026-05-31. */
export interface Sheet {
  readonly name: string
  readonly columns: readonly string[]
  readonly rows: readonly (readonly (string | number | undefined)[])[]
}

/** What must be ordered by when, one order a row. @example orderSheet(orders).rows[0]?.[0] // '2026-06-02' */
export const orderSheet = (orders: readonly OrderLine[]): Sheet => ({
  name: 'Orders',
  columns: ['order_by', 'on_site', 'late', 'supplier', 'material', 'amount', 'unit', 'packs', 'pack', 'mass_kg', 'lorries', 'price'],
  rows: orders.map((o) => [
    o.order,
    o.arrive,
    o.late ? 'yes' : 'no',
    o.supplier,
    o.name,
    o.amount,
    o.unit,
    o.packs,
    o.pack,
    o.load.mass === undefined ? undefined : Math.round(o.load.mass),
    o.load.lorries,
    o.price,
  ]),
})

/** How every material stands, one a row. @example stockSheet(book.rows()).rows.length */
export const stockSheet = (rows: readonly StockRow[]): Sheet => ({
  name: 'Stock',
  columns: [
    'material',
    'unit',
    'planned',
    'with_waste',
    'ordered',
    'came',
    'sent_back',
    'built_in',
    'broken',
    'taken_away',
    'brought',
    'left',
    'expected',
  ],
  rows: rows.map((r) => [
    r.name,
    r.unit,
    r.material?.planned,
    r.material?.order,
    r.ordered,
    r.delivered,
    r.refused,
    r.placed,
    r.damaged,
    r.out,
    r.in,
    r.left,
    r.expected,
  ]),
})

const round = (v: number, places: number) => Number(v.toFixed(places))
/** What is left, one task a row with what it waits for; hours are working hours from the first day. @example taskSheet(state, programme) */
export function taskSheet(state: WallState, p: Programme): Sheet {
  const own = new Map(allTasksOf(state).map((t) => [t.task, t]))
  return {
    name: 'Tasks',
    columns: [
      ...['id', 'title', 'kind', 'section', 'course', 'from', 'to', 'hours', 'start_hour', 'finish_hour', 'float_hours', 'critical'],
      ...['crew', 'plant', 'not_before', 'after', 'before'],
    ],
    rows: p.tasks.map((t, i) => [
      t.id,
      t.title,
      own.has(t.id) ? 'other' : t.kind,
      t.section,
      t.step?.course,
      t.from,
      t.to,
      round(t.hours, 3),
      round(t.start, 3),
      round(t.finish, 3),
      round(t.float, 3),
      t.critical ? 'yes' : 'no',
      t.crewed ? 'yes' : 'no',
      t.plant,
      t.fixed?.day,
      (p.levelled.wiring.after[i] ?? []).map(([b, lag]) => `${p.tasks[b]?.id}${lag > 0 ? `+${round(lag, 2)}h` : ''}`).join(' ; '),
      own.get(t.id)?.before.join(' ; '),
    ]),
  }
}

/** Plant against the days it is needed, one hire a row; a row without days on hire where nobody said that any is here. */
export const plantSheet = (plant: readonly PlantDays[]): Sheet => ({
  name: 'Plant',
  columns: ['plant', 'needed_first', 'needed_last', 'days_needed', 'hired', 'from', 'to', 'days_ahead', 'idle_ahead', 'cost'],
  rows: plant.flatMap((p) => {
    const need = [p.title, p.needed[0], p.needed[p.needed.length - 1], p.needed.length] as const
    return p.hires.length === 0
      ? [[...need, undefined, undefined, undefined, undefined, undefined, undefined]]
      : p.hires.map((h) => [...need, h.name, h.from, h.to, h.ahead, h.idle, h.cost])
  }),
})

/** A sheet as CSV; nothing in it is a formula. @example sheetCsv(orderSheet(orders)) */
export const sheetCsv = (s: Sheet): string =>
  Papa.unparse({ fields: [...s.columns], data: s.rows.map((r) => r.map((c) => (typeof c === 'string' ? inert(c) : (c ?? '')))) }, { newline: '\n' })
