'use client'

/** How far the clock of this device is ahead of the house's, s; undefined before they spoke. */
let ahead: number | undefined

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
}
/** @example clockAhead() // 7204: two hours fast */
export const clockAhead = (): number | undefined => ahead
