import { setElement, withLine } from '@stone-tally/core'
import { fireEvent, render, screen } from '@testing-library/react'
import { built, layoutOf } from '../../core/test/plans'
import { at, planOn } from '../../core/test/walls'
import { LongSection } from '../features/plan/set-out/long-section'
import { elementPath, Scene, toSite, toX, toY } from '../features/plan/set-out/scene'
import { type Draft, lineOf } from '../features/plan/set-out/use-draft'
import { stepsFrom } from '../ui/steps-back'

const plan = built(
  planOn([at(0, 0), at(10, 0, 0.3), at(18, 6)], false, {
    obstacles: [{ name: 'oak', kind: 'tree', points: [{ easting: 3, northing: 1 }], radius: 0.3, clearance: 1 }],
  }),
)
const layout = layoutOf(plan)
const sheet = { k: 30, x: 40, y: 300, width: 800, height: 400 }

describe('the history of a draft', () => {
  const longer = (length: number) => (p: typeof plan) => withLine(p, setElement(lineOf(p).vertices as never, 0, false, { length }), false)
  const end = (h: { now(): typeof plan }) => lineOf(h.now()).vertices[1]?.easting
  const begun = () => {
    const { steps, history } = stepsFrom(plan)
    return { ...steps, past: () => history.getState().pastStates.length, future: () => history.getState().futureStates.length }
  }
  test('edits with one key are one step; another key, or a pause, begins the next', () => {
    const h = begun()
    h.edit(longer(11), 'length 0')
    h.edit(longer(12), 'length 0')
    expect(h.past()).toBe(1)
    h.settle()
    h.edit(longer(13), 'length 0')
    expect(h.past()).toBe(2)
    h.undo()
    expect(end(h)).toBe(12)
    h.redo()
    expect(end(h)).toBe(13)
    h.undo()
    h.undo()
    expect(h.now()).toBe(plan)
  })
  test('a new edit forgets what was undone; nothing to undo changes nothing', () => {
    const h = begun()
    h.edit(longer(11), 'length 0')
    h.undo()
    expect(h.now()).toBe(plan)
    h.undo()
    expect(h.now()).toBe(plan)
    // After a step back the same key is a step of its own.
    h.edit(longer(14), 'length 0')
    expect([h.past(), h.future()]).toEqual([1, 0])
    h.redo()
    expect(end(h)).toBe(14)
    h.edit((p) => p)
    expect(h.past()).toBe(1)
  })
  test('far too many steps: the oldest are let go, the newest stay', () => {
    const h = begun()
    for (let i = 0; i < 250; i++) h.edit(longer(11 + i), `length ${i}`)
    expect(h.past()).toBe(200)
    for (let i = 0; i < 300; i++) h.undo()
    expect(end(h)).toBe(11 + 49)
  })
})

describe('the plan view', () => {
  test('site and sheet are each other’s inverse, north up', () => {
    const p = toSite(sheet, 100, 120)
    expect([toX(sheet, p), toY(sheet, p)]).toEqual([100, 120])
    expect(toY(sheet, { easting: 0, northing: 5 })).toBeLessThan(toY(sheet, { easting: 0, northing: 0 }))
  })
  test('an arc is drawn as an arc through its middle', () => {
    const arc = layout.alignment.segments[1]
    if (arc?.kind !== 'arc') throw new Error('no arc')
    expect(elementPath(sheet, arc).match(/A/g)).toHaveLength(2)
  })
  test('obstacles too near are marked by shape and word, stations and lengths are written', () => {
    const { container } = render(
      <svg>
        <title>plan</title>
        <Scene
          layout={layout}
          sheet={sheet}
          units="metric"
          clear={[{ obstacle: 0, name: 'oak', distance: 0.1, clearance: 1, station: 3, ok: false, message: '' }]}
        />
      </svg>,
    )
    const words = [...container.querySelectorAll('text')].map((t) => t.textContent)
    expect(words).toEqual(expect.arrayContaining(['▲ oak', '0.00', '10.00 m']))
  })
})

test('grade points on the long section are moved by keys; readers only look', () => {
  const edits: ((p: typeof plan) => typeof plan)[] = []
  const draft = { plan, layout, edit: (change: (p: typeof plan) => typeof plan) => void edits.push(change), settle: () => {} } as unknown as Draft
  const { rerender } = render(<LongSection draft={draft} width={800} height={200} units="metric" readOnly={false} />)
  const top = screen.getByRole('button', { name: /^Top grade at 0.00 m: 11.300 m/ })
  fireEvent.keyDown(top, { key: 'ArrowUp' })
  fireEvent.keyDown(top, { key: 'ArrowDown', shiftKey: true })
  fireEvent.keyDown(top, { key: 'ArrowLeft' })
  expect(edits.map((e) => e(plan).grades[0]?.top)).toEqual([11.31, 11.2])
  rerender(<LongSection draft={draft} width={800} height={200} units="metric" readOnly />)
  fireEvent.keyDown(top, { key: 'ArrowUp' })
  expect(edits).toHaveLength(2)
})
