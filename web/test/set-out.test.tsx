import { setElement, withLine } from '@stone-tally/core'
import { fireEvent, render, screen } from '@testing-library/react'
import { built, layoutOf } from '../../core/test/plans'
import { at, planOn } from '../../core/test/walls'
import { LongSection } from '../features/plan/set-out/long-section'
import { elementPath, Scene, toSite, toX, toY } from '../features/plan/set-out/scene'
import { type Draft, history, lineOf } from '../features/plan/set-out/use-draft'

const plan = built(
  planOn([at(0, 0), at(10, 0, 0.3), at(18, 6)], false, {
    obstacles: [{ name: 'oak', kind: 'tree', points: [{ easting: 3, northing: 1 }], radius: 0.3, clearance: 1 }],
  }),
)
const layout = layoutOf(plan)
const sheet = { k: 30, x: 40, y: 300, width: 800, height: 400 }

describe('the history of a draft', () => {
  const start = { past: [], now: plan, future: [], key: undefined }
  const longer = (length: number) => ({
    type: 'edit' as const,
    change: (p: typeof plan) => withLine(p, setElement(lineOf(p).vertices as never, 0, false, { length }), false),
    key: 'length 0',
  })
  test('edits with one key are one step; another key, or a pause, begins the next', () => {
    let h = history(history(start, longer(11)), longer(12))
    expect(h.past).toHaveLength(1)
    h = history(h, { type: 'settle' })
    h = history(h, longer(13))
    expect(h.past).toHaveLength(2)
    h = history(h, { type: 'undo' })
    expect(lineOf(h.now).vertices[1]?.easting).toBe(12)
    h = history(h, { type: 'redo' })
    expect(lineOf(h.now).vertices[1]?.easting).toBe(13)
  })
  test('a new edit forgets what was undone; nothing to undo changes nothing', () => {
    let h = history(start, longer(11))
    h = history(h, { type: 'undo' })
    expect(h.now).toBe(plan)
    expect(history(h, { type: 'undo' })).toBe(h)
    h = history(h, longer(14))
    expect(h.future).toEqual([])
    expect(history(h, { type: 'redo' })).toBe(h)
    expect(history(h, { type: 'edit', change: (p) => p })).toBe(h)
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
