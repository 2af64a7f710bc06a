import {
  type Adopted,
  adopt,
  type Choice,
  clearances,
  type Drawing,
  decodeText,
  elevationAt,
  type Layout,
  pointAt,
  radiusPoints,
  readDrawing,
  stakesOf,
  toeAt,
  topAt,
  writeLandXml,
  writeSetOutDxf,
  writeStakesCsv,
} from '@stone-tally/core'
import fc from 'fast-check'
import { layoutOf, plain, smallPlan } from './plans'
import { at, circle, planOn } from './walls'

const read = (text: string): Drawing => {
  const made = readDrawing(text)
  if (!made.ok) throw new Error(JSON.stringify(made.problems))
  return made.value
}
const taken = (drawing: Drawing, choice: Choice): Adopted => {
  const made = adopt(drawing, choice)
  if (!made.ok) throw new Error(JSON.stringify(made.problems))
  return made.value
}
const refusal = (text: string, choice: Choice = { line: 'line-1' }): string => {
  const made = readDrawing(text)
  const then = made.ok ? adopt(made.value, choice) : made
  return then.ok ? 'taken' : then.problems.map((p) => `${p.field}: ${p.message}`).join('\n')
}
const dxf = (entities: string, units = '6') =>
  `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n${units}\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`
const line = (layer: string, a: number[], b: number[]) => `0\nLINE\n8\n${layer}\n10\n${a[0]}\n20\n${a[1]}\n30\n0\n11\n${b[0]}\n21\n${b[1]}\n31\n0\n`
const arc = (layer: string, c: number[], r: number, from: number, to: number) =>
  `0\nARC\n8\n${layer}\n10\n${c[0]}\n20\n${c[1]}\n30\n0\n40\n${r}\n50\n${from}\n51\n${to}\n`

/** Compares what came back with what went out, to a hundredth of a millimetre. */
function same(again: Adopted, layout: Layout) {
  const { plan, alignment } = layout
  expect(again.length).toBeCloseTo(plan.length, 4)
  expect(again.alignment.closed).toBe(alignment.closed)
  expect(again.alignment.vertices).toHaveLength(alignment.vertices.length)
  again.alignment.vertices.forEach((v, i) => {
    const was = alignment.vertices[i]
    expect(v.easting).toBeCloseTo(was?.easting ?? Number.NaN, 5)
    expect(v.northing).toBeCloseTo(was?.northing ?? Number.NaN, 5)
    const leaves = alignment.closed || i < alignment.vertices.length - 1
    if (leaves) expect(v.bulge).toBeCloseTo(was?.bulge ?? 0, 5)
  })
  // The same grades at every station; a line in space follows its arcs, so its points need not be the plan's own.
  for (const which of ['toe', 'top'] as const) {
    const line = (again.grades ?? []).map((g) => ({ station: g.station, elevation: g[which] }))
    for (const g of plan.grades) expect(elevationAt(line, g.station)).toBeCloseTo(g[which], 3)
    for (const g of again.grades ?? []) expect(g[which]).toBeCloseTo(which === 'toe' ? toeAt(plan, g.station) : topAt(plan, g.station), 3)
  }
}
const byName = (d: Drawing, name: string) => d.profiles.find((p) => p.name === name)?.id ?? d.lines.find((l) => l.layer === name)?.id ?? ''

const walls = fc
  .record({
    x: fc.integer({ min: -4000, max: 480_000 }),
    parts: fc.array(
      fc.record({ length: fc.integer({ min: 60, max: 150 }), turn: fc.integer({ min: -35, max: 35 }), arc: fc.constantFrom(0, 0.1, -0.15) }),
      {
        minLength: 1,
        maxLength: 5,
      },
    ),
    ring: fc.boolean(),
  })
  .map(({ x, parts, ring }) => {
    if (ring)
      return planOn(
        circle(8).map((v) => ({ ...v, easting: v.easting + x })),
        true,
      )
    const vertices = [at(x, 100)]
    let angle = 0
    for (const p of parts) {
      const last = vertices[vertices.length - 1] ?? at(x, 100)
      angle += (p.turn * Math.PI) / 180
      vertices[vertices.length - 1] = { ...last, bulge: p.arc }
      vertices.push(at(last.easting + (p.length / 10) * Math.cos(angle), last.northing + (p.length / 10) * Math.sin(angle)))
    }
    return planOn(vertices, false)
  })
  .map((plan) => ({
    ...plan,
    grades: [0, 0.3, 0.7, 1]
      .map((s) => ({ station: Math.round(plan.length * s * 1000) / 1000, toe: 10 + s, top: 11.5 + s / 2 }))
      .map((g, i) => (i === 3 ? { ...g, station: plan.length } : g)),
  }))

