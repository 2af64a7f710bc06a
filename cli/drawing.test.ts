import { execFileSync, spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { alignmentOf, pointAt, storedPlan, writePlanFile } from '@stone-tally/core'
import { smallPlan } from '../core/test/plans'
import { at, circle, planOn } from '../core/test/walls'

const python = existsSync('/usr/bin/python3') ? '/usr/bin/python3' : 'python3'
const reference = (...args: string[]) => JSON.parse(execFileSync(python, [join(__dirname, 'reference.py'), ...args], { encoding: 'utf8' }))
const tally = (...args: string[]) => spawnSync('bin/tally', args, { encoding: 'utf8', maxBuffer: 64 * 1024 * 1024 })
const read = (path: string, ...more: string[]) => {
  const run = tally('read', path, ...more)
  if (run.status !== 0) throw new Error(run.stderr)
  return JSON.parse(run.stdout) as {
    unit: string | null
    lines: {
      name: string
      layer: string
      length: number
      closed: boolean
      hidden?: string
      vertices: { easting: number; northing: number; bulge: number }[]
    }[]
    grades: { name: string; points: { station?: number; elevation: number }[] }[]
    leftOut: { what: string; count: number }[]
    asks: string[]
  }
}
type Line = ReturnType<typeof read>['lines'][number]
let folder: string
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'tally-drawings-'))
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const put = (name: string, text: string | Buffer) => {
  const path = join(folder, name)
  writeFileSync(path, text)
  return path
}

/** Furthest any of these points lies from any of our lines, m. */
function away(points: readonly (readonly number[])[], lines: readonly Line[]): number {
  const made = lines.flatMap((l) => {
    const a = alignmentOf(l.vertices, l.closed)
    return a.ok ? [a.value] : []
  })
  const dense = made.flatMap((a) => Array.from({ length: 4001 }, (_, i) => pointAt(a, (a.length * i) / 4000)))
  return Math.max(...points.map(([x, y]) => Math.min(...dense.map((p) => Math.hypot(p.easting - (x as number), p.northing - (y as number))))))
}

