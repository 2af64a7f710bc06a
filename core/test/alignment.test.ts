import { type Alignment, alignmentOf, cornersOf, type OffsetLine, offsetOf, pointAt, reversed, stationOf, type Vertex } from '@stone-tally/core'
import fc from 'fast-check'
import { plain } from './plans'

const made = (vertices: readonly Vertex[], closed = false): Alignment => {
  const a = alignmentOf(vertices, closed)
  if (!a.ok) throw new Error(JSON.stringify(a.problems))
  return a.value
}
const beside = (a: Alignment, offset: number): OffsetLine => {
  const o = offsetOf(a, offset)
  if (!o.ok) throw new Error(JSON.stringify(o.problems))
  return o.value
}
const tan = (degrees: number) => Math.tan((degrees * Math.PI) / 720)
const ring = made(
  [
    { easting: 10, northing: 0, bulge: 1 },
    { easting: -10, northing: 0, bulge: 1 },
  ],
  true,
)

/** Walls that wander: straights and arcs, each going on with a turn of its own. */
const wanderings = fc
  .record({
    start: fc.record({ easting: fc.integer({ min: -500, max: 500 }), northing: fc.integer({ min: -500, max: 500 }) }),
    steps: fc.array(
      fc.record({ length: fc.integer({ min: 50, max: 200 }), turn: fc.integer({ min: -40, max: 40 }), arc: fc.constantFrom(0, 0, 30, 60, -30, -60) }),
      { minLength: 2, maxLength: 6 },
    ),
  })
  .map(({ start, steps }) => {
    const vertices: Vertex[] = [{ ...start }]
    let angle = 0
    for (const s of steps) {
      const last = vertices[vertices.length - 1] as Vertex
      angle += (s.turn * Math.PI) / 180
      vertices[vertices.length - 1] = { ...last, bulge: tan(s.arc) }
      vertices.push({ easting: last.easting + (s.length / 10) * Math.cos(angle), northing: last.northing + (s.length / 10) * Math.sin(angle) })
    }
    return vertices
  })
  .filter((v) => alignmentOf(v, false).ok)

