'use client'

import {
  clockOf,
  type Entry,
  KINDS,
  kindOf,
  lineOf,
  type Measure,
  mayCorrect,
  mayRecord,
  parseAmount,
  placeOf,
  type RecordedEntry,
  type Step,
  say,
  typedAmount,
  type UnitSystem,
  underOlder,
  verdictOf,
  type WallState,
} from '@stone-tally/core'
import { useState } from 'react'
import styled from 'styled-components'
import { AmountField } from '@/ui/amount-field'
import { Ask, Button, Field, NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { dayWords, hourWords, localDay } from '@/ui/day-words'
import { Link } from '@/ui/link'
import { usePreferences } from '@/ui/preferences'
import { entryHref } from './places'
import type { Fact, Me, RecordResult } from './use-wall'
import { Judged } from './work/judged'
import { useRecord } from './work/use-record'

const List = styled.ol`
  list-style: none; margin: 0; padding: 0;
  li { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 4px 10px; padding: 8px 0; border-top: 1px solid var(--faint); font-size: 15px; }
  .meta { color: var(--soft); font-size: 14px; } [data-gone] { text-decoration: line-through; color: var(--soft); } .meta a { display: inline; min-height: 0; min-width: 0; position: relative; } .meta a::after { content: ''; position: absolute; inset: -14px -18px; }
`
type Send = (facts: readonly Fact[]) => Promise<RecordResult>

/** Local time, with the date when it is not today. */
export function When({ at }: { at: string }) {
  const d = new Date(at)
  const today = new Date().toDateString() === d.toDateString()
  return (
    <time dateTime={at} suppressHydrationWarning>
      {today ? hourWords(d) : `${dayWords(localDay(d))}, ${hourWords(d)}`}
    </time>
  )
}

/** What was recorded at a step, newest first; each line can be corrected, none can be removed. */
export function DiaryList({ state, step, me, record }: { state: WallState; step: Step; me: Me; record: Send }) {
  const log = state.logs.get(step.key)
  const entries = log ? [...log.work, ...log.releases, ...log.overrides].sort((a, b) => b.seq - a.seq) : []
  if (entries.length === 0) return null
  return (
    <div>
      <h2 className="minor">Recorded here</h2>
      <List>
        {entries.slice(0, 12).map((e) => (
          <Line key={e.entry.id} state={state} recorded={e} me={me} record={record} />
        ))}
      </List>
    </div>
  )
}

export function Line({ state, recorded, me, record, place }: { state: WallState; recorded: RecordedEntry; me: Me; record: Send; place?: boolean }) {
  const { units } = usePreferences()
  const [open, setOpen] = useState(false)
  const { entry } = recorded
  const by = state.superseded.get(entry.id)
  const verdict = verdictOf(state, entry)
  const clock = clockOf(state, recorded)
  const older = underOlder(state, entry)
  const strikes = kindOf(entry.kind)?.effect?.is === 'strike'
  return (
    <li {...(recorded.waiting ? {} : { id: `entry-${recorded.seq}` })}>
      <div>
        <span {...(by ? { 'data-gone': true } : {})}>
          {place && placeOf(entry) ? `${placeOf(entry)} · ` : ''}
          {verdict?.verdict === 'out' ? '▲ ' : ''}
          {lineOf(state, entry, { units })}
        </span>
        {by ? <span> (corrected)</span> : null}
        {entry.recheckOf ? <span> (re-check)</span> : null}
        {entry.supersedes && !strikes ? <span> (corrects an earlier entry{entry.reason ? `: ${entry.reason}` : ''})</span> : null}
        {strikes && entry.supersedes ? <StruckOut state={state} id={entry.supersedes} /> : null}
        <div className="meta">
          {recorded.waiting ? '◌ not sent yet' : <Link href={entryHref(entry.wall, recorded.seq)}>{recorded.seq}</Link>} · <When at={entry.at} /> ·{' '}
          {entry.by.name}
          {clock ? ` · ▲ ${clock}; it came in ` : ''}
          {clock ? <When at={recorded.receivedAt} /> : null}
          {older ? (
            <div>
              ≠ Made under revision {entry.revision} while revision {older.inForce} was in force
              {older.otherwise ? `, by which it would be ${older.otherwise.verdict === 'out' ? '▲ ' : ''}${say(older.otherwise.text, units)}` : ''}
            </div>
          ) : null}
        </div>
      </div>
      {!by && mayRecord(me.role, STRIKE) && mayCorrect(entry, me).ok ? <Quiet onPress={() => setOpen(true)}>Correct</Quiet> : null}
      <CorrectDialog entry={entry} open={open} onClose={() => setOpen(false)} record={record} state={state} me={me} />
    </li>
  )
}

/** What a strike took out, in its own words. */
export function StruckOut({ state, id }: { state: WallState; id: string }) {
  const { units } = usePreferences()
  const old = state.byId.get(id)
  return old ? (
    <div className="meta">
      It was {old.waiting ? 'one not sent yet' : `no. ${old.seq}`}: {placeOf(old.entry) ? `${placeOf(old.entry)} · ` : ''}
      {lineOf(state, old.entry, { units })}, by {old.entry.by.name}
    </div>
  ) : null
}

/** The kind of entry that takes another out. */
const STRIKE = KINDS.find((k) => k.effect?.is === 'strike')?.kind ?? ''

/** A typed number as a correction asks for it. */
function typedNumber(text: string, of: Measure | 'count', units: UnitSystem): number | undefined {
  if (of === 'count') return text.trim() !== '' && Number.isInteger(Number(text)) ? Number(text) : undefined
  const read = parseAmount(text, of, units)
  return read.ok ? read.value : undefined
}

function CorrectDialog({
  entry,
  open,
  onClose,
  record,
  state,
  me,
}: {
  entry: Entry
  open: boolean
  onClose(): void
  record: Send
  state: WallState
  me: Me
}) {
  const { units } = usePreferences()
  const by = kindOf(entry.kind)?.correction
  // What cannot be put right as one number is struck out and recorded anew.
  const of = by?.of(entry.data) ?? 'count'
  const old = by && (of === 'count' ? `${by.value(entry.data)}` : typedAmount(by.value(entry.data), of, units))
  // What is typed in other units is another number.
  const [edited, setEdited] = useState<{ text: string; in: UnitSystem }>()
  const value = edited?.in === units ? edited.text : (old ?? '')
  const setValue = (text: string) => setEdited({ text, in: units })
  const [reason, setReason] = useState('')
  const { busy, problems, setProblems, go } = useRecord(record)
  const close = (done: boolean) => done && onClose()
  const typed = by && typedNumber(value, of, units)
  const data = by && typed !== undefined ? by.put(entry.data, typed) : undefined
  // Judged by the plan it was recorded under, as the entry it corrects.
  const verdict = data !== undefined && value !== old ? verdictOf(state, { ...entry, data }) : undefined
  const why = reason.trim()
  const put = async () => {
    if (data === undefined) return setProblems([{ field: 'Right value', message: `"${value}" cannot be read` }])
    close(
      await go([
        {
          kind: entry.kind,
          where: entry.where,
          data,
          supersedes: entry.id,
          reason: why,
          ...(entry.recheckOf ? { recheckOf: entry.recheckOf } : {}),
        },
      ]),
    )
  }
  return (
    <Ask title="Correct an entry" open={open} onClose={onClose}>
      <Stack>
        <p>{lineOf(state, entry, { units })}</p>
        <p style={{ fontSize: 15, color: 'var(--soft)' }}>The original stays in the record, struck through, with your correction beside it.</p>
        <Field label="Why is it wrong? Kept with the correction" value={reason} onChange={setReason} />
        {by && mayRecord(me.role, entry.kind) ? (
          <>
            <Row>
              <div style={{ flex: 1 }}>
                {of === 'count' ? (
                  <Field label={by.title} value={value} onChange={setValue} inputMode="numeric" />
                ) : (
                  <AmountField label={by.title} of={of} value={value} onChange={setValue} />
                )}
              </div>
              <NowButton isDisabled={busy || value === old || why.length < 3} onPress={put}>
                Correct
              </NowButton>
            </Row>
            {verdict ? <Judged verdict={verdict} otherwise="" /> : null}
          </>
        ) : null}
        <Row>
          <Button
            isDisabled={busy || why.length < 3}
            onPress={async () => close(await go([{ kind: STRIKE, where: {}, data: { reason: why }, supersedes: entry.id }]))}
          >
            {old === undefined ? 'Strike it out' : 'Strike it out instead'}
          </Button>
        </Row>
        <Problems list={problems} />
        <Button onPress={onClose}>Close</Button>
      </Stack>
    </Ask>
  )
}
