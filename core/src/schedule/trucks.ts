import { cellKey, type Layout, picksOf } from '../layout'
import type { Programme } from './programme'

/** A truck of units in the order in which they are set, and the day on which its first is hung. */
export interface TruckDay {
  readonly truck: number
  readonly day: string | undefined
  readonly units: number
  readonly mass: number
  readonly first: string
  readonly last: string
}

/**
 * The trucks that are still to come of a wall set by machine, with the day each is wanted; empty where nothing is set from trucks.
 *
 * @param set - how many of a course of a section are set already
 * @example trucksOf(layout, programme, (key) => book.set.get(key) ?? 0)[0] // { truck: 3, day: '2026-06-02', units: 9, … }
 */
export function trucksOf(layout: Layout, p: Programme, set: (cell: string) => number): readonly TruckDay[] {
  const days = new Map<string, string>()
  for (const t of p.tasks)
    if (t.step?.stage.work.type === 'picks' && t.step.course !== undefined) days.set(cellKey(t.step.section ?? '', t.step.course), t.from)
  const left = new Map<string, number>()
  const trucks = new Map<number, { units: number; mass: number; first: string; last: string; day: string | undefined }>()
  for (const pick of picksOf(layout)) {
    if (pick.truck === undefined) continue
    const key = cellKey(pick.section, pick.course)
    const done = left.get(key) ?? set(key)
    left.set(key, Math.max(0, done - 1))
    const known = trucks.get(pick.truck)
    trucks.set(pick.truck, {
      units: (known?.units ?? 0) + 1,
      mass: (known?.mass ?? 0) + pick.mass,
      first: known?.first ?? pick.name,
      last: pick.name,
      // Its first unit that is not set says when it is wanted.
      day: known?.day ?? (done > 0 ? undefined : days.get(key)),
    })
  }
  return [...trucks].filter(([, t]) => t.day !== undefined).map(([truck, t]) => ({ truck, ...t }))
}
