'use client'

import {
  actionWords,
  type Due,
  dueOf,
  formatStation,
  inspectionPoints,
  lineOf,
  live,
  type Nonconformance,
  nonconformances,
  overridesOf,
  type PointStatus,
  type ReleaseData,
  ROLE_NAMES,
  ROLES,
  type Role,
  say,
  stepKey,
  titleOf,
} from '@stone-tally/core'
import { useMemo, useState } from 'react'
import styled from 'styled-components'
import { Strokes, useFeed, useHere, useNow, WallPage } from '@/features/wall'
import { entryHref } from '@/features/wall/places'
import { Choice, Row, Stack, Wide } from '@/ui/controls'
import { Link } from '@/ui/link'
import { OrderedTable } from '@/ui/ordered-table'
import { usePreferences } from '@/ui/preferences'
import { ended } from '@/ui/sentence'

const MARK: Readonly<Record<PointStatus['state'], string>> = {
  'not yet': '○',
  'under way': '◐',
  'to release': '⬣',
  rejected: '⬣',
  released: '✓',
  seen: '✓',
  'passed with a reason': '◇',
  'plan changed': '≠',
  'open finding': '▲',
}
const FOUND: Readonly<Record<Nonconformance['state'], string>> = {
  found: '▲ found',
  'action taken': '▲ action taken',
  'out again': '▲ out again',
  closed: '✓ closed',
}

/** The board of a wall's points: rows are points, one cell a course; a cell says by shape how it stands. */
const Grid = styled.table`
  &&& { width: auto; border-collapse: collapse; } &&& td { padding: 0; border: 0; } &&& th { border: 0; font: 550 15px/1.2 'Archivo Variable', sans-serif; color: var(--ink); text-align: left; padding: 4px 12px 4px 0; white-space: nowrap; } th small { color: var(--soft); font-weight: 500; margin-left: 6px; }
  a { display: inline-flex; align-items: center; justify-content: center; min-width: 30px; height: 34px; border: 1px solid var(--line); margin: 0 -1px -1px 0; text-decoration: none; font: 600 16px/1 'Barlow Condensed', sans-serif; color: var(--ink); }
  a[data-state='released'], a[data-state='seen'] { background: var(--faint); } a[data-state='to release'], a[data-state='rejected'], a[data-state='open finding'] { background: var(--stop); color: var(--on-stop); border-color: var(--ink); } a[data-state='under way'] { box-shadow: inset 0 0 0 2px var(--now); }
  @media (pointer: coarse), (max-width: 640px) { a { min-width: 48px; height: 48px; } }
`
const DueList = styled.ul`
  margin: 0; padding: 0; list-style: none; display: grid; gap: 0;
  li { display: grid; grid-template-columns: 150px minmax(0, 1fr); gap: 14px; border-top: 1px solid var(--line); padding: 9px 0; } li > span:first-child { font-family: 'Barlow Condensed', sans-serif; font-size: 17px; } p { color: var(--soft); font-size: 15px; }
  @media (max-width: 640px) { li { grid-template-columns: minmax(0, 1fr); gap: 2px; } }
`

type Who = 'all' | Role
const WHO: readonly (readonly [Who, string])[] = [['all', 'Everyone'], ...ROLES.filter((r) => r !== 'office').map((r) => [r, ROLE_NAMES[r]] as const)]

