'use client'

import { kindOf, lineOf, placeOf } from '@stone-tally/core'
import { useSearchParams } from 'next/navigation'
import { useEffect, useState } from 'react'
import styled from 'styled-components'
import { Line, Places, PlaceTitle, useFeed, useHere, useRecord } from '@/features/wall'
import { Bar } from '@/ui/bar'
import { Button, Choice, Field, LinkButton, Page, Problems, Row } from '@/ui/controls'
import { Link } from '@/ui/link'
import { usePreferences } from '@/ui/preferences'
import { ProofPanel } from './proof-panel'
import { SetAsidePanel } from './set-aside'

const List = styled.ol`
  list-style: none; margin: 0; padding: 0;
  li { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 4px 10px; padding: 8px 0; border-top: 1px solid var(--line); }
  .meta { color: var(--soft); font-size: 14px; } .meta a { display: inline; min-height: 0; min-width: 0; } li[data-here] { background: var(--faint); box-shadow: inset 4px 0 0 var(--now); padding-left: 12px; } [data-gone] { text-decoration: line-through; color: var(--soft); }
`
const SHOWN = 200

/** The whole record of a wall, newest first; nothing in it can be removed, only corrected. */
export function RecordPage() {
  const { wall, name, me } = useHere()
  const { state, record, loaded } = useFeed()
  const { units } = usePreferences()
  const [which, setWhich] = useState<'all' | 'out' | 'decisions' | 'corrections'>('all')
  const [find, setFind] = useState('')
  const [more, setShown] = useState(SHOWN)
  // An entry that is asked for by its number is shown whatever it takes.
  const asked = Number(useSearchParams().get('entry') ?? 0)
  const shown = asked > 0 ? Math.max(more, state.entries.length - state.entries.findIndex((e) => e.seq === asked)) : more
  useEffect(() => {
    const line = loaded && asked > 0 ? document.getElementById(`entry-${asked}`) : null
    for (const other of document.querySelectorAll('li[data-here]')) other.removeAttribute('data-here')
    line?.setAttribute('data-here', '')
    line?.scrollIntoView({ block: 'center' })
  }, [loaded, asked])
  const [note, setNote] = useState('')
  const { busy, problems, go } = useRecord(record)
  const words = find.trim().toLowerCase()
  const list = state.entries.filter((e) => {
    const k = e.entry.kind
    if (which === 'out' && !state.outs.has(e.entry.id)) return false
    if (which === 'decisions' && !['release', 'override', 'action', 'revision'].includes(k)) return false
    if (which === 'corrections' && !e.entry.supersedes && !state.superseded.has(e.entry.id)) return false
    return !words || `${placeOf(e.entry)} ${lineOf(state, e.entry, { units })} ${e.entry.by.name} ${kindOf(k)?.kind}`.toLowerCase().includes(words)
  })
  const newest = list.slice(-shown).reverse()
  return (
    <>
      <Bar person={me}>
        <strong>{name}</strong>
      </Bar>
      <Page>
        <Places here="record" />
        <Row style={{ justifyContent: 'space-between' }}>
          <PlaceTitle>Record</PlaceTitle>
          <Row>
            <LinkButton href={`/api/walls/${wall}/export`}>Export</LinkButton>
            <LinkButton href={`/api/walls/${wall}/export?photos=none`}>Export without photos</LinkButton>
          </Row>
        </Row>
        <Row>
          <Choice
            label="Show"
            hideLabel
            value={which}
            options={[
              ['all', 'All'],
              ['out', '▲ Out of tolerance'],
              ['decisions', 'Decisions'],
              ['corrections', 'Corrections'],
            ]}
            onChange={setWhich}
          />
          <div style={{ flex: 1, minWidth: 200 }}>
            <Field label="Find" value={find} onChange={setFind} />
          </div>
        </Row>
        <Row id="note">
          <div style={{ flex: 1, minWidth: 200 }}>
            <Field label="Note for the diary: weather, visitors, deliveries" value={note} onChange={setNote} />
          </div>
          <Button
            isDisabled={busy || note.trim() === ''}
            onPress={async () => (await go([{ kind: 'note', where: {}, data: { text: note.trim() } }])) && setNote('')}
          >
            Add note
          </Button>
        </Row>
        <Problems list={problems} />
        <p aria-live="polite" style={{ color: 'var(--soft)' }}>
          {loaded
            ? `${list.length} ${list.length === 1 ? 'entry' : 'entries'}${list.length === state.entries.length ? '' : ` of ${state.entries.length}`}`
            : 'Loading the record…'}
          . <Link href="/">Yard</Link>
        </p>
        <ProofPanel wall={wall} name={name} />
        <SetAsidePanel wall={wall} state={state} />
        {loaded && asked > 0 && !state.entries.some((e) => e.seq === asked) ? (
          <p>
            There is no entry {asked} in this record; it ends at {state.seq}.
          </p>
        ) : null}
        {loaded && list.length === 0 ? <p>Nothing here.</p> : null}
        <List>
          {newest.map((e) => (
            <Line key={e.entry.id} state={state} recorded={e} me={me} record={record} place />
          ))}
        </List>
        {list.length > shown ? <Button onPress={() => setShown(shown + SHOWN)}>Show {Math.min(SHOWN, list.length - shown)} older</Button> : null}
      </Page>
    </>
  )
}
