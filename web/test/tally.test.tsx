import { systemOf } from '@stone-tally/core'
import { act, render, screen } from '@testing-library/react'
import { built, layoutOf, smallPlan } from '../../core/test/plans'
import { at, planOn } from '../../core/test/walls'
import { draftOf, planOf } from '../features/plan/plan/draft'
import { fieldLabel } from '../features/plan/plan/labels'
import { Elevation } from '../ui/drawing/elevation'
import { type CellLook, paintUnits, unitAt, type View } from '../ui/drawing/paint-units'
import { Tally } from '../ui/tally'

describe('tally', () => {
  const strokes = (c: HTMLElement, ink?: string) =>
    [...c.querySelectorAll('path')]
      .filter((p) => ink === undefined || p.getAttribute('stroke') === ink)
      .reduce((n, p) => n + (p.getAttribute('d')?.match(/M/g)?.length ?? 0), 0)
  const dark = (c: HTMLElement) => strokes(c, 'var(--ink)')
  test('a stroke for each unit, dark when set, and the count in words', () => {
    const { container } = render(<Tally done={7} total={12} />)
    expect(strokes(container)).toBe(12)
    expect(dark(container)).toBe(7)
    expect(screen.getByRole('img', { name: '7 of 12' })).toBeTruthy()
  })
  test('every fifth lies across the four before it, and none leaves the drawing', () => {
    const { container } = render(<Tally done={23} total={23} />)
    const d = container.querySelector('path')?.getAttribute('d') ?? ''
    const width = Number(container.querySelector('svg')?.getAttribute('width'))
    const marks = d.split('M').slice(1)
    expect(marks.map((m) => m.includes('V'))).toEqual(marks.map((_, i) => i % 5 !== 4))
    for (const m of marks)
      for (const x of [m.split(' ')[0], m.split('L')[1]?.split(' ')[0]]) if (x) expect(Number(x) >= 0 && Number(x) <= width).toBe(true)
  })
  test('long courses count in bundles, and only a whole course is all dark', () => {
    const { container, rerender } = render(<Tally done={199} total={200} max={50} />)
    expect(strokes(container)).toBe(50)
    expect(dark(container)).toBeLessThan(50)
    rerender(<Tally done={200} total={200} max={50} />)
    expect(dark(container)).toBe(50)
  })
})