describe('out and in again', () => {
  test.each([
    ['LandXML', (layout: Layout) => writeLandXml(layout, '2026-05-20T08:00:00Z')],
    ['DXF', writeSetOutDxf],
    ['CSV', writeStakesCsv],
  ])('%s gives the same wall', (kind, write) => {
    fc.assert(
      fc.property(walls, (plan) => {
        const layout = layoutOf(plan)
        const drawing = read(write(layout))
        const face = kind === 'LandXML' ? 'line-1' : byName(drawing, 'FACE')
        const choice = {
          line: face,
          unit: 'm' as const,
          toe: byName(drawing, kind === 'LandXML' ? 'toe' : 'TOE'),
          top: byName(drawing, kind === 'LandXML' ? 'top' : 'TOP'),
        }
        same(taken(drawing, choice), layout)
      }),
      { numRuns: 30, seed: 9 },
    )
  })
})

describe('DXF', () => {
  test('lines and arcs of a layer, drawn in any order and direction, are one line', () => {
    const drawing = read(
      dxf(arc('WALL', [10, 5], 5, 270, 360) + line('WALL', [15, 12], [15, 5]) + line('WALL', [10, 0], [0, 0]) + line('OTHER', [0, 9], [1, 9])),
    )
    const wall = drawing.lines.find((l) => l.layer === 'WALL')
    expect(wall?.vertices).toHaveLength(4)
    expect(Math.max(...(wall?.vertices.map((v) => Math.abs(v.bulge ?? 0)) ?? []))).toBeCloseTo(Math.tan(Math.PI / 8), 9)
    const made = taken(drawing, { line: wall?.id ?? '' })
    expect(made.length).toBeCloseTo(10 + (Math.PI / 2) * 5 + 7, 6)
    expect(drawing.layers).toContainEqual({ name: 'OTHER', lines: 1 })
  })
  test('millimetres by its own header, feet by choice where the header is silent', () => {
    expect(taken(read(dxf(line('W', [0, 0], [9000, 0]), '4')), { line: 'line-1' }).length).toBeCloseTo(9, 9)
    expect(refusal(dxf(line('W', [0, 0], [30, 0]), '0'))).toMatch(/unit: the file does not say its unit/)
    expect(taken(read(dxf(line('W', [0, 0], [30, 0]), '0')), { line: 'line-1', unit: 'ft' }).length).toBeCloseTo(9.144, 9)
  })
  test('what is no line of a wall is reported, not half taken', () => {
    const spline = '0\nSPLINE\n8\nW\n70\n8\n71\n3\n'
    const drawing = read(dxf(`${line('W', [0, 0], [5, 0]) + spline}0\nTEXT\n8\nN\n10\n0\n20\n0\n40\n1\n1\nhello\n`))
    expect(drawing.ignored.map((i) => [i.what, i.count])).toEqual(
      expect.arrayContaining([
        ['SPLINE', 1],
        ['TEXT', 1],
      ]),
    )
  })
  test.each([
    ['metres that are millimetres', dxf(line('W', [0, 0], [9000, 0])), /unit: read in m the wall is 9000.0 m long.*millimetres or feet/],
    [
      'a line that crosses itself',
      dxf(line('W', [0, 0], [10, 0]) + line('W', [10, 0], [10, 5]) + line('W', [10, 5], [5, -5])),
      /W 1: vertices\[\d\]: the line crosses itself at E 7.50, N 0.00/,
    ],
    ['cut off in the middle', `${dxf(line('W', [0, 0], [5, 0])).slice(0, -40)}`, /is cut off: it has no end/],
    ['no drawing at all', 'hello world', /file: has one column only/],
    ['empty', '   ', /file: is empty/],
  ])('%s', (_name, text, message) => expect(refusal(text)).toMatch(message))
  test('a layer with nothing on it is named when nothing is chosen', () => {
    const empty = '0\nSECTION\n2\nTABLES\n0\nTABLE\n2\nLAYER\n70\n1\n0\nLAYER\n2\nFENCE\n70\n0\n62\n7\n6\nCONTINUOUS\n0\nENDTAB\n0\nENDSEC\n'
    const text = dxf(line('W', [0, 0], [5, 0])).replace('0\nSECTION\n2\nENTITIES', `${empty}0\nSECTION\n2\nENTITIES`)
    expect(refusal(text, { line: '' })).toMatch(/nothing on layer FENCE/)
  })
  test('doubled points are left out and said', () => {
    const made = taken(read(dxf('0\nLWPOLYLINE\n8\nW\n90\n4\n70\n0\n10\n0\n20\n0\n10\n5\n20\n0\n10\n5\n20\n0\n10\n9\n20\n0\n')), { line: 'line-1' })
    expect([made.length, made.notes]).toEqual([9, ['1 doubled points were left out']])
  })
})

