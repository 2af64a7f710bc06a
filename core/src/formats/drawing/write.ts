import { DxfWriter, LWPolylineFlags, PolylineFlags, point3d, Units } from '@tarikjabiri/dxf'
import { XMLBuilder } from 'fast-xml-parser'
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

/** Arrow of a chord of an arc that nobody would see on the ground, m. */
const CHORD = 0.002

/** The grades as lines in space: at every station they are given at, round every corner and along every arc of the face. */
function gradeLine(layout: Layout) {
  const { alignment, plan } = layout
  const stations = new Set<number>(plan.grades.map((g) => g.station))
  for (const s of alignment.segments) {
    stations.add(s.station)
    if (s.kind !== 'arc') continue
    const step = 2 * Math.sqrt(2 * s.radius * CHORD)
    const pieces = Math.max(1, Math.ceil(s.length / step))
    for (let k = 1; k < pieces; k++) stations.add(s.station + (s.length * k) / pieces)
  }
  return [...stations]
    .filter((s) => s <= plan.length + 1e-9)
    .sort((a, b) => a - b)
    .map((station) => {
      const p = pointAt(alignment, station)
      return { station, easting: p.easting, northing: p.northing, toe: toeAt(plan, station), top: topAt(plan, station) }
    })
}

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
      gradeLine(layout).map((g) => ({ point: point3d(g.easting, g.northing, g[which]) })),
      { flags: PolylineFlags.Polyline3D },
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

/** An element as the XML library writes it: attributes with `@_`. */
type Element = { readonly [name: string]: unknown }

/**
 * The face line with its toe and top profiles, and the stakes, as LandXML 1.2 in metres.
 *
 * @param written - when, as 2026-05-20T08:00:00Z; the core has no clock
 * @example writeLandXml(layout, new Date().toISOString())
 */
export function writeLandXml(layout: Layout, written: string): string {
  const { alignment, plan } = layout
  const at = (p: { easting: number; northing: number }) => `${n(p.northing)} ${n(p.easting)}`
  // One key for each name keeps the order of straights and arcs; the library writes lists of one name together, so each is its own part.
  const elements = alignment.segments.map(
    (s): Element =>
      s.kind === 'line'
        ? {
            Line: [{ Start: [{ '#text': at(s.from) }] }, { End: [{ '#text': at(s.to) }] }],
            ':@': { '@_staStart': n(s.station), '@_length': n(s.length) },
          }
        : {
            Curve: [{ Start: [{ '#text': at(s.from) }] }, { Center: [{ '#text': at(s.centre) }] }, { End: [{ '#text': at(s.to) }] }],
            ':@': {
              '@_rot': s.sweep > 0 ? 'ccw' : 'cw',
              '@_staStart': n(s.station),
              '@_length': n(s.length),
              '@_radius': n(s.radius),
              '@_crvType': 'arc',
            },
          },
  )
  const profile = (name: string, which: 'toe' | 'top'): Element => ({
    ProfAlign: plan.grades.map((g) => ({ PVI: [{ '#text': `${n(g.station)} ${n(g[which])}` }] })),
    ':@': { '@_name': name },
  })
  const metric = {
    areaUnit: 'squareMeter',
    linearUnit: 'meter',
    volumeUnit: 'cubicMeter',
    temperatureUnit: 'celsius',
    pressureUnit: 'HPA',
  }
  const attributes = (o: Readonly<Record<string, string>>) => Object.fromEntries(Object.entries(o).map(([k, v]) => [`@_${k}`, v]))
  const [date, time = ''] = written.split('T')
  const tree: Element[] = [
    { '?xml': [{ '#text': '' }], ':@': { '@_version': '1.0', '@_encoding': 'UTF-8' } },
    {
      LandXML: [
        { Units: [{ Metric: [], ':@': attributes(metric) }] },
        {
          Alignments: [
            {
              Alignment: [{ CoordGeom: elements }, { Profile: [profile('toe', 'toe'), profile('top', 'top')], ':@': { '@_name': 'grades' } }],
              ':@': { '@_name': plan.name, '@_length': n(alignment.length), '@_staStart': '0' },
            },
          ],
        },
        {
          CgPoints: stakesOf(layout).map((s) => ({
            CgPoint: [{ '#text': `${at(s.stake)} ${n(s.pad)}` }],
            ':@': { '@_name': s.name, '@_code': 'STAKE' },
          })),
        },
      ],
      ':@': attributes({
        xmlns: 'http://www.landxml.org/schema/LandXML-1.2',
        version: '1.2',
        date: date ?? '',
        time: time.replace(/\..*$|Z$/, ''),
      }),
    },
  ]
  const builder = new XMLBuilder({ preserveOrder: true, ignoreAttributes: false, suppressEmptyNode: true, processEntities: true, format: true })
  return `${builder.build(tree).trim()}\n`
}
