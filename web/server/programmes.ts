import { type Programme, programmeOf, promised, type Stay, shareCrews } from '@stone-tally/core'
import type { Person } from './accounts'
import { stateOf } from './record-store'
import { wallsOf, whyNotShown } from './walls'

/** A release or a delivery that comes. */
export interface Coming {
  readonly day: string
  readonly text: string
  readonly is: 'release' | 'delivery' | 'not-ordered'
}

/** A wall among all that are being built. */
export interface WallDays {
  readonly id: string
  readonly name: string
  readonly site: string
  /** With crews of its own, and with those all walls share; days as 2026-05-31. */
  readonly alone: string
  readonly finish: string
  readonly promised: string | undefined
  readonly hours: number
  /** When which crew is on it. */
  readonly stays: readonly Stay[]
  /** What comes next of each kind within two weeks. */
  readonly next: readonly Coming[]
}
/** So many crews at most are tried. */
export const MOST_CREWS = 12
const AHEAD = 14 * 86_400_000

/** Releases and deliveries of a programme that come soon. */
function comingOf(p: Programme, today: string): Coming[] {
  const until = new Date(Date.parse(`${today}T00:00:00Z`) + AHEAD).toISOString().slice(0, 10)
  const seen = new Set<string>()
  const marks = p.tasks.flatMap((t): Coming[] => {
    if (t.kind === 'release') return [{ day: t.to, text: `⬣ ${t.title}`, is: 'release' }]
    const w = t.waitsFor
    if (!w || seen.has(`${w.material}${w.day}`)) return []
    seen.add(`${w.material}${w.day}`)
    return [
      w.ordered
        ? { day: w.day, text: `▸ ${w.material} expected`, is: 'delivery' }
        : { day: w.day, text: `▲ ${w.material} is not ordered; soonest`, is: 'not-ordered' },
    ]
  })
  return marks
    .filter((m) => m.day <= until)
    .sort((a, b) => (a.day < b.day ? -1 : 1))
    .slice(0, 4)
}

/** Every wall of the company that is not done, with the crews all of them share. @param today - as 2026-05-31 */
export async function daysOf(person: Person, today: string, crews: number): Promise<{ walls: WallDays[]; bound: number; hours: number }> {
  const open: { id: string; name: string; site: string; programme: Programme; promised: string | undefined }[] = []
  for (const wall of await wallsOf(person.companyId)) {
    // What is put away is not being built, and a made-up wall takes no crew.
    if (wall.away || wall.madeUp) continue
    if ((await whyNotShown(wall.id)) !== undefined) continue
    const state = await stateOf(wall.id)
    // Planned and not begun: it takes nobody's time before somebody says that it is next.
    if (state.entries.every((e) => e.entry.kind === 'revision')) continue
    const programme = programmeOf(state, today)
    if (programme.tasks.length > 0) open.push({ ...wall, programme, promised: promised(state)?.data.finish })
  }
  const { walls, bound, hours } = shareCrews(open, crews)
  return {
    bound,
    hours,
    walls: open.map((w, i) => ({
      id: w.id,
      name: w.name,
      site: w.site,
      promised: w.promised,
      alone: walls[i]?.alone ?? '',
      finish: walls[i]?.finish ?? '',
      stays: walls[i]?.stays ?? [],
      hours: w.programme.tasks.reduce((n, t) => n + (t.kind === 'work' ? t.hours : 0), 0),
      next: comingOf(w.programme, today),
    })),
  }
}
