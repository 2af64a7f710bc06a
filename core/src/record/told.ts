import { TOLD_WORDS, type ToldData } from './kinds'
import { live, type WallState } from './state'

/** Somebody who was told of a revision: how, when, by whom. */
export interface Told {
  readonly name: string
  readonly how: string
  readonly at: string
  readonly by: string
}

/**
 * Who was told of a revision; the newest word of each stands.
 *
 * @example toldOf(state, 3).map((t) => t.name) // ['Cal', 'Ian']
 */
export function toldOf(state: WallState, number: number): Told[] {
  const by = new Map<string, Told>()
  for (const { entry } of state.entries) {
    if (entry.kind !== 'told' || !live(state, entry.id)) continue
    const data = entry.data as ToldData
    if (data.number !== number) continue
    for (const name of data.people) by.set(name, { name, how: TOLD_WORDS[data.how], at: entry.at, by: entry.by.name })
  }
  return [...by.values()].sort((a, b) => (a.name < b.name ? -1 : 1))
}