describe('LandXML', () => {
  const wrap = (inside: string, unit = '<Metric linearUnit="meter"/>') =>
    `<?xml version="1.0"?><LandXML version="1.2"><Units>${unit}</Units>${inside}</LandXML>`
  const alignment = (geometry: string, more = '') =>
    `<Alignments><Alignment name="A" staStart="100"><CoordGeom>${geometry}</CoordGeom>${more}</Alignment></Alignments>`
  test('US survey feet, stations that start at 100, a vertical curve', () => {
    const profile =
      '<Profile><ProfAlign name="toe"><PVI>100 30</PVI><ParaCurve length="20">130 33</ParaCurve><PVI>160 33</PVI></ProfAlign><ProfAlign name="top"><PVI>100 40</PVI><PVI>160 42</PVI></ProfAlign></Profile>'
    const drawing = read(wrap(alignment('<Line><Start>0 0</Start><End>0 60</End></Line>', profile), '<Imperial linearUnit="USSurveyFoot"/>'))
    expect(drawing.unit).toBe('usft')
    const made = taken(drawing, { line: 'line-1', toe: 'profile-1', top: 'profile-2' })
    const foot = 1200 / 3937
    expect(made.length).toBeCloseTo(60 * foot, 6)
    const crown = made.grades?.find((g) => Math.abs(g.station - 30 * foot) < 1e-6)
    // The parabola stays below its point of intersection by A·L/8: a change of 0.1 over 20.
    expect(crown?.toe).toBeCloseTo((33 - (0.1 * 20) / 8) * foot, 6)
  })
  test.each([
    ['entities', '<!DOCTYPE x [<!ENTITY a "b">]><LandXML/>', /document type or entities/],
    ['broken XML', '<LandXML><Units></LandXML>', /not whole XML.*line 1/],
    ['another XML', '<svg/>', /not LandXML/],
    ['a spiral', wrap(alignment('<Line><Start>0 0</Start><End>0 9</End></Line><Spiral/>')), /alignment "A": has a spiral/],
    [
      'a gap',
      wrap(alignment('<Line><Start>0 0</Start><End>0 9</End></Line><Line><Start>0 11</Start><End>0 20</End></Line>')),
      /has a gap: element 2 starts 2.00/,
    ],
    ['an arc without centre', wrap(alignment('<Curve rot="cw"><Start>0 0</Start><End>0 9</End></Curve>')), /the arc at element 1 has no centre/],
    ['no unit', wrap(alignment('<Line><Start>0 0</Start><End>0 9</End></Line>'), ''), /unit: the file does not say its unit/],
    ['no alignment chosen', wrap(''), /line: choose a line; there are 0/],
  ])('%s is refused in plain words', (_name, text, message) => expect(refusal(text)).toMatch(message))
  test('grades that cross are named with their station', () => {
    const profile =
      '<Profile><ProfAlign name="toe"><PVI>100 10</PVI><PVI>110 12</PVI></ProfAlign><ProfAlign name="top"><PVI>100 11</PVI><PVI>110 11</PVI></ProfAlign></Profile>'
    const text = wrap(alignment('<Line><Start>0 0</Start><End>0 10</End></Line>', profile))
    expect(refusal(text, { line: 'line-1', toe: 'profile-1', top: 'profile-2' })).toMatch(
      /the grades cross: at station 10.00 m the top 11.00 is not above the toe 12.00/,
    )
  })
})

describe('points', () => {
  test('columns by name, in any order, with decimal commas', () => {
    const drawing = read('Code;Easting;Northing;Elevation;Point\nFACE;0,5;1;10;1\nFACE;9,5;1;10;2\n')
    expect(taken(drawing, { line: 'line-1', unit: 'm' }).length).toBeCloseTo(9, 9)
  })
  test('without a header the order of axes is asked, then used', () => {
    const text = '1,100,0,5,FACE\n2,100,9,5,FACE\nthree,x,y\n'
    expect(refusal(text, { line: 'line-1', unit: 'm' })).toMatch(/axes: the file does not say/)
    const made = readDrawing(text, 'northing-first')
    if (!made.ok) throw new Error('unread')
    expect(taken(made.value, { line: 'line-1', unit: 'm' }).alignment.vertices[1]).toMatchObject({ easting: 9, northing: 100 })
    expect(made.value.ignored).toEqual([expect.objectContaining({ what: 'line 3' })])
  })
  test('a header without northing is refused', () => expect(refusal('a,b,c\n1,2,3\n')).toMatch(/header: names no northing and easting/))
  test('grades far from the wall, or with a long gap, are said', () => {
    const rows = (z: number, y: number, code: string) => [0, 40].map((x) => `${x},${y},${z},${code}`).join('\n')
    const text = (y: number) => `easting,northing,elevation,code\n0,0,,FACE\n40,0,,FACE\n${rows(10, y, 'TOE')}\n${rows(12, 0, 'TOP')}\n`
    const choice = { line: 'line-1', unit: 'm' as const, toe: 'line-2', top: 'line-3' }
    expect(taken(read(text(0)), choice).notes).toContain('the toe grade has a gap of 40.0 m after station 0.0 m; it is taken as straight')
    expect(refusal(text(60), choice)).toMatch(/toe: "TOE" runs more than 25 m from the wall/)
  })
})

