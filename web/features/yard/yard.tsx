'use client'

import { decodeText, type Problem, readDrawing, say } from '@stone-tally/core'
import { useRouter } from 'next/navigation'
import { useEffect, useRef, useState } from 'react'
import { send } from '@/device/send'
import { signedIn } from '@/device/session'
import { isWriting, type Me } from '@/features/wall'
import type { WallRow } from '@/server/wall-row'
import type { HiddenWall, UnseenWall, YardWall } from '@/server/yard'
import { Bar } from '@/ui/bar'
import { Button, Caution, LinkButton, Page, Problems, Quiet, Row } from '@/ui/controls'
import { hand } from '@/ui/handed'
import { Link, useGo } from '@/ui/link'
import { usePreferences } from '@/ui/preferences'
import { FirstMinute } from './first-minute'
import { PutAway } from './put-away'
import { useLooks } from './use-looks'
import { WallLine } from './wall-line'

/** So many walls are looked at behind the page by themselves; a longer list is asked for by a press. */
const BEHIND = 40
const many = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`

/** The Yard: every wall as a small drawing, with what is next and what is in the way. */
export function Yard({
  me,
  walls: sent,
  hidden: cannot,
  away,
}: {
  me: Me
  walls: readonly (YardWall | UnseenWall)[]
  hidden: readonly HiddenWall[]
  /** Walls that were put away. */
  away: readonly WallRow[]
}) {
  const file = useRef<HTMLInputElement>(null)
  const router = useRouter()
  const [problems, setProblems] = useState<readonly Problem[]>([])
  useEffect(() => {
    signedIn({ id: me.id, name: me.name, role: me.role })
  }, [me])
  const { walls, hidden, look, failed } = useLooks(sent, cannot)
  const go = useGo()
  const nine = walls.slice(0, 9).map((w) => w.id)
  const keyed = useRef(nine)
  keyed.current = nine
  // One key opens a wall: 1 is the one that was worked on last.
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const id = /^[1-9]$/.test(e.key) && !e.ctrlKey && !e.metaKey && !e.altKey ? keyed.current[Number(e.key) - 1] : undefined
      if (!id || isWriting(document.activeElement) || document.querySelector('[role="dialog"]')) return
      e.preventDefault()
      go(`/walls/${id}`)
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [go])
  const may = me.role === 'foreman' || me.role === 'office'
  const take = async (picked: File | undefined) => {
    if (!picked) return
    // A drawing or a survey starts a wall: read and looked at on the page where it is planned.
    const drawing = /\.(dxf|xml|landxml|csv|txt)$/i.test(picked.name)
    if (drawing && picked.size <= 40 * 1024 * 1024) {
      hand(picked)
      return router.push('/walls/new')
    }
    if (picked.size > 20 * 1024 * 1024)
      return setProblems([{ field: 'file', message: `${picked.name} is ${(picked.size / 1048576).toFixed(1)} MB; at most 20 MB are taken` }])
    const content = decodeText(new Uint8Array(await picked.arrayBuffer()))
    if (!content.ok) return setProblems(content.problems.map((p) => ({ ...p, field: picked.name })))
    const { text } = content.value
    // Anything but a plan file is said for what it is; its line is taken in where a wall is set out.
    if (!text.trimStart().startsWith('{')) {
      const drawing = readDrawing(text)
      const kinds = { dxf: 'a DXF drawing', landxml: 'a LandXML file', points: 'a list of survey points' }
      return setProblems(
        drawing.ok
          ? [
              {
                field: picked.name,
                message: `is ${kinds[drawing.value.kind]} with ${many(drawing.value.lines.length, 'line')} and ${many(drawing.value.points.length, 'point')}. Name it .dxf, .xml or .csv to plan a wall on its line`,
              },
            ]
          : drawing.problems.map((p) => ({ field: picked.name, message: `is no plan file, and as a drawing or survey it ${p.message}` })),
      )
    }
    const answer = await send<{ id: string }>('POST', '/api/walls', { file: text })
    if (answer.ok) window.location.assign(`/walls/${answer.value.id}`)
    else setProblems(answer.problems)
  }
  return (
    <>
      <Bar person={me} />
      <Page>
        <Row style={{ justifyContent: 'space-between' }}>
          <h1>Yard</h1>
          <Row>
            <LinkButton href="/catalogue">Units</LinkButton>
            <LinkButton href="/days">Days</LinkButton>
            <LinkButton href="/rules">Rule book</LinkButton>
            <LinkButton href="/bench">Bench</LinkButton>
            <LinkButton href="/instruments">Instruments</LinkButton>
            <LinkButton href="/device">This device</LinkButton>
            {may ? <LinkButton href="/people">People</LinkButton> : null}
            {may ? (
              <>
                <Button onPress={() => file.current?.click()}>Import plan or drawing</Button>
                <LinkButton href="/walls/new">New wall</LinkButton>
                <input
                  ref={file}
                  type="file"
                  accept=".json,.dxf,.xml,.landxml,.csv,.txt,application/json"
                  hidden
                  aria-label="Plan file"
                  onChange={(e) => take(e.target.files?.[0])}
                />
              </>
            ) : null}
          </Row>
        </Row>
        <Problems list={problems} />
        {walls.length + hidden.length === 0 ? <FirstMinute me={me} /> : null}
        <DueToday walls={walls} me={me} look={look} />
        {walls.map((w, i) => (
          <WallLine key={w.id} place={i} wall={w} failed={failed.has(w.id)} look={look} />
        ))}
        {hidden.map((w) => (
          <section key={w.id} aria-label={w.name}>
            <h2>{w.name}</h2>
            <Caution>{w.why} Its record is kept whole.</Caution>
            <LinkButton href={`/api/walls/${w.id}/export`}>Save its record</LinkButton>
          </section>
        ))}
        <PutAway me={me} walls={away} />
      </Page>
    </>
  )
}

/** What is due today on every wall for the one who looks; holds and findings only, the next step of each wall stands with it. */
function DueToday({ walls, me, look }: { walls: readonly (YardWall | UnseenWall)[]; me: Me; look: (id: string) => void }) {
  const { units } = usePreferences()
  const later = walls.filter((w) => w.due === undefined)
  // What waits further down waits all the same: it is asked for one by one, behind what is on the screen.
  const unseen = later
    .slice(0, BEHIND)
    .map((w) => w.id)
    .join(' ')
  useEffect(() => {
    if (unseen === '') return
    const idle = setTimeout(() => unseen.split(' ').forEach(look), 1500)
    return () => clearTimeout(idle)
  }, [unseen, look])
  const mine = walls.flatMap((w) => {
    const due = (w.due ?? []).filter((d) => d.urgent && (me.role === 'office' || d.roles.includes(me.role)))
    return due.length > 0 ? [{ wall: w, due }] : []
  })
  if (mine.length + later.length === 0) return null
  return (
    <section aria-label="Due today">
      <h2>Due today{me.role === 'office' ? '' : ', from you'}</h2>
      <ul style={{ margin: '6px 0 0', padding: 0, listStyle: 'none' }}>
        {mine.map(({ wall, due }) => (
          <li key={wall.id} style={{ padding: '12px 0', minHeight: 48 }}>
            ⬣ {wall.name}:{' '}
            <Link href={`/walls/${wall.id}${due[0]?.step === undefined ? '' : `?step=${encodeURIComponent(due[0].step)}`}`}>
              <strong>{say(due[0]?.what ?? '', units)}</strong>
            </Link>
            {due.length > 1 ? (
              <>
                {' '}
                <Link href={`/walls/${wall.id}/checks`} aria-label={`${due.length - 1} more on the Checks of ${wall.name}`}>
                  and {due.length - 1} more
                </Link>
              </>
            ) : null}
          </li>
        ))}
      </ul>
      {later.length === 0 ? null : (
        <p role="status">
          {many(later.length, 'wall')} further down {later.length === 1 ? 'is' : 'are'}{' '}
          {later.length > BEHIND ? 'not looked at yet' : 'being looked at'}; what is due there comes as it is seen.{' '}
          <Quiet onPress={() => later.map((w) => w.id).forEach(look)}>Look at all now</Quiet>
        </p>
      )}
    </section>
  )
}
