import { readFileSync } from 'node:fs'
import {
  type ChainedEntry,
  decodeText,
  entriesJsonSchema,
  linkOf,
  planHash,
  type RecordFile,
  readPlanFile,
  readPoints,
  readPointsCsv,
  readReadingsCsv,
  readRecordFile,
  readUnitsCsv,
  rulesJsonSchema,
  tallyJsonSchema,
  verifyRecordFile,
  writePlanFile,
  writeRecordFile,
} from '@stone-tally/core'
import { built, entry, plain, smallPlan, WALL } from './plans'

describe('plan file', () => {
  test('what is written is read the same', () => expect(readPlanFile(writePlanFile(built(smallPlan)))).toEqual({ ok: true, value: built(smallPlan) }))
  test.each([
    ['truncated', writePlanFile(built(smallPlan)).slice(0, 300), /file: is not complete JSON/],
    ['another format', '{"format":"other","version":1,"plan":{}}', /format: must be "stone-tally", not "other"/],
    ['a later version', '{"format":"stone-tally","version":9,"plan":{}}', /version: must be 2 or less, not 9/],
    ['a list', '[]', /must be an object/],
    ['20 MB and more', `{"format":"stone-tally","x":"${'y'.repeat(21 * 1024 * 1024)}"}`, /file: is 21.0 MB; at most 20 MB/],
    ['a plan with a hole', writePlanFile({ ...built(smallPlan), length: 8 }), /plan.grades\[1\].station: 9 m is beyond the wall/],
    ['an extra field', '{"format":"stone-tally","version":1,"plan":{},"hidden":1}', /hidden: hidden is not a known field/],
  ])('%s', (_name, content, message) => {
    const read = readPlanFile(content)
    expect(read.ok ? '' : plain(read.problems.map((p) => `${p.field}: ${p.message}`).join('\n'))).toMatch(message)
  })
  test('the published schema is the one in force', () => {
    expect(JSON.parse(readFileSync('docs/formats/tally.schema.json', 'utf8'))).toEqual(JSON.parse(JSON.stringify(tallyJsonSchema())))
    expect(JSON.parse(readFileSync('docs/formats/rules.schema.json', 'utf8'))).toEqual(JSON.parse(JSON.stringify(rulesJsonSchema())))
    expect(JSON.parse(readFileSync('docs/formats/entries.schema.json', 'utf8'))).toEqual(JSON.parse(JSON.stringify(entriesJsonSchema())))
  })
})

describe('record file', () => {
  const file = (): RecordFile => {
    const plans = [
      entry('revision', {}, { number: 1, plan: planHash(smallPlan) }),
      ...Array.from({ length: 5 }, (_, i) => entry('note', {}, { text: `day ${i}` })),
    ]
    const entries: ChainedEntry[] = []
    let hash = WALL
    plans.forEach((e, i) => {
      const recorded = { seq: i + 1, receivedAt: `2026-05-2${i}T10:00:00.000Z`, entry: e }
      hash = linkOf(hash, recorded)
      entries.push({ ...recorded, hash })
    })
    return { wall: WALL, revisions: [{ number: 1, issuedAt: '2026-05-20T10:00:00.000Z', plan: smallPlan }], entries, head: { seq: 6, hash } }
  }
  const check = (change: (f: { entries: ChainedEntry[]; revisions: { plan: typeof smallPlan }[]; head: { seq: number } }) => void) => {
    const f = structuredClone(file())
    change(f as never)
    const read = readRecordFile(writeRecordFile(f, '2026-05-21T00:00:00Z'))
    return read.ok ? verifyRecordFile(read.value) : read
  }
  test('untouched it is intact', () => expect(check(() => {})).toMatchObject({ intact: true, entries: 6 }))
  test('an altered entry is named', () =>
    expect(check((f) => void ((f.entries[2]?.entry as { data: { text: string } }).data.text = 'sunny'))).toMatchObject({
      intact: false,
      seq: 3,
      fault: 'altered',
    }))
  test('an altered author is named', () =>
    expect(check((f) => void ((f.entries[3]?.entry as { by: { name: string } }).by.name = 'Someone'))).toMatchObject({
      intact: false,
      seq: 4,
      fault: 'altered',
    }))
  test('a removed entry is named', () => expect(check((f) => void f.entries.splice(2, 1))).toMatchObject({ intact: false, seq: 3, fault: 'removed' }))
  test('a cut-off end is named', () => expect(check((f) => void f.entries.splice(4))).toMatchObject({ intact: false, seq: 5, fault: 'removed' }))
  test('a changed order is named', () =>
    expect(check((f) => void f.entries.splice(1, 2, f.entries[2] as ChainedEntry, f.entries[1] as ChainedEntry))).toMatchObject({
      intact: false,
      seq: 3,
      fault: 'reordered',
    }))
  test('a plan exchanged afterwards is named', () =>
    expect(check((f) => void (f.revisions[0] as { plan: { length: number } }).plan.length++)).toMatchObject({
      intact: false,
      seq: 1,
      fault: 'altered',
    }))
})

