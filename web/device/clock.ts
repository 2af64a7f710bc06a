'use client'

/** How far the clock of this device is ahead of the house's, s; undefined before they spoke. */
let ahead: number | undefined
/** Kept, so that a cold start without a signal knows it too. */
const KEY = 'clock ahead'

/**
 * Compares the clocks by an answer of the house: its time lies between the question and the answer.
 *
 * @param asked - when it was asked, ms since 1970 by the device
 */
export function compare(answer: { headers?: { get(name: string): string | null } }, asked: number, now = Date.now()) {
  const house = Date.parse(answer.headers?.get('date') ?? '')
  if (Number.isNaN(house)) return
  // The header is of whole seconds, cut off.
  ahead = Math.round(((asked + now) / 2 - house - 500) / 1000)
  try {
    window.localStorage.setItem(KEY, `${ahead}`)
  } catch {
    // Known as long as the page stands.
  }
}

/** @example clockAhead() // 7204: two hours fast */
export function clockAhead(): number | undefined {
  if (ahead !== undefined) return ahead
  try {
    const kept = Number(window.localStorage.getItem(KEY) ?? 'none')
    return Number.isFinite(kept) ? kept : undefined
  } catch {
    return undefined
  }
}

/**
 * Now, by the clock of the house as far as this device knows it, ms since 1970: what goes by time is asked by this, never by the device's own.
 *
 * @example new Date(houseNow()).toISOString()
 */
export const houseNow = (now = Date.now()): number => now - (clockAhead() ?? 0) * 1000
