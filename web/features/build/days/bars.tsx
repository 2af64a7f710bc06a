'use client'

import { fixesOf, type Otherwise, type Programme, type ProgrammeTask, programmeOf, promised, say, type WallState } from '@stone-tally/core'
import { useMemo, useRef, useState } from 'react'
import styled from 'styled-components'
import { useHere, useRecord, type WallFeed } from '@/features/wall'
import { hrefOf } from '@/features/wall/places'
import { Button, Caution, Condensed, Field, NowButton, Problems, Quiet, Row, Stack, Wide } from '@/ui/controls'
import { dayAfter, daysBetween, daysFrom, dayWords } from '@/ui/day-words'
import { Link } from '@/ui/link'
import { usePreferences } from '@/ui/preferences'

const Table = styled.table`
  td.bar { padding: 0; min-width: 320px; } td { white-space: nowrap; vertical-align: middle; } a { display: inline-flex; min-height: 36px; align-items: center; }
  tr[data-on='true'] > td { background: var(--faint); }
  &[data-narrow] { thead { position: absolute; clip-path: inset(50%); } tr { display: flex; flex-wrap: wrap; border-bottom: 1px solid var(--line); } td { border: 0; padding: 2px 4px; white-space: normal; } td:first-child, td.bar { flex: 1 0 100%; min-width: 0; } }
  .grip { touch-action: none; cursor: ew-resize; } .grip:focus-visible { outline: none; stroke: var(--ink); stroke-width: 4; }
`
const PAGE = 40
/** Further ahead than this no day can be told from the next; a bar beyond it lies at the edge. */
const MOST = 400

/** A bar somebody takes to another day, not recorded yet. */
interface Moving {
  readonly task: ProgrammeTask
  /** Not before; undefined lets it go. */
  readonly day: string | undefined
}

/**
 * What is left, one line each in the order of its days: a bar from its first day to its last, and how much it may slip. A bar is dragged to
 * another day, or moved with the arrow keys; what that does to the end and to what was promised is said before it is recorded.
 */
