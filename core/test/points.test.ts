import { readInstrumentLine, readPointsCsv, writeInstrumentLine } from '@stone-tally/core'
import fc from 'fast-check'

const good = (content: string, unit: 'm' | 'mm' | 'ft' = 'm') => {
  const r = readPointsCsv(content, unit)
  if (!r.ok) throw new Error(JSON.stringify(r.problems))
  return r.value
}

describe('survey points', () => {
  test('columns in any order, other columns left alone, offset where it is given', () => {
    const { good: rows, bad } = good('name,elevation,offset,station\nA,9.652,0.1,1.5\nB,9.7,,3\n')
    expect(bad).toEqual([])
    expect(rows).toEqual([
      { line: 2, station: 1.5, offset: 0.1, elevation: 9.652 },
      { line: 3, station: 3, elevation: 9.7 },
    ])
  })
  test('decimal commas with semicolons, BOM, millimetres and feet', () => {
    expect(good('\uFEFFstation;elevation\n1,5;9,652\n').good[0]).toMatchObject({ station: 1.5, elevation: 9.652 })
    expect(good('station;elevation\n1500;9652\n', 'mm').good[0]).toMatchObject({
      station: expect.closeTo(1.5, 9),
      elevation: expect.closeTo(9.652, 9),
    })
    expect(good('station\televation\n10\t30\n', 'ft').good[0]).toMatchObject({
      station: expect.closeTo(3.048, 9),
      elevation: expect.closeTo(9.144, 9),
    })
  })
  test('bad lines are named and the others kept', () => {
    const { good: rows, bad } = good('station,elevation,offset\n1,2,3\nx,2,3\n1,,3\n1,2,left\n')
    expect(rows).toHaveLength(1)
    expect(bad.map((b) => [b.line, b.message.split(' ')[0]])).toEqual([
      [3, 'station'],
      [4, 'elevation'],
      [5, 'offset'],
    ])
  })
  test.each([
    ['', 'is empty'],
    ['height,station\n1,2', 'no column "elevation"'],
    ['station\n1', 'no column "elevation"'],
    ['x'.repeat(6 * 1024 * 1024), 'at most 5 MB'],
  ])('%#: refused as a whole', (content, message) => {
    const r = readPointsCsv(content, 'm')
    expect(r.ok ? '' : r.problems[0]?.message).toContain(message)
  })
  test('whatever the file holds, it is read or refused, never half a number', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200 }), (text) => {
        const r = readPointsCsv(`station,elevation\n${text}`, 'm')
        if (r.ok) for (const row of r.value.good) expect([row.station, row.elevation].every(Number.isFinite)).toBe(true)
      }),
    )
  })
})

test('any instrument line that is written is read as it was', () => {
  const word = fc.stringMatching(/^[a-z][a-z0-9-]{0,11}$/)
  const value = fc.double({ min: -9999, max: 9999, noNaN: true }).map((v) => +v.toFixed(4) + 0)
  fc.assert(
    fc.property(word, fc.nat(1_000_000), fc.dictionary(fc.stringMatching(/^[a-z]{1,8}$/), value, { minKeys: 1, maxKeys: 6 }), (id, seq, values) => {
      const reading = { id, seq, at: '2026-05-20T08:00:00.000Z', values: { ...values } }
      expect(readInstrumentLine(writeInstrumentLine({ type: 'reading', reading }))).toEqual({ ok: true, value: { type: 'reading', reading } })
    }),
  )
  fc.assert(
    fc.property(word, fc.string({ maxLength: 60 }), (id, message) => {
      const line = readInstrumentLine(writeInstrumentLine({ type: 'error', id, message: message.replace(/[^\x20-\x7e]/g, '') }))
      expect(line.ok && line.value.type).toBe('error')
    }),
  )
})
