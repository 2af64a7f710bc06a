'use client'

import type { Entry, Problem } from '@stone-tally/core'
import type { Boxed, Refused, Waiting } from './db'

/** What goes over the line: the device's own notes stay here. */
export function toSend(waiting: Waiting): Omit<Entry, 'by'> {
  const { owner: _owner, ownerName: _name, tries: _tries, knew: _knew, n: _n, ...entry } = waiting as Boxed
  return entry
}

type Outcome<O> = { readonly status: number; readonly outcomes: readonly O[] | undefined; readonly problems: readonly Problem[] }

/** After so many failures of the server on one entry it is shown to a person instead of being tried for ever. */
export const TRIES = 3

/**
 * Sends what waits, in order, so that one entry the server cannot take never holds up the others: a batch that is refused or fails as
 * a whole is sent again one by one.
 *
 * @param post - sends entries; status 0 without a connection
 * @param alive - does the server answer at all?
 * @returns outcomes of all that were answered; entries that failed by themselves are in `failed`, `stopped` when the line is down
 */
export async function deliver<O extends { id: string }>(
  entries: readonly Waiting[],
  post: (entries: readonly Waiting[]) => Promise<Outcome<O>>,
  alive: () => Promise<boolean>,
): Promise<{ outcomes: O[]; refused: Refused[]; failed: string[]; stopped: boolean }> {
  const done = { outcomes: [] as O[], refused: [] as Refused[], failed: [] as string[], stopped: false }
  const send = async (list: readonly Waiting[]): Promise<boolean> => {
    const answer = await post(list)
    if (answer.outcomes) {
      done.outcomes.push(...answer.outcomes)
      return true
    }
    // No line, signed out, or told to come later: everything stays as it is.
    if (answer.status === 0 || answer.status === 429 || answer.status === 401 || answer.status === 403 || answer.status === 404) return false
    const [first] = list
    if (list.length === 1 && first) {
      if (answer.status >= 500) {
        if (!(await alive())) return false
        done.failed.push(first.id)
      } else done.refused.push({ entry: toSend(first), problems: answer.problems, owner: first.owner, ownerName: first.ownerName })
      return true
    }
    for (const one of list) if (!(await send([one]))) return false
    return true
  }
  for (let i = 0; i < entries.length; i += 200) {
    if (await send(entries.slice(i, i + 200))) continue
    done.stopped = true
    break
  }
  return done
}
