import type { RecordedEntry } from './entry'
import type { WallState } from './state'

/** Clocks a little fast or slow are common, ms. */
const SLACK = 5 * 60_000

const words = (ms: number) => {
  const minutes = Math.round(ms / 60_000)
  return minutes < 120 ? `${minutes} minutes` : minutes < 2880 ? `${Math.round(minutes / 60)} hours` : `${Math.round(minutes / 1440)} days`
}

/**
 * Was the clock of the device wrong? An entry cannot be observed after it came in, nor before what it speaks of: the plan revision it
 * was made under, the finding it acts on, the entry it corrects; and where device and house compared their clocks, that is said. Such an entry is kept as it came, and shown with this. An entry that
 * comes in late is not flagged: a device may have been without signal for days.
 *
 * @returns in words how far off, undefined where nothing speaks against the time
 * @example clockOf(state, recorded) // 'clock of the device about 3 hours fast'
 */
export function clockOf(state: WallState, recorded: RecordedEntry): string | undefined {
  const { entry } = recorded
  const at = Date.parse(entry.at)
  const came = Date.parse(recorded.receivedAt)
  if (Number.isNaN(came)) return undefined
  // Measured when device and house last spoke: it says more than what can be guessed from other entries.
  const measured = (entry.clock ?? 0) * 1000
  if (Math.abs(measured) > SLACK) return `clock of the device about ${words(Math.abs(measured))} ${measured > 0 ? 'fast' : 'slow'}`
  if (at > came + SLACK) return `clock of the device about ${words(at - came)} fast`
  const of = (entry.data as { of?: unknown } | null)?.of
  const speaksOf = [entry.supersedes, entry.recheckOf, typeof of === 'string' ? of : undefined].flatMap((id) => {
    const other = id === undefined ? undefined : state.byId.get(id)
    // Only what the same clock cannot have got wrong: when that entry was in the house already.
    return other && Date.parse(other.entry.at) <= Date.parse(other.receivedAt) + SLACK ? [Date.parse(other.entry.at)] : []
  })
  const revision = state.revisions.get(entry.revision)
  const earliest = Math.max(...speaksOf, revision ?? Number.NEGATIVE_INFINITY)
  return at < earliest - SLACK ? `clock of the device about ${words(earliest - at)} slow` : undefined
}
