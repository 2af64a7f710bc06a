'use client'

import {
  cleared,
  fold,
  formatLength,
  formatMass,
  gridPlaced,
  lineOf,
  openFindings,
  type PickData,
  type Plan,
  picksOf,
  placeOf,
  progressOf,
  type RecordedEntry,
  say,
  statusOf,
  stepKey,
  titleOf,
  underOlder,
  unmatched,
  type WallState,
  waitingHolds,
  withOutcome,
} from '@stone-tally/core'
import { useMemo, useState } from 'react'
import styled from 'styled-components'
import { type Me, Places } from '@/features/wall'
import { PrintedCode } from '@/features/wall/proof/printed-code'
import { Bar } from '@/ui/bar'
import { Button, Page, Problems, Row } from '@/ui/controls'
import { fullDay, hourWords, localDay } from '@/ui/day-words'
import { Elevation } from '@/ui/drawing/elevation'
import { laidFor } from '@/ui/laid'
import { usePreferences } from '@/ui/preferences'
import { ended } from '@/ui/sentence'
import { Table } from '@/ui/table'
import { Takes } from '@/ui/takes'
import { Tally } from '@/ui/tally'

const Sheet = styled(Page)`
  @page { size: auto; margin: 14mm 13mm; }
  font-size: 15px; max-width: 1000px;
  section { break-inside: auto; } tr { break-inside: avoid; } h2 { break-after: avoid; margin: 8px 0 6px; } thead { display: table-header-group; }
  .no-print { } svg { max-width: 100%; height: auto; }
  @media screen and (max-width: 760px) { padding: 10px; p, td { overflow-wrap: anywhere; } }
  @media print { padding: 0; font-size: 10.5pt; .no-print { display: none; } td, th { padding: 2.5pt 5pt; } }
`

/** Entries printed unless all are asked for: twenty thousand make a document no browser lays out in a minute. */
const LATEST = 400

interface Printed {
  readonly wall: string
  readonly name: string
  readonly entries: readonly RecordedEntry[]
  /** Where the record ends; without its link where that was not made. */
  readonly head: { readonly seq: number; readonly hash: string | undefined }
  readonly printed: string
  readonly me: Me
}

/** The course record of a wall on paper: A4 and Letter. */
export function PrintRecord({ plans, ...rest }: Printed & { plans: readonly Plan[] }) {
  const { entries, name, me } = rest
  // Entries are judged by the number of their revision: one that is left out would shift all that follow.
  const laid = useMemo(() => plans.map((p) => laidFor(p)), [plans])
  const state = useMemo(() => {
    const layouts = laid.flatMap((l) => (l.ok ? [l.value] : []))
    return layouts.length === laid.length ? fold(layouts, entries) : undefined
  }, [laid, entries])
  if (state) return <Sheets {...rest} state={state} />
  return (
    <>
      <Bar person={me}>
        <strong>{name}</strong>
      </Bar>
      <Sheet>
        <h1>{name}: course record</h1>
        <p>
          The record cannot be printed, because a plan revision it was judged by cannot be laid out. Its entries are whole; the export holds them all.
        </p>
        <Problems
          list={laid.flatMap((l, i) => (l.ok ? [] : l.problems.map((p) => ({ field: p.field, message: `Revision ${i + 1}: ${p.message}` }))))}
        />
      </Sheet>
    </>
  )
}

/** Units that a machine set, pick by pick; nothing where none does. */
function PickTable({ state }: { state: WallState }) {
  const { units } = usePreferences()
  const planned = picksOf(state.layout)
  if (planned.length === 0) return null
  const set = new Map<string, (typeof state.entries)[number]>()
  for (const e of state.entries)
    if (e.entry.kind === 'pick' && !state.superseded.has(e.entry.id)) set.set(`${e.entry.where.course}|${(e.entry.data as PickData).number}`, e)
  return (
    <section>
      <h2>Setting record</h2>
      <Table
        label="Setting record"
        rows={planned.map((p) => ({ ...p, done: set.get(`${p.course}|${p.number}`) }))}
        id={(p) => p.name}
        columns={[
          { head: 'No.', cell: (p) => p.name },
          { head: 'Hangs', cell: (p) => formatMass(p.load, units) },
          { head: 'Reach', cell: (p) => formatLength(p.reach, units, 1) },
          { head: 'Truck', cell: (p) => p.truck ?? '' },
          {
            head: 'Set',
            is: 'wrap',
            cell: ({ name, done }) =>
              done ? `${lineOf(state, done.entry, { units }).replace(`${name} set: `, '')}${state.outs.has(done.entry.id) ? ' ▲' : ''}` : '',
          },
          { head: 'Who', is: 'wrap', cell: (p) => p.done?.entry.by.name ?? '' },
        ]}
      />
    </section>
  )
}

