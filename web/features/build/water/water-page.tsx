'use client'

import {
  DRAIN_SCHOOLS,
  type DrainPlan,
  type DrainSchool,
  drainPlan,
  filterOf,
  formatFlow,
  formatLength,
  formatSide,
  formatSigned,
  formatSmall,
  formatStation,
  invertAt,
  laidPipe,
  proposeOutlets,
  say,
  statusOf,
  titleOf,
} from '@stone-tally/core'
import { useMemo } from 'react'
import styled from 'styled-components'
import { type Me, useFeed, useHere, type WallFeed, WallPage } from '@/features/wall'
import { Caution, Stack } from '@/ui/controls'
import { useWidth } from '@/ui/drawing/use-width'
import { Targets } from '@/ui/figure'
import { Link } from '@/ui/link'
import { usePreferences } from '@/ui/preferences'
import { Table } from '@/ui/table'
import { DrainForm } from './drain-form'
import { DrainProfile } from './drain-profile'
import { FilterForm } from './filter-form'

const Two = styled.div`display: grid; gap: 24px; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); > * { align-content: start; } @media (max-width: 900px) { grid-template-columns: minmax(0, 1fr); }`

/** Water: where it can leave, how the pipe falls to it, what it carries, and what of it lies and was seen. */
export function WaterPage() {
  const { wall, me } = useHere()
  const feed = useFeed()
  const { layout } = feed.state
  const drain = useMemo(() => drainPlan(layout), [layout])
  return (
    <WallPage here="water" title="Water">
      {drain ? (
        <Drained wall={wall} me={me} feed={feed} drain={drain} />
      ) : (
        <p>This wall is planned without a pipe. Where water gathers behind it, give it one in the plan before it is built.</p>
      )}
    </WallPage>
  )
}

