'use client'

/** How much of the browser's room is used, bytes. */
export interface Space {
  readonly used: number
  readonly quota: number
}
/** A device this full is spoken of, part of its room. */
const NEARLY = 0.85

/** What the browser says of its room; undefined where it says nothing. */
export async function spaceHere(): Promise<Space | undefined> {
  if (typeof navigator === 'undefined') return undefined
  const told = await navigator.storage?.estimate?.().catch(() => undefined)
  return told?.usage !== undefined && told.quota ? { used: told.usage, quota: told.quota } : undefined
}
/** Is it time to say so, before it refuses? @example nearlyFull({ used: 90, quota: 100 }) // true */
export const nearlyFull = (space: Space | undefined): boolean => space !== undefined && space.used / space.quota > NEARLY

let asked = false
/** Asks the browser, once, not to take away what lies here alone: something waits and the house does not answer. */
export async function askToKeep(): Promise<void> {
  if (asked || typeof navigator === 'undefined') return
  asked = true
  if (await navigator.storage?.persisted?.().catch(() => false)) return
  await navigator.storage?.persist?.().catch(() => false)
}
