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
  const stays = staysOf(made, list, first)
  const walls = list.map(({ id, programme: p }, k): Shared => {
    const from = first[k] as number
    let hours = 0
    for (let i = from; i < from + p.tasks.length; i++) hours = Math.max(hours, made.finish[i] as number)
    return { id, alone: p.finish, finish: p.calendar.dayOf(hours), hours, stays: stays[k] ?? [] }
  })
  return { walls, bound: made.bound, hours: made.end }
}

/** What the tasks of all walls make of each crew's days: it stays on a wall until it begins on another, or is away from it for longer than a day. */
function staysOf(made: Levelled, list: readonly { readonly programme: Programme }[], first: readonly number[]): Stay[][] {
  const stays: Stay[][] = list.map(() => [])
  const tasks = list
    .flatMap(({ programme }, wall) => programme.tasks.map((_, k) => ({ wall, i: (first[wall] as number) + k })))
    .filter(({ i }) => (made.crew[i] as number) >= 0 && (made.finish[i] as number) > (made.start[i] as number))
    .sort((a, b) => (made.start[a.i] as number) - (made.start[b.i] as number))
  const at = new Map<number, { wall: number; from: number; to: number }>()
  const leave = (crew: number) => {
    const stay = at.get(crew)
    const calendar = stay && list[stay.wall]?.programme.calendar
    // The day an hour ends on is the one it was worked on, not the next morning.
    if (stay && calendar) stays[stay.wall]?.push({ crew: crew + 1, from: calendar.dayOf(stay.from), to: calendar.dayOf(stay.to - 1e-6) })
  }
  for (const { wall, i } of tasks) {
    const crew = made.crew[i] as number
    const [from, to] = [made.start[i] as number, made.finish[i] as number]
    const before = at.get(crew)
    if (before?.wall === wall && from - before.to <= (list[wall]?.programme.calendar.usual ?? 0) + 1e-6) before.to = Math.max(before.to, to)
    else {
      leave(crew)
      at.set(crew, { wall, from, to })
    }
  }
  for (const crew of at.keys()) leave(crew)
  return stays
}
