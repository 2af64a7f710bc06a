'use client'

import { live, PHOTO_LIMIT, type PhotoData, type Problem, type RecordedEntry, type Step, type WallState, type Where } from '@stone-tally/core'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import styled from 'styled-components'
import type { KeptPhoto } from '@/device/db'
import { uuid7 } from '@/device/ids'
import { photoBox, sendPhoto } from '@/device/photos'
import { Button, Check, Field, Problems, Quiet, Row, Stack } from '@/ui/controls'
import type { Fact, RecordResult } from './use-wall'

const Strip = styled.ul`
  display: flex; flex-wrap: wrap; gap: 8px; margin: 0; padding: 0; list-style: none;
  li { display: grid; gap: 2px; width: 132px; font-size: 13px; } img { width: 132px; height: 99px; object-fit: cover; border: 1px solid var(--ink); background: var(--faint); display: block; }
`

/** Photos of a place: taken with the camera or picked from a file, kept on the device before they are sent. */
export function usePhotos(wall: string, me: string, record: (facts: readonly Fact[]) => Promise<RecordResult>) {
  const box = useMemo(() => photoBox(wall), [wall])
  const [waiting, setWaiting] = useState(0)
  const [refused, setRefused] = useState<readonly KeptPhoto[]>([])
  const count = useCallback(async () => {
    const list = await box.all().catch(() => [])
    setWaiting(list.filter((k) => !k.refused).length)
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
    const again = setInterval(flush, 4000)
    return () => clearInterval(again)
  }, [waiting, flush])
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
  return { take, waiting, refused, again, aside, problems, busy }
}
/** Hands a file of this device out, so that it can be kept elsewhere. */
function saveAs(blob: Blob, name: string) {
  const url = URL.createObjectURL(blob)
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 10_000)
}

/** Photos of a step: what was taken, and the button for the next one. */
export function PhotoStrip({
  wall,
  state,
  step,
  station,
  me,
  record,
}: {
  wall: string
  state: WallState
  step: Step
  station: number | undefined
  me: string
  record: (facts: readonly Fact[]) => Promise<RecordResult>
}) {
  const log = state.logs.get(step.key)?.work.filter((e) => live(state, e.entry.id)) ?? []
  const photos = log.filter((e) => e.entry.kind === 'photo')
  const work = log.filter((e) => e.entry.kind !== 'photo')
  const wanted = step.stage.work.type === 'pipe'
  // A photo shows the entry it was taken after; of pipe, the newest stretch that has none.
  const shown = new Set(photos.map((p) => (p.entry.data as PhotoData).of))
  const of = wanted ? work.filter((e) => e.entry.kind === 'pipe' && !shown.has(e.entry.id)).pop()?.entry.id : undefined
  const where: Where = {
    stage: step.stage.id,
    ...(step.section ? { section: step.section } : {}),
    ...(step.course ? { course: step.course } : {}),
    ...(station === undefined || of ? {} : { station }),
  }
  return <PhotosOf wall={wall} photos={photos} where={where} of={of} me={me} record={record} />
}

/** Photos of a place or of one entry: those there are, and the button for the next one. */
export function PhotosOf({
  wall,
  photos,
  where,
  of,
  me,
  record,
  label = 'Add a photo',
}: {
  wall: string
  photos: readonly RecordedEntry[]
  where: Where
  of: string | undefined
  me: string
  record: (facts: readonly Fact[]) => Promise<RecordResult>
  label?: string
}) {
  const { take, waiting, refused, again, aside, problems, busy } = usePhotos(wall, me, record)
  const file = useRef<HTMLInputElement>(null)
  const [strip, setStrip] = useState(true)
  const [caption, setCaption] = useState('')
  const [open, setOpen] = useState(false)
  const pick = async (picked: File | undefined) => {
    if (!picked) return
    await take(picked, { strip, where, ...(caption.trim() ? { caption: caption.trim() } : {}), ...(of ? { of } : {}) })
    setCaption('')
  }
  return (
    <Stack style={{ gap: 8 }}>
      <Row style={{ alignItems: 'center' }}>
        <Button isDisabled={busy} onPress={() => file.current?.click()}>
          {busy ? 'Sending the photo …' : label}
        </Button>
        <Quiet onPress={() => setOpen(!open)} aria-expanded={open}>
          {strip ? 'location left out' : 'location kept'}
        </Quiet>
        {waiting > 0 ? <span role="status">{waiting} kept on this device, waiting to be sent</span> : null}
        <input
          ref={file}
          type="file"
          accept="image/jpeg,image/png,image/webp"
          capture="environment"
          hidden
          aria-label="Photo"
          onChange={(e) => {
            pick(e.target.files?.[0])
            e.target.value = ''
          }}
        />
      </Row>
      {open ? (
        <Stack style={{ gap: 6 }}>
          <Field label="What it shows" value={caption} onChange={setCaption} />
          <Check checked={strip} onChange={setStrip}>
            Leave the location out of the photo
          </Check>
        </Stack>
      ) : null}
      <Problems list={problems} />
      {refused.map((k) => (
        <Stack key={k.key} style={{ gap: 6 }}>
          <Problems list={(k.refused ?? []).map((p) => ({ field: k.name, message: p.message }))} />
          <Row>
            <Button onPress={() => again(k.key)}>Try again</Button>
            <Button onPress={() => saveAs(k.blob, k.name)}>Save it</Button>
            <Quiet onPress={() => aside(k.key)}>Put aside for good</Quiet>
          </Row>
        </Stack>
      ))}
      {photos.length > 0 ? (
        <Strip aria-label="Photos">
          {photos.map((p) => {
            const d = p.entry.data as PhotoData
            return (
              <li key={p.entry.id}>
                <a href={`/api/walls/${wall}/photos/${d.file}`} target="_blank" rel="noreferrer">
                  {/* biome-ignore lint/performance/noImgElement: a thumbnail made by our own server */}
                  <img src={`/api/walls/${wall}/photos/${d.file}?small`} alt={d.caption ?? d.name} loading="lazy" width={132} height={99} />
                </a>
                <span>{d.caption ?? d.name}</span>
              </li>
            )
          })}
        </Strip>
      ) : null}
    </Stack>
  )
}
