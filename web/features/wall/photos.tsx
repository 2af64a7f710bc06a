'use client'

import { live, PHOTO_LIMIT, type PhotoData, type Problem, type Step, type WallState, type Where } from '@stone-tally/core'
import { get, set } from 'idb-keyval'
import { useCallback, useEffect, useRef, useState } from 'react'
import styled from 'styled-components'
import { Button, Check, Field, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { uuid7 } from './ids'
import type { Fact, RecordResult } from './use-wall'

const Strip = styled.ul`
  display: flex; flex-wrap: wrap; gap: 8px; margin: 0; padding: 0; list-style: none;
  li { display: grid; gap: 2px; width: 132px; font-size: 13px; } img { width: 132px; height: 99px; object-fit: cover; border: 1px solid var(--ink); background: var(--faint); display: block; }
`

/** A photo that could not be sent yet: kept on the device with what is to be recorded of it. */
interface Kept {
  readonly key: string
  readonly blob: Blob
  readonly name: string
  readonly strip: boolean
  readonly where: Where
  readonly caption?: string | undefined
  readonly of?: string | undefined
  /** Who took it: it is recorded as theirs. */
  readonly owner?: string | undefined
  /** Why it was not taken; it stays here until a person puts it aside. */
  readonly refused?: readonly Problem[] | undefined
}
const boxOf = (wall: string) => `photos:${wall}`
/** Walls whose photos are being sent: one card may still be at it when the next one opens. */
const sending = new Set<string>()
/** Where a browser keeps nothing (a private window), photos wait in the page only. */
const inPage = new Map<string, readonly Kept[]>()
async function readKept(wall: string): Promise<readonly Kept[]> {
  try {
    return (await get<Kept[]>(boxOf(wall))) ?? []
  } catch {
    return inPage.get(wall) ?? []
  }
}
async function writeKept(wall: string, list: readonly Kept[]) {
  try {
    await set(boxOf(wall), list)
  } catch {
    inPage.set(wall, list)
  }
}

/** `later`: nothing is wrong with the photo, it is sent again. */
type Sent = { ok: true } | { ok: false; later: boolean; problems: readonly Problem[] }
type Send = (facts: readonly Fact[]) => Promise<RecordResult>

async function sendOne(wall: string, k: Kept, record: Send): Promise<Sent> {
  const query = new URLSearchParams({ name: k.name, ...(k.strip ? { strip: '1' } : {}) })
  let response: Response
  try {
    response = await fetch(`/api/walls/${wall}/photos?${query}`, { method: 'POST', body: k.blob })
  } catch {
    return {
      ok: false,
      later: true,
      problems: [{ field: 'photo', message: 'no connection; the photo is kept on this device and sent when the signal is back' }],
    }
  }
  const value = (await response.json().catch(() => ({}))) as PhotoData & { problems?: Problem[] }
  if (!response.ok) {
    return {
      ok: false,
      // Only what the house has looked at and will never take waits for a person; signed out, busy or away is tried again.
      later: response.status !== 413 && response.status !== 422,
      problems: value.problems ?? [{ field: 'photo', message: `the server answered ${response.status}` }],
    }
  }
  const done = await record([
    { kind: 'photo', where: k.where, data: { ...value, ...(k.caption ? { caption: k.caption } : {}), ...(k.of ? { of: k.of } : {}) } },
  ])
  return done.ok ? { ok: true } : { ok: false, later: false, problems: done.problems }
}

/** Photos of a place: taken with the camera or picked from a file, kept on the device while there is no signal. */
export function usePhotos(wall: string, me: string, record: Send) {
  const [waiting, setWaiting] = useState(0)
  const [refused, setRefused] = useState<readonly Kept[]>([])
  const count = useCallback(async () => {
    const list = await readKept(wall)
    setWaiting(list.filter((k) => !k.refused).length)
    setRefused(list.filter((k) => k.refused))
  }, [wall])
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [busy, setBusy] = useState(false)
  const held = useRef(record)
  held.current = record
  const flush = useCallback(async () => {
    if (sending.has(wall)) return
    sending.add(wall)
    try {
      for (const k of await readKept(wall)) {
        if (k.refused || (k.owner !== undefined && k.owner !== me)) continue
        const sent = await sendOne(wall, k, held.current)
        if (!sent.ok && sent.later) break
        const now = await readKept(wall)
        await writeKept(wall, sent.ok ? now.filter((x) => x.key !== k.key) : now.map((x) => (x.key === k.key ? { ...x, refused: sent.problems } : x)))
      }
      await count()
    } finally {
      sending.delete(wall)
    }
  }, [wall, me, count])
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
  const take = async (file: File, more: Pick<Kept, 'strip' | 'where' | 'caption' | 'of'>) => {
    if (file.size > PHOTO_LIMIT) {
      const size = `${(file.size / 1048576).toFixed(1)} MB`
      return setProblems([
        { field: 'photo', message: `${file.name} is ${size}; at most ${PHOTO_LIMIT / 1048576} MB are taken. Take it with less resolution` },
      ])
    }
    setBusy(true)
    const kept: Kept = { key: uuid7(Date.now()), blob: file, name: file.name, owner: me, ...more }
    const sent = await sendOne(wall, kept, held.current)
    if (!sent.ok) await writeKept(wall, [...(await readKept(wall)), sent.later ? kept : { ...kept, refused: sent.problems }])
    await count()
    setProblems(sent.ok || !sent.later ? [] : sent.problems)
    setBusy(false)
  }
  const again = async (key: string) => {
    await writeKept(
      wall,
      (await readKept(wall)).map((k) => (k.key === key ? { ...k, refused: undefined } : k)),
    )
    await flush()
  }
  const aside = async (key: string) => {
    await writeKept(
      wall,
      (await readKept(wall)).filter((k) => k.key !== key),
    )
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
  record: Send
}) {
  const { take, waiting, refused, again, aside, problems, busy } = usePhotos(wall, me, record)
  const file = useRef<HTMLInputElement>(null)
  const [strip, setStrip] = useState(true)
  const [caption, setCaption] = useState('')
  const [open, setOpen] = useState(false)
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
  const pick = async (picked: File | undefined) => {
    if (!picked) return
    await take(picked, { strip, where, ...(caption.trim() ? { caption: caption.trim() } : {}), ...(of ? { of } : {}) })
    setCaption('')
  }
  return (
    <Stack style={{ gap: 8 }}>
      <Row style={{ alignItems: 'center' }}>
        <Button isDisabled={busy} onPress={() => file.current?.click()}>
          {busy ? 'Sending the photo …' : 'Add a photo'}
        </Button>
        <Quiet onPress={() => setOpen(!open)} aria-expanded={open}>
          {strip ? 'location left out' : 'location kept'}
        </Quiet>
        {waiting > 0 ? <span role="status">{waiting} waiting to be sent</span> : null}
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
