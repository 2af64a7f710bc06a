import { DxfWriter, LWPolylineFlags, PolylineFlags, point3d, Units } from '@tarikjabiri/dxf'
import Papa from 'papaparse'
import { pointAt } from '../../geometry'
import { type Layout, lineBeside, radiusPoints, stakesOf, trenchOf } from '../../layout'
import { toeAt, topAt } from '../../plan'

/** Decimals that survive a way there and back: a micrometre. */
const n = (v: number) => String(Math.round(v * 1e6) / 1e6)

/** Grade points on the ground, in the order of stations. */
const gradePoints = (layout: Layout) =>
  layout.plan.grades.map((g) => {
    const p = pointAt(layout.alignment, g.station)
    return { station: g.station, easting: p.easting, northing: p.northing, toe: toeAt(layout.plan, g.station), top: topAt(layout.plan, g.station) }
  })

/**
 * Stakes, the points of the face line and the grades as survey points: point, northing, easting, elevation, code; for those
 * who need them station, offset, cut and the bulge of an arc. Codes FACE, TOE and TOP read in again as the same wall.
 *
 * @example writeStakesCsv(layout).split('\n')[0]
 */
export function writeStakesCsv(layout: Layout): string {
  const rows: (string | number)[][] = []
  const vertices = layout.alignment.vertices
  const around = layout.alignment.closed ? [...vertices, vertices[0] as (typeof vertices)[number]] : vertices
  around.forEach((v, i) => {
    rows.push([`F${i + 1}`, n(v.northing), n(v.easting), '', 'FACE', '', 0, '', String(v.bulge ?? 0)])
  })
  gradePoints(layout).forEach((g, i) => {
    rows.push([`T${i + 1}`, n(g.northing), n(g.easting), n(g.toe), 'TOE', n(g.station), 0, '', 0])
  })
  gradePoints(layout).forEach((g, i) => {
    rows.push([`G${i + 1}`, n(g.northing), n(g.easting), n(g.top), 'TOP', n(g.station), 0, '', 0])
  })
  for (const s of stakesOf(layout))
    rows.push([s.name, n(s.stake.northing), n(s.stake.easting), n(s.pad), `STAKE ${s.why}`, n(s.station), n(s.offset), n(s.cut), 0])
  radiusPoints(layout.alignment).forEach((r, i) => {
    rows.push([`R${i + 1}`, n(r.centre.northing), n(r.centre.easting), '', `CENTRE R ${n(r.radius)}`, n(r.from), '', '', 0])
  })
  return `${Papa.unparse({ fields: ['point', 'northing', 'easting', 'elevation', 'code', 'station', 'offset', 'cut', 'bulge'], data: rows }, { newline: '\n' })}\n`
}

/**
 * The set-out as a DXF in metres: face line with its arcs, toe and top in three dimensions, trench edges, stakes with names.
 *
 * @example writeSetOutDxf(layout)
 */
export function writeSetOutDxf(layout: Layout): string {
  const dxf = new DxfWriter()
  dxf.setUnits(Units.Meters)
  const layer = (name: string, color: number) => {
    dxf.addLayer(name, color, 'CONTINUOUS')
    dxf.setCurrentLayerName(name)
  }
  const { alignment, plan } = layout
  layer('FACE', 6)
  dxf.addLWPolyline(
    alignment.vertices.map((v) => ({ point: { x: v.easting, y: v.northing }, bulge: v.bulge ?? 0 })),
    { flags: alignment.closed ? LWPolylineFlags.Closed : LWPolylineFlags.None },
  )
  for (const [name, which] of [
    ['TOE', 'toe'],
    ['TOP', 'top'],
  ] as const) {
    layer(name, 3)
    dxf.addPolyline3D(
      gradePoints(layout).map((g) => ({ point: point3d(g.easting, g.northing, g[which]) })),
      { flags: PolylineFlags.None },
    )
  }
  const { front, back } = trenchOf(plan)
  layer('TRENCH', 8)
  for (const offset of [front, back]) dxf.addLWPolyline(lineBeside(alignment, offset).map((p) => ({ point: { x: p.easting, y: p.northing } })))
  layer('STAKES', 1)
  for (const s of stakesOf(layout)) {
    dxf.addPoint(s.stake.easting, s.stake.northing, s.pad)
    dxf.addText(point3d(s.stake.easting + 0.1, s.stake.northing + 0.1, s.pad), 0.15, `${s.name} ${s.station.toFixed(2)} cut ${s.cut.toFixed(3)}`)
  }
  layer('CENTRES', 5)
  for (const r of radiusPoints(alignment)) dxf.addPoint(r.centre.easting, r.centre.northing, 0)
  return dxf.stringify()
}

const plainText = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`)

/**
 * The face line with its toe and top profiles, and the stakes, as LandXML 1.2 in metres.
 *
 * @example writeLandXml(layout)
 */
export function writeLandXml(layout: Layout): string {
  const { alignment, plan } = layout
  const at = (p: { easting: number; northing: number }) => `${n(p.northing)} ${n(p.easting)}`
  const elements = alignment.segments.map((s) =>
    s.kind === 'line'
      ? `<Line staStart="${n(s.station)}" length="${n(s.length)}"><Start>${at(s.from)}</Start><End>${at(s.to)}</End></Line>`
      : `<Curve rot="${s.sweep > 0 ? 'ccw' : 'cw'}" staStart="${n(s.station)}" length="${n(s.length)}" radius="${n(s.radius)}" crvType="arc"><Start>${at(s.from)}</Start><Center>${at(s.centre)}</Center><End>${at(s.to)}</End></Curve>`,
  )
  const profile = (name: string, which: 'toe' | 'top') =>
    `<ProfAlign name="${name}">${plan.grades.map((g) => `<PVI>${n(g.station)} ${n(g[which])}</PVI>`).join('')}</ProfAlign>`
  const stakes = stakesOf(layout).map((s) => `<CgPoint name="${s.name}" code="STAKE">${at(s.stake)} ${n(s.pad)}</CgPoint>`)
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<LandXML xmlns="http://www.landxml.org/schema/LandXML-1.2" version="1.2">',
    '<Units><Metric areaUnit="squareMeter" linearUnit="meter" volumeUnit="cubicMeter" temperatureUnit="celsius" pressureUnit="HPA"/></Units>',
    '<Alignments>',
    `<Alignment name="${plainText(plan.name)}" length="${n(alignment.length)}" staStart="0">`,
    `<CoordGeom>${elements.join('')}</CoordGeom>`,
    `<Profile name="grades">${profile('toe', 'toe')}${profile('top', 'top')}</Profile>`,
    '</Alignment>',
    '</Alignments>',
    `<CgPoints>${stakes.join('')}</CgPoints>`,
    '</LandXML>',
    '',
  ].join('\n')
}
