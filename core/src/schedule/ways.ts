import type { Layout } from '../layout'
import { cutList, quantities } from '../materials'
import { emptyState } from '../record'
import { massOf, materialsOf } from '../stock'
import { calendarFrom, workdaysOf } from './calendar'
import { paces, workOfStep } from './pace'

/** What a wall would take, to be held beside what another way of building it takes. SI; days are working days of one crew. */
export interface Way {
  readonly courses: number
  readonly units: number
  readonly cuts: number
  readonly dig: number
  readonly pad: number
  readonly stone: number
  readonly backfill: number
  readonly layers: number
  /** Of the crew's own work; waits for releases and for material are what its Days will say. */
  readonly days: number
  /** Lorries of 18 t that bring what comes, as far as anybody knows what it weighs. */
  readonly loads: number
  readonly padSteps: number
}
const LORRY = 18_000

/**
 * What a layout takes in the numbers by which ways of building a wall are chosen.
 *
 * @param today - as 2026-05-31: the days depend on the light and the week, not on the year
 * @example wayOf(layout, '2026-05-31').cuts // 14
 */
export function wayOf(layout: Layout, today: string): Way {
  const of = new Map(quantities(layout).map((q) => [q.id, q.value]))
  const state = emptyState([layout])
  const pace = paces(state, [], 'shipped')
  const hours = state.steps.reduce((n, step) => {
    const { rate, amount } = workOfStep(state, step)
    return n + amount / pace[rate].value
  }, 0)
  const kilos = materialsOf(layout).reduce((n, m) => n + (massOf(layout, m, undefined) ?? 0) * m.order, 0)
  const pieces = [...layout.cells.values()].reduce((n, c) => n + c.pieces.filter((x) => x.kind !== 'return').length, 0)
  return {
    courses: layout.courses.length,
    units: pieces,
    cuts: cutList(layout).pieces.length,
    dig: of.get('dig') ?? 0,
    pad: of.get('pad') ?? 0,
    stone: of.get('stone') ?? 0,
    backfill: of.get('backfill') ?? 0,
    layers: new Set(layout.building.layers.map((l) => l.course)).size,
    days: hours / calendarFrom(workdaysOf(state), today).usual,
    loads: Math.ceil(kilos / LORRY - 1e-9),
    padSteps: layout.steps.length,
  }
}
