import {
  adopt,
  type Choice,
  type Drawing,
  type Layout,
  readDrawing,
  readDxf,
  readLandXml,
  readPoints,
  writeLandXml,
  writeSetOutDxf,
  writeStakesCsv,
} from '@stone-tally/core'
import fc from 'fast-check'
import { layoutOf } from './plans'
import { at, circle, planOn } from './walls'

const ok = <T>(made: { ok: true; value: T } | { ok: false; problems: readonly { field: string; message: string }[] }): T => {
  if (!made.ok) throw new Error(JSON.stringify(made.problems))
  return made.value
}
const why = (drawing: Drawing, choice: Choice) => {
  const made = adopt(drawing, choice)
  return made.ok ? 'taken' : made.problems.map((p) => `${p.field}: ${p.message}`).join('\n')
}
const header = '0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n6\n0\nENDSEC\n'
const dxf = (entities: string) => `${header}0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`
const poly = (layer: string, points: number[][], flags = 0) =>
  `0\nPOLYLINE\n8\n${layer}\n66\n1\n70\n${flags}\n${points.map((p) => `0\nVERTEX\n8\n${layer}\n10\n${p[0]}\n20\n${p[1]}\n30\n${p[2] ?? 0}\n42\n${p[3] ?? 0}\n`).join('')}0\nSEQEND\n8\n${layer}\n`

describe('a drawing with more than the wall', () => {
  const text = dxf(
    poly('FACE', [
      [0, 0],
      [10, 0],
    ]) +
      poly(
        'TOE-3D',
        [
          [0, -0.3, 10],
          [5, -0.3, 10.2],
          [10, -0.3, 10.1],
        ],
        8,
      ) +
      poly(
        'TOP-3D',
        [
          [10, 0.4, 12],
          [0, 0.4, 11.8],
        ],
        8,
      ) +
      poly(
        'PATH',
        [
          [0, 40, 1],
          [9, 40, 2],
        ],
        8,
      ) +
      '0\nCIRCLE\n8\nTREE\n10\n4\n20\n6\n40\n1.5\n0\nINSERT\n8\n0\n2\nBLOCK\n10\n0\n20\n0\n',
  )
  const drawing = ok(readDxf(text))
  const id = (layer: string) => drawing.lines.find((l) => l.layer === layer)?.id ?? ''
  test('lists every layer with what lies on it, and what it leaves out', () => {
    expect(drawing.layers.map((l) => [l.name, l.lines])).toEqual(
      expect.arrayContaining([
        ['FACE', 1],
        ['TOE-3D', 1],
        ['TREE', 1],
      ]),
    )
    expect(drawing.ignored).toEqual([{ what: 'blocks that are not in the file', count: 1, why: expect.stringContaining('is missing') }])
  })
  test('grades come from lines in three dimensions, whichever way they were drawn', () => {
    const made = ok(adopt(drawing, { line: id('FACE'), toe: id('TOE-3D'), top: id('TOP-3D') }))
    expect(made.grades).toEqual([
      { station: 0, toe: 10, top: 11.8 },
      { station: 5, toe: 10.2, top: 11.9 },
      { station: 10, toe: 10.1, top: 12 },
    ])
  })
  test('a flat line is no grade, a path far away is another line, one grade alone is none', () => {
    expect(why(drawing, { line: id('FACE'), toe: id('FACE'), top: id('TOP-3D') })).toMatch(/toe: "FACE 1" has no elevations/)
    expect(why(drawing, { line: id('FACE'), toe: id('PATH'), top: id('TOP-3D') })).toMatch(/toe: "PATH 1" runs more than 25 m from the wall/)
    expect(why(drawing, { line: id('FACE'), toe: id('TOE-3D') })).toMatch(/top: toe and top grade are taken together/)
  })
  test('top and toe mixed up are grades that cross, each place named', () => {
    expect(why(drawing, { line: id('FACE'), toe: id('TOP-3D'), top: id('TOE-3D') })).toMatch(
      /station 0.00 m the top 10.00 is not above the toe 11.80/,
    )
  })
  test('for a plan still being made grades that cross are given all the same, the places noted', () => {
    const made = ok(adopt(drawing, { line: id('FACE'), toe: id('TOP-3D'), top: id('TOE-3D'), asFarAsItGoes: true }))
    expect(made.grades?.map((g) => g.toe > g.top)).toEqual([true, true, true])
    expect(made.notes.some((n) => /station 0.00 m the top 10.00 is not above/.test(n))).toBe(true)
  })
  test('a circle is a ring; walked with the fill on its other side it keeps its length', () => {
    for (const fillRight of [false, true]) {
      const made = ok(adopt(drawing, { line: id('TREE'), fillRight }))
      expect([made.alignment.closed, Math.sign(made.alignment.vertices[0]?.bulge ?? 0)]).toEqual([true, fillRight ? -1 : 1])
      expect(made.length).toBeCloseTo(3 * Math.PI, 5)
    }
  })
  test('with the fill on the right stations begin at the other end, and so do the grades', () => {
    const made = ok(adopt(drawing, { line: id('FACE'), fillRight: true, toe: id('TOE-3D'), top: id('TOP-3D') }))
    expect(made.alignment.vertices[0]).toMatchObject({ easting: 10, northing: 0 })
    expect(made.grades?.map((g) => g.toe)).toEqual([10.1, 10.2, 10])
  })
})