describe('a drawing by a library no one here wrote', () => {
  test('blocks in blocks, mirrored planes, arcs across zero, rings, fitted splines, hidden layers: every line lies where that library has it', () => {
    const path = join(folder, 'awkward.dxf')
    const theirs = reference('make', path) as Record<string, number[][][]>
    const ours = read(path)
    for (const [layer, lines] of Object.entries(theirs)) {
      const own = ours.lines.filter((l) => l.layer === layer)
      expect([layer, own.length > 0]).toEqual([layer, true])
      expect([layer, Math.round(away(lines.flat(), own) * 200) / 200]).toEqual([layer, 0])
      const length = (points: number[][]) =>
        points.reduce(
          (n, p, i) => (i === 0 ? 0 : n + Math.hypot((p[0] as number) - (points[i - 1]?.[0] ?? 0), (p[1] as number) - (points[i - 1]?.[1] ?? 0))),
          0,
        )
      const sum = layer === 'DOUBLE' ? length(lines[0] as number[][]) : lines.reduce((n, l) => n + length(l), 0)
      expect([layer, own.reduce((n, l) => n + l.length, 0) / sum]).toEqual([layer, expect.closeTo(1, 2)])
    }
    expect(new Set(ours.lines.map((l) => l.layer))).toEqual(new Set(Object.keys(theirs)))
    const of = (layer: string) => ours.lines.filter((l) => l.layer === layer)
    expect([of('FROZEN')[0]?.hidden, of('OFF')[0]?.hidden]).toEqual(['frozen', 'off'])
    expect(of('RING').map((l) => l.closed)).toEqual([true, true])
    expect(of('ARCS')).toHaveLength(1)
    expect(ours.leftOut.map((l) => l.what)).toEqual(expect.arrayContaining(['doubled lines', 'MESH']))
    expect(ours.grades.map((g) => g.name)).toEqual(['SPACE 1'])
  })
  test('names of an older drawing in its own code page', () => {
    const path = join(folder, 'old.dxf')
    reference('make', path, 'R2000')
    expect(read(path).lines.some((l) => l.layer === 'GRÜN')).toBe(true)
  })
  test.each([
    ['an open line with arcs and a corner', planOn([at(0, 0), at(9, 0, 0.3), at(15, 5), at(15, 12)], false)],
    ['a ring', planOn(circle(5), true)],
  ])('what we write is sound there, and the grades follow the face: %s', (_name, plan) => {
    const wall = { ...plan, grades: plan.grades.map((g, i) => ({ ...g, toe: g.toe + i * 0.3 })) }
    const file = put('wall.tally.json', writePlanFile(storedPlan(wall)))
    const run = tally('write', file, '--as', 'dxf')
    const out = put('wall.dxf', run.stdout)
    const seen = reference('look', out) as { errors: string[]; units: number; lines: Record<string, { points: number[][]; is3d: boolean }[]> }
    expect([run.status, seen.errors, seen.units]).toEqual([0, [], 6])
    const face = alignmentOf(wall.alignment?.vertices ?? [], wall.alignment?.closed ?? false)
    if (!face.ok) throw new Error('no face')
    for (const layer of ['TOE', 'TOP']) {
      const line = seen.lines[layer]?.[0]
      expect(line?.is3d).toBe(true)
      // Nowhere more than a few millimetres off the face: it goes round arcs and corners, not across them.
      const dense = Array.from({ length: 4001 }, (_, i) => pointAt(face.value, (face.value.length * i) / 4000))
      for (const [i, p] of (line?.points ?? []).entries()) {
        const next = line?.points[i + 1] ?? p
        const [x, y] = [((p[0] as number) + (next[0] as number)) / 2, ((p[1] as number) + (next[1] as number)) / 2]
        expect(Math.min(...dense.map((q) => Math.hypot(q.easting - x, q.northing - y)))).toBeLessThan(0.005)
      }
    }
  })
})

