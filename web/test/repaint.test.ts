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

/** A canvas of 900 × 200 places that keeps the last colour put on each (0 for none), and counts what is filled. */
class Sheet {
  fillStyle: string | CanvasPattern = ''
  readonly places = new Uint8Array(900 * 200)
  filled = 0
  fillRect(x: number, y: number, w: number, h: number) {
    this.filled++
    const colour = Object.values(ink).indexOf(String(this.fillStyle)) + 1
    expect(colour).toBeGreaterThan(0)
    const within = (v: number, most: number) => Math.min(Math.max(Math.round(v), 0), most)
    const [from, to] = [within(x, 900), within(x + w, 900)]
    for (let j = within(y, 200); j < within(y + h, 200); j++) if (to > from) this.places.fill(colour, j * 900 + from, j * 900 + to)
  }
  clearRect() {
    this.places.fill(0)
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
        const other = fresh.places.findIndex((colour, place) => sheet.places[place] !== colour)
        expect([other, other < 0 ? '' : `${sheet.places[other]} for ${fresh.places[other]}`]).toEqual([-1, ''])
        expect(fresh.places.some((colour) => colour > 0)).toBe(true)
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
