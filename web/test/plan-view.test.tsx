import { clearances, type Plan } from '@stone-tally/core'
import { act, fireEvent, render, screen } from '@testing-library/react'
import { useState } from 'react'
import { built, layoutOf } from '../../core/test/plans'
import { at, planOn } from '../../core/test/walls'
import { WallView } from '../features/build/board/wall-view'
import { PlanView } from '../features/plan/set-out/plan-view'
import { paintCourse } from '../features/plan/set-out/scene'
import { type Draft, lineOf, useDraft } from '../features/plan/set-out/use-draft'

const plan = built(
  planOn([at(0, 0), at(10, 0, 0.3), at(18, 6)], false, {
    sections: [
      { id: 'A', from: 0, to: 8 },
      { id: 'B', from: 8, to: planOn([at(0, 0), at(10, 0, 0.3), at(18, 6)], false).length },
    ],
  }),
)
const layout = layoutOf(plan)
let draft: Draft
function Bench({ start, readOnly, chosen }: { start: Plan; readOnly: boolean; chosen?: (i: number | undefined) => void }) {
  const [first] = useState(() => layoutOf(start))
  draft = useDraft(start, first)
  return (
    <PlanView
      draft={draft}
      width={800}
      height={450}
      units="metric"
      clear={clearances(draft.layout)}
      selected={0}
      onSelect={chosen ?? (() => {})}
      course={1}
      snap
      readOnly={readOnly}
    />
  )
}
const point = (i: number) => screen.getByRole('button', { name: new RegExp(`^Point ${i}:`) })

describe('points on the plan', () => {
  test('arrow keys move a point by 100 mm, a metre with Shift, 10 mm with Alt', () => {
    render(<Bench start={plan} readOnly={false} />)
    fireEvent.keyDown(point(2), { key: 'ArrowRight' })
    fireEvent.keyDown(point(2), { key: 'ArrowUp', shiftKey: true })
    fireEvent.keyDown(point(2), { key: 'ArrowLeft', altKey: true })
    expect(lineOf(draft.plan).vertices[1]).toMatchObject({ easting: 10.09, northing: 1 })
    // The keys pressed in a row are one step back.
    act(() => draft.undo())
    expect(lineOf(draft.plan).vertices[1]).toMatchObject({ easting: 10, northing: 0 })
  })
  test('+ puts a point into the element that leaves it', () => {
    render(<Bench start={plan} readOnly={false} />)
    fireEvent.keyDown(point(1), { key: '+' })
    expect(lineOf(draft.plan).vertices[1]).toMatchObject({ easting: 5, northing: 0 })
  })
  test('whoever may not plan can look at every point and move none', () => {
    const seen: (number | undefined)[] = []
    render(<Bench start={plan} readOnly chosen={(i) => seen.push(i)} />)
    fireEvent.focus(point(3))
    fireEvent.keyDown(point(3), { key: 'ArrowRight' })
    expect([seen, draft.changed]).toEqual([[2], false])
  })
  test('a line that cannot be keeps the last wall that could, and says what is wrong', () => {
    render(<Bench start={plan} readOnly={false} />)
    act(() =>
      draft.edit((p) => ({
        ...p,
        alignment: {
          vertices: [
            { easting: 0, northing: 0, bulge: 0 },
            { easting: 0, northing: 0, bulge: 0 },
          ],
          closed: false,
        },
      })),
    )
    expect(draft.problems[0]?.field).toBe('alignment.vertices[1]')
    expect(draft.layout.plan.length).toBeCloseTo(plan.length, 6)
    act(() => draft.undo())
    expect(draft.problems).toEqual([])
  })
  test('the drawing carries north, a scale and stations', () => {
    const { container } = render(<Bench start={plan} readOnly={false} />)
    const words = [...container.querySelectorAll('text')].map((t) => t.textContent?.trim())
    expect(words).toEqual(expect.arrayContaining(['N', '0', '0.00', 'A', 'B']))
  })
})

describe('units on the plan', () => {
  const strokes = (k: number) => {
    let count = 0
    const g = { beginPath() {}, moveTo() {}, lineTo() {}, closePath() {}, fill() {}, stroke: () => void count++ }
    const ink = { unit: 'u', line: 'l', ink: 'i', done: 'd', cut: 'c', filled: 'f', stone: 's', mesh: 'm' }
    paintCourse(g as unknown as CanvasRenderingContext2D, layout, 1, { k, x: 100, y: 300, width: 4000, height: 4000 }, ink)
    return count
  }
  test('every unit of the course from near, none from far', () => {
    const first = (layout.runs[0] ?? []).flatMap((r) => r.pieces)
    expect(strokes(60)).toBe(first.length)
    expect(strokes(5)).toBe(0)
  })
})

test('a tap on the Board’s wall names the unit under it and chooses its course', () => {
  const chosen: string[] = []
  const shared = { layout, units: 'metric' as const }
  const { container } = render(
    <WallView
      layout={layout}
      width={800}
      station={2}
      from={0}
      to={8}
      onStation={() => {}}
      onCell={(s, c) => chosen.push(`${s}${c}`)}
      drawing={{ units: 'metric', label: 'wall' }}
      strip={{ ...shared, from: -0.5, to: plan.length + 0.5 }}
    />,
  )
  const drawing = container.querySelector('[aria-label="wall"]')
  if (!drawing) throw new Error('no drawing')
  const high = Number(drawing.getAttribute('height'))
  fireEvent.click(drawing, { clientX: 400, clientY: high / 2 })
  expect(chosen).toHaveLength(1)
  expect(screen.getByRole('status').textContent).toMatch(/^Course \d, \d\.\d\d: block \d+ of section A, (full|half|cut) 0\.\d{3} m$/)
})
