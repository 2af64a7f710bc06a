import type { Result } from '../base/result'
import { said } from '../base/said'
import { type LevelBook, reduceBook, type Sight } from '../ground'
import { limitsOf } from '../rules'
import type { RecordedEntry } from './entry'
import type { ReadingData, SetupData, SightData } from './kinds'
import { latestOf } from './latest'
import { live, type WallState } from './state'

/** One instrument's sights of one day, in order, reduced. */
export interface BookDay {
  /** As 2026-05-20, and the serial of the instrument or the person who used one without a name. */
  readonly day: string
  readonly with: string
  readonly book: Result<LevelBook>
  readonly entries: readonly RecordedEntry[]
}

function sightOf(state: WallState, { entry }: RecordedEntry): Sight | undefined {
  const base = { id: entry.id }
  if (entry.kind === 'setup') {
    const d = entry.data as SetupData
    const point = d.point ?? state.layout.plan.benchmark.name
    return { ...base, kind: 'backsight', point, reading: d.backsight, ...(d.turning ? {} : { known: d.benchmark }) }
  }
  if (entry.kind === 'sight') {
    const d = entry.data as SightData
    return { ...base, kind: d.sight, point: d.point, reading: d.reading, ...(d.known == null ? {} : { known: d.known }) }
  }
  const d = entry.data as ReadingData
  if (entry.kind !== 'reading' || d.method !== 'rod') return undefined
  const stage = state.byStage.get(entry.where.stage ?? '')?.title ?? ''
  const across = entry.where.offset === undefined ? '' : ` / ${said.signed(entry.where.offset)}`
  return { ...base, kind: 'intermediate', point: `${stage} ${said.station(entry.where.station ?? 0)}${across}`, reading: d.value }
}

/**
 * The level book of a wall, day by day and instrument by instrument, newest first: every set-up, reading, turning point and
 * check, reduced anew from the record. Corrected entries are left out.
 *
 * @example levelBooks(state)[0]?.book
 */
export function levelBooks(state: WallState): BookDay[] {
  const limits = limitsOf(state.layout.plan)
  const rules = { perSetup: limits.levelClosure.value, check: limits.levelCheck.value }
  const days = new Map<string, { sights: Sight[]; entries: RecordedEntry[] }>()
  const current = new Map<string, string>()
  for (const recorded of state.entries) {
    const { entry } = recorded
    if (!live(state, entry.id)) continue
    const sight = sightOf(state, recorded)
    if (!sight) continue
    const day = entry.at.slice(0, 10)
    // Crews share one set-up: a reading without an instrument of its own belongs to the one last set up that day.
    const name = entry.instrument?.serial ?? (entry.kind === 'setup' ? entry.by.name : (current.get(day) ?? entry.by.name))
    if (entry.kind === 'setup') current.set(day, name)
    const key = `${day}|${name}`
    const known = days.get(key) ?? { sights: [], entries: [] }
    known.sights.push(sight)
    known.entries.push(recorded)
    days.set(key, known)
  }
  return [...days.entries()]
    .map(([key, { sights, entries }]) => {
      const [day = '', withWhat = ''] = key.split('|')
      // An instrument left standing overnight: its height comes with the first reading of the day.
      const first = entries[0]?.entry
      const hi = first?.kind === 'reading' ? (first.data as ReadingData).hi : first?.kind === 'sight' ? (first.data as SightData).hi : undefined
      const carried: Sight[] = hi == null ? [] : [{ kind: 'backsight', point: 'height carried over', reading: 0, known: hi }]
      return { day, with: withWhat, book: reduceBook([...carried, ...sights], rules), entries }
    })
    .sort((a, b) => b.day.localeCompare(a.day))
}

/** The set-up in force for the next reading: the last one recorded that nothing corrected. */
export const latestSetup = (state: WallState): RecordedEntry | undefined => latestOf(state, (e) => e.kind === 'setup')
