import { MACHINE_KINDS } from '../rules'
import { type Levelled, level } from './level'
import type { Programme } from './programme'

/** One wall among those that share crews. */
export interface Shared {
  readonly id: string
  /** As 2026-05-31: with crews of its own, and with those that all share. */
  readonly alone: string
  readonly finish: string
  /** Working hours until it is done among the others. */
  readonly hours: number
  /** When which crew is on it, in the order of the days; what follows within a day is one stay. */
  readonly stays: readonly Stay[]
}

/** A crew on a wall from one day to another, both with it; crews are numbered from 1. */
export interface Stay {
  readonly crew: number
  readonly from: string
  readonly to: string
}

/**
 * Several walls built by the same crews with the same plant: whoever is free goes on with the wall that was promised soonest, or else that is nearest to done, as
 * far as anything of it may begin. A rule of thumb: it keeps promises before it keeps the end of all.
 *
 * @returns each wall with the day it is done alone and among the others, and the bound below which all of it cannot come
 * @example shareCrews([{ id: 'a', programme }, { id: 'b', programme: other }], 2).walls[0]?.finish // '2026-06-19'
 */
export function shareCrews(
  list: readonly { readonly id: string; readonly programme: Programme; readonly promised?: string | undefined }[],
  crews: number,
): { readonly walls: readonly Shared[]; readonly bound: number; readonly hours: number } {
  const durations: number[] = []
  const notBefore: number[] = []
  const after: (readonly (readonly [number, number])[])[] = []
  const crewed: boolean[] = []
  const first: number[] = []
  const rank: number[] = []
  const plantOf: number[] = []
  const left = (p: Programme) => p.tasks.reduce((n, t) => n + (t.crewed ? t.hours : 0), 0)
  const order = [...list].sort((a, b) => {
    const [x, y] = [a.promised ?? '9', b.promised ?? '9']
    return x < y ? -1 : x > y ? 1 : left(a.programme) - left(b.programme)
  })
  for (const one of list) {
    const p = one.programme
    const offset = durations.length
    first.push(offset)
    p.tasks.forEach((t, i) => {
      durations.push(t.hours)
      rank.push(order.indexOf(one))
      plantOf.push(t.plant ? MACHINE_KINDS.indexOf(t.plant) : -1)
      notBefore.push(p.levelled.wiring.notBefore?.[i] ?? 0)
      crewed.push(t.crewed)
      // Its own crews' order is no law among others: only what the gates ask for.
      after.push(p.gates[i]?.map(([b, lag]) => [b + offset, lag] as const) ?? [])
    })
  }
  // Plant that is on hire for one of them goes to the others as well; of what nobody keeps account of there is enough.
  const plant = MACHINE_KINDS.map((_, k) => {
    const units = list.flatMap((w) => w.programme.plant[k] ?? [])
    return units.length > 0 ? units : undefined
  })
  const made = level({ durations, after, notBefore }, crewed, { crews, plantOf, plant }, rank)
  if (!made) throw new Error('walls wait for each other in a circle')
  const walls = list.map(({ id, programme: p }, k): Shared => {
    const from = first[k] as number
    let hours = 0
    for (let i = from; i < from + p.tasks.length; i++) hours = Math.max(hours, made.finish[i] as number)
    return { id, alone: p.finish, finish: p.calendar.dayOf(hours), hours, stays: staysOf(made, p, from) }
  })
  return { walls, bound: made.bound, hours: made.end }
}

/** What one wall's tasks make of each crew's days. */
function staysOf(made: Levelled, { tasks, calendar }: Programme, from: number): Stay[] {
  const own = tasks
    .map((_, i) => from + i)
    .filter((i) => (made.crew[i] as number) >= 0 && (made.finish[i] as number) > (made.start[i] as number))
    .sort((a, b) => (made.start[a] as number) - (made.start[b] as number))
  const open = new Map<number, { crew: number; from: string; to: string; hour: number }>()
  const stays: { crew: number; from: string; to: string; hour: number }[] = []
  for (const i of own) {
    const crew = (made.crew[i] as number) + 1
    const [start, end] = [made.start[i] as number, made.finish[i] as number]
    const before = open.get(crew)
    // A crew that comes back within the day, or the next, never left.
    if (before && start - before.hour <= calendar.usual + 1e-6) {
      before.to = calendar.dayOf(Math.max(end - 1e-6, before.hour - 1e-6))
      before.hour = Math.max(before.hour, end)
    } else {
      const stay = { crew, from: calendar.dayOf(start), to: calendar.dayOf(end - 1e-6), hour: end }
      open.set(crew, stay)
      stays.push(stay)
    }
  }
  return stays.map(({ hour: _, ...stay }) => stay)
}
