import type { Entry } from '@stone-tally/core'

/**
 * An entry as it lies in the database. What is no JSON any more, which only somebody who went past us can have done, is no entry: whoever checks
 * says so, and stops at it.
 */
export function entryOf(body: string): Entry {
  try {
    return JSON.parse(body) as Entry
  } catch {
    return null as never
  }
}
