// Rule table 2, held against hand-worked cases: each says what it rests on. Earlier revisions keep table 1 (record-truth and edges).
import { cutDepth, lineOf } from '@stone-tally/core'
import * as fc from 'fast-check'
import { entry, layoutOf, plain, smallPlan, stateOf } from '../plans'
import { Site } from '../site'
import { judge, tall, today } from './wall'

describe('the cut', () => {
  // Soil nobody has classified is taken for the weakest: 1.5 across per 1 up (trench safety rules of the trade, 34 degrees).
  const here = { stage: 'dig', section: 'B', station: 6 }
  const whole = { slope: 1.5, water: false, spoil: 0.6, plant: 1, ladder: 7.5, by: 'Rhea Moss' }
  const cut = (data: object) => judge(tall, 'cut', here, { ...whole, ...data })
  test('is deeper than a person may stand beside unheld', () => expect(cutDepth(layoutOf(tall), 6)).toBeGreaterThan(2.4))
  test.each([
    ['at 1.5 across per 1 up', {}, ''],
    ['a hair steeper', { slope: 1.49 }, /stands at 1.49H:1V, at least 1.5H:1V/],
    ['the usual of before', { slope: 0.75 }, /at least 1.5/],
    ['stiff clay, dry and sound, by name', { slope: 0.75, soil: 'stiff-clay', sound: true }, ''],
    ['stiff clay steeper still', { slope: 0.74, soil: 'stiff-clay', sound: true }, /at least 0.75/],
    ['stiff clay with water', { slope: 0.75, soil: 'stiff-clay', sound: true, water: true }, /at least 1.5/],
    ['stiff clay with cracks', { slope: 0.75, soil: 'stiff-clay', sound: false }, /at least 1.5/],
    ['stiff clay of which nobody saw the cracks', { slope: 0.75, soil: 'stiff-clay' }, /at least 1.5/],
    ['stiff clay that nobody classified', { slope: 0.75, soil: 'stiff-clay', sound: true, by: ' ' }, /at least 1.5/],
    ['shored by name', { slope: 0, shored: true }, ''],
    ['shored by nobody', { slope: 0, shored: true, by: '' }, /nobody is named/],
    ['benched in the wet', { slope: 0, benched: true, water: true }, /benches do not stand/],
    ['spoil at the edge', { spoil: 0.5 }, /spoil 0.50 m from the edge/],
    ['plant at the edge', { plant: 0.5 }, /plant 0.50 m from the edge/],
    ['no way out', { ladder: 9 }, /9.00 m to a ladder/],
  ])('%s', (_name, data, text) => {
    const v = cut(data)
    expect(v?.verdict).toBe(text === '' ? 'ok' : 'out')
    if (text !== '') expect(v?.text).toMatch(text)
  })
  test('reads in the diary as what it is, and says nothing of what it is not', () => {
    const state = stateOf([], tall)
    const line = (data: object) => lineOf(state, entry('cut', here, { ...whole, ...data }), { units: 'metric' })
    expect(plain(line({}))).toBe('Cut at 6.00: sides 1.5H:1V, plant 1.00 m off, ladder within 7.50 m, spoil 0.60 m off, judged by Rhea Moss')
    expect(plain(line({ water: true, shored: true, benched: true, soil: 'stiff-clay', sound: true }))).toBe(
      'Cut at 6.00: sides 1.5H:1V, shored, benched, stiff clay, dry and sound, plant 1.00 m off, ladder within 7.50 m, spoil 0.60 m off, water in the cut, judged by Rhea Moss',
    )
    expect(plain(lineOf(state, entry('cut', here, {}), { units: 'metric' }))).toBe('Cut at 6.00: looked at')
  })
  test.each(['slope', 'water', 'spoil', 'plant', 'ladder', 'by'])('over 1.2 m %s is not left unsaid', (field) => {
    const site = new Site(tall).work('services').work('set-out').release('set-out')
    const { [field as keyof typeof whole]: _, ...data } = whole
    expect(site.refusal(entry('cut', here, data))).toMatch(new RegExp(`data.${field}: is missing; the cut is`))
    expect(site.refusal(entry('cut', here, whole))).toBe('')
  })
  test('under 1.2 m nothing is asked, and the spoil still keeps off', () => {
    const low = today({ ...smallPlan, grades: smallPlan.grades.map((g) => ({ ...g, top: g.toe + 0.7 })) })
    expect(cutDepth(layoutOf(low), 6)).toBeLessThan(1.2)
    expect(judge(low, 'cut', here, {})?.verdict).toBe('ok')
    expect(judge(low, 'cut', here, { spoil: 0.3 })?.verdict).toBe('out')
  })
  test('more cautious is never kinder: steeper, wetter, nearer, further from a ladder, nameless', () => {
    const amount = (max: number) => fc.double({ min: 0, max, noNaN: true })
    fc.assert(
      fc.property(
        fc.record({
          slope: amount(3),
          soil: fc.constantFrom('stiff-clay', 'other'),
          sound: fc.boolean(),
          water: fc.boolean(),
          shored: fc.boolean(),
          benched: fc.boolean(),
          spoil: amount(2),
          plant: amount(3),
          ladder: amount(20),
          by: fc.constantFrom('', 'Rhea Moss'),
        }),
        amount(1),
        (d, by) => {
          if (cut(d)?.verdict === 'ok') return
          for (const worse of [
            { slope: Math.max(0, d.slope - by) },
            { water: true },
            { sound: false },
            { soil: 'other' },
            { spoil: Math.max(0, d.spoil - by) },
            { plant: Math.max(0, d.plant - by) },
            { ladder: d.ladder + by },
            { by: '' },
            // Benches taken away where the side is steep; a side that is laid back needs none.
            ...(d.slope < 0.7 ? [{ shored: false, benched: false }] : []),
          ])
            expect(cut({ ...d, ...worse })?.verdict).toBe('out')
        },
      ),
      { numRuns: 300 },
    )
  })
})