/** The pages of a wall that has a pipe. */
function Drained({ wall, me, feed, drain }: { wall: string; me: Me; feed: WallFeed; drain: DrainPlan }) {
  const { state } = feed
  const { layout } = state
  const { plan } = layout
  const { fall, outlets } = layout.building.drain ?? { fall: 0, outlets: [] }
  const { units } = usePreferences()
  const [box, width] = useWidth<HTMLDivElement>(1180)
  const proposal = useMemo(() => proposeOutlets(layout), [layout])
  const laid = useMemo(() => laidPipe(state), [state])
  const sieve = filterOf(state)
  const inPlan = (s: number) => outlets.some((o) => Math.abs(o.station - s) < 0.01)
  const proposed = proposal.ok ? proposal.value.outlets.filter((o) => !inPlan(o.station)) : []
  const dropped = proposal.ok ? outlets.filter((o) => !proposal.value.outlets.some((p) => Math.abs(p.station - o.station) < 0.01)) : []
  const steps = state.steps.filter((s) => s.stage.work.type === 'pipe' || s.stage.id === 'cover' || s.stage.id === 'invert' || s.stage.id === 'pour')
  const every = Math.max(1, Math.ceil(drain.points.length / 24))
  const shown = drain.points.filter((p, i) => i % every === 0 || inPlan(p.station))
  return (
    <>
      <div ref={box}>
        <DrainProfile drain={drain} layout={layout} laid={laid} proposed={proposed} width={width} height={width < 600 ? 260 : 320} units={units} />
      </div>
      <Targets
        list={[
          ['Where the pipe sits', DRAIN_SCHOOLS[drain.school].name],
          ['Fall', `${(fall * 100).toFixed(1)} %`],
          ['Longest way to an outlet', drain.profile.ok ? formatLength(drain.profile.value.longestRun, units, 1) : '—'],
          ['Bed, cover', `${formatSmall(drain.bed, units)}, ${formatSmall(drain.coverStone, units)}`],
          ['Sock', drain.sock ? 'yes' : 'none'],
          ...(drain.surface
            ? ([
                [
                  'Run-off, by swale or yard drain',
                  `${formatFlow(drain.surface.flow, units)}, swale ${formatSmall(drain.surface.swale, units)} deep`,
                ],
              ] as const)
            : []),
          [
            drain.surface ? 'Seepage at the busiest outlet' : 'Busiest outlet',
            drain.flow ? `${formatFlow(drain.flow.busiest, units)} of ${formatFlow(drain.flow.capacity, units)}` : 'rain not given',
          ],
        ]}
      />
      {drain.cautions.map((c) => (
        <Caution key={c}>{c}</Caution>
      ))}
      {drain.profile.ok ? null : <Caution>{drain.profile.problems[0]?.message}</Caution>}
      <Two>
        <Stack>
          <h2>Outlets</h2>
          {proposal.ok ? (
            proposed.length === 0 && dropped.length === 0 ? (
              <p>✓ The outlets of the plan are the fewest with which the pipe falls everywhere and none is too far.</p>
            ) : (
              <p>
                Of every place the plan knows, {proposal.value.outlets.length === 1 ? 'one outlet' : `${proposal.value.outlets.length} outlets`} will
                do: at {proposal.value.outlets.map((o) => `${formatStation(o.station, units)} (${formatLength(o.invert, units, 2)})`).join(', ')}. The
                longest way would be {formatLength(proposal.value.profile.longestRun, units, 1)}.
              </p>
            )
          ) : (
            <Caution>{proposal.problems[0]?.message}</Caution>
          )}
          <p style={{ fontSize: 15, color: 'var(--soft)' }}>{say(DRAIN_SCHOOLS[drain.school].why, units)}</p>
          <DrainForm
            wall={wall}
            plan={plan}
            layout={state.layout}
            revision={state.layouts.length}
            me={me}
            proposal={proposal.ok ? proposal.value.outlets : undefined}
            fits={drain.fits.school as DrainSchool}
          />
        </Stack>
        <Stack>
          <h2>Soil against stone</h2>
          {sieve ? (
            <>
              {sieve.result.ok ? (
                <Targets
                  list={[
                    ['Holds soil back', `${sieve.result.value.retention.toFixed(1)}, at most 5`],
                    ['Lets water through', `${sieve.result.value.permeability.toFixed(sieve.result.value.permeability < 100 ? 1 : 0)}, at least 5`],
                  ]}
                />
              ) : null}
              <p>
                {sieve.result.ok && sieve.result.value.ok ? '✓ ' : '▲ '}
                {say(sieve.advice, units)}
              </p>
            </>
          ) : (
            <p>With a sieve curve of the soil and one of the stone this says whether the pipe wants a sock, and the stone a fabric.</p>
          )}
          <FilterForm record={feed.record} me={me} />
          <h2>In the record</h2>
          <ul style={{ margin: 0, paddingLeft: 18 }}>
            {steps.map((s) => {
              const status = statusOf(state, s)
              return (
                <li key={s.key}>
                  <Link href={`/walls/${wall}?step=${encodeURIComponent(s.key)}`} prefetch={false}>
                    {titleOf(s)}
                  </Link>
                  : {status.done} of {status.total}
                  {status.open.length > 0
                    ? ', ▲ open finding'
                    : status.hold === 'released'
                      ? ', ✓ released'
                      : status.hold === 'waiting' && status.state === 'done'
                        ? ', ⬣ waits for release'
                        : ''}
                </li>
              )
            })}
          </ul>
        </Stack>
      </Two>
      <Table
        label="Inverts"
        rows={shown}
        id={(p) => p.station}
        columns={[
          {
            head: 'Station',
            is: 'n',
            cell: (p) => (
              <>
                {inPlan(p.station) ? '○ ' : ''}
                {formatStation(p.station, units)}
              </>
            ),
          },
          { head: 'Invert', is: 'n', cell: (p) => formatLength(invertAt(layout, p.station) ?? Number.NaN, units) },
          { head: 'Heel', is: 'n', cell: (p) => (p.heel === undefined ? '—' : formatLength(p.heel, units)) },
          { head: 'Ground in front', is: 'n', cell: (p) => formatLength(p.toe, units, 2) },
          {
            head: 'Below it by',
            is: 'n',
            cell: (p) => (
              <>
                {p.cover < 0 ? '▲ ' : ''}
                {formatSigned(p.cover, units)}
              </>
            ),
          },
          { head: 'Beside the top of the pad', is: 'n', cell: (p) => formatSide(p.invert - p.padTop, ['above', 'below'], units) },
        ]}
      />
    </>
  )
}
