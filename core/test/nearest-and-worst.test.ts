// Where one of several is taken, it is the right one whatever order they came in: the worst soil, the nearest station, the own limit, the order of the record.
import { bedUnder, emptyState, KINDS, limitsOf, padFacts, pickAt, type Step, whileAway } from '@stone-tally/core'
import { FIRM_CLAY } from './build'
import { daysOf } from './pinned-records'
import { entry, layoutOf, plain } from './plans'
import { Site } from './site'
import { started } from './started'

const layout = layoutOf(started('hollow-core'))
const judge = (kind: string, data: object) =>
  plain(
    KINDS.find((k) => k.kind === kind)?.judge?.(entry(kind, {}, data), { layout, stage: undefined, find: () => undefined, of: () => [] }) as never,
  ) as { verdict: string; text: string } | undefined

describe('a sight on a known point', () => {
  const { levelCheck, levelClosure } = limitsOf(layout.plan)
  const off = (sight: string, by: number, more: object = {}) =>
    judge('sight', { sight, point: 'BM', hi: 11.5, reading: 1.5 - by, known: 10, ...more })
  test('a check has a limit of its own, however many set-ups there were', () => {
    expect(off('check', levelCheck.value)?.verdict).toBe('ok')
    expect(off('check', levelCheck.value + 0.0002)?.verdict).toBe('out')
    expect(off('check', -levelCheck.value - 0.0002, { setups: 9 })?.verdict).toBe('out')
  })
  test('a line that closes is given more the more set-ups it has', () => {
    for (const n of [1, 4, 9]) {
      expect(off('foresight', levelClosure.value * Math.sqrt(n), { setups: n })?.verdict).toBe('ok')
      expect(off('foresight', levelClosure.value * Math.sqrt(n) + 0.0002, { setups: n })?.verdict).toBe('out')
      expect(off('foresight', -levelClosure.value * Math.sqrt(n) - 0.0002, { setups: n })?.text).toMatch(/low, limit/)
    }
    expect(off('foresight', levelClosure.value + 0.0002)?.verdict).toBe('out')
  })
  test('what is of no known point is judged by nothing', () => expect(off('foresight', 1, { known: undefined })).toBeUndefined())
})

test('the pad is advised for the worst soil under it, whichever was found first', () => {
  const soils = [
    { ...FIRM_CLAY, grain: 'gravel', ribbon: 'none', feel: 'gritty' },
    { ...FIRM_CLAY, ribbon: 'long' },
    { ...FIRM_CLAY, grain: 'sand', ribbon: 'none', feel: 'gritty' },
  ]
  for (const order of [soils, soils.toReversed()]) {
    const site = new Site(started('hollow-core'))
    order.forEach((answers, i) => {
      site.put(entry('soil', { stage: 'dig', section: 'A' }, { answers, from: i * 3, to: (i + 1) * 3 }))
    })
    expect(padFacts(site.state).subgrade).toBe('fat-clay')
  }
})

test('the bed that is read again is the one under the unit', () => {
  const state = emptyState([layoutOf(started('big-block', { length: 12 }))])
  const step = state.steps.find((s) => s.stage.work.type === 'picks' && s.course === 1) as Step
  const beds = Array.from({ length: 12 }, (_, i) => i + 1).flatMap((number) => {
    const [planned, bed] = [pickAt(state.layout, 1, number), bedUnder(state, step, number)]
    return planned && bed ? [{ planned, bed }] : []
  })
  expect(beds.length).toBeGreaterThan(4)
  for (const { planned, bed } of beds) {
    const away = (s: number) => Math.abs(s - planned.station)
    expect(bed.step.points.every((p) => away(p) >= away(bed.station))).toBe(true)
  }
  expect(new Set(beds.map((b) => b.bed.station)).size).toBeGreaterThan(2)
})

test('what happened meanwhile is told in the order of the record, whatever order it is asked in', () => {
  const told = [3, 12, 30, 40].map((n) => {
    const { state } = daysOf(n)
    const asked = state.entries.map((e) => ({ id: e.entry.id, knew: 0 }))
    const items = whileAway(state, asked)
    const numbers = items.map((i) => i.recorded.seq)
    expect(numbers).toEqual(numbers.toSorted((a, b) => a - b))
    expect(whileAway(state, asked.toReversed())).toEqual(items)
    return items.length
  })
  expect(Math.max(...told)).toBeGreaterThan(1)
})
