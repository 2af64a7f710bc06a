import { amountSaid, type WallState } from '../record'
import { openOrders } from '../stock'
import { hiresOf } from './extras'
import { type Programme, plantTitle } from './programme'
import { threats } from './threats'

/** What comes from outside on the next working day: lorries, plant, inspectors, weather. */
export interface Tomorrow {
  readonly day: string
  readonly comes: readonly string[]
  readonly releases: readonly string[]
  readonly weather: readonly string[]
  /** Work of that day that is in no stage of the system. */
  readonly others: readonly string[]
  /** The weather expected takes the whole day. */
  readonly lost: string | undefined
}

/**
 * What the next working day brings besides the work of the wall's own stages.
 *
 * @param today - as 2026-05-31; the day after it, or the next that is worked on
 * @example tomorrowOf(state, programme, '2026-05-31').comes // ['480 Whole blocks, Harbour Block Yard']
 */
export function tomorrowOf(state: WallState, p: Programme, today: string): Tomorrow {
  const first = p.calendar.nth(0)
  const day = first > today ? first : p.calendar.nth(1)
  const comes = openOrders(state).flatMap(({ data: d, open }) =>
    d.expected > today && d.expected <= day
      ? [`${amountSaid(open, d.unit)} ${d.name}${d.supplier ? `, ${d.supplier}` : ''}${d.reference ? ` (${d.reference})` : ''}`]
      : [],
  )
  for (const { data: d } of hiresOf(state)) {
    const what = `${d.count > 1 ? `${d.count} × ` : ''}${d.name ?? plantTitle(d.plant)}`
    if (d.from > today && d.from <= day) comes.push(`${what} comes`)
    if (d.to !== undefined && d.to > today && d.to <= day) comes.push(`${what} goes back`)
  }
  const on = (t: { from: string; to: string }) => t.from <= day && t.to >= day
  return {
    day,
    comes,
    releases: p.tasks.filter((t) => t.kind === 'release' && on(t)).map((t) => t.title),
    weather: threats(state, p, `${today}T12:00:00Z`)
      .filter((t) => t.day === day)
      .map((t) => t.text),
    others: p.tasks.filter((t) => t.kind === 'work' && !t.step && on(t)).map((t) => t.title),
    lost: p.lost.find((l) => l.day > today && l.day < day)?.why,
  }
}