describe('LandXML as others write it', () => {
  test('prefixes, several alignments, points with codes, a surface profile', () => {
    const text = `<?xml version="1.0" encoding="utf-8"?>
      <lx:LandXML xmlns:lx="urn:any" version="1.2"><lx:Units><lx:Imperial linearUnit="foot"/></lx:Units>
      <lx:Alignments>
        <lx:Alignment name="North" staStart="0"><lx:CoordGeom><lx:Line><lx:Start>0 0</lx:Start><lx:End>0 30</lx:End></lx:Line></lx:CoordGeom>
          <lx:Profile><lx:ProfSurf name="toe ground"><lx:PntList2D>0 10 15 11 30 12</lx:PntList2D></lx:ProfSurf></lx:Profile></lx:Alignment>
        <lx:Alignment name="South" staStart="0"><lx:CoordGeom><lx:Line><lx:Start>50 0</lx:Start><lx:End>50 60</lx:End></lx:Line></lx:CoordGeom></lx:Alignment>
      </lx:Alignments>
      <lx:CgPoints><lx:CgPoint name="7" code="BM">1 2 3.5</lx:CgPoint><lx:CgPoint name="8" pntRef="7"/></lx:CgPoints><lx:Surfaces><lx:Surface name="before"><lx:Definition surfType="TIN"><lx:Pnts><lx:P id="1">5 3 12.25</lx:P><lx:P id="2">x</lx:P></lx:Pnts></lx:Definition></lx:Surface></lx:Surfaces></lx:LandXML>`
    const drawing = ok(readLandXml(text))
    expect(drawing.lines.map((l) => l.name)).toEqual(['North', 'South'])
    expect(drawing.unit).toBe('ft')
    expect(drawing.profiles).toMatchObject([
      { name: 'toe ground', line: 'line-1', points: [{ station: 0, elevation: 10 }, { station: 15 }, { station: 30 }] },
    ])
    expect(drawing.points).toEqual([{ name: '7', code: 'BM', northing: 1, easting: 2, elevation: 3.5 }])
    expect(drawing.ignored.map((i) => i.what)).toEqual(expect.arrayContaining(['points without coordinates', 'points of a surface']))
    expect(drawing.ground).toEqual([{ northing: 5, easting: 3, elevation: 12.25 }])
  })
  test('one good alignment is offered though another has a spiral; the bad one is told', () => {
    const line = '<Line><Start>0 0</Start><End>0 9</End></Line>'
    const text = `<LandXML><Units><Metric linearUnit="meter"/></Units><Alignments><Alignment name="good"><CoordGeom>${line}</CoordGeom></Alignment><Alignment name="bad"><CoordGeom>${line}<Spiral/></CoordGeom></Alignment></Alignments></LandXML>`
    const drawing = ok(readLandXml(text))
    expect(drawing.lines).toHaveLength(1)
    expect(drawing.ignored[0]).toMatchObject({ what: 'alignment "bad"', why: expect.stringContaining('spiral') })
  })
  test('read in portions: its share is told, names are whole wherever a portion ends, and it can be stopped', () => {
    const points = Array.from({ length: 60_000 }, (_, i) => `<CgPoint name="P&amp;${i} \u00e9">${i} 5 9.652</CgPoint>`).join('\n')
    const text = `<LandXML><Units><Metric linearUnit="meter"/></Units><Surfaces><Surface name="s"><P>1 2 3</P></Surface></Surfaces><CgPoints>${points}</CgPoints></LandXML>`
    const shares: number[] = []
    const drawing = ok(readDrawing(text, undefined, undefined, (share) => shares.push(share)))
    expect(drawing.points).toHaveLength(60_000)
    expect(drawing.points.every((p, i) => p.name === `P&${i} \u00e9` && p.northing === i && p.elevation === 9.652)).toBe(true)
    expect(shares.length).toBeGreaterThan(1)
    expect(shares.every((s, i) => s > (shares[i - 1] ?? 0) && s <= 1)).toBe(true)
    const stop = () => {
      throw new Error('stopped')
    }
    expect(() => readDrawing(text, undefined, undefined, stop)).toThrow('stopped')
  })
  test.each([
    ['an entity nobody explained', '<LandXML><CgPoints>\n<CgPoint name="a&nbsp;b">1 2 3</CgPoint></CgPoints></LandXML>', /not whole XML.*line 2/],
    ['cut off half-way', '<LandXML>\n<CgPoints><CgPoint name="7">1 2', /not whole XML.*line 2/],
    ['two roots', '<LandXML/><LandXML/>', /not whole XML/],
    ['a word alone', '<', /not whole XML/],
  ])('%s is refused by line', (_name, text, message) => {
    const read = readDrawing(text)
    expect(read.ok ? '' : read.problems[0]?.message).toMatch(message)
  })
  test('comments, marked text and prefixed attributes', () => {
    const text = '<LandXML xmlns:a="urn:a"><CgPoints><CgPoint a:name="7"><!-- north --><![CDATA[1.5 2.5]]> 3.5</CgPoint></CgPoints></LandXML>'
    expect(ok(readLandXml(text)).points).toEqual([{ name: '7', code: '', northing: 1.5, easting: 2.5, elevation: 3.5 }])
  })
  test('an arc clockwise and one against the clock', () => {
    const text = (rot: string) =>
      `<LandXML><Units><Metric linearUnit="meter"/></Units><Alignments><Alignment name="a"><CoordGeom><Curve rot="${rot}"><Start>0 0</Start><Center>0 5</Center><End>0 10</End></Curve></CoordGeom></Alignment></Alignments></LandXML>`
    for (const [rot, bulge] of [
      ['cw', -1],
      ['ccw', 1],
    ] as const)
      expect(ok(readLandXml(text(rot))).lines[0]?.vertices[0]?.bulge).toBeCloseTo(bulge, 9)
  })
})

