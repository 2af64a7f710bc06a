import { type InstrumentReading, readInstrumentLine, writeInstrumentLine } from '@stone-tally/core'
import fc from 'fast-check'
import { instrumentServer } from '../../instruments/server'
import { noise, standIns } from '../../instruments/world'
import { listInstruments, setFault, streamReadings, takeReading } from '../server/instruments'

const later = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms))
const until = async (is: () => boolean) => {
  for (let i = 0; i < 1000 && !is(); i++) await later(20)
  expect(is()).toBe(true)
}
let stand: Awaited<ReturnType<typeof instrumentServer>>
beforeEach(async () => {
  stand = await instrumentServer(0, 5)
  process.env.INSTRUMENTS_PORT = `${stand.port}`
})
afterEach(() => {
  stand.close()
  process.env.INSTRUMENTS_PORT = '0'
})
const why = (r: { ok: boolean; problems?: readonly { message: string }[] }) => (r.ok ? '' : (r.problems?.[0]?.message ?? ''))

describe('the line', () => {
  test('what is written is read again, and any one character changed is refused', () => {
    const reading: InstrumentReading = { id: 'laser-1', seq: 7, at: '2026-05-20T08:00:00.000Z', values: { rod: 1.5342 } }
    const text = writeInstrumentLine({ type: 'reading', reading })
    expect(readInstrumentLine(text)).toEqual({ ok: true, value: { type: 'reading', reading } })
    fc.assert(
      fc.property(fc.nat(text.length - 1), fc.constantFrom(...'0123456789abc;=,*. '), (i, c) => {
        fc.pre(text[i] !== c && text[i]?.toUpperCase() !== c.toUpperCase())
        expect(readInstrumentLine(text.slice(0, i) + c + text.slice(i + 1)).ok).toBe(false)
      }),
      { numRuns: 400 },
    )
  })
  test.each(['', 'hello', 'R;laser-1;x;2026;rod=1*00', '\u0000\u0001', 'I;a;b*33'])('%j is no line', (text) =>
    expect(readInstrumentLine(text).ok).toBe(false),
  )
})

test('the instruments introduce themselves with serial, calibration and battery; one is past its calibration', async () => {
  const list = await listInstruments()
  expect(list.map((i) => i.kind).sort()).toEqual(['density-gauge', 'forecast', 'level', 'level', 'moisture-probe', 'weather-station'])
  const today = new Date().toISOString().slice(0, 10)
  expect(list.filter((i) => i.calibratedUntil < today)).toHaveLength(1)
  for (const i of list) expect(i.battery).toBeGreaterThan(50)
})

test('a reading is near what the place is, with the noise of its instrument', async () => {
  const rods: number[] = []
  for (let i = 0; i < 12; i++) {
    const r = await takeReading('laser-1', { rod: 2.345 })
    if (r.ok) rods.push(r.value.reading.values.rod ?? 0)
  }
  expect(rods.length).toBeGreaterThan(9)
  for (const v of rods) expect(Math.abs(v - 2.345)).toBeLessThan(0.005)
  expect(new Set(rods).size).toBeGreaterThan(5)
})

describe('bad days', () => {
  test('garbage is thrown away and said', async () => {
    await setFault('laser-1', 'garbage')
    expect(why(await takeReading('laser-1'))).toContain('garbled')
    expect((await takeReading('laser-1')).ok).toBe(true)
  })
  test('a connection that breaks off in the middle gives nothing', async () => {
    await setFault('gauge-1', 'drop')
    expect(why(await takeReading('gauge-1'))).toContain('broke off in the middle')
    expect((await takeReading('gauge-1')).ok).toBe(true)
  })
  test('switched off, unknown, and nobody there', async () => {
    await setFault('probe-1', 'off')
    expect(why(await takeReading('probe-1'))).toContain('off or out of reach')
    expect(why(await takeReading('nothing'))).toContain('cannot be reached')
    expect(why(await takeReading('../etc'))).toContain('not the name')
    stand.close()
    expect(why(await takeReading('laser-1'))).toContain('cannot be reached')
    process.env.INSTRUMENTS_PORT = '0'
    expect(await listInstruments()).toEqual([])
  })
  test('a reading sent twice counts once in a stream', async () => {
    const seqs: number[] = []
    const line = streamReadings(
      'laser-1',
      100,
      (r) => seqs.push(r.seq),
      () => {},
    )
    // A bad moment is played with the next reading: on a busy machine that takes as long as it takes.
    await setFault('laser-1', 'garbage')
    await until(() => line.trouble().broken === 1)
    await setFault('laser-1', 'twice')
    await until(() => line.trouble().repeated === 1)
    await later(100)
    line.end()
    expect(new Set(seqs).size).toBe(seqs.length)
    expect(line.trouble()).toEqual({ broken: 1, repeated: 1 })
  })
})

test('two hundred readings a second arrive without a gap', async () => {
  const seqs: number[] = []
  const line = streamReadings(
    'laser-1',
    200,
    (r) => seqs.push(r.seq),
    () => {},
  )
  await until(() => seqs.length > 300)
  line.end()
  expect(seqs[seqs.length - 1]).toBe((seqs[0] ?? 0) + seqs.length - 1)
  expect(line.trouble()).toEqual({ broken: 0, repeated: 0 })
})

test('the same seed tells the same day, and the noise is about normal', () => {
  const day = (seed: number) => Array.from({ length: 5 }, () => standIns(seed, new Date(0)).get('laser-1')?.read(new Date(0)).values.rod)
  expect(day(3)).toEqual(day(3))
  expect(day(3)).not.toEqual(day(4))
  const n = noise(9)
  const draws = Array.from({ length: 4000 }, n.normal)
  const mean = draws.reduce((a, b) => a + b, 0) / draws.length
  expect(Math.abs(mean)).toBeLessThan(0.06)
  expect(Math.sqrt(draws.reduce((a, b) => a + (b - mean) ** 2, 0) / draws.length)).toBeCloseTo(1, 1)
})
