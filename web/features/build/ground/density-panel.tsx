'use client'

import {
  curveOf,
  curvesOf,
  densityReport,
  formatDensity,
  formatLength,
  formatStation,
  limitsOf,
  say,
  stepKey,
  unitOf,
  WINDOWS,
} from '@stone-tally/core'
import { useState } from 'react'
import { Finding } from '@/features/wall'
import { Choice, Stack, Stop } from '@/ui/controls'
import { useWidth } from '@/ui/drawing/use-width'
import { Hero } from '@/ui/figure'
import { Table } from '@/ui/table'
import { DensityChart } from './density-chart'
import { CurveForm, TestForm } from './density-forms'
import { Halves } from './dig-panel'
import { type GroundProps, padStep } from './types'

/** Laboratory curves, field tests against them, what is owed, and tests done again after rework. */
export function DensityPanel(props: GroundProps) {
  const { state, section, units, me, record, finding, wall, tested: asked } = props
  const pad = padStep(state, section)
  // Fill behind the wall is tested as the pad is, course by course, where lifts were placed.
  const lifted = state.steps.filter((s) => s.section === section && s.stage.work.type === 'lifts' && s.key !== pad?.key && state.logs.has(s.key))
  const places = [...(pad ? [pad] : []), ...lifted]
  const [where, setWhere] = useState<string>()
  const tested = finding ? stepKey(state.byId.get(finding)?.entry.where ?? {}) : asked
  const step = places.find((s) => s.key === (where ?? tested)) ?? places.find((s) => densityReport(state, s.key).owed > 0) ?? pad
  const report = densityReport(state, step?.key)
  const curves = curvesOf(state)
  const [chosen, setChosen] = useState<string>()
  const [box, width] = useWidth<HTMLDivElement>(620)
  const one = curves.find((c) => c.entry.entry.id === chosen) ?? curves[curves.length - 1]
  const curve = one ? curveOf(one.data) : undefined
  const open = report.tests.filter((t) => t.out && !t.closed)
  return (
    <Halves>
      <Stack>
        {curves.length > 1 ? (
          <Choice
            label="Material"
            value={one?.entry.entry.id ?? ''}
            options={curves.map((c) => [c.entry.entry.id, c.data.name] as const)}
            onChange={setChosen}
          />
        ) : null}
        <div ref={box}>
          {one && curve?.ok ? (
            <DensityChart
              accepted={limitsOf(state.layout.plan).compaction.value}
              data={one.data}
              curve={curve.value}
              window={WINDOWS.pad}
              tests={report.tests.filter((t) => t.data.curve === one.entry.entry.id)}
              width={width}
              height={Math.min(380, Math.max(280, width * 0.6))}
            />
          ) : (
            <p>No laboratory curve yet. Without one a density says nothing: enter the report of the material, or keep a method record.</p>
          )}
        </div>
        {one?.data.oversize ? (
          <p style={{ fontSize: 15, color: 'var(--soft)' }}>
            Corrected for {one.data.oversize.share} % coarse particles: the curve drawn is the matrix, the maximum that of the whole material.
          </p>
        ) : null}
        {report.tests.length > 0 ? (
          <Table
            label="Density tests"
            rows={report.tests}
            id={(t) => t.entry.entry.id}
            columns={[
              { head: 'Station', cell: (t) => (t.entry.entry.where.station === undefined ? '—' : formatStation(t.entry.entry.where.station, units)) },
              { head: 'Lift', is: 'n', cell: (t) => t.data.lift },
              { head: 'How', cell: (t) => (t.data.method === 'gauge' ? 'gauge' : t.data.method === 'sand-cone' ? 'sand cone' : 'method') },
              {
                head: <>Dry, {unitOf('density', units)}</>,
                is: 'n',
                cell: (t) => (t.result ? formatDensity(t.result.dryDensity, units).split(' ')[0] : '—'),
              },
              { head: 'Moisture, %', is: 'n', cell: (t) => (t.result ? t.result.moisture : '—') },
              {
                head: 'Judged',
                is: 'wrap',
                cell: (t) => (
                  <>
                    {t.out ? (t.closed ? '◆ failed, reworked: ' : '▲ ') : '✓ '}
                    {say(t.text, units)}
                  </>
                ),
              },
            ]}
          />
        ) : null}
      </Stack>
      <Stack data-entry>
        {places.length > 1 ? (
          <Choice
            label="Lifts of"
            value={step?.key ?? ''}
            options={places.map((s) => [s.key, s.course === undefined ? 'the pad' : `course ${s.course}`] as const)}
            onChange={setWhere}
          />
        ) : null}
        <Hero value={`${report.owed}`} unit={`tests owed of ${report.wanted}: one a lift and ${formatLength(15, units, 0)}`} />
        {open.map((t) => (
          <Stop key={t.entry.entry.id}>
            <Finding
              state={state}
              finding={t.entry}
              me={me}
              record={record}
              rechecking={false}
              onRecheck={() => {}}
              elsewhere={finding === t.entry.entry.id ? undefined : `/walls/${wall}/ground?finding=${t.entry.entry.id}`}
            />
          </Stop>
        ))}
        {step ? (
          <TestForm
            {...props}
            curve={one}
            key={step.key}
            stage={step.stage.id}
            course={step.course}
            lifts={step.lifts?.count ?? 1}
            recheck={open.find((t) => state.actions.has(t.entry.entry.id))?.entry.entry.id}
          />
        ) : null}
        <CurveForm {...props} />
      </Stack>
    </Halves>
  )
}