describe('alignment', () => {
  test('lines and arcs: lengths, points and bearings', () => {
    // East 10 m, then a quarter circle of 5 m to the north.
    const a = made([
      { easting: 0, northing: 0 },
      { easting: 10, northing: 0, bulge: tan(90) },
      { easting: 15, northing: 5 },
    ])
    expect(a.length).toBeCloseTo(10 + (Math.PI / 2) * 5, 9)
    expect(pointAt(a, 4)).toMatchObject({ easting: 4, northing: 0, bearing: 90 })
    const middle = pointAt(a, 10 + (Math.PI / 4) * 5, 1)
    expect(middle.easting).toBeCloseTo(10 + 4 * Math.SQRT1_2, 9)
    expect(middle.northing).toBeCloseTo(5 - 4 * Math.SQRT1_2, 9)
    expect(middle.bearing).toBeCloseTo(45, 9)
  })
  test('a circle of two arcs, and the fill inside it', () => {
    expect(ring.length).toBeCloseTo(2 * Math.PI * 10, 9)
    expect(beside(ring, 2).length).toBeCloseTo(2 * Math.PI * 8, 9)
    expect(cornersOf(ring)).toEqual([])
  })
  test('corners: outside to the left, inside to the right, kinks are none', () => {
    const a = made([
      { easting: 0, northing: 0 },
      { easting: 10, northing: 0 },
      { easting: 10, northing: 5 },
      { easting: 20, northing: 5 },
      { easting: 30, northing: 5.2 },
    ])
    expect(cornersOf(a).map((c) => [c.vertex, c.station, Math.round((c.turn * 180) / Math.PI)])).toEqual([
      [1, 10, 90],
      [2, 15, -90],
    ])
    const back = beside(a, 0.4)
    // The outside corner cuts both legs back, the inside one lengthens both.
    expect(back.elements.slice(0, 3).map((e) => [e.from, e.to].map((x) => Math.round(x * 1000) / 1000))).toEqual([
      [0, 9.6],
      [10.4, 15.4],
      [14.6, expect.closeTo(25, 1)],
    ])
  })
  test.each([
    [
      'a doubled point',
      [
        [0, 0],
        [5, 0],
        [5, 0],
        [9, 0],
      ],
      'vertices[2]',
      /same point/,
    ],
    [
      'a line that crosses itself',
      [
        [0, 0],
        [10, 0],
        [10, 5],
        [5, -5],
      ],
      'vertices[2]',
      /crosses itself at E 7.50, N 0.00: station 7.50 m/,
    ],
    [
      'a line that runs back on itself',
      [
        [0, 0],
        [10, 0],
        [4, 0],
      ],
      'vertices[1]',
      /crosses itself/,
    ],
    [
      'no number',
      [
        [0, 0],
        [Number.NaN, 0],
      ],
      'vertices[1]',
      /not finite|not a point|is not/,
    ],
  ])('%s is refused with its place', (_name, points, field, message) => {
    const a = alignmentOf(
      points.map(([easting, northing]) => ({ easting: easting as number, northing: northing as number })),
      false,
    )
    if (a.ok) throw new Error('taken')
    expect(a.problems.map((p) => p.field)).toContain(field)
    expect(plain(a.problems[0]?.message)).toMatch(message)
  })
  test('an arc that crosses a straight far from their common point', () => {
    const a = alignmentOf(
      [
        { easting: 0, northing: 0 },
        { easting: 10, northing: 0, bulge: -2 },
        { easting: 6, northing: 3 },
      ],
      false,
    )
    expect(a.ok).toBe(false)
  })
  test('a line inside an arc too small for it is refused with the radius', () => {
    const o = offsetOf(
      made([
        { easting: 0, northing: 0, bulge: 1 },
        { easting: 4, northing: 0 },
      ]),
      2.5,
    )
    expect(plain(o)).toMatchObject({ ok: false, problems: [{ field: 'vertices[0].bulge', message: expect.stringContaining('2.00 m') }] })
  })
  test('a leg too short between two outside corners is named', () => {
    const a = made(
      [
        [0, 0],
        [10, 0],
        [10, 0.5],
        [0, 0.5],
      ].map(([easting, northing]) => ({ easting: easting as number, northing: northing as number })),
    )
    expect(offsetOf(a, 0.4)).toMatchObject({ ok: false, problems: [{ field: 'vertices[1]' }] })
  })
  test('stations grow along the line, and the foot of a point beside it is where it came from', () =>
    fc.assert(
      fc.property(wanderings, fc.double({ min: 0.02, max: 0.98, noNaN: true }), (vertices, share) => {
        const a = made(vertices)
        a.segments.forEach((s, i) => {
          const next = a.segments[i + 1]
          if (next) expect(next.station).toBeCloseTo(s.station + s.length, 9)
          expect(s.length).toBeGreaterThan(0)
        })
        const p = pointAt(a, a.length * share)
        expect(stationOf(a, p).away).toBeLessThan(1e-6)
        // Walking on never goes back.
        let last = -1
        for (let k = 0; k <= 40; k++) {
          const station = stationOf(a, pointAt(a, (a.length * k) / 40)).station
          expect(station).toBeGreaterThanOrEqual(last - 1e-6)
          last = station
        }
      }),
      { numRuns: 150, seed: 1 },
    ))
  test('offset there and back gives the line again', () =>
    fc.assert(
      fc.property(wanderings, fc.double({ min: -0.6, max: 0.6, noNaN: true }), (vertices, offset) => {
        const a = made(vertices)
        const o = offsetOf(a, offset)
        if (!o.ok) return
        const line = o.value.elements.map((e) => e.segment)
        const first = line[0]
        if (!first) throw new Error('no line')
        const again = alignmentOf(
          [
            ...line.map((s) => ({ ...s.from, bulge: s.kind === 'arc' ? Math.tan(s.sweep / 4) : 0 })),
            { ...(line[line.length - 1] as (typeof line)[number]).to },
          ],
          false,
        )
        if (!again.ok) return
        const back = beside(again.value, -offset)
        back.elements.forEach((e, i) => {
          expect(e.segment.from.easting).toBeCloseTo((a.vertices[i] as Vertex).easting, 5)
          expect(e.segment.from.northing).toBeCloseTo((a.vertices[i] as Vertex).northing, 5)
        })
        expect(back.length).toBeCloseTo(a.length, 5)
      }),
      { numRuns: 150, seed: 2 },
    ))
  test('concentric arcs are as long as their radii', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 2, max: 200, noNaN: true }),
        fc.integer({ min: 10, max: 300 }),
        fc.double({ min: -1.5, max: 1.5, noNaN: true }),
        (radius, degrees, offset) => {
          const half = (degrees * Math.PI) / 360
          const a = made(
            [
              { easting: 0, northing: 0, bulge: tan(degrees) },
              { easting: 2 * radius * Math.sin(half), northing: 0 },
            ].map((v) => v),
          )
          expect(a.length).toBeCloseTo((radius * degrees * Math.PI) / 180, 6)
          expect(beside(a, offset).length / a.length).toBeCloseTo((radius - offset) / radius, 9)
        },
      ),
      { numRuns: 100 },
    ))
  test('walked the other way the fill changes sides', () => {
    const back = made(reversed(ring.vertices, true), true)
    expect(back.length).toBeCloseTo(ring.length, 9)
    expect(beside(back, 2).length).toBeCloseTo(2 * Math.PI * 12, 9)
    const open: Vertex[] = [
      { easting: 0, northing: 0, bulge: 0.3 },
      { easting: 5, northing: 1, bulge: 0 },
      { easting: 9, northing: 1 },
    ]
    expect(reversed(reversed(open, false), false).map((v) => [v.easting, v.bulge || 0])).toEqual(open.map((v) => [v.easting, v.bulge || 0]))
  })
})
