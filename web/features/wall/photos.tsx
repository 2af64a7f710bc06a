'use client'

import type { PhotoData, RecordedEntry, Step, WallState, Where } from '@stone-tally/core'
import { useRef, useState } from 'react'
import styled from 'styled-components'
import { Button, Caution, Check, Field, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { photosAt, saveAs, useNextPhoto, usePhotos } from './use-photos'
import type { Fact, RecordResult } from './use-wall'

const Strip = styled.ul`
  display: flex; flex-wrap: wrap; gap: 8px; margin: 0; padding: 0; list-style: none;
  li { display: grid; gap: 2px; width: 132px; font-size: 13px; } img { width: 132px; height: 99px; object-fit: cover; border: 1px solid var(--ink); background: var(--faint); display: block; }
`

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
  return <PhotosOf wall={wall} {...photosAt(state, step, station)} me={me} record={record} />
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
  const { take, waiting, waits, refused, again, aside, problems, busy } = usePhotos(wall, me, record)
  const { strip, setStrip, caption, setCaption, pick } = useNextPhoto(take, where, of)
  const file = useRef<HTMLInputElement>(null)
  const [open, setOpen] = useState(false)
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
      {waiting > 0 && waits ? <Caution>Not sent yet: {waits}.</Caution> : null}
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
