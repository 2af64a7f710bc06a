import { observed, type Seen, type WallState } from '@stone-tally/core'
import { isFolded, stateOf } from './record-store'
import { wallsOf, whyNotShown } from './walls'

/** Days of other walls beyond this say nothing more. */
const MOST = 600
const known = new WeakMap<WallState, readonly Seen[]>()

/** What one wall saw of its own pace, while its record stays as it is. */
function seenOn(state: WallState): readonly Seen[] {
  const have = known.get(state)
  if (have) return have
  const made = observed(state)
  known.set(state, made)
  return made
}

/**
 * What the other walls of a company saw of their pace, the newest days first. A wall that would have to be folded for it alone is left out
 * when there are many: this is an average, not a record.
 */
export async function seenElsewhere(company: string, wall: string): Promise<readonly Seen[]> {
  const walls = (await wallsOf(company)).filter((w) => w.id !== wall && !w.madeUp)
  const found: Seen[] = []
  let folded = 0
  for (const w of walls) {
    if ((await whyNotShown(w.id)) !== undefined) continue
    if (!isFolded(w.id) && ++folded > 12) continue
    found.push(...seenOn(await stateOf(w.id)))
  }
  return found.sort((a, b) => (a.day < b.day ? 1 : -1)).slice(0, MOST)
}