export function Bars({
  programme,
  state,
  today,
  width,
  basis,
  record,
}: {
  programme: Programme
  state: WallState
  today: string
  width: number
  basis: Otherwise
  record: WallFeed['record']
}) {
  const { wall, me } = useHere()
  const [shown, setShown] = useState(PAGE)
  const [moving, setMoving] = useState<Moving>()
  const may = me.role === 'foreman' || me.role === 'office'
  const tried = useMemo(
    () => (moving ? programmeOf(state, today, { ...basis, fixed: new Map([[moving.task.id, moving.day]]) }) : undefined),
    [moving, state, today, basis],
  )
  const p = tried ?? programme
  // While a bar is moved every line stays where it was: only the bars go.
  const line = useMemo(
    () => new Map([...programme.tasks].sort((a, b) => a.start - b.start || a.finish - b.finish).map((t, i) => [t.id, i])),
    [programme],
  )
  const list = p.tasks.filter((t) => t.hours > 0).sort((a, b) => (line.get(a.id) ?? 0) - (line.get(b.id) ?? 0))
  const ends = daysBetween(programme.finish, p.finish) > 0 ? p.finish : programme.finish
  const days = daysFrom(today, dayAfter(today, Math.min(MOST, daysBetween(today, ends) + 7)))
  // On a phone a bar stands below its words: beside them it would be off the screen.
  const narrow = width < 700
  const wide = narrow ? Math.max(260, width - 12) : Math.max(320, width - 560)
  const each = wide / days.length
  const spare = (t: ProgrammeTask) => (t.critical ? 'none' : `${Math.round((t.float / p.calendar.usual) * 10) / 10} d`)
  const to = (task: ProgrammeTask, day: string | undefined) => setMoving({ task: programme.tasks.find((t) => t.id === task.id) ?? task, day })
  return (
    <>
      {moving && tried ? (
        <Moved
          moving={moving}
          before={programme}
          after={tried}
          state={state}
          record={record}
          onDay={(d) => to(moving.task, d)}
          onDone={() => setMoving(undefined)}
        />
      ) : null}
      {may && !moving ? (
        <p>Drag a bar to the day it shall begin on, or focus it and use the arrow keys. Nothing is recorded before you say so.</p>
      ) : null}
      <Wide role="region" aria-label="What is left, by its days" tabIndex={0}>
        <Table data-narrow={narrow || undefined}>
          <thead>
            <tr>
              <th>What</th>
              <th>From</th>
              <th>To</th>
              <th className="n">To spare</th>
              <th>Days</th>
            </tr>
          </thead>
          <tbody>
            {list.slice(0, shown).map((t) => (
              <tr key={t.id} data-on={moving?.task.id === t.id}>
                <td>
                  {t.kind === 'release' ? '⬣ ' : ''}
                  {t.step ? (
                    <Link href={hrefOf(wall, '', t.step.key)} prefetch={false}>
                      {t.title}
                    </Link>
                  ) : (
                    t.title
                  )}
                  {t.waitsFor ? (
                    <div style={{ color: 'var(--soft)' }}>
                      ▸ {t.waitsFor.material}, {t.waitsFor.ordered ? 'expected' : 'not ordered; soonest'} {dayWords(t.waitsFor.day)}
                    </div>
                  ) : null}
                  {t.fixed && moving?.task.id !== t.id ? (
                    <div style={{ color: 'var(--soft)' }}>
                      ⌖ not before {dayWords(t.fixed.day ?? '')}, {t.fixed.by}
                    </div>
                  ) : null}
                </td>
                <td>{dayWords(t.from)}</td>
                <td>{dayWords(t.to)}</td>
                <td className="n">
                  {narrow ? 'to spare: ' : ''}
                  {t.critical ? <strong>none</strong> : spare(t)}
                </td>
                <td className="bar">
                  <BarOf t={t} p={p} days={days} each={each} today={today} may={may && t.kind === 'work'} onMove={(d) => to(t, d)} />
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </Wide>
      {list.length > shown ? <Quiet onPress={() => setShown(shown + PAGE)}>Show {Math.min(PAGE, list.length - shown)} more</Quiet> : null}
    </>
  )
}

function BarOf({
  t,
  p,
  days,
  each,
  today,
  may,
  onMove,
}: {
  t: ProgrammeTask
  p: Programme
  days: readonly string[]
  each: number
  today: string
  may: boolean
  onMove(day: string): void
}) {
  const held = useRef<{ x: number; from: string } | undefined>(undefined)
  const x = Math.min(days.length - 1, Math.max(0, daysBetween(today, t.from))) * each + 1
  const width = Math.max(3, Math.min(days.length, daysBetween(t.from, t.to) + 1) * each - 2)
  const at = (day: string, by: number) => {
    const next = dayAfter(day, by)
    return next < today ? today : next
  }
  return (
    <svg width={each * days.length} height={44} style={{ display: 'block' }} aria-hidden={may ? undefined : true} role={may ? 'group' : undefined}>
      {days.map((d, i) => (p.calendar.works(d) ? null : <rect key={d} x={i * each} width={each} height={44} fill="var(--faint)" />))}
      <rect
        x={x}
        width={width}
        y={16}
        height={12}
        fill={t.kind === 'work' ? (t.critical ? 'var(--now)' : 'var(--set)') : 'none'}
        stroke={t.critical ? 'var(--now)' : 'var(--ink)'}
        {...(t.kind === 'work' ? {} : { strokeDasharray: '4 2' })}
      />
      {t.fixed ? <path d={`M${x} 10V34`} stroke="var(--ink)" strokeWidth={3} /> : null}
      {may ? (
        <rect
          className="grip"
          x={Math.min(x, each * days.length - 48) - 2}
          width={Math.max(48, width + 4)}
          y={1}
          height={42}
          fill="transparent"
          tabIndex={0}
          role="slider"
          aria-label={`${t.title} begins`}
          aria-valuetext={dayWords(t.from)}
          aria-valuenow={daysBetween(today, t.from)}
          aria-valuemin={0}
          aria-valuemax={days.length}
          onKeyDown={(e) => {
            const by = { ArrowLeft: -1, ArrowRight: 1, PageDown: -7, PageUp: 7 }[e.key]
            if (by === undefined) return
            e.preventDefault()
            onMove(at(t.from, by))
          }}
          onPointerDown={(e) => {
            e.currentTarget.setPointerCapture(e.pointerId)
            held.current = { x: e.clientX, from: t.from }
          }}
          onPointerMove={(e) => {
            const h = held.current
            if (!h) return
            const by = Math.round((e.clientX - h.x) / each)
            const day = at(h.from, by)
            if (day !== t.from && Math.abs(e.clientX - h.x) > 6) onMove(day)
          }}
          onPointerUp={() => {
            held.current = undefined
          }}
          onPointerCancel={() => {
            held.current = undefined
          }}
        />
      ) : null}
    </svg>
  )
}

/** What a bar that was moved does to the rest, before it is recorded. */
function Moved({
  moving,
  before,
  after,
  state,
  record,
  onDay,
  onDone,
}: {
  moving: Moving
  before: Programme
  after: Programme
  state: WallState
  record: WallFeed['record']
  onDay(day: string | undefined): void
  onDone(): void
}) {
  const { units } = usePreferences()
  const { task, day } = moving
  const { busy, problems, go } = useRecord(record)
  const [why, setWhy] = useState('')
  const promise = promised(state)?.data.finish
  const later = daysBetween(before.finish, after.finish)
  const was = new Map(before.tasks.map((t) => [t.id, t.from]))
  const pushed = after.tasks.filter((t) => t.id !== task.id && t.hours > 0 && t.from > (was.get(t.id) ?? t.from))
  const releases = pushed.filter((t) => t.kind === 'release')
  const now = after.tasks.find((t) => t.id === task.id)
  const fresh = after.conflicts.filter((c) => !before.conflicts.includes(c))
  const put = async () => {
    const data = {
      task: task.id,
      title: task.title,
      ...(day ? { day } : {}),
      ...(fixOf(state, task.id) ?? {}),
      ...(why.trim() ? { why: why.trim() } : {}),
    }
    if (await go([{ kind: 'fixed', where: {}, data }])) onDone()
  }
  return (
    <Stack role="group" aria-label={`Move ${task.title}`} style={{ borderTop: '3px solid var(--ink)', paddingTop: 10 }}>
      <p>
        <strong>{task.title}</strong>: {day === undefined ? 'as soon as it can' : `not before ${dayWords(day)}`}; it then begins{' '}
        {dayWords(now?.from ?? '')}.{' '}
        {later === 0
          ? 'The wall ends on the same day.'
          : `The wall is done ${Math.abs(later)} ${Math.abs(later) === 1 ? 'day' : 'days'} ${later > 0 ? 'later' : 'sooner'}, ${dayWords(after.finish)}.`}{' '}
        {pushed.length > 0
          ? `${pushed.length} other ${pushed.length === 1 ? 'thing moves' : 'things move'} behind it${releases.length > 0 ? `, ${releases.length} of them ${releases.length === 1 ? 'a release' : 'releases'} somebody may have booked` : ''}.`
          : ''}
      </p>
      {promise !== undefined && after.finish > promise ? (
        <Caution>▲ Promised for {dayWords(promise)}: with this it cannot be kept even if nothing is lost.</Caution>
      ) : null}
      {fresh.map((c) => (
        <Caution key={c}>▲ {say(c, units)}</Caution>
      ))}
      <Row>
        <div style={{ width: 190 }}>
          <Field label="Not before" type="date" value={day ?? ''} onChange={(d) => onDay(d === '' ? undefined : d)} />
        </div>
        <div style={{ flex: '1 1 220px' }}>
          <Field label="Why (may stay empty)" value={why} onChange={setWhy} />
        </div>
        <NowButton isDisabled={busy} onPress={put}>
          {day === undefined ? 'Let it go' : `Put it on ${dayWords(day)}`}
        </NowButton>
        {task.fixed && day !== undefined ? <Button onPress={() => onDay(undefined)}>As soon as it can</Button> : null}
        <Quiet onPress={onDone}>Leave it where it was</Quiet>
      </Row>
      <Problems list={problems} />
      <Condensed style={{ color: 'var(--soft)' }}>What must come before it stays before it: no bar goes through a gate.</Condensed>
    </Stack>
  )
}
/** The entry that put it where it is: who moves it has seen that one. */
function fixOf(state: WallState, id: string): { over: string } | undefined {
  const fix = fixesOf(state).get(id)
  return fix ? { over: fix.entry } : undefined
}
