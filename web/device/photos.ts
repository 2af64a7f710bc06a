'use client'

import type { PhotoData, Problem } from '@stone-tally/core'
import { device, type KeptPhoto, keeping } from './db'
import { takeOver } from './earlier'
import type { Fact } from './recording'
import { alone } from './tabs'
import type { RecordResult } from './wall-view'

/** A photo goes over the line in pieces of this many bytes; what has arrived is not sent again. */
export const PIECE = 512 * 1024

/** `later`: nothing is wrong with the photo, it is sent again. */
export type Sent = { ok: true } | { ok: false; later: boolean; problems: readonly Problem[] }
type Send = (facts: readonly Fact[]) => Promise<RecordResult>

const NO_LINE: Sent = {
  ok: false,
  later: true,
  problems: [{ field: 'photo', message: 'no connection; the photo is kept on this device and sent when the signal is back' }],
}

/** What the house says to a piece: how much it has, or the photo once it is whole. */
type Answer = { readonly have?: number; readonly file?: string; readonly problems?: readonly Problem[] }

/**
 * Brings a photo into the house, from where it was cut off.
 *
 * @param door - below the wall's address; a signed-out device has one of its own
 */
export async function upload(k: KeptPhoto, door: 'photos' | 'set-aside/photos' = 'photos'): Promise<PhotoData | Sent> {
  let at = 0
  for (;;) {
    const query = new URLSearchParams({
      name: k.name,
      ...(k.strip ? { strip: '1' } : {}),
      ...(k.owner ? { person: k.owner } : {}),
      upload: k.key,
      at: `${at}`,
      size: `${k.blob.size}`,
    })
    let response: Response
    let value: Answer
    try {
      response = await fetch(`/api/walls/${k.wall}/${door}?${query}`, { method: 'POST', body: k.blob.slice(at, at + PIECE) })
      value = (await response.json()) as Answer
    } catch {
      return NO_LINE
    }
    if (!response.ok) {
      // Only what the house has looked at and will never take waits for a person; signed out, busy or away is tried again.
      const later = response.status !== 413 && response.status !== 422
      return { ok: false, later, problems: value.problems ?? [{ field: 'photo', message: `the server answered ${response.status}` }] }
    }
    if (typeof value.file === 'string') return value as unknown as PhotoData
    // It says how far it is, whatever this device believes; no headway is no answer of the house.
    if (typeof value.have !== 'number' || value.have === at) return NO_LINE
    at = value.have
  }
}

/** What is recorded of a photo that is in the house. */
export const photoFact = (k: KeptPhoto, data: PhotoData): Fact => ({
  id: k.key,
  kind: 'photo',
  where: k.where,
  data: { ...data, ...(k.caption ? { caption: k.caption } : {}), ...(k.of ? { of: k.of } : {}) },
})

/** Sends one photo and records it. */
export async function sendPhoto(k: KeptPhoto, record: Send): Promise<Sent> {
  const data = await upload(k)
  if ('ok' in data) return data
  const done = await record([photoFact(k, data)])
  return done.ok ? { ok: true } : { ok: false, later: false, problems: done.problems }
}

/** Photos of a wall that are not in the house yet. */
export const photoBox = (wall: string) => ({
  async all(): Promise<KeptPhoto[]> {
    await takeOver(wall)
    return device().photos.where('wall').equals(wall).sortBy('key')
  },
  /** @throws DeviceFull */
  async put(photo: KeptPhoto): Promise<void> {
    try {
      await device().photos.put(photo)
    } catch (error) {
      throw keeping(error)
    }
  },
  out: (key: string): Promise<void> => device().photos.delete(key),
  /** Why the house will not take it; undefined to send it again. */
  async refuse(key: string, refused: readonly Problem[] | undefined): Promise<void> {
    const found = await device().photos.get(key)
    if (found) await device().photos.put({ ...found, refused })
  },
  /** Sends all that wait of this person, one tab at a time, until the line is down. */
  send: (person: string, record: Send): Promise<void> =>
    alone(`photos ${wall}`, async () => {
      for (const k of await device().photos.where('wall').equals(wall).sortBy('key')) {
        if (k.refused || (k.owner !== undefined && k.owner !== person)) continue
        const sent = await sendPhoto(k, record)
        if (sent.ok) await device().photos.delete(k.key)
        else if (sent.later) {
          // The house answered and will not take more now: it is said why, beside what waits.
          const waits = sent.problems.find((p) => p.field === 'quota')?.message
          if (waits !== k.waits) await device().photos.update(k.key, { waits })
          return
        } else await device().photos.update(k.key, { refused: sent.problems })
      }
    }),
})
