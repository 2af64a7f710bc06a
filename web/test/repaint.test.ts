import { layOut } from '@stone-tally/core'
import fc from 'fast-check'
import { built, smallPlan } from '../../core/test/plans'
import { type CellLook, type Ink, type Painted, repaintUnits, type View } from '../ui/drawing/paint-units'

const laid = layOut(built(smallPlan))
if (!laid.ok) throw new Error('not laid out')
const layout = laid.value
const rows = new Map(layout.courses.map((c) => [c.course, c]))
const ink: Ink = { unit: 'unit', line: 'line', ink: 'ink', done: 'done', cut: 'cut', filled: 'filled', stone: 'stone', mesh: 'mesh' }
const high = Math.max(...layout.courses.map((c) => c.top))
const view: View = { from: 0, to: 9, width: 900, height: 200, high, perMetre: 100 }

/** A canvas of 900 × 200 places that keeps the last colour put on each, and counts what is filled. */
class Sheet {
  fillStyle: string | CanvasPattern = ''
  readonly places = new Map<number, string>()
  filled = 0
  fillRect(x: number, y: number, w: number, h: number) {
    this.filled++
    for (let j = Math.round(y); j < Math.round(y + h); j++)
      for (let i = Math.round(x); i < Math.round(x + w); i++)
        if (i >= 0 && i < 900 && j >= 0 && j < 200) this.places.set(j * 900 + i, String(this.fillStyle))
  }
  clearRect() {
    this.places.clear()
  }
}
const lookOf = (state: ReadonlyMap<string, CellLook>) => (s: string, c: number) => state.get(`${s}/${c}`) ?? { set: 0, filled: false, open: false }

test('after any changes it shows what a fresh painting would show', () =>
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 0, max: layout.cells.size - 1 }), fc.integer({ min: 0, max: 12 }), fc.boolean()), {
        minLength: 1,
        maxLength: 8,
      }),
      (changes) => {
        const state = new Map<string, CellLook>()
        const sheet = new Sheet()
        let painted: Painted | undefined = repaintUnits(sheet, layout, rows, view, ink, lookOf(state), undefined).painted
        for (const [cell, set, filled] of changes) {
          state.set([...layout.cells.keys()][cell] as string, { set, filled, open: false })
          painted = repaintUnits(sheet, layout, rows, view, ink, lookOf(state), painted).painted
        }
        const fresh = new Sheet()
        repaintUnits(fresh, layout, rows, view, ink, lookOf(state), undefined)
        // Compared place by place: two maps of 100,000 take a comparison library half a minute.
        const other = [...fresh.places].filter(([place, colour]) => sheet.places.get(place) !== colour)
        expect([other.slice(0, 3), sheet.places.size]).toEqual([[], fresh.places.size])
      },
    ),
    { numRuns: 25 },
  ))
test('one cell costs one cell; nothing changed costs nothing; another view costs all', () => {
  const state = new Map<string, CellLook>()
  const sheet = new Sheet()
  const whole = repaintUnits(sheet, layout, rows, view, ink, lookOf(state), undefined)
  const cell = layout.cells.get('B/2')
  state.set('B/2', { set: 3, filled: false, open: false })
  const one = repaintUnits(sheet, layout, rows, view, ink, lookOf(state), whole.painted)
  expect(one.rects).toBe((cell?.pieces.length ?? 0) + (cell?.stretches.length ?? 0))
  expect(one.rects).toBeLessThan(whole.rects / 4)
  expect(repaintUnits(sheet, layout, rows, view, ink, lookOf(state), one.painted).rects).toBe(0)
  expect(repaintUnits(sheet, layout, rows, { ...view, from: 1, to: 10 }, ink, lookOf(state), one.painted).rects).toBeGreaterThan(whole.rects / 2)
})