describe('units on the elevation', () => {
  const layout = layoutOf()
  const rows = new Map(layout.courses.map((c) => [c.course, c]))
  const ink = { unit: 'unit', line: 'line', ink: 'ink', done: 'done', cut: 'cut', filled: 'filled', stone: 'stone', mesh: 'mesh' }
  /** What a canvas would have been told to fill. */
  const painted = (view: Partial<View> = {}, look?: (s: string, c: number) => CellLook) => {
    const rects: { style: string; x: number; y: number; w: number; h: number }[] = []
    const g = {
      fillStyle: '' as string,
      fillRect: (x: number, y: number, w: number, h: number) => void rects.push({ style: g.fillStyle, x, y, w, h }),
    }
    const whole: View = { from: 0, to: 9, width: 900, height: 300, high: 12, perMetre: 100, ...view }
    const count = paintUnits(g as unknown as CanvasRenderingContext2D, layout, rows, whole, ink, look)
    expect(rects).toHaveLength(count)
    return rects
  }
  test('every piece is filled once, those set in their own way', () => {
    const pieces = [...layout.cells.values()].flatMap((c) => c.pieces)
    const rects = painted({}, (_s, course) => ({ set: course === 1 ? 2 : 0, filled: course === 1, open: false }))
    const units = rects.filter((r) => ['unit', 'cut', 'filled'].includes(r.style))
    expect(units).toHaveLength(pieces.length)
    const withFirst = [...layout.cells.values()].filter((c) => c.course === 1).length
    expect(rects.filter((r) => r.style === 'filled')).toHaveLength(2 * withFirst)
    const first = units.find((r) => r.style === 'filled')
    expect(first?.h).toBeCloseTo(20 - 1.4, 6)
  })
  test('only what is in view is filled', () => {
    const all = painted()
    const some = painted({ from: 4, to: 5 })
    expect(some.length).toBeLessThan(all.length / 3)
    for (const r of some) expect(r.x + r.w).toBeGreaterThan(-100)
    expect(painted({ high: 9 })).toEqual([])
  })
  test('from far away a course is one bar with the share that is set', () => {
    const rects = painted({ perMetre: 5, width: 45 }, () => ({ set: 3, filled: false, open: false }))
    const stretches = [...layout.cells.values()].reduce((n, c) => n + c.stretches.length, 0)
    expect(rects).toHaveLength(3 * stretches)
    expect(rects.filter((r) => r.style === 'done')).toHaveLength(stretches)
  })
  test('the unit under a finger', () => {
    const course = layout.courses[2]
    if (!course) throw new Error('no course')
    const picked = unitAt(layout, 4, course.bottom + 0.1)
    expect(picked).toMatchObject({ row: { course: 3 } })
    expect((picked?.piece.start ?? 9) <= 4 && (picked?.piece.to ?? 0) > 4).toBe(true)
    expect(unitAt(layout, 4, 20)).toBeUndefined()
  })
  test('while the page is printed the canvas is four times as fine, and at once', () => {
    const { container } = render(<Elevation layout={layout} width={900} height={300} from={0} to={9} units="metric" label="w" />)
    const canvas = container.querySelector('canvas')
    if (!canvas) throw new Error('no canvas')
    const g = {
      setTransform() {},
      clearRect() {},
      fillRect() {},
      fillStyle: '',
      createPattern: () => null,
      beginPath() {},
      moveTo() {},
      lineTo() {},
      stroke() {},
      ellipse() {},
    }
    const given = jest.spyOn(HTMLCanvasElement.prototype, 'getContext').mockReturnValue(g as never)
    act(() => {
      window.dispatchEvent(new Event('beforeprint'))
      expect([canvas.width, canvas.height]).toEqual([3600, 1200])
    })
    act(() => void window.dispatchEvent(new Event('afterprint')))
    expect(canvas.width).toBe(900)
    given.mockRestore()
  })
  test('names of corners stay in the drawing and do not lie on one another', () => {
    const zigzag = layoutOf(planOn([at(0, 0), at(8, 0), at(8, 2), at(6, 2), at(6, 6)], false))
    for (const width of [300, 500, 1200]) {
      const { container, unmount } = render(
        <Elevation layout={zigzag} width={width} height={300} from={0} to={zigzag.plan.length} units="metric" label="w" />,
      )
      const boxes = [...container.querySelectorAll('text')]
        .filter((t) => t.textContent?.includes('corner'))
        .map((t) => {
          const [x, y, w] = [Number(t.getAttribute('x')), Number(t.getAttribute('y')), (t.textContent?.length ?? 0) * 6]
          return t.getAttribute('text-anchor') === 'end' ? { a: x - w, b: x, y } : { a: x, b: x + w, y }
        })
      expect(boxes).toHaveLength(3)
      for (const [i, p] of boxes.entries()) {
        expect([p.a >= 0, p.b <= width]).toEqual([true, true])
        for (const q of boxes.slice(i + 1)) expect(p.y !== q.y || p.b <= q.a || q.b <= p.a).toBe(true)
      }
      unmount()
    }
  })
  test('the drawing has its name, and the courses stand in the page before any script has run', () => {
    const { container } = render(<Elevation layout={layout} width={900} height={300} from={0} to={9} units="metric" label="w" />)
    expect(container.querySelector('[role=img]')?.getAttribute('aria-label')).toBe('w')
    const outlines = [...container.querySelectorAll('svg[aria-hidden] path')].map((p) => p.getAttribute('d') ?? '').join('')
    expect(outlines.match(/M/g)?.length).toBeGreaterThan(layout.courses.length)
    // To the tenth of a pixel: what nobody sees is not sent.
    expect(outlines).not.toMatch(/\.\d{2}/)
  })
})

