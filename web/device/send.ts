'use client'

import type { Problem } from '@stone-tally/core'

/** What a route answered: its JSON, or problems to show. */
export type Answer<T> = { ok: true; value: T } | { ok: false; status: number; problems: readonly Problem[] }

// Whether it arrived is not known on this side: neither is claimed.
const UNKNOWN: Problem = {
  field: '',
  message: 'no whole answer came: it may have arrived or not. When the signal is back, look whether it is there before you send it again',
}

/**
 * Sends JSON to a route of ours. A dead network, or an answer cut off half-way, is a problem to show (status 0), not an exception
 * and never a success.
 *
 * @example const answer = await send<{ id: string }>('POST', '/api/walls', { plan })
 */
export async function send<T>(method: 'POST' | 'PUT' | 'DELETE', url: string, body?: unknown): Promise<Answer<T>> {
  try {
    const response = await fetch(url, {
      method,
      // At each contact the house sees how far the clock of this device is off.
      headers: { 'x-clock': `${Date.now()}`, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    })
    if (response.ok) return { ok: true, value: (await response.json()) as T }
    const value = (await response.json().catch(() => ({}))) as { problems?: Problem[] }
    return { ok: false, status: response.status, problems: value.problems ?? [{ field: '', message: `the server answered ${response.status}` }] }
  } catch {
    return { ok: false, status: 0, problems: [UNKNOWN] }
  }
}

/**
 * Asks the house for something to show; undefined where it does not answer, or where something else does (a network's own page says 200 to
 * everything).
 *
 * @example const proof = await ask<ProofShown>(`/api/walls/${wall}/proof`)
 */
export async function ask<T>(url: string): Promise<T | undefined> {
  try {
    const response = await fetch(url)
    return response.ok ? ((await response.json()) as T) : undefined
  } catch {
    return undefined
  }
}
