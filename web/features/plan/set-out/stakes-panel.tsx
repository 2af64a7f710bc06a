'use client'

import { formatLength, radiusPoints, say, stakesOf, type UnitSystem, writeLandXml, writeSetOutDxf, writeStakesCsv } from '@stone-tally/core'
import { Quiet, Row, Stack } from '@/ui/controls'
import { Table } from '@/ui/table'
import type { Draft } from './use-draft'

const saved = (name: string, content: string, type: string) => {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([content], { type }))
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}

/** Stakes and radius points as tables, and out as files. */
export function StakesPanel({ draft, units }: { draft: Draft; units: UnitSystem }) {
  const { layout } = draft
  const stakes = stakesOf(layout)
  // The unit stands once, over its column.
  const f = (v: number) => formatLength(v, units).replace(/ m$/, '')
  const u = units === 'metric' ? ', m' : ''
  const file = layout.plan.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')
  return (
    <Stack>
      <Row style={{ gap: 6 }}>
        <Quiet onPress={() => saved(`${file}-stakes.csv`, writeStakesCsv(layout), 'text/csv')}>CSV</Quiet>
        <Quiet onPress={() => saved(`${file}.dxf`, writeSetOutDxf(layout), 'image/vnd.dxf')}>DXF</Quiet>
        <Quiet onPress={() => saved(`${file}.xml`, writeLandXml(layout, new Date().toISOString()), 'application/xml')}>LandXML</Quiet>
      </Row>
      <p style={{ color: 'var(--soft)' }}>
        Stakes stand 1 m in front of the face; what is written on them is the cut from toe grade to the bottom of the dig.
      </p>
      <Table
        label="Stakes"
        rows={stakes}
        id={(s) => s.name}
        columns={[
          { head: 'Stake', cell: (s) => <strong>{s.name}</strong> },
          { head: <>Station{u}</>, is: 'n', cell: (s) => f(s.station) },
          { head: <>East{u}</>, is: 'n', cell: (s) => f(s.stake.easting) },
          { head: <>North{u}</>, is: 'n', cell: (s) => f(s.stake.northing) },
          { head: <>Pad{u}</>, is: 'n', cell: (s) => f(s.pad) },
          { head: <>Cut{u}</>, is: 'n', cell: (s) => <strong>{f(s.cut)}</strong> },
          { head: 'Why here', is: 'wrap', cell: (s) => say(s.why, units) },
        ]}
      />
      {radiusPoints(layout.alignment).length > 0 ? (
        <>
          <h2>Radius points</h2>
          <Table
            label="Radius points"
            rows={radiusPoints(layout.alignment)}
            id={(r) => r.element}
            columns={[
              { head: <>From{u}</>, is: 'n', cell: (r) => f(r.from) },
              { head: <>To{u}</>, is: 'n', cell: (r) => f(r.to) },
              { head: <>Radius{u}</>, is: 'n', cell: (r) => <strong>{f(r.radius)}</strong> },
              { head: 'Angle', is: 'n', cell: (r) => <>{r.degrees.toFixed(1)}°</> },
              { head: <>East{u}</>, is: 'n', cell: (r) => f(r.centre.easting) },
              { head: <>North{u}</>, is: 'n', cell: (r) => f(r.centre.northing) },
              { head: 'Centre lies', cell: (r) => (r.inFill ? 'in the fill' : 'in front') },
            ]}
          />
        </>
      ) : null}
    </Stack>
  )
}
