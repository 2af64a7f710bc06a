'use client'

import type { Problem } from '@stone-tally/core'

/** What a route answered: its JSON, or problems to show. */
export type Answer<T> = { ok: true; value: T } | { ok: false; status: number; problems: readonly Problem[] }

/** Sends JSON to a route of ours; a dead network is a problem to show, not an exception. */
export async function send<T>(method: 'POST' | 'PUT' | 'DELETE', url: string, body?: unknown): Promise<Answer<T>> {
  try {
    const response = await fetch(url, {
      method,
      ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
    })
    const value = (await response.json().catch(() => ({}))) as T & { problems?: Problem[] }
    if (response.ok) return { ok: true, value }
    return { ok: false, status: response.status, problems: value.problems ?? [{ field: '', message: `the server answered ${response.status}` }] }
  } catch {
    return { ok: false, status: 0, problems: [{ field: '', message: 'no connection; nothing was lost, try again when the signal is back' }] }
  }
}
