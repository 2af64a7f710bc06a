'use client'

import { canonical, type Entry, type Problem } from '@stone-tally/core'

/** An entry that is not in the record yet, with who recorded it: a shared tablet may have another person signed in when it is sent. */
export type Waiting = Omit<Entry, 'by'> & { readonly owner?: string; readonly ownerName?: string; readonly tries?: number }
/** An entry the record did not take, and why. */
export interface Refused {
  readonly entry: Omit<Entry, 'by'>
  readonly problems: readonly Problem[]
  readonly ownerName?: string | undefined
}

/** The device keeps nothing more: said before anything is taken for recorded. */
export class DeviceFull extends Error {}

const boxOf = (wall: string) => `outbox:${wall}`
const refusedOf = (wall: string) => `refused:${wall}`

/** Reads a list; what is there and cannot be read is put aside under another name, never overwritten. */
function read<T>(key: string): T[] {
  const text = localStorage.getItem(key)
  if (text === null) return []
  try {
    const list = JSON.parse(text) as unknown
    if (Array.isArray(list)) return list as T[]
  } catch {
    // put aside below
  }
  try {
    localStorage.setItem(`unreadable:${key}:${Date.now()}`, text)
    localStorage.removeItem(key)
  } catch {
    // No room for a second copy: the first stays, and nothing is written over it.
    throw new DeviceFull('what was kept on this device cannot be read, and there is no room to put it aside')
  }
  return []
}
function write(key: string, list: readonly unknown[]) {
  try {
    if (list.length === 0) localStorage.removeItem(key)
    else localStorage.setItem(key, JSON.stringify(list))
  } catch {
    throw new DeviceFull('this device has no room left; nothing was recorded. Free some, or record it on another device')
  }
}
/** Changes a list as it stands now, not as somebody saw it before. */
const change = <T>(key: string, how: (list: T[]) => readonly T[]) => write(key, how(read<T>(key)))

/** Something kept here that could not be read and was put aside. */
export const unreadable = (wall: string): string[] =>
  Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i) ?? '').filter(
    (k) => k.startsWith(`unreadable:${boxOf(wall)}:`) || k.startsWith(`unreadable:${refusedOf(wall)}:`),
  )

const sameFact = (a: Waiting, b: Waiting) => {
  const fact = ({ kind, where, data, supersedes, recheckOf, owner }: Waiting) => canonical({ kind, where, data, supersedes, recheckOf, owner })
  return fact(a) === fact(b)
}

/** What waits on this device for a wall. Tabs share it: every change is made to what is there at that moment. */
export const outbox = (wall: string) => ({
  /** Everything that waits, of anybody. */
  all: () => read<Waiting>(boxOf(wall)),
  /** What this person may send; what was kept before there were owners is theirs who is signed in, as it always was. */
  mine: (person: string) => read<Waiting>(boxOf(wall)).filter((e) => e.owner === undefined || e.owner === person),
  others: (person: string) => read<Waiting>(boxOf(wall)).filter((e) => e.owner !== undefined && e.owner !== person),
  /**
   * Puts entries in; the same fact of the same person that waits already is not put in twice.
   *
   * @returns the ids that were put in
   * @throws DeviceFull
   */
  put(entries: readonly Waiting[]): string[] {
    const put: string[] = []
    change<Waiting>(boxOf(wall), (list) => {
      const fresh = entries.filter((e) => !list.some((w) => sameFact(w, e)))
      put.push(...fresh.map((e) => e.id))
      return [...list, ...fresh]
    })
    return put
  },
  /** Takes entries out that the record has, or has refused. */
  out: (ids: ReadonlySet<string>) => change<Waiting>(boxOf(wall), (list) => list.filter((e) => !ids.has(e.id))),
  /** One more try that the server failed on. */
  tried: (id: string) => change<Waiting>(boxOf(wall), (list) => list.map((e) => (e.id === id ? { ...e, tries: (e.tries ?? 0) + 1 } : e))),
  refused: () => read<Refused>(refusedOf(wall)),
  refuse: (list: readonly Refused[]) =>
    change<Refused>(refusedOf(wall), (now) => [...now.filter((r) => !list.some((x) => x.entry.id === r.entry.id)), ...list]),
  aside: (id: string) => change<Refused>(refusedOf(wall), (now) => now.filter((r) => r.entry.id !== id)),
})

/** What goes over the line: the device's own notes stay here. */
export const toSend = ({ owner: _owner, ownerName: _name, tries: _tries, ...entry }: Waiting) => entry

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
    // No line, or signed out: everything stays as it is.
    if (answer.status === 0 || answer.status === 401 || answer.status === 403 || answer.status === 404) return false
    const [first] = list
    if (list.length === 1 && first) {
      if (answer.status >= 500) {
        if (!(await alive())) return false
        done.failed.push(first.id)
      } else done.refused.push({ entry: toSend(first), problems: answer.problems, ownerName: first.ownerName })
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
