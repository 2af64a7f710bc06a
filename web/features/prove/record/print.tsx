'use client'

import {
  cleared,
  fold,
  formatAmount,
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
  quantities,
  type RecordedEntry,
  say,
  statusOf,
  stepKey,
  titleOf,
  underOlder,
  unmatched,
  type WallState,
  waitingHolds,
} from '@stone-tally/core'
import { useMemo, useState } from 'react'
import styled from 'styled-components'
import { type Me, Places } from '@/features/wall'
import { PrintedCode } from '@/features/wall/proof/printed-code'
import { Bar } from '@/ui/bar'
import { Button, Page, Problems, Row } from '@/ui/controls'
import { Elevation } from '@/ui/drawing/elevation'
import { laidFor } from '@/ui/laid'
import { usePreferences } from '@/ui/preferences'
import { Tally } from '@/ui/tally'

const Sheet = styled(Page)`
  @page { size: auto; margin: 14mm 13mm; }
  font-size: 15px; max-width: 1000px;
  section { break-inside: auto; } tr { break-inside: avoid; } h2 { break-after: avoid; margin: 8px 0 6px; } thead { display: table-header-group; }
  .no-print { } svg { max-width: 100%; height: auto; }
  @media screen and (max-width: 760px) { padding: 10px; table { display: block; overflow-x: auto; } p, td { overflow-wrap: anywhere; } }
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
      <table aria-label="Setting record">
        <thead>
          <tr>
            <th>No.</th>
            <th>Hangs</th>
            <th>Reach</th>
            <th>Truck</th>
            <th>Set</th>
            <th>Who</th>
          </tr>
        </thead>
        <tbody>
          {planned.map((p) => {
            const e = set.get(`${p.course}|${p.number}`)
            return (
              <tr key={p.name}>
                <td>{p.name}</td>
                <td>{formatMass(p.load, units)}</td>
                <td>{formatLength(p.reach, units, 1)}</td>
                <td>{p.truck ?? ''}</td>
                <td>
                  {e ? lineOf(state, e.entry, { units }).replace(`${p.name} set: `, '') : ''}
                  {e && state.outs.has(e.entry.id) ? ' ▲' : ''}
                </td>
                <td>{e?.entry.by.name ?? ''}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
    </section>
  )
}

function Sheets({ wall, name, state, head, printed, me }: Omit<Printed, 'entries'> & { state: WallState }) {
  const { units } = usePreferences()
  const { layout } = state
  const { plan } = layout
  const [all, setAll] = useState(false)
  const hidden = all ? 0 : Math.max(0, state.entries.length - LATEST)
  const day = (at: string) =>
    new Date(at).toLocaleString(undefined, { year: 'numeric', month: 'short', day: 'numeric', hour: '2-digit', minute: '2-digit' })
  const at = (stage: string, section: string, course: number) => state.byKey.get(stepKey({ stage, section, course }))
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
            <table aria-label={`Courses of section ${s.id}`}>
              <thead>
                <tr>
                  <th>Course</th>
                  <th>Top</th>
                  <th>{layout.system.noun.many.replace(/^./, (c) => c.toUpperCase())}</th>
                  <th>Read</th>
                  <th>Done and looked at</th>
                  <th>Open</th>
                </tr>
              </thead>
              <tbody>
                {[...layout.cells.values()]
                  .filter((c) => c.section === s.id)
                  .map((c) => {
                    const units1 = at(layout.system.open.from, s.id, c.course)
                    const st = units1 ? statusOf(state, units1) : undefined
                    const steps = state.steps.filter((x) => x.section === s.id && x.course === c.course)
                    const words = (types: readonly string[]) =>
                      steps
                        .filter((x) => types.includes(x.stage.work.type) && x !== units1)
                        .map((x) => {
                          const q = statusOf(state, x)
                          return `${x.stage.title.toLowerCase()} ${cleared(q) ? '✓' : `${q.done}/${q.total}`}${q.override ? ' (passed)' : ''}`
                        })
                        .join(', ')
                    const open = steps.flatMap((x) => statusOf(state, x).open)
                    return (
                      <tr key={c.course}>
                        <td>{c.course}</td>
                        <td style={{ whiteSpace: 'nowrap' }}>{formatLength(layout.courses.find((r) => r.course === c.course)?.top ?? 0, units)}</td>
                        <td>
                          {st ? (
                            <>
                              <Tally done={st.done} total={st.total} height={13} /> {st.done} of {st.total}
                            </>
                          ) : null}
                        </td>
                        <td>{words(['readings'])}</td>
                        <td>{words(['check', 'lifts', 'grid'])}</td>
                        <td>{open.length > 0 ? `▲ ${open.length}` : ''}</td>
                      </tr>
                    )
                  })}
              </tbody>
            </table>
          </section>
        ))}
        <PickTable state={state} />
        <section>
          <h2>Hold points</h2>
          <ul>
            {releases.map((r) => (
              <li key={r.entry.id} suppressHydrationWarning>
                {lineOf(state, r.entry, { units })}. {placeOf(r.entry)} {r.entry.by.name}, {day(r.entry.at)}
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
                  {placeOf(e.entry)} {lineOf(state, e.entry, { units })}, {say(v.text, units)}. {action ? lineOf(state, action.entry, { units }) : ''}
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
          <table aria-label="Quantities as planned">
            <thead>
              <tr>
                <th>Takes</th>
                <th>Amount</th>
                <th>How it was worked out</th>
              </tr>
            </thead>
            <tbody>
              {quantities(layout).map((q) => (
                <tr key={q.id}>
                  <td>{say(q.name, units)}</td>
                  <td>{formatAmount(q, units)}</td>
                  <td>{say(q.working, units)}</td>
                </tr>
              ))}
            </tbody>
          </table>
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
          <table aria-label="Entries">
            <thead>
              <tr>
                <th>No.</th>
                <th>When</th>
                <th>Where</th>
                <th>What</th>
                <th>Who</th>
              </tr>
            </thead>
            <tbody>
              {state.entries.slice(hidden).map((e) => (
                <tr key={e.entry.id}>
                  <td>{e.seq}</td>
                  <td style={{ whiteSpace: 'nowrap' }} suppressHydrationWarning>
                    {day(e.entry.at)}
                  </td>
                  <td>{placeOf(e.entry)}</td>
                  <td>
                    <span style={state.superseded.has(e.entry.id) ? { textDecoration: 'line-through' } : {}}>
                      {lineOf(state, e.entry, { units })}
                    </span>
                    {state.outs.has(e.entry.id) ? ' ▲' : ''}
                    {e.entry.recheckOf ? ' (re-check)' : ''}
                    {underOlder(state, e.entry) ? ` (≠ under revision ${e.entry.revision}, not the one in force)` : ''}
                    {e.entry.supersedes && e.entry.kind !== 'strike' ? ' (correction)' : ''}
                  </td>
                  <td>{e.entry.by.name}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p style={{ marginTop: 8 }}>
            Every figure here is a record or a planning check, not a sealed design. Local code and the licensed engineer of record govern.
          </p>
        </section>
      </Sheet>
    </>
  )
}
