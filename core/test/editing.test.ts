import {
  addPoint,
  alignmentOf,
  buildingOf,
  formatBearing,
  fromReference,
  movePoint,
  parseBearing,
  readUnitsCsv,
  SYSTEMS,
  setElement,
  snapTo,
  splitElement,
  tangentBulge,
  UNIT_PROFILES,
  withLine,
  writeUnitsCsv,
} from '@stone-tally/core'
import fc from 'fast-check'
import { built, layoutOf, smallPlan } from './plans'
import { at, planOn } from './walls'

const lengthOf = (vertices: Parameters<typeof alignmentOf>[0], closed = false) => {
  const a = alignmentOf(vertices, closed)
  return a.ok ? a.value.segments.map((s) => s.length) : []
}

describe('editing a line', () => {
  const base = [at(0, 0), at(10, 0), at(14, 3)]
  test('a typed length carries what follows along', () => {
    const longer = setElement(base, 0, false, { length: 12 })
    expect(longer.map((v) => [v.easting, v.northing])).toEqual([
      [0, 0],
      [12, 0],
      [16, 3],
    ])
  })
  test('a typed bearing turns the element about its first point', () => {
    const north = setElement(base, 0, false, { bearing: 0 })
    expect(north[1]?.easting).toBeCloseTo(0, 9)
    expect(north[1]?.northing).toBeCloseTo(10, 9)
  })
  test('a typed radius keeps both ends; a typed length then follows the arc', () => {
    const arc = setElement(base, 0, false, { radius: 8 })
    const a = alignmentOf(arc, false)
    expect(a.ok && a.value.segments[0]).toMatchObject({ kind: 'arc', radius: expect.closeTo(8, 6) })
    expect(arc[1]).toMatchObject({ easting: 10, northing: 0 })
    const longer = setElement(arc, 0, false, { length: 14 })
    expect(lengthOf(longer)[0]).toBeCloseTo(14, 6)
    expect(setElement(arc, 0, false, { radius: 0 })[0]?.bulge).toBe(0)
  })
  test('a radius smaller than half the chord changes nothing; half of it is the half circle', () => {
    // Between points 10 m apart no arc of 1 m goes: nothing else is made of it.
    expect(setElement(base, 0, false, { radius: 1 })).toEqual(base)
    expect(Math.abs(setElement(base, 0, false, { radius: 5 })[0]?.bulge ?? 0)).toBeCloseTo(1, 6)
  })
  test('splitting changes nothing on the ground', () =>
    fc.assert(
      fc.property(fc.double({ min: -0.9, max: 0.9, noNaN: true }), (bulge) => {
        const line = [at(0, 0, bulge), at(10, 0), at(14, 3)]
        const total = (list: number[]) => list.reduce((x, y) => x + y, 0)
        expect(total(lengthOf(splitElement(line, 0)))).toBeCloseTo(total(lengthOf(line)), 6)
      }),
    ))
  test('one more point goes straight on from the end, as far as the last element is long and no further than the paper', () => {
    expect(addPoint([at(0, 0), at(4, 0)])[2]).toMatchObject({ easting: 8, northing: 0 })
    expect(addPoint([at(0, 0), at(0, 30)])[2]).toMatchObject({ easting: 0, northing: 36 })
    expect(addPoint([at(1, 1)])).toEqual([at(1, 1)])
    fc.assert(
      fc.property(fc.double({ min: -0.9, max: 0.9, noNaN: true }), (bulge) => {
        const made = alignmentOf(addPoint([at(0, 0, bulge), at(5, 1)]) as never, false)
        expect(made.ok && made.value.segments.length).toBe(2)
      }),
    )
  })
  test('a tangent arc leaves in the direction the line came', () => {
    const a = alignmentOf(base, false)
    if (!a.ok) throw new Error('no line')
    const bulge = tangentBulge(a.value, 1) ?? 0
    const arc = alignmentOf(
      base.map((v, i) => (i === 1 ? { ...v, bulge } : v)),
      false,
    )
    const s = arc.ok ? arc.value.segments[1] : undefined
    if (s?.kind !== 'arc') throw new Error('no arc')
    expect(s.start + Math.PI / 2).toBeCloseTo(0, 9)
    expect(tangentBulge(a.value, 0)).toBeUndefined()
  })
  test('grades, sections and outlets follow a line that grows or shrinks', () => {
    const plan = planOn([at(0, 0), at(9, 0)], false, { sections: smallPlan.sections, grades: smallPlan.grades, drain: smallPlan.drain })
    for (const length of [14, 5]) {
      const next = withLine(built(plan), [at(0, 0), at(length, 0)], false)
      expect(next.length).toBe(length)
      expect(next.grades[next.grades.length - 1]?.station).toBe(length)
      expect(next.sections[next.sections.length - 1]?.to).toBe(length)
      expect(buildingOf(next).drain?.outlets.every((o) => o.station <= length)).toBe(true)
      expect(layoutOf(next).plan.length).toBe(length)
    }
  })
  test('a line that cannot be is kept, with the rest as it was', () => {
    const bad = withLine(built(smallPlan), movePoint([at(0, 0), at(9, 0)], 1, { easting: 0, northing: 0 }), false)
    expect([bad.length, bad.grades]).toEqual([smallPlan.length, smallPlan.grades])
  })
})