describe('tally read', () => {
  const frame = (entities: string, units = '\n9\n$INSUNITS\n70\n6') =>
    `0\nSECTION\n2\nHEADER${units}\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`
  const line = (a: number[], b: number[], layer = 'FACE') => `0\nLINE\n8\n${layer}\n10\n${a[0]}\n20\n${a[1]}\n11\n${b[0]}\n21\n${b[1]}\n`
  test('a branch is asked about and never walked through; ends two millimetres apart are one point, in whatever unit', () => {
    const branch = put('branch.dxf', frame(line([0, 0], [5, 0]) + line([5, 0], [9, 1]) + line([5, 0], [9, -1])))
    const seen = read(branch)
    expect(seen.lines).toHaveLength(3)
    expect(seen.asks.join()).toMatch(/3 lines of layer FACE meet at 5\.000, 0\.000/)
    const mm = put('mm.dxf', frame(line([0, 0], [5000, 0]) + line([5001.5, 0], [9000, 1000]), '\n9\n$INSUNITS\n70\n4'))
    expect(read(mm).lines).toHaveLength(1)
    // The unit the file states may be overruled: then the ends lie 1.5 m apart.
    expect(read(mm, '--units', 'm').lines).toHaveLength(2)
  })
  test('without a unit it is asked; one line by name; what is not there is refused', () => {
    const path = put('plain.dxf', frame(line([0, 0], [5, 0]), ''))
    expect(read(path)).toMatchObject({ unit: null, asks: ['the file does not say its unit'] })
    expect(read(path, '--units', 'ft', '--line', 'FACE 1').lines[0]?.length).toBeCloseTo(1.524, 6)
    const gone = tally('read', path, '--line', 'NOWHERE')
    expect([gone.status, gone.stdout, JSON.parse(gone.stderr).error.field]).toEqual([2, '', 'line'])
    expect(tally('read', path, '--units', 'constructor').status).toBe(2)
  })
  test.each([
    ['a vertex without y', frame('0\nLWPOLYLINE\n8\nFACE\n90\n2\n70\n0\n10\n0\n20\n0\n10\n5\n'), /no line|polyline at line/],
    [
      'an endless nest of blocks',
      `0\nSECTION\n2\nBLOCKS\n0\nBLOCK\n2\nA\n10\n0\n20\n0\n0\nINSERT\n8\n0\n2\nA\n10\n0\n20\n0\n0\nENDBLK\n0\nENDSEC\n${frame('0\nINSERT\n8\n0\n2\nA\n10\n0\n20\n0\n')}`,
      /blocks within blocks/,
    ],
    ['a binary drawing', 'Some Binary DXF\r\n\u001a\u0000\u0000', /binary/i],
  ])('%s is named, nothing is taken by halves', (name, text, message) => {
    const run = tally('read', put(`${name}.dxf`, text))
    expect(run.status === 2 ? run.stderr : run.stdout).toMatch(message)
    expect(run.stdout).not.toMatch(/NaN|null,\s*"northing"/)
  })
  test('an arc that disagrees with itself, or does not say which way it turns, is said; its length may tell', () => {
    const curve = (attributes: string, centre = '0 5') =>
      put(
        'curve.xml',
        `<LandXML><Units><Metric linearUnit="meter"/></Units><Alignments><Alignment name="A &amp; B"><CoordGeom><Curve ${attributes}><Start>0 0</Start><Center>${centre}</Center><End>5 5</End></Curve></CoordGeom></Alignment></Alignments></LandXML>`,
      )
    expect(read(curve('rot="cw"')).lines[0]?.name).toBe('A & B')
    expect(tally('read', curve('rot="cw"', '0 6')).stderr).toMatch(/does not agree with itself/)
    expect(tally('read', curve('rot="cw" radius="7"')).stderr).toMatch(/its radius is 7/)
    expect(tally('read', curve('')).stderr).toMatch(/does not say which way it turns/)
    expect(read(curve('length="7.854"')).lines[0]?.length).toBeCloseTo(7.854, 2)
    expect(read(curve('length="23.562"')).lines[0]?.length).toBeCloseTo(23.562, 2)
  })
  test('a number that is none is never taken', () => {
    const text =
      '<LandXML><Units><Metric linearUnit="meter"/></Units><Alignments><Alignment name="a"><CoordGeom><Line><Start>0 0</Start><End>0 9</End></Line></CoordGeom><Profile><ProfAlign name="toe"><PVI>0 1O.7</PVI><PVI>9 11</PVI></ProfAlign></Profile></Alignment></Alignments></LandXML>'
    const seen = read(put('letter.xml', text))
    expect(seen.grades).toEqual([])
    expect(seen.leftOut[0]?.what).toBe('profile "toe"')
  })
  test('points by reference, plan features, station equations, a parabola within a millimetre', () => {
    const text = `<LandXML><Units><Metric linearUnit="meter"/></Units><CgPoints><CgPoint name="1">0 0</CgPoint><CgPoint name="2">0 60</CgPoint></CgPoints>
      <PlanFeatures><PlanFeature name="kerb"><CoordGeom><Line><Start pntRef="1"/><End pntRef="2"/></Line></CoordGeom></PlanFeature></PlanFeatures>
      <Alignments><Alignment name="a"><CoordGeom><Line><Start pntRef="1"/><End pntRef="2"/></Line></CoordGeom><Profile><ProfAlign name="toe"><PVI>0 10</PVI><ParaCurve length="40">30 13</ParaCurve><PVI>60 10</PVI></ProfAlign></Profile></Alignment>
      <Alignment name="b"><StaEquation staAhead="100" staBack="50"/><CoordGeom><Line><Start pntRef="1"/><End pntRef="2"/></Line></CoordGeom><Profile><ProfAlign name="toe"><PVI>0 10</PVI><PVI>60 10</PVI></ProfAlign></Profile></Alignment></Alignments></LandXML>`
    const seen = read(put('more.xml', text))
    expect(seen.lines.map((l) => [l.name, l.layer])).toEqual([
      ['a', 'Alignments'],
      ['b', 'Alignments'],
      ['kerb', 'Plan features'],
    ])
    expect(seen.leftOut.map((l) => l.what)).toContain('the grades of "b"')
    const points = seen.grades[0]?.points ?? []
    const exact = (s: number) => (s <= 10 ? 10 + 0.1 * s : s >= 50 ? 10 + 0.1 * (60 - s) : 11 + 0.1 * (s - 10) - (0.2 / 80) * (s - 10) ** 2)
    for (let s = 0; s <= 60; s += 0.25) {
      const i = Math.max(
        1,
        points.findIndex((p) => (p.station ?? 0) >= s),
      )
      const [a, b] = [points[i - 1] as { station: number; elevation: number }, points[i] as { station: number; elevation: number }]
      const between = a.elevation + ((b.elevation - a.elevation) * (s - a.station)) / (b.station - a.station)
      expect(Math.abs(between - exact(s))).toBeLessThan(0.001)
    }
  })
  test('LandXML is written with its date and time, its names whole', () => {
    const run = tally('write', put('p.tally.json', writePlanFile({ ...storedPlan(smallPlan), name: 'A & B <1>' })), '--as', 'landxml')
    expect(run.stdout).toMatch(/date="\d{4}-\d\d-\d\d" time="\d\d:\d\d:\d\d"/)
    expect(read(put('again.xml', run.stdout)).lines[0]?.name).toBe('A & B <1>')
    expect(tally('write', join(folder, 'p.tally.json'), '--as', 'toString').status).toBe(2)
  })
  test('names are never looked up where they were not put', () => {
    for (const name of ['constructor', '__proto__', 'toString']) {
      expect(tally(name)).toMatchObject({ status: 2, stdout: '', stderr: expect.stringContaining('unknown command') })
      expect(tally('plan', join(folder, 'p.tally.json'), name).status).toBe(2)
      expect(tally('calc', name).status).toBe(2)
    }
  })
})

