import { database } from './database'
import { hear } from './live'

/** Where somebody is at this moment; it is told to who looks at the same wall and kept nowhere. */
export interface Here {
  /** One open page of a device. */
  readonly page: string
  readonly person: string
  readonly name: string
  readonly section?: string | undefined
  readonly step?: string | undefined
  /** Has begun to type there. */
  readonly typing: boolean
  /** What of it can be read so far; told and kept nowhere. */
  readonly text?: string | undefined
  /** Has left. */
  readonly gone?: true
}

/** Who has not been heard of for so long is not there any more, ms. */
const STALE = 45_000
const walls = new Map<string, Map<string, { here: Here; at: number }>>()
const listeners = new Map<string, Set<(here: Here) => void>>()

/** Tells every process who is where on a wall. */
export const tellHere = (wall: string, here: Here) => database().pool.query("SELECT pg_notify('tally_here', $1)", [`${wall} ${JSON.stringify(here)}`])

function take(payload: string) {
  const cut = payload.indexOf(' ')
  const wall = payload.slice(0, cut)
  const here = JSON.parse(payload.slice(cut + 1)) as Here
  const own = walls.get(wall) ?? new Map()
  if (here.gone) own.delete(here.page)
  else own.set(here.page, { here, at: Date.now() })
  walls.set(wall, own)
  for (const [page, { at }] of own) if (Date.now() - at > STALE) own.delete(page)
  if (own.size === 0) walls.delete(wall)
  for (const listener of listeners.get(wall) ?? []) listener(here)
}

/**
 * Who is on a wall now, and whoever comes, moves or goes.
 *
 * @returns ends it
 */
export function whoIsHere(wall: string, listener: (here: Here) => void): () => void {
  hear('tally_here', take)
  const set = listeners.get(wall) ?? new Set()
  set.add(listener)
  listeners.set(wall, set)
  for (const { here, at } of walls.get(wall)?.values() ?? []) if (Date.now() - at <= STALE) listener(here)
  return () => {
    set.delete(listener)
    if (set.size === 0 && listeners.get(wall) === set) listeners.delete(wall)
  }
}