describe('encodings and size', () => {
  const bytes = (text: string) => new TextEncoder().encode(text)
  test('UTF-8, UTF-16 and single bytes are read, binary and giants refused', () => {
    expect(decodeText(bytes('Böschung'))).toMatchObject({ ok: true, value: { text: 'Böschung', encoding: 'utf-8' } })
    expect(decodeText(new Uint8Array([0x42, 0xf6, 0x73]))).toMatchObject({ ok: true, value: { text: 'Bös', encoding: 'windows-1252' } })
    expect(decodeText(new Uint8Array([0xff, 0xfe, 0x42, 0, 0x6f, 0]))).toMatchObject({ ok: true, value: { text: 'Bo' } })
    expect(decodeText(new Uint8Array([1, 0, 2]))).toMatchObject({ ok: false, problems: [{ message: expect.stringContaining('is binary') }] })
    expect(decodeText(new Uint8Array(100 * 1024 * 1024))).toMatchObject({
      ok: false,
      problems: [{ message: expect.stringMatching(/is 100 MB; at most 40 MB/) }],
    })
    expect(decodeText(new Uint8Array(0))).toMatchObject({ ok: false })
  })
})

describe('set-out', () => {
  const layout = layoutOf({
    ...planOn([at(0, 0), at(10, 0, Math.tan(Math.PI / 8)), at(16, 6)], false),
    obstacles: [
      { name: 'oak', kind: 'tree', points: [{ easting: 5, northing: 5 }], radius: 0.5, clearance: 1.5 },
      {
        name: 'gas',
        kind: 'service',
        points: [
          { easting: 2, northing: 1 },
          { easting: 2, northing: -4 },
        ],
        clearance: 0.6,
      },
      { name: 'shed', kind: 'structure', points: [{ easting: 4, northing: -3 }], radius: 1, clearance: 1 },
    ],
  })
  test('stakes at ends, tangent points and along arcs, a metre in front, with cut and elevations', () => {
    const stakes = stakesOf(layout)
    expect(stakes[0]).toMatchObject({ name: 'S1', station: 0, why: 'end of wall, outlet', bearing: 90 })
    expect(stakes[0]?.stake).toMatchObject({ easting: expect.closeTo(0, 6), northing: -1 })
    expect(stakes.filter((s) => s.why.includes('arc')).length).toBeGreaterThan(1)
    for (const s of stakes) {
      const face = pointAt(layout.alignment, s.station)
      expect(Math.hypot(s.stake.easting - face.easting, s.stake.northing - face.northing)).toBeCloseTo(1, 6)
      expect(s.toe - s.cut).toBeCloseTo(s.dig, 9)
    }
  })
  test('radius points: centre in the fill for a bend to the left', () => {
    expect(radiusPoints(layout.alignment)).toEqual([
      {
        element: 1,
        from: 10,
        to: expect.closeTo(layout.alignment.length, 6),
        centre: { easting: expect.closeTo(10, 6), northing: expect.closeTo(6, 6) },
        radius: expect.closeTo(6, 6),
        degrees: expect.closeTo(90, 6),
        inFill: true,
      },
    ])
  })
  test('clearances: what stands in the dig, what is too near, what is clear', () => {
    const found = clearances(layout)
    expect(found.map((c) => c.ok)).toEqual([true, false, true])
    // The oak's trunk: 5 m behind the face, less the room behind, the back-slope and its radius.
    const [back, depth] = [0.3 + 1.2, 11.3 - (layout.steps[0]?.elevation ?? 0) + 0.15]
    expect(found[0]?.distance).toBeCloseTo(5 - back - 0.5 * depth - 0.5, 2)
    expect(plain(found[1]?.message)).toMatch(/gas stands in the excavation at station 2.0 m/)
    expect(found[2]?.distance).toBeCloseTo(3 - 0.15 - 1, 6)
  })
})

test('a plan without an alignment can be exported too', () => {
  expect(writeStakesCsv(layoutOf(smallPlan)).split('\n')[1]).toBe('F1,0,0,,FACE,,0,,0')
})