/** Checks: what is due today and by whom, every hold and witness point where it stands, findings from found to closed, gates gone past. */
export function ChecksPage() {
  const { wall, me } = useHere()
  const feed = useFeed()
  const { state } = feed
  const { units } = usePreferences()
  const [who, setWho] = useState<Who>(me.role === 'office' ? 'all' : me.role)
  const [section, setSection] = useState(state.layout.plan.sections[0]?.id ?? '')
  const points = useMemo(() => inspectionPoints(state), [state])
  const now = useNow(state)
  const due = useMemo(() => dueOf(state, now), [state, now])
  const findings = useMemo(() => nonconformances(state), [state])
  const passed = useMemo(() => overridesOf(state), [state])
  const releases = useMemo(() => state.entries.filter((e) => e.entry.kind === 'release' && live(state, e.entry.id)).reverse(), [state])
  const mine = due.filter((d) => who === 'all' || d.roles.includes(who))
  const link = (key: string | undefined) => (key === undefined ? `/walls/${wall}` : `/walls/${wall}?step=${encodeURIComponent(key)}`)
  const open = findings.filter((f) => f.state !== 'closed').length
  return (
    <WallPage here="checks" title="Checks" section={section} onSection={setSection}>
      <Row style={{ justifyContent: 'space-between', alignItems: 'center' }}>
        <h2>Due today</h2>
        <Choice label="By whom" hideLabel value={who} options={WHO} onChange={setWho} />
      </Row>
      {mine.length === 0 ? (
        <p>✓ Nothing is due{who === 'all' ? '' : ` from the ${ROLE_NAMES[who].toLowerCase()}`}.</p>
      ) : (
        <DueRows list={mine} link={link} />
      )}
      <PointBoard points={points} section={section} order={state.layout.system.stages.map((s) => s.id)} link={link} />
      <Stack>
        <h2>Findings{open > 0 ? `: ${open} open` : ''}</h2>
        {findings.length === 0 ? (
          <p>Nothing was out of tolerance.</p>
        ) : (
          <OrderedTable
            label="Findings"
            rows={findings}
            id={(n) => n.found.entry.id}
            columns={[
              {
                head: 'No.',
                by: (n) => n.found.seq,
                cell: (n) =>
                  n.found.waiting ? (
                    '◌'
                  ) : (
                    <Link href={entryHref(wall, n.found.seq)} aria-label={`Entry ${n.found.seq} in the record`} prefetch={false}>
                      {n.found.seq}
                    </Link>
                  ),
              },
              {
                head: 'Stands',
                by: (n) => FOUND[n.state],
                cell: ({ state: stands, found: { entry } }) => (
                  <Link
                    href={link([entry.where.stage ?? '', entry.where.section ?? '', entry.where.course ?? ''].join('|'))}
                    aria-label={`${FOUND[stands]}: what puts it right`}
                    prefetch={false}
                  >
                    {FOUND[stands]}
                  </Link>
                ),
              },
              {
                head: 'Found',
                is: 'wrap',
                by: ({ found: { entry } }) => `${entry.where.section ?? ''} ${entry.where.course ?? ''} ${entry.where.station ?? ''}`,
                cell: ({ found: { entry }, verdict }) => (
                  <>
                    {entry.where.section ? `${entry.where.section}${entry.where.course ? ` course ${entry.where.course}` : ''}` : ''}
                    {entry.where.station === undefined ? '' : ` at ${formatStation(entry.where.station, units)}`}: {ended(say(verdict.text, units))}{' '}
                    {entry.by.name}
                  </>
                ),
              },
              { head: 'Cause', is: 'wrap', cell: (n) => actionWords(n)?.cause ?? '—' },
              { head: 'Action', is: 'wrap', cell: (n) => actionWords(n)?.action ?? '—' },
              {
                head: 'Re-check',
                is: 'wrap',
                cell: (n) =>
                  n.rechecks.length === 0 ? '—' : n.rechecks.map((r) => `${lineOf(state, r.entry, { units })}, ${r.entry.by.name}`).join('; '),
              },
            ]}
          />
        )}
      </Stack>
      {releases.length > 0 ? (
        <Stack>
          <h2>Released and rejected</h2>
          <OrderedTable
            label="Released and rejected"
            rows={releases}
            id={(r) => r.entry.id}
            columns={[
              {
                head: 'Point',
                cell: (r) => {
                  const step = state.byKey.get(stepKey(r.entry.where))
                  return step ? (
                    <Link href={link(step.key)} prefetch={false}>
                      {titleOf(step)}
                    </Link>
                  ) : (
                    'A step the plan no longer has'
                  )
                },
              },
              {
                head: 'Decision',
                by: (r) => (r.entry.data as ReleaseData).decision,
                cell: (r) => ((r.entry.data as ReleaseData).decision === 'released' ? '✓ released' : '⬣ rejected'),
              },
              { head: 'What was seen', is: 'wrap', cell: (r) => (r.entry.data as ReleaseData).reason },
              { head: 'By', by: (r) => r.entry.by.name, cell: (r) => r.entry.by.name },
              {
                head: 'Signed',
                cell: (r) => {
                  const { signature } = r.entry.data as ReleaseData
                  return signature?.drawn ? <Strokes drawn={signature.drawn} width={120} height={38} /> : (signature?.typed ?? '—')
                },
              },
            ]}
          />
        </Stack>
      ) : null}
      <Stack>
        <h2>Gates gone past</h2>
        {passed.length === 0 ? <p>None.</p> : null}
        <ul style={{ margin: 0, paddingLeft: 18 }}>
          {passed.map((o) => (
            <li key={o.entry.entry.id}>
              {o.step ? (
                <Link href={link(o.step.key)} prefetch={false}>
                  {titleOf(o.step)}
                </Link>
              ) : (
                'A step the plan no longer has'
              )}
              : {o.reason} {o.entry.entry.by.name}
            </li>
          ))}
        </ul>
      </Stack>
    </WallPage>
  )
}

