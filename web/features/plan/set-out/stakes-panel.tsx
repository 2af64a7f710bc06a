'use client'

import { formatLength, radiusPoints, say, stakesOf, type UnitSystem, writeLandXml, writeSetOutDxf, writeStakesCsv } from '@stone-tally/core'
import { Quiet, Row, Stack } from '@/ui/controls'
import { Wide } from './typed'
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
      <Wide>
        <table>
          <thead>
            <tr>
              <th>Stake</th>
              <th className="n">Station{u}</th>
              <th className="n">East{u}</th>
              <th className="n">North{u}</th>
              <th className="n">Pad{u}</th>
              <th className="n">Cut{u}</th>
              <th>Why here</th>
            </tr>
          </thead>
          <tbody>
            {stakes.map((s) => (
              <tr key={s.name}>
                <td>
                  <strong>{s.name}</strong>
                </td>
                <td className="n">{f(s.station)}</td>
                <td className="n">{f(s.stake.easting)}</td>
                <td className="n">{f(s.stake.northing)}</td>
                <td className="n">{f(s.pad)}</td>
                <td className="n">
                  <strong>{f(s.cut)}</strong>
                </td>
                <td>{say(s.why, units)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
      {radiusPoints(layout.alignment).length > 0 ? (
        <>
          <h2>Radius points</h2>
          <Wide>
            <table>
              <thead>
                <tr>
                  <th className="n">From{u}</th>
                  <th className="n">To{u}</th>
                  <th className="n">Radius{u}</th>
                  <th className="n">Angle</th>
                  <th className="n">East{u}</th>
                  <th className="n">North{u}</th>
                  <th>Centre lies</th>
                </tr>
              </thead>
              <tbody>
                {radiusPoints(layout.alignment).map((r) => (
                  <tr key={r.element}>
                    <td className="n">{f(r.from)}</td>
                    <td className="n">{f(r.to)}</td>
                    <td className="n">
                      <strong>{f(r.radius)}</strong>
                    </td>
                    <td className="n">{r.degrees.toFixed(1)}°</td>
                    <td className="n">{f(r.centre.easting)}</td>
                    <td className="n">{f(r.centre.northing)}</td>
                    <td>{r.inFill ? 'in the fill' : 'in front'}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Wide>
        </>
      ) : null}
    </Stack>
  )
}
