'use client'

import { hear } from './tabs'

/** Where somebody else is on this wall. */
export interface Other {
  readonly page: string
  readonly person: string
  readonly name: string
  readonly section?: string | undefined
  readonly step?: string | undefined
  readonly typing: boolean
  /** What of it can be read so far. */
  readonly text?: string | undefined
}
type Said = Other & { readonly gone?: true }

/** Who is not heard of for so long has gone, ms. */
const STALE = 45_000
const AGAIN = 20_000

/** This open page; two tabs of one person are two. */
const page = typeof crypto === 'undefined' || !crypto.randomUUID ? 'page' : crypto.randomUUID()

/**
 * Follows who else is on a wall.
 *
 * @param me - oneself is not told
 * @param show - gets everybody else whenever it changed
 * @returns ends it
 */
export function followOthers(wall: string, me: string, show: (others: readonly Other[]) => void): () => void {
  const known = new Map<string, { said: Said; at: number }>()
  const tell = () => show([...known.values()].map((k) => k.said))
  const unhear = hear((word) => {
    if (word.is !== 'here' || word.wall !== wall) return
    const said = JSON.parse(word.text) as Said
    if (said.page === page || said.person === me) return
    if (said.gone) known.delete(said.page)
    else known.set(said.page, { said, at: Date.now() })
    tell()
  })
  const sweep = setInterval(() => {
    const before = known.size
    for (const [key, { at }] of known) if (Date.now() - at > STALE) known.delete(key)
    if (known.size !== before) tell()
  }, AGAIN)
  return () => {
    unhear()
    clearInterval(sweep)
  }
}

/** Says where one is; nobody minds where it does not arrive. */
export function sayHere(wall: string, at: { section?: string | undefined; step?: string | undefined; typing: boolean; text?: string; gone?: true }) {
  const body = JSON.stringify({ page, ...at })
  fetch(`/api/walls/${wall}/here`, { method: 'POST', headers: { 'content-type': 'application/json' }, body, keepalive: true }).catch(() => undefined)
}
/** How often it is said again, ms. */
export const SAID_AGAIN = AGAIN