function Sheets({ wall, name, state, head, printed, me }: Omit<Printed, 'entries'> & { state: WallState }) {
  const { units } = usePreferences()
  const { layout } = state
  const { plan } = layout
  const [all, setAll] = useState(false)
  const hidden = all ? 0 : Math.max(0, state.entries.length - LATEST)
  const day = (at: string) => `${fullDay(localDay(new Date(at)))}, ${hourWords(new Date(at))}`
  const courseOf = (section: string, course: number) => {
    const units1 = state.byKey.get(stepKey({ stage: layout.system.open.from, section, course }))
    const steps = state.steps.filter((x) => x.section === section && x.course === course)
    const words = (types: readonly string[]) =>
      steps
        .filter((x) => types.includes(x.stage.work.type) && x !== units1)
        .map((x) => {
          const q = statusOf(state, x)
          return `${x.stage.title.toLowerCase()} ${cleared(q) ? '✓' : `${q.done}/${q.total}`}${q.override ? ' (passed)' : ''}`
        })
        .join(', ')
    const open = steps.reduce((n, x) => n + statusOf(state, x).open.length, 0)
    return { course, set: units1 ? statusOf(state, units1) : undefined, words, open }
  }
  const changed = state.entries.filter((e) => e.entry.supersedes !== undefined)
  const lost = useMemo(() => unmatched(state), [state])
  const overrides = state.entries.filter((e) => e.entry.kind === 'override')
  const releases = state.entries.filter((e) => e.entry.kind === 'release')
  return (
    <>
      <Bar person={me}>
        <strong>{name}</strong>
      </Bar>
      <Sheet>
        <div className="no-print">
          <Places here="print" />
        </div>
        <Row className="no-print">
          <Button onPress={() => window.print()}>Print</Button>
        </Row>
        <header>
          <h1>{plan.name}: course record</h1>
          <p>
            {plan.site}. Drawing {plan.drawing ?? 'not named'}, plan revision {state.layouts.length}.{' '}
            {plan.engineer ? `Engineered plan: ${plan.engineer}.` : 'No engineered plan named.'} {layout.system.name},{' '}
            {layout.building.course(1).name}.
          </p>
          <p suppressHydrationWarning>
            Printed {day(printed)} by {me.name}. {head.seq} entries
            {head.hash ? `; the record ends with ${head.hash.slice(0, 16)}…${head.hash.slice(-8)}` : ''}.
          </p>
          <PrintedCode wall={wall} />
        </header>
        <Elevation
          layout={layout}
          width={960}
          height={150}
          from={-0.5}
          to={plan.length + 0.5}
          units={units}
          label="The wall as recorded"
          look={(s, c) => progressOf(state, s, c)}
          gridPlaced={(s, c) => gridPlaced(state, s, c)}
        />
        {plan.sections.map((s) => (
          <section key={s.id}>
            <h2>
              Section {s.id}, {formatLength(s.from, units, 2)} to {formatLength(s.to, units, 2)}
            </h2>
            <p>
              {state.steps
                .filter((x) => x.section === s.id && x.course === undefined)
                .map((x) => {
                  const q = statusOf(state, x)
                  return `${x.stage.title} ${cleared(q) ? '✓' : `${q.done}/${q.total}`}${q.override ? ' (passed)' : ''}`
                })
                .join(', ')}
              .
            </p>
            <Table
              label={`Courses of section ${s.id}`}
              rows={[...layout.cells.values()].filter((c) => c.section === s.id).map((c) => courseOf(s.id, c.course))}
              id={(c) => c.course}
              columns={[
                { head: 'Course', cell: (c) => c.course },
                { head: 'Top', cell: (c) => formatLength(layout.courses.find((r) => r.course === c.course)?.top ?? 0, units) },
                {
                  head: layout.system.noun.many.replace(/^./, (c) => c.toUpperCase()),
                  is: 'wrap',
                  cell: ({ set: st }) =>
                    st ? (
                      <>
                        <Tally done={st.done} total={st.total} height={13} /> {st.done} of {st.total}
                      </>
                    ) : null,
                },
                { head: 'Read', is: 'wrap', cell: (c) => c.words(['readings']) },
                { head: 'Done and looked at', is: 'wrap', cell: (c) => c.words(['check', 'lifts', 'grid']) },
                { head: 'Open', cell: (c) => (c.open > 0 ? `▲ ${c.open}` : '') },
              ]}
            />
          </section>
        ))}
        <PickTable state={state} />
        <section>
          <h2>Hold points</h2>
          <ul>
            {releases.map((r) => (
              <li key={r.entry.id} suppressHydrationWarning>
                {ended(lineOf(state, r.entry, { units }))} {placeOf(r.entry)} {r.entry.by.name}, {day(r.entry.at)}
                {state.superseded.has(r.entry.id) ? ' (corrected)' : ''}
              </li>
            ))}
            {waitingHolds(state).map((h) => (
              <li key={h.key}>⬣ {titleOf(h)}: waits for release</li>
            ))}
          </ul>
        </section>
        <section>
          <h2>Nonconformances and gates passed</h2>
          <ul>
            {[...state.outs].map(([id, v]) => {
              const e = state.byId.get(id)
              const action = state.actions.get(id)
              return e ? (
                <li key={id}>
                  {openFindings(state).includes(e) ? '▲ open: ' : 'closed: '}
                  {placeOf(e.entry)} {ended(withOutcome(lineOf(state, e.entry, { units }), say(v.text, units)))}{' '}
                  {action ? lineOf(state, action.entry, { units }) : ''}
                  {state.superseded.has(id) ? ' (entry corrected)' : ''}
                </li>
              ) : null
            })}
            {overrides.map((o) => (
              <li key={o.entry.id}>
                Gate passed: {placeOf(o.entry)} {lineOf(state, o.entry, { units })} ({o.entry.by.name})
              </li>
            ))}
            {state.outs.size + overrides.length === 0 ? <li>None.</li> : null}
          </ul>
        </section>
        <section>
          <h2>Corrections and entries struck out</h2>
          <ul>
            {changed.map((e) => {
              const old = state.byId.get(e.entry.supersedes ?? '')
              return (
                <li key={e.entry.id}>
                  No. {old?.seq ?? '?'}
                  {old ? `: ${placeOf(old.entry)} ${lineOf(state, old.entry, { units })} (${old.entry.by.name})` : ''}.{' '}
                  {e.entry.kind === 'strike'
                    ? `${lineOf(state, e.entry, { units })} (${e.entry.by.name})`
                    : `Corrected by no. ${e.seq}: ${lineOf(state, e.entry, { units })} (${e.entry.by.name}${e.entry.reason ? `: ${e.entry.reason}` : ''})`}
                </li>
              )
            })}
            {changed.length === 0 ? <li>None.</li> : null}
          </ul>
        </section>
        {lost.length > 0 ? (
          <section>
            <h2>Recorded for an earlier revision, no longer as the plan in force asks</h2>
            <ul>
              {lost.map((u) => (
                <li key={u.key}>
                  ≠ {u.title}
                  {u.section ? `, section ${u.section}` : ''}
                  {u.course ? ` course ${u.course}` : ''} ({u.entries.length}): {say(u.message, units)}
                </li>
              ))}
            </ul>
          </section>
        ) : null}
        <section>
          <h2>Quantities as planned</h2>
          <Takes layout={layout} label="Quantities as planned" />
        </section>
        <section>
          <h2>Entries</h2>
          {hidden > 0 ? (
            <Row>
              <p>
                The newest {LATEST} of {state.entries.length}; the export of the record holds them all.
              </p>
              <span className="no-print">
                <Button onPress={() => setAll(true)}>Print all {state.entries.length}</Button>
              </span>
            </Row>
          ) : null}
          <Table
            label="Entries"
            rows={state.entries.slice(hidden)}
            id={(e) => e.entry.id}
            columns={[
              { head: 'No.', cell: (e) => e.seq },
              { head: 'When', cell: (e) => <span suppressHydrationWarning>{day(e.entry.at)}</span> },
              { head: 'Where', is: 'wrap', cell: (e) => placeOf(e.entry) },
              {
                head: 'What',
                is: 'wrap',
                cell: (e) => (
                  <>
                    <span style={state.superseded.has(e.entry.id) ? { textDecoration: 'line-through' } : {}}>
                      {lineOf(state, e.entry, { units })}
                    </span>
                    {state.outs.has(e.entry.id) ? ' ▲' : ''}
                    {e.entry.recheckOf ? ' (re-check)' : ''}
                    {underOlder(state, e.entry) ? ` (≠ under revision ${e.entry.revision}, not the one in force)` : ''}
                    {e.entry.supersedes && e.entry.kind !== 'strike' ? ' (correction)' : ''}
                  </>
                ),
              },
              { head: 'Who', is: 'wrap', cell: (e) => e.entry.by.name },
            ]}
          />
          <p style={{ marginTop: 8 }}>
            Every figure here is a record or a planning check, not a sealed design. Local code and the licensed engineer of record govern.
          </p>
        </section>
      </Sheet>
    </>
  )
}
