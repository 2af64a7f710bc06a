'use client'

import { live, PHOTO_LIMIT, type PhotoData, type Problem, type RecordedEntry, type Step, type WallState, type Where } from '@stone-tally/core'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import type { KeptPhoto } from '@/device/db'
import { uuid7 } from '@/device/ids'
import { photoBox, sendPhoto } from '@/device/photos'
import type { Fact, RecordResult } from './use-wall'

/** Photos of a place: taken with the camera or picked from a file, kept on the device before they are sent. */
export function usePhotos(wall: string, me: string, record: (facts: readonly Fact[]) => Promise<RecordResult>) {
  const box = useMemo(() => photoBox(wall), [wall])
  const [waiting, setWaiting] = useState(0)
  const [waits, setWaits] = useState<string>()
  const [refused, setRefused] = useState<readonly KeptPhoto[]>([])
  const count = useCallback(async () => {
    const list = await box.all().catch(() => [])
    setWaiting(list.filter((k) => !k.refused).length)
    setWaits(list.find((k) => !k.refused && k.waits)?.waits)
    setRefused(list.filter((k) => k.refused))
  }, [box])
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [busy, setBusy] = useState(false)
  const held = useRef(record)
  held.current = record
  const flush = useCallback(async () => {
    await box.send(me, (facts) => held.current(facts)).catch((error) => console.error(error))
    await count()
  }, [box, me, count])
  useEffect(() => {
    flush()
    window.addEventListener('online', flush)
    return () => window.removeEventListener('online', flush)
  }, [flush])
  useEffect(() => {
    if (waiting === 0) return
    // Told when to come again it does not ask every moment.
    const again = setInterval(flush, waits ? 60_000 : 4000)
    return () => clearInterval(again)
  }, [waiting, waits, flush])
  const take = async (file: File, more: Pick<KeptPhoto, 'strip' | 'where' | 'caption' | 'of'>) => {
    if (file.size > PHOTO_LIMIT) {
      const size = `${(file.size / 1048576).toFixed(1)} MB`
      return setProblems([
        { field: 'photo', message: `${file.name} is ${size}; at most ${PHOTO_LIMIT / 1048576} MB are taken. Take it with less resolution` },
      ])
    }
    setBusy(true)
    const kept: KeptPhoto = { key: uuid7(Date.now()), wall, blob: file, name: file.name, owner: me, ...more }
    let full: readonly Problem[] = []
    try {
      await box.put(kept)
    } catch (error) {
      // It cannot be kept here: it goes now or not at all, and that is said.
      full = [{ field: 'photo', message: (error as Error).message }]
    }
    if (full.length > 0) {
      const sent = await sendPhoto(kept, held.current)
      setProblems(sent.ok ? [] : sent.later ? full : sent.problems)
    } else {
      await flush()
      const still = (await box.all().catch(() => [])).find((k) => k.key === kept.key)
      if (!still || still.refused) setProblems([])
    }
    setBusy(false)
  }
  const again = async (key: string) => {
    await box.refuse(key, undefined)
    await flush()
  }
  const aside = async (key: string) => {
    await box.out(key)
    await count()
  }
  return { take, waiting, waits, refused, again, aside, problems, busy }
}
/** Hands a file of this device out, so that it can be kept elsewhere. */
export function saveAs(blob: Blob, name: string) {
  const url = URL.createObjectURL(blob)
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 10_000)
}

/**
 * Photos of a step, and what the next one shows: the entry it was taken after; of pipe, the newest stretch that has none.
 *
 * @param station - where one stands, m
 */
export function photosAt(
  state: WallState,
  step: Step,
  station: number | undefined,
): { photos: readonly RecordedEntry[]; where: Where; of: string | undefined } {
  const log = state.logs.get(step.key)?.work.filter((e) => live(state, e.entry.id)) ?? []
  const photos = log.filter((e) => e.entry.kind === 'photo')
  const shown = new Set(photos.map((p) => (p.entry.data as PhotoData).of))
  const of = step.stage.work.type === 'pipe' ? log.filter((e) => e.entry.kind === 'pipe' && !shown.has(e.entry.id)).pop()?.entry.id : undefined
  const where: Where = {
    stage: step.stage.id,
    ...(step.section ? { section: step.section } : {}),
    ...(step.course ? { course: step.course } : {}),
    ...(station === undefined || of ? {} : { station }),
  }
  return { photos, where, of }
}

/** State of the next photo: with or without where it was taken, and what it shows. */
export function useNextPhoto(take: ReturnType<typeof usePhotos>['take'], where: Where, of: string | undefined) {
  const [strip, setStrip] = useState(true)
  const [caption, setCaption] = useState('')
  const pick = async (picked: File | undefined) => {
    if (!picked) return
    await take(picked, { strip, where, ...(caption.trim() ? { caption: caption.trim() } : {}), ...(of ? { of } : {}) })
    setCaption('')
  }
  return { strip, setStrip, caption, setCaption, pick }
}