describe('readings from a CSV', () => {
  const rows = (content: string, unit: 'm' | 'mm' | 'ft' = 'm') => {
    const read = readReadingsCsv(content, unit)
    if (!read.ok) throw new Error(read.problems[0]?.message)
    return read.value
  }
  test('semicolons, decimal commas, BOM and blank lines', () => {
    const p = rows('\uFEFFStation;Course;Reading\r\n\r\n1,5;1;1,302\r\n;;\r\n3;1;1,304\r\n')
    expect(p.good).toEqual([
      { line: 3, station: 1.5, course: 1, reading: 1.302 },
      { line: 5, station: 3, course: 1, reading: 1.304 },
    ])
    expect(p.bad).toEqual([])
  })
  test('bad lines are named and good ones kept', () => {
    const p = rows('station,course,reading\n1,1,1.3\nx,1,1.3\n2,0,1.3\n2,1.5,1.3\n3,1,\n4,1,1302\n1,5,1,1,302')
    expect(p.good.map((g) => g.line)).toEqual([2])
    expect(p.bad.map((b) => `${b.line}: ${b.message}`)).toEqual([
      '3: station "x" is not a number',
      '4: course "0" is not a course number',
      '5: course "1.5" is not a course number',
      '6: reading "" is not a number',
      '7: reading 1302 m is over 10 m; is the file in mm?',
      '8: has 5 columns, the header 3; decimal commas need semicolons or quotes',
    ])
  })
  test('millimetres and feet become metres', () => {
    expect(rows('reading,course,station\n1302,1,1500', 'mm').good[0]).toMatchObject({ station: 1.5, reading: 1.302 })
    expect(rows('station\tcourse\treading\n10\t2\t4', 'ft').good[0]).toMatchObject({ course: 2, reading: 1.2192 })
  })
  test.each([
    ['', /is empty/],
    ['a,b\n1,2', /has no column "station"/],
  ])('%j is refused whole', (content, message) => {
    const read = readReadingsCsv(content, 'm')
    expect(read.ok ? '' : read.problems[0]?.message).toMatch(message)
  })
})

describe('tables as others write them', () => {
  const survey = (text: string) => {
    const made = readPoints(text, 'easting-first')
    return made.ok
      ? {
          points: made.value.points.map((p) => [p.easting, p.northing, p.elevation]),
          bad: made.value.ignored.map((i) => `${i.what}: ${i.why}`),
          unit: made.value.unit,
        }
      : made.problems
  }
  test('every bad row is named by its own line, blank lines, comments and titles counted', () => {
    const readings = readReadingsCsv('Level readings, Monday\n\n# from the book\nstation,course,reading\n\n1,1,1.3\n\nx,1,1.3\n', 'm')
    expect(readings.ok && [readings.value.good.map((g) => g.line), readings.value.bad.map((b) => b.line)]).toEqual([[6], [8]])
    const points = readPointsCsv('station;elevation\n\n1;10\n\n2;ten\n', 'm')
    expect(points.ok && [points.value.good.map((g) => g.line), points.value.bad.map((b) => b.line)]).toEqual([[3], [5]])
    const units = readUnitsCsv('system,id,name,height,length,depth\n\nnowhere,a,A,1,1,1\n')
    expect(units.ok && units.value.bad.map((b) => b.line)).toEqual([3])
  })
  test('decimal commas in quotes, rows longer than the header, a quote left open', () => {
    const p = readPointsCsv('station,elevation\n"1,5","9,652"\n1,5,9,652\n"2,9.7\n3,9.8\n', 'm')
    expect(p.ok && p.value.good).toEqual([
      { line: 2, station: 1.5, elevation: 9.652 },
      { line: 5, station: 3, elevation: 9.8 },
    ])
    expect(p.ok && p.value.bad.map((b) => `${b.line} ${b.message}`)).toEqual([
      '3 has 4 columns, the header 2; decimal commas need semicolons or quotes',
      '4 has a quote that is never closed',
    ])
  })
  test('a unit in the header goes before the one chosen', () => {
    const p = readPointsCsv('Station [m],Elevation (mm)\n1.5,9652\n', 'ft')
    expect(p.ok && p.value.good[0]).toMatchObject({ station: 1.5, elevation: expect.closeTo(9.652, 9) })
    expect(survey('point,northing (ft),easting (ft)\n1,10,20\n')).toMatchObject({ unit: 'ft', points: [[20, 10, undefined]] })
  })
  test('bare coordinates without a header, with blanks or commas between', () => {
    expect(survey('100.5 200.25 10.1\n101.5 200.25 10.2\n')).toMatchObject({
      points: [
        [100.5, 200.25, 10.1],
        [101.5, 200.25, 10.2],
      ],
    })
    expect(survey('100.5,200.25,10.1\n101.5,200.25,10.2\n')).toMatchObject({
      points: [
        [100.5, 200.25, 10.1],
        [101.5, 200.25, 10.2],
      ],
    })
    expect(survey('1,100,200,10.1\n2,101,200,10.2\n')).toMatchObject({
      points: [
        [100, 200, 10.1],
        [101, 200, 10.2],
      ],
    })
  })
  test('UTF-16 without a mark is read', () => {
    const text = 'easting,northing\n1,2\n3,4\n'
    const wide = new Uint8Array(text.length * 2)
    for (let i = 0; i < text.length; i++) wide[2 * i] = text.charCodeAt(i)
    expect(decodeText(wide)).toMatchObject({ ok: true, value: { text, encoding: 'utf-16le' } })
  })
})
