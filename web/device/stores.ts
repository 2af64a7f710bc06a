'use client'

import type { WallStore } from './wall-store'

const kept = new Map<string, WallStore>()
const KEEP = 4

/**
 * The store of a wall, the same for all its places, and still there when one comes back to it.
 *
 * @param start - another start is another store: another revision, another person
 */
export function storeOf(start: string, make: () => WallStore): WallStore {
  // While the server makes a page's HTML nothing is kept from one person to the next.
  if (typeof window === 'undefined') return make()
  const found = kept.get(start) ?? make()
  kept.delete(start)
  kept.set(start, found)
  for (const [key, store] of kept) {
    if (kept.size <= KEEP) break
    store.end()
    kept.delete(key)
  }
  return found
}
/** Lets all go: another person is at the device, or a test begins. */
export function forgetStores() {
  for (const store of kept.values()) store.end()
  kept.clear()
}