describe('references', () => {
  const references = [
    {
      name: 'kerb',
      kind: 'building-line' as const,
      points: [
        { easting: 0, northing: 0 },
        { easting: 10, northing: 0 },
      ],
    },
  ]
  test('points along and beside a line, and beside a single point', () => {
    expect(fromReference(references[0]?.points ?? [], 4, 2)).toEqual({ easting: 4, northing: expect.closeTo(2, 9) })
    expect(fromReference([{ easting: 1, northing: 1 }], 2, 3)).toEqual({ easting: 3, northing: 4 })
    expect(fromReference([], 1, 1)).toBeUndefined()
  })
  test('a dragged point snaps to a line, sooner to its end, and not from afar', () => {
    expect(snapTo(references, { easting: 5, northing: 0.2 }, 0.5)).toMatchObject({ name: 'kerb', point: { easting: 5, northing: 0 } })
    expect(snapTo(references, { easting: 9.8, northing: 0.1 }, 0.5)?.point).toEqual({ easting: 10, northing: 0 })
    expect(snapTo(references, { easting: 5, northing: 3 }, 0.5)).toBeUndefined()
  })
})

describe('bearings', () => {
  test.each([
    ['92.5', 92.5],
    ["92°30'", 92.5],
    ['92 30 36', 92.51],
    ["N 45°30' E", 45.5],
    ['S10W', 190],
    ['n10w', 350],
    ['s 20 e', 160],
    ['360', 0],
    ['12,5', 12.5],
  ])('%s', (text, degrees) => {
    const made = parseBearing(text)
    expect(made.ok && made.value).toBeCloseTo(degrees, 9)
  })
  test.each(['', 'north', '400', 'N 95 E', "12°70'", '1 2 3 4'])('"%s" is refused', (text) => expect(parseBearing(text).ok).toBe(false))
  test('written in degrees, minutes, seconds, and read again', () => {
    expect(formatBearing(92.5)).toBe(`92°30'00"`)
    expect(formatBearing(359.99999)).toBe(`0°00'00"`)
  })
})

describe('catalogue', () => {
  const all = SYSTEMS.flatMap((s) => s.units.map((unit) => ({ system: s.id, unit })))
  test('every unit comes back from CSV as it went out', () => {
    const made = readUnitsCsv(writeUnitsCsv(all))
    expect(made).toEqual({ ok: true, value: { good: all, bad: [] } })
  })
  test('a catalogue has every profile, and ids of its own', () => {
    expect(new Set(all.map((u) => u.unit.profile))).toEqual(new Set(UNIT_PROFILES))
    expect(new Set(all.map((u) => u.unit.id)).size).toBe(all.length)
  })
  test('bad lines are named with their field', () => {
    const text =
      'system,id,name,height,length,depth\nhollow-core,a,A,0.2,0.4,0.3\nice,b,B,0.2,0.4,0.3\nhollow-core,c,C,tall,0.4,0.3\nhollow-core,a,A2,0.2,0.4,0.3\n'
    const made = readUnitsCsv(text)
    if (!made.ok) throw new Error('unread')
    expect(made.value.good.map((u) => u.unit.id)).toEqual(['a'])
    expect(made.value.bad.map((b) => [b.line, b.message])).toEqual([
      [3, expect.stringMatching(/system: "ice"/)],
      [4, expect.stringMatching(/height: must be a number/)],
      [5, expect.stringMatching(/twice/)],
    ])
    expect(readUnitsCsv('a,b\n1,2\n')).toMatchObject({ ok: false, problems: [{ field: 'header' }] })
  })
})

test('a unit whose name would be a formula in a spreadsheet is written as text, and read back as it was', () => {
  const own = SYSTEMS[0] as (typeof SYSTEMS)[number]
  const unit = { ...(own.units[0] as (typeof own.units)[number]), name: '=HYPERLINK("x")' }
  const text = writeUnitsCsv([{ system: own.id, unit }])
  expect(text).toContain(`"'=HYPERLINK(""x"")"`)
  const back = readUnitsCsv(text)
  expect(back.ok && back.value.good[0]?.unit.name).toBe(unit.name)
})