describe('survey points as others write them', () => {
  test('tabs, quotes, a mark at the start, blank lines; a closed run is a ring', () => {
    const text = '\uFEFFName\tNorth\tEast\tElev\tDesc\n"1"\t0\t0\t10\tBED\n\n2\t0\t8\t10\tBED\n3\t6\t8\t10\tBED\n4\t0\t0\t10\tBED\n'
    const drawing = ok(readPoints(text))
    expect(drawing.lines[0]).toMatchObject({ name: 'BED', closed: true })
    expect(drawing.lines[0]?.vertices).toHaveLength(3)
  })
  test('a code with one point makes no line, and is listed as having none', () => {
    const drawing = ok(readPoints('easting,northing,code\n0,0,FACE\n9,0,FACE\n4,4,BM\n'))
    expect(drawing.layers).toContainEqual({ name: 'BM', lines: 0 })
    expect(why(drawing, { line: '', unit: 'm' })).toMatch(/nothing on layer BM/)
  })
})

test('no text, however broken, is taken by halves: it is read, or refused with a field and a message', () => {
  const good = [(l: Layout) => writeLandXml(l, '2026-05-20T08:00:00Z'), writeSetOutDxf, writeStakesCsv].flatMap((write) => [
    write(layoutOf(planOn([at(0, 0), at(9, 0, 0.3), at(15, 5)], false))),
    write(layoutOf(planOn(circle(5), true))),
  ])
  fc.assert(
    fc.property(fc.constantFrom(...good), fc.nat(), fc.nat({ max: 60 }), fc.string({ maxLength: 6 }), (text, where, length, junk) => {
      const start = where % text.length
      const broken = text.slice(0, start) + junk + text.slice(start + length)
      const made = readDrawing(broken, 'northing-first')
      if (!made.ok) {
        for (const p of made.problems) expect([typeof p.field, p.message.length > 5]).toEqual(['string', true])
        return
      }
      for (const line of made.value.lines) {
        const adopted = adopt(made.value, { line: line.id, unit: 'm' })
        if (!adopted.ok) expect(adopted.problems[0]?.message.length).toBeGreaterThan(5)
        else for (const v of adopted.value.alignment.vertices) expect([v.easting, v.northing, v.bulge ?? 0].every(Number.isFinite)).toBe(true)
      }
    }),
    { numRuns: 250, seed: 12 },
  )
})