function DueRows({ list, link }: { list: readonly Due[]; link(key: string | undefined): string }) {
  const { units } = usePreferences()
  return (
    <DueList>
      {list.map((d) => (
        <li key={d.id}>
          <span>
            {d.urgent ? '⬣ ' : ''}
            {d.roles.map((r) => ROLE_NAMES[r]).join(' or ')}
          </span>
          <div>
            <Link href={link(d.step)} prefetch={false}>
              <strong>{say(d.what, units)}</strong>
            </Link>
            <p>{say(d.why, units)}</p>
          </div>
        </li>
      ))}
    </DueList>
  )
}

/** Points of the wall and of one section, course by course. */
function PointBoard({
  points,
  section,
  order,
  link,
}: {
  points: readonly PointStatus[]
  section: string
  order: readonly string[]
  link(key: string): string
}) {
  const { units } = usePreferences()
  const own = points.filter((p) => p.step.section === undefined || p.step.section === section)
  const courses = [...new Set(own.flatMap((p) => p.step.course ?? []))].sort((a, b) => a - b)
  const rows = new Map<string, PointStatus[]>()
  for (const p of own) rows.set(p.step.stage.id, [...(rows.get(p.step.stage.id) ?? []), p])
  const cell = (p: PointStatus) => (
    <Link
      href={link(p.step.key)}
      data-state={p.state}
      title={`${titleOf(p.step)}: ${p.state}`}
      aria-label={`${titleOf(p.step)}: ${p.state}, ${p.done} of ${p.total}${p.missing.length > 0 ? `, missing ${say(p.missing.join('; '), units)}` : ''}${p.photos > 0 ? `, ${p.photos} photos` : ''}`}
    >
      {MARK[p.state]}
    </Link>
  )
  return (
    <Stack>
      <h2>Hold and witness points</h2>
      <p style={{ fontSize: 15, color: 'var(--soft)' }}>
        ○ not yet · ◐ under way · ⬣ holds: to release · ▲ open finding · ◇ passed with a reason · ✓ seen or released. A cell opens it on the Board.
      </p>
      <Wide role="region" aria-label="Hold and witness points" tabIndex={0}>
        <Grid>
          <thead>
            <tr>
              <th>Point</th>
              <th>Needs, has</th>
              {courses.map((c) => (
                <th key={c} style={{ padding: '0 0 4px', textAlign: 'center' }}>
                  {c}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {[...rows]
              .sort((a, b) => order.indexOf(a[0]) - order.indexOf(b[0]))
              .map(([id, list]) => {
                const first = list[0] as PointStatus
                const done = list.reduce((n, p) => n + p.done, 0)
                const total = list.reduce((n, p) => n + p.total, 0)
                const single = first.step.course === undefined
                return (
                  <tr key={id}>
                    <th scope="row">
                      {first.kind === 'hold' ? '⬣ ' : ''}
                      {first.step.stage.title}
                      <small>{first.title === first.step.stage.title ? '' : first.title}</small>
                    </th>
                    <th style={{ fontVariantNumeric: 'tabular-nums' }}>
                      {done} of {total}
                    </th>
                    {single ? (
                      <td colSpan={Math.max(1, courses.length)}>{cell(first)}</td>
                    ) : (
                      courses.map((c) => {
                        const p = list.find((q) => q.step.course === c)
                        return <td key={c}>{p ? cell(p) : null}</td>
                      })
                    )}
                  </tr>
                )
              })}
          </tbody>
        </Grid>
      </Wide>
    </Stack>
  )
}
