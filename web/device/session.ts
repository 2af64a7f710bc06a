'use client'

import { resolveRules, shippedLimits } from '@stone-tally/core'
import { device, note, noted } from './db'
import { oweSignOut } from './owed'
import type { Me } from './recording'

/** Who was last signed in here, and when the house last said so. */
export interface DeviceSession {
  readonly me: Me
  readonly at: number
}

const DAY = 86_400_000

/**
 * Days a person stays known here without a word of the house: by the rule book, the strictest of the walls that are kept here.
 *
 * @example await daysHere() // 14
 */
export async function daysHere(): Promise<number> {
  const walls = await device()
    .walls.toArray()
    .catch(() => [])
  const ships = shippedLimits(Number.POSITIVE_INFINITY).deviceDays.value
  return walls.reduce((least, { desk }) => {
    const book = resolveRules({ company: desk.levels?.company, site: desk.levels?.site })
    // A book that does not fit says nothing; what ships stands.
    const days = book.ok ? book.value.limits.find((l) => l.limit === 'deviceDays')?.value : undefined
    return Math.min(least, days ?? ships)
  }, ships)
}

/** The house has just said who is at this device. */
export async function signedIn(me: Me): Promise<void> {
  const at = Date.now()
  await note('session', { me, at } satisfies DeviceSession).catch(() => undefined)
  // A clock that was once far ahead by mistake counts no more.
  await note('latest', at).catch(() => undefined)
}
/**
 * Nobody is known here any more; walls, and what waits, stay for the person they belong to.
 *
 * @param owed - the house could not be told: it is, as soon as it answers
 */
export async function signedOff(owed = false): Promise<void> {
  await note('session', undefined).catch(() => undefined)
  // Photos that were looked at are no longer shown to whoever comes next.
  if (typeof caches !== 'undefined') await caches.delete('photos').catch(() => false)
  if (owed) await oweSignOut().catch(() => undefined)
}
/** Who may go on here without a signal. A clock that was set back does not make it longer than it is. */
export async function sessionHere(now = Date.now()): Promise<{ is: 'open' | 'over'; session: DeviceSession } | undefined> {
  const session = await noted<DeviceSession>('session')
  if (!session) return undefined
  const latest = Math.max(now, (await noted<number>('latest')) ?? 0)
  await note('latest', latest).catch(() => undefined)
  return { is: latest - session.at > (await daysHere()) * DAY ? 'over' : 'open', session }
}

interface Pin {
  readonly salt: string
  readonly hash: string
  readonly wrong: number
}
const ROUNDS = 310_000
/** After so many wrong ones the person signs in with the house again. */
export const PIN_TRIES = 6
const keyOf = (person: string) => `pin ${person}`
const hex = (bytes: Uint8Array) => [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('')
const bytes = (text: string) => new Uint8Array((text.match(/../g) ?? []).map((h) => Number.parseInt(h, 16)))

async function derived(pin: string, salt: Uint8Array): Promise<string> {
  const key = await crypto.subtle.importKey('raw', new TextEncoder().encode(pin), 'PBKDF2', false, ['deriveBits'])
  const made = await crypto.subtle.deriveBits({ name: 'PBKDF2', hash: 'SHA-256', salt: salt as BufferSource, iterations: ROUNDS }, key, 256)
  return hex(new Uint8Array(made))
}

/** Has this person a PIN here? */
export const hasPin = async (person: string): Promise<boolean> => (await noted<Pin>(keyOf(person))) !== undefined
/** Sets or, with undefined, takes away the PIN of a person on this device. */
export async function setPin(person: string, pin: string | undefined): Promise<void> {
  if (pin === undefined) return note(keyOf(person), undefined)
  const salt = crypto.getRandomValues(new Uint8Array(16))
  await note(keyOf(person), { salt: hex(salt), hash: await derived(pin, salt), wrong: 0 } satisfies Pin)
}
/** @returns right, wrong with how many tries are left, or shut: only the house helps now */
export async function tryPin(person: string, pin: string): Promise<{ is: 'right' } | { is: 'wrong'; left: number } | { is: 'shut' }> {
  const kept = await noted<Pin>(keyOf(person))
  if (!kept) return { is: 'right' }
  if (kept.wrong >= PIN_TRIES) return { is: 'shut' }
  const right = (await derived(pin, bytes(kept.salt))) === kept.hash
  await note(keyOf(person), { ...kept, wrong: right ? 0 : kept.wrong + 1 })
  if (right) return { is: 'right' }
  const left = PIN_TRIES - kept.wrong - 1
  return left > 0 ? { is: 'wrong', left } : { is: 'shut' }
}

/** Everything of everybody is taken off this device but what is on it alone. */
export async function emptyDevice(): Promise<void> {
  const db = device()
  await db.transaction('rw', db.walls, db.pages, db.heads, db.apart, async () => {
    await Promise.all([db.walls.clear(), db.pages.clear(), db.heads.clear(), db.apart.clear()])
  })
  await signedOff()
}