describe('a typed plan', () => {
  const blocks = systemOf('hollow-core')
  const plan = layoutOf().plan
  test('goes to text and back in both unit systems', () => {
    const metric = planOf({ ...draftOf(plan, 'metric') }, 'metric')
    expect(metric.ok && metric.value.grades).toEqual(plan.grades)
    const feet = planOf({ ...draftOf(plan, 'imperial') }, 'imperial')
    expect(feet.ok && Math.abs((feet.value.grades[0]?.toe ?? 0) - 10.3)).toBeLessThan(0.001)
  })
  test('opened in whatever units and issued untouched it is the very same plan, whatever the form does not know', () => {
    const odd = {
      ...built({
        ...smallPlan,
        embedment: [{ kind: 'perHeight' as const, base: 0.15, perMetre: 0.1 }],
        pad: { ...smallPlan.pad, thickness: 0.1501 },
        drain: { ...smallPlan.drain, outlets: [{ station: 8.99973, invert: 9.85003 }] },
      }),
      length: 8.99973,
      grades: [
        { station: 0, toe: 10.30049, top: 11.30012 },
        { station: 8.99973, toe: 10.00007, top: 11.29999 },
      ],
      benchmark: { name: 'BM', elevation: 10.00051 },
      sections: [
        { id: 'A', from: 0, to: 4.50003 },
        { id: 'B', from: 4.50003, to: 8.99973 },
      ],
    }
    for (const units of ['metric', 'imperial', 'decimal-feet'] as const) {
      const same = planOf(draftOf(odd, units), units, undefined, odd)
      expect(same).toEqual({ ok: true, value: odd })
      // One field changed changes one field.
      const one = planOf({ ...draftOf(odd, units), site: 'Elsewhere' }, units, undefined, odd)
      expect(one).toEqual({ ok: true, value: { ...odd, site: 'Elsewhere' } })
    }
    const longer = planOf({ ...draftOf(odd, 'metric'), length: '10' }, 'metric', undefined, odd)
    expect(longer.ok && [longer.value.grades[1]?.station, longer.value.sections[1]?.to, longer.value.grades[1]?.toe]).toEqual([10, 10, 10.00007])
    const fewer = planOf(
      {
        ...draftOf(odd, 'imperial'),
        sections: draftOf(odd, 'imperial')
          .sections.slice(1)
          .map((s) => ({ ...s, to: '' })),
      },
      'imperial',
      undefined,
      odd,
    )
    expect(fewer.ok && fewer.value.sections).toEqual([{ id: 'B', from: 0, to: 8.99973 }])
  })
  test('a field is named in the words of the form, its lines counted from 1', () => {
    expect([fieldLabel('sections.1.to'), fieldLabel('part.padWidth', blocks), fieldLabel('lists.grid.0.cells.length', blocks)]).toEqual([
      'Section 2: ends at',
      'Pad width',
      'Geogrid 1: length',
    ])
  })
  test('problems carry the path of the field that was typed', () => {
    const draft = { ...draftOf(plan, 'metric'), length: '', benchmark: 'high' }
    const read = planOf(draft, 'metric')
    expect(read.ok ? [] : read.problems.map((p) => p.field)).toEqual(expect.arrayContaining(['length', 'benchmark']))
    // What the form does not ask for stays as the plan in force has it.
    const more = built({
      ...smallPlan,
      water: { school: 'raised' as const, possible: [{ station: 3, invert: 9.9 }] },
      gridRolls: [{ type: 'uniaxial 30', width: 2, length: 50 }],
      drain: { ...smallPlan.drain, maxOutletSpacing: 12 },
    })
    const kept = planOf(draftOf(more, 'metric'), 'metric', undefined, more)
    expect(kept).toEqual({ ok: true, value: more })
    const crossed = planOf(
      { ...draftOf(plan, 'metric'), lists: { ...draftOf(plan, 'metric').lists, grid: [{ cells: { course: '1', length: '9', type: 'x' } }] } },
      'metric',
    )
    expect(crossed.ok ? [] : crossed.problems.map((p) => p.field)).toEqual(['lists.grid.0.cells.length'])
  })
})