test('time grows with the file: many lines, many codes, a long head', () => {
  const started = Date.now()
  const lines = Array.from({ length: 24_000 }, (_, i) => `0\nLINE\n8\nL\n10\n${i}\n20\n0\n11\n${i + 0.5}\n21\n0\n`).join('')
  const path = put('many.dxf', `0\nSECTION\n2\nENTITIES\n${lines}0\nENDSEC\n0\nEOF\n`)
  const took = (file: string, ...more: string[]) => {
    const begin = Date.now()
    const run = tally('read', file, ...more)
    expect(run.status).toBe(0)
    return Date.now() - begin
  }
  const eighth = lines.lastIndexOf('0\nLINE', lines.length / 8)
  const few = put('few.dxf', `0\nSECTION\n2\nENTITIES\n${lines.slice(0, eighth)}0\nENDSEC\n0\nEOF\n`)
  const codes = put(
    'codes.csv',
    `point,northing,easting,elevation,code\n${Array.from({ length: 24_000 }, (_, i) => `${i},${i},0,1,C${i % 12_000}`).join('\n')}\n`,
  )
  // Eight times as much takes about eight times as long, beyond what starting the program takes.
  const start = took(few, '--line', 'L 1')
  expect(took(path, '--line', 'L 1')).toBeLessThan(start * 12)
  expect(took(codes, '--line', 'C1')).toBeLessThan(start * 12)
  const head = put('head.txt', `999\n${'\r'.repeat(70)}\n`.repeat(20))
  expect(tally('read', head).status).toBe(2)
  expect(readFileSync(path).length).toBeGreaterThan(500_000)
  expect(Date.now() - started).toBeLessThan(120_000)
})
