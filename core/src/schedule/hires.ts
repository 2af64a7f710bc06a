import { said } from '../base/said'
import type { WallState } from '../record'
import { MACHINE_KINDS, type MachineName } from '../rules'
import { dayAfter, daysTo } from './calendar'
import { hiresOf } from './extras'
import { type Programme, plantTitle } from './programme'

/** Plant against the days it is needed. */
export interface PlantDays {
  readonly plant: MachineName
  readonly title: string
  /** Days on which the programme needs it, from the first to the last; empty where it needs none. */
  readonly needed: readonly string[]
  /** Units at work in one and the same hour, at the most. */
  readonly most: number
  /** Each hire: when, how many days of it lie ahead, how many of those are needed, and what the days cost. */
  readonly hires: readonly {
    readonly entry: string
    readonly name: string
    readonly count: number
    readonly from: string
    readonly to: string | undefined
    readonly ahead: number
    readonly idle: number
    readonly cost: number | undefined
    /** What the idle days ahead cost. */
    readonly saved: number | undefined
  }[]
  /** What there is to say of it. */
  readonly words: readonly string[]
}
const LONG = 400

/**
 * Every kind of plant the rest of the wall needs, or that is here: the days it is needed, those it is on hire, and what that costs.
 *
 * @param today - as 2026-05-31
 * @example plantDays(state, programme, '2026-05-31').find((p) => p.plant === 'saw')?.needed // ['2026-06-02']
 */
export function plantDays(state: WallState, p: Programme, today: string): readonly PlantDays[] {
  return MACHINE_KINDS.flatMap((plant): PlantDays[] => {
    const title = plantTitle(plant)
    const tasks = p.tasks.filter((t) => t.plant === plant && t.hours > 0)
    const all = hiresOf(state).filter((h) => h.data.plant === plant)
    const use = new Set<string>()
    for (const t of tasks) for (let d = t.from, i = 0; d <= t.to && i < LONG; d = dayAfter(d, 1), i++) if (p.calendar.works(d)) use.add(d)
    const needed = [...use].sort()
    if (needed.length === 0 && all.every((h) => h.data.to !== undefined && h.data.to < today)) return []
    const hires = all
      .filter((h) => h.data.to === undefined || h.data.to >= today)
      .map(({ entry, data: d }) => {
        const begin = d.from < today ? today : d.from
        const ahead = d.to === undefined ? 0 : Math.max(0, daysTo(begin, d.to) + 1)
        const idle = d.to === undefined ? 0 : Math.max(0, ahead - needed.filter((n) => n >= begin && n <= (d.to ?? '')).length)
        const each = d.perDay === undefined ? undefined : d.perDay * d.count
        return {
          entry: entry.entry.id,
          name: d.name ?? title,
          count: d.count,
          from: d.from,
          to: d.to,
          ahead,
          idle,
          cost: each === undefined || d.to === undefined ? undefined : each * (daysTo(d.from, d.to) + 1),
          saved: each === undefined ? undefined : each * idle,
        }
      })
    return [{ plant, title, needed, most: atOnce(tasks), hires, words: wordsOf(title, needed, hires, all.length > 0) }]
  })
}

/** The most that are at work in one and the same hour. */
function atOnce(tasks: readonly { readonly start: number; readonly finish: number }[]): number {
  const turns = tasks.flatMap((t) => [[t.start + 1e-6, 1] as const, [t.finish - 1e-6, -1] as const]).sort((a, b) => a[0] - b[0])
  let [now, most] = [0, 0]
  for (const [, by] of turns) {
    now += by
    most = Math.max(most, now)
  }
  return most
}

/** @param known - somebody keeps account of it: what was here and went back is not here */
function wordsOf(title: string, needed: readonly string[], hires: PlantDays['hires'], known: boolean): readonly string[] {
  const words: string[] = []
  const here = (d: string) => hires.some((h) => h.from <= d && (h.to === undefined || h.to >= d))
  const [first, last] = [needed[0], needed[needed.length - 1]]
  if (known) {
    const without = needed.filter((d) => !here(d))
    if (without.length > 0)
      words.push(
        `${title}: needed on ${without.length} ${without.length === 1 ? 'day' : 'days'} on which none is here, the first ${said.day(without[0] as string)}. Have it come then, or stay.`,
      )
    for (const h of hires) {
      if (h.to === undefined || h.idle === 0) continue
      if (last === undefined || h.from > last) words.push(`${h.name}: nothing is left for it; on hire to ${said.day(h.to)}.`)
      else if (last < h.to) words.push(`${h.name}: needed last on ${said.day(last)}, on hire to ${said.day(h.to)}. Send it back then.`)
      else if (first !== undefined && h.from < first && first <= h.to)
        words.push(`${h.name}: here from ${said.day(h.from)}, needed first on ${said.day(first)}.`)
    }
  }
  return words
}
