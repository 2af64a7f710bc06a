'use client'

import {
  correctionWords,
  formatDeviation,
  formatFine,
  formatSmall,
  formatStation,
  type GrowthReport,
  type GrowthSense,
  growthReport,
  limitsOf,
  type Scatter,
  say,
  surenessWords,
} from '@stone-tally/core'
import { useMemo, useRef, useState } from 'react'
import styled from 'styled-components'
import { useFeed, WallPage } from '@/features/wall'
import { Caution, Choice, Quiet, Row, Stack } from '@/ui/controls'
import { useWidth } from '@/ui/drawing/use-width'
import { Hero } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import { Table } from '@/ui/table'
import { LineDrawing } from './line-drawing'
import { StationChart } from './station-chart'

const SENSES = [
  ['level', 'Level'],
  ['line', 'Line and lean'],
] as const
const Two = styled.div`display: grid; gap: 20px; grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr); > * { align-content: start; } @media (max-width: 900px) { grid-template-columns: minmax(0, 1fr); }`

/** What a few millimetres below become at the top, and the smallest correction that keeps them inside. */
export function AheadPage({ scatter }: { scatter?: Scatter }) {
  const feed = useFeed()
  // What this company's courses scatter by is no part of the record; only this place asks for it.
  const state = useMemo(() => (scatter ? { ...feed.state, scatter } : feed.state), [feed.state, scatter])
  const { units } = usePreferences()
  const { sections, length } = state.layout.plan
  const [section, setSection] = useState(sections[0]?.id ?? '')
  const [sense, setSense] = useState<GrowthSense>('level')
  const [picked, setPicked] = useState<number>()
  const [box, width] = useWidth<HTMLDivElement>(1180)
  const [half, halfWidth] = useWidth<HTMLDivElement>(560)
  const own = sections.find((s) => s.id === section)
  // The report before is taken on, so that an entry changes only its own station.
  const before = useRef<GrowthReport>(undefined)
  const report = useMemo(() => {
    before.current = growthReport(state, section, sense, before.current)
    return before.current
  }, [state, section, sense])
  const column = report.columns.find((c) => c.station === picked) ?? report.worst
  const top = report.worst
  // What rounds to nothing has no sign.
  const mm = (v: number) => {
    const size = formatSmall(Math.abs(v), units)
    return `${/[1-9]/.test(size) ? (v > 0 ? '+' : '−') : ''}${size}`
  }
  return (
    <WallPage
      here="ahead"
      title="Ahead"
      section={section}
      onSection={(s) => {
        setSection(s)
        setPicked(undefined)
      }}
    >
      <Row style={{ alignItems: 'center', justifyContent: 'space-between', gap: 20 }}>
        <Choice label="What is looked at" hideLabel value={sense} options={SENSES} onChange={setSense} />
        {top ? (
          <Row style={{ alignItems: 'baseline', gap: 12 }}>
            <Hero
              value={formatDeviation(top.expected.deviation, sense, units)}
              unit={`at the top, station ${formatStation(top.station, units)}, give or take ${formatSmall(top.expected.band, units)}`}
            />
          </Row>
        ) : null}
      </Row>
      {report.columns.length === 0 ? (
        <p>No course of section {section} is read yet. With the first readings this page says where the top will be.</p>
      ) : null}
      <div ref={box}>
        {report.columns.length > 0 ? (
          <LineDrawing
            report={report}
            layout={state.layout}
            sense={sense}
            from={own?.from ?? 0}
            to={own?.to ?? length}
            width={width}
            height={sense === 'level' ? 300 : 230}
            units={units}
            station={column?.station}
            onStation={setPicked}
          />
        ) : null}
      </div>
      {column ? (
        <Two>
          <Stack>
            <div ref={half}>
              <StationChart column={column} sense={sense} width={halfWidth} height={290} units={units} />
            </div>
          </Stack>
          <Stack>
            <h2>Station {formatStation(column.station, units)}</h2>
            <p style={{ fontSize: 20, fontWeight: 620 }}>{say(correctionWords(column, sense), units)}</p>
            <p>
              Expected at the top (course {column.growth.top}): {formatDeviation(column.expected.deviation, sense, units)}, give or take{' '}
              {formatSmall(column.expected.band, units)}; ±{formatSmall(column.rule.limit, units)} is allowed.{' '}
              {column.growth.leaves !== undefined
                ? `The expected line leaves it at course ${column.growth.leaves}.`
                : column.growth.mayLeave !== undefined
                  ? `It may leave it from course ${column.growth.mayLeave} on.`
                  : 'It stays inside.'}
            </p>
            <p style={{ color: 'var(--soft)' }}>{surenessWords(column.growth)}</p>
            {column.lean !== undefined && column.lean > limitsOf(state.layout.plan).lean.value ? (
              <Caution>
                {column.lean.toFixed(1)}° of lean off the design at the top; {limitsOf(state.layout.plan).lean.value}° is the limit.{' '}
                {say(limitsOf(state.layout.plan).lean.reason, units)}
              </Caution>
            ) : null}
            <p style={{ fontSize: 15, color: 'var(--soft)' }}>
              Each course is set from the one below, so its error walks on: the band holds the top in about 19 cases of 20, and widens with the
              courses to come.{' '}
              {column.rule.scatter === undefined
                ? 'How much is that of crews in general, until your own walls have been read.'
                : `By your company’s last walls a course ${sense === 'level' ? 'differs from the one below' : 'steps back more or less than designed'} by about ${formatFine(column.rule.scatter, units)}; what this station reads weighs against it.`}{' '}
              Where a course was read beside it, its line is carried over. A planning aid: the limits of the plan govern.
            </p>
          </Stack>
        </Two>
      ) : null}
      {report.columns.length > 0 ? (
        <Table
          label="Stations"
          rows={report.columns}
          id={(c) => c.station}
          on={(c) => c === column}
          columns={[
            {
              head: 'Station',
              cell: (c) => (
                <Quiet onPress={() => setPicked(c.station)} aria-label={`Show station ${formatStation(c.station, units)}`}>
                  {formatStation(c.station, units)}
                </Quiet>
              ),
            },
            { head: 'Readings', is: 'n', cell: (c) => c.growth.count },
            { head: 'Last read', is: 'n', cell: (c) => mm(c.readings[c.readings.length - 1]?.deviation ?? 0) },
            {
              head: 'At the top',
              is: 'n',
              cell: (c) => (
                <>
                  {Math.abs(c.expected.deviation) > c.rule.limit ? '▲ ' : ''}
                  {mm(c.expected.deviation)}
                </>
              ),
            },
            { head: 'Give or take', is: 'n', cell: (c) => formatSmall(c.expected.band, units) },
            {
              head: 'Leaves at',
              cell: (c) =>
                c.growth.leaves ? `course ${c.growth.leaves}` : c.growth.mayLeave ? `perhaps course ${c.growth.mayLeave}` : 'stays inside',
            },
            { head: 'Smallest correction', is: 'wrap', cell: (c) => say(correctionWords(c, sense), units) },
          ]}
        />
      ) : null}
    </WallPage>
  )
}
