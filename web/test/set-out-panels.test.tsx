import { clearances, compareLayouts, type Plan, readDrawing, stakesOf, withAnswerTo, writeSetOutDxf } from '@stone-tally/core'
import { fireEvent, render, screen, within } from '@testing-library/react'
import { useState } from 'react'
import { built, layoutOf } from '../../core/test/plans'
import { at, planOn } from '../../core/test/walls'
import { withoutObstacle } from '../features/plan/set-out/around'
import { AroundPanel } from '../features/plan/set-out/around-panel'
import { GradesPanel } from '../features/plan/set-out/grades-panel'
import { LinePanel } from '../features/plan/set-out/line-panel'
import { RevisionsPanel } from '../features/plan/set-out/revisions-panel'
import { StakesPanel } from '../features/plan/set-out/stakes-panel'
import { type Draft, lineOf, useDraft } from '../features/plan/set-out/use-draft'

const plan = built(
  planOn([at(0, 0), at(10, 0, 0.3), at(18, 6), at(18, 14)], false, {
    references: [
      {
        name: 'kerb',
        kind: 'building-line',
        points: [
          { easting: 0, northing: -2 },
          { easting: 20, northing: -2 },
        ],
      },
    ],
  }),
)
const layout = layoutOf(plan)

/** A panel with a real draft behind it; what the draft became is handed out. */
let draft: Draft
function Bench({ start = plan, children }: { start?: Plan; children: (d: Draft) => React.ReactNode }) {
  const [first] = useState(() => layoutOf(start))
  draft = useDraft(start, first)
  return <>{children(draft)}</>
}
const type = (label: string | RegExp, value: string, n = 0) =>
  fireEvent.change(screen.getAllByRole('textbox', { name: label })[n] as HTMLElement, { target: { value } })
const vertex = (i: number) => lineOf(draft.plan).vertices[i]

describe('the line panel', () => {
  const line = (readOnly = false, units: 'metric' | 'imperial' = 'metric', selected = 0) =>
    render(<Bench>{(d) => <LinePanel draft={d} units={units} selected={selected} onSelect={() => {}} readOnly={readOnly} />}</Bench>)
  test('numbers are taken as they are typed; what cannot be read changes nothing', () => {
    line()
    type('Length', '12.5')
    expect(vertex(1)?.easting).toBe(12.5)
    type('Length', '12.x')
    expect(vertex(1)?.easting).toBe(12.5)
    expect(screen.getByText('cannot be read')).toBeTruthy()
    type('Bearing', 'N 45 E')
    expect(vertex(1)?.northing).toBeCloseTo(12.5 * Math.SQRT1_2, 5)
    type('Easting', '-3,25')
    expect(vertex(0)?.easting).toBe(-3.25)
  })
  test('feet and inches, as crews write them', () => {
    line(false, 'imperial')
    type('Length', `40' 6"`)
    expect(vertex(1)?.easting).toBeCloseTo(40.5 * 0.3048, 6)
  })
  test('an arc made straight, tangent, split, taken out, closed', () => {
    line(false, 'metric', 1)
    fireEvent.click(screen.getByRole('button', { name: 'Tangent to the one before' }))
    expect(draft.layout.legs).toHaveLength(2)
    type('Radius', '0')
    expect(vertex(1)?.bulge).toBe(0)
    fireEvent.click(screen.getByRole('button', { name: 'Point in between' }))
    expect(lineOf(draft.plan).vertices).toHaveLength(5)
    fireEvent.click(screen.getByRole('button', { name: 'Take out' }))
    expect(lineOf(draft.plan).vertices).toHaveLength(4)
    fireEvent.click(screen.getByRole('button', { name: 'Close to a ring' }))
    expect(lineOf(draft.plan).closed).toBe(true)
  })
  test('a point is placed along and beside a reference', () => {
    line()
    type('Along it', '2')
    type('Offset, + to its left', '1.5')
    fireEvent.click(screen.getByRole('button', { name: 'Put point 1 there' }))
    expect(vertex(0)).toMatchObject({ easting: 2, northing: -0.5 })
  })
  test('who may not plan sees the same and changes nothing', () => {
    line(true)
    type('Length', '30')
    expect(draft.changed).toBe(false)
    expect(screen.queryByRole('button', { name: 'Take out' })).toBeNull()
  })
})

describe('the grades panel', () => {
  test('points are added in the widest gap, changed and taken out; the ends stay', () => {
    render(<Bench>{(d) => <GradesPanel draft={d} units="metric" readOnly={false} />}</Bench>)
    fireEvent.click(screen.getByRole('button', { name: 'Add a grade point' }))
    expect(draft.plan.grades).toHaveLength(3)
    type('Toe', '9.9', 1)
    expect(draft.plan.grades[1]?.toe).toBe(9.9)
    expect(screen.queryByRole('button', { name: /grade point at 0.00/ })).toBeNull()
    fireEvent.click(screen.getByRole('button', { name: /Take out the grade point/ }))
    expect(draft.plan.grades).toHaveLength(2)
  })
  test('the top is levelled, its steps made longer', () => {
    render(<Bench>{(d) => <GradesPanel draft={d} units="metric" readOnly={false} />}</Bench>)
    fireEvent.click(screen.getByRole('radio', { name: 'Level' }))
    expect(draft.plan.top).toEqual({ style: 'level' })
    expect(draft.layout.tops).toHaveLength(1)
    type('Shortest top step', '3')
    expect(draft.plan.top).toEqual({ style: 'level', minRun: 3 })
  })
})

describe('what stands around', () => {
  const around = () => render(<Bench>{(d) => <AroundPanel draft={d} units="metric" clear={clearances(d.layout)} readOnly={false} />}</Bench>)
  test('a tree is added, judged and taken out', () => {
    around()
    type('Name', 'ash')
    type('Points: east north, one a line', '5 1')
    fireEvent.click(screen.getByRole('button', { name: 'Add' }))
    expect(screen.getByText('a single point needs a radius')).toBeTruthy()
    type('Radius', '0.3')
    fireEvent.click(screen.getByRole('button', { name: 'Add' }))
    expect(screen.getByText(/▲ ash stands in the excavation/)).toBeTruthy()
    fireEvent.click(screen.getByRole('button', { name: 'Take out ash' }))
    expect(draft.plan.obstacles).toEqual([])
  })
  test('a clearance that cannot be read is no clearance of nought', () => {
    around()
    type('Name', 'ash')
    type('Points: east north, one a line', '5 1')
    type('Radius', '0.3')
    for (const [text, said] of [
      ['1,5 m or so', /not a/],
      ['-1', /below nought|or more/],
      ['', /say how far the dig keeps/],
    ] as const) {
      type('Keep clear', text)
      fireEvent.click(screen.getByRole('button', { name: 'Add' }))
      expect(screen.getByText(said)).toBeTruthy()
      expect(draft.changed).toBe(false)
    }
    // Nor is a radius of two points passed over.
    type('Keep clear', '1.5')
    type('Points: east north, one a line', '5 1; 6 1')
    type('Radius', 'thick')
    fireEvent.click(screen.getByRole('button', { name: 'Add' }))
    expect(draft.changed).toBe(false)
  })
  test('what is taken out is what was looked at, though the plan went on meanwhile', () => {
    const one = (name: string) => ({ name, kind: 'tree' as const, points: [{ easting: 5, northing: 1 }], radius: 0.3, clearance: 1 })
    const seen = { ...plan, obstacles: [one('ash'), one('oak')] }
    const now = { ...plan, obstacles: [one('oak'), one('elm')] }
    expect(withoutObstacle(now, seen, 1).obstacles?.map((o) => o.name)).toEqual(['elm'])
    expect(withoutObstacle(now, seen, 0)).toBe(now)
  })
  test('points that cannot be read are refused', () => {
    around()
    type('Name', 'x')
    type('Points: east north, one a line', '5')
    fireEvent.click(screen.getByRole('button', { name: 'Add' }))
    expect(screen.getByText(/write points as/)).toBeTruthy()
    expect(draft.changed).toBe(false)
  })
  test('a string is a reference, not in the way of anything', () => {
    around()
    fireEvent.click(screen.getByRole('radio', { name: 'String' }))
    type('Name', 'line one')
    type('Points: east north, one a line', '0 0\n9 0')
    fireEvent.click(screen.getByRole('button', { name: 'Add' }))
    expect(draft.plan.references?.[1]).toEqual({
      name: 'line one',
      kind: 'string',
      points: [
        { easting: 0, northing: 0 },
        { easting: 9, northing: 0 },
      ],
    })
  })
  test('a culvert stops the courses it meets', () => {
    around()
    const before = draft.layout.courses[1]?.stretches.length ?? 0
    fireEvent.click(screen.getByRole('button', { name: 'Add a pipe or culvert' }))
    expect(draft.layout.courses[1]?.stretches.length).toBe(before + 1)
    type('Width', '0.9')
    expect(draft.plan.openings?.[0]?.width).toBe(0.9)
    fireEvent.click(screen.getByRole('button', { name: 'Take out pipe 1' }))
    expect(draft.layout.courses[1]?.stretches.length).toBe(before)
  })
})

test('the stakes table tells each stake’s cut and why it stands there, the radius points where to swing from', () => {
  render(<Bench>{(d) => <StakesPanel draft={d} units="metric" />}</Bench>)
  const stakes = stakesOf(layout)
  const [table, radii] = screen.getAllByRole('table')
  if (!table || !radii) throw new Error('no tables')
  expect(within(table).getAllByRole('row')).toHaveLength(stakes.length + 1)
  expect(within(radii).getByText('in the fill')).toBeTruthy()
})

describe('revisions', () => {
  const changed = withAnswerTo(plan, 'grid', [{ course: 2, length: 1.2, type: 'uniaxial 30' }])
  const issued = [plan, changed].map((p, i) => ({ number: i + 1, issuedAt: '2026-05-01T08:00:00Z', issuedBy: 'Fay', layout: layoutOf(p) }))
  test('two revisions are told apart in words; the draft of a reader cannot be issued', () => {
    render(
      <Bench start={changed}>
        {(d) => (
          <RevisionsPanel
            wall="w"
            draft={d}
            issued={issued}
            left={1}
            right={2}
            onCompare={() => {}}
            unmatched={[]}
            told={() => 'nobody yet'}
            may={false}
          />
        )}
      </Bench>,
    )
    expect(screen.getByText('Geogrid on course 2 added: 1.2 m uniaxial 30')).toBeTruthy()
    expect(compareLayouts(layoutOf(plan), layoutOf(changed))).toHaveLength(1)
    expect(screen.queryByRole('button', { name: /Issue revision/ })).toBeNull()
  })
  test('what is recorded and would no longer match stands before the button', () => {
    const lost = [{ key: 'dig|A|', title: 'Excavation depth', section: 'A', entries: [], message: 'its target is now 50 mm lower' }]
    render(
      <Bench start={changed}>
        {(d) => <RevisionsPanel wall="w" draft={d} issued={issued} left={2} right={0} onCompare={() => {}} unmatched={lost} told={() => ''} may />}
      </Bench>,
    )
    expect(screen.getByText(/Excavation depth.*section A.*its target is now 50 mm lower/)).toBeTruthy()
    expect(screen.getByText('No difference.')).toBeTruthy()
    expect((screen.getByRole('button', { name: 'Issue revision 3' }) as HTMLButtonElement).disabled).toBe(true)
  })
})

test('what the set-out writes holds every layer a surveyor needs', () => {
  const read = readDrawing(writeSetOutDxf(layout))
  expect(read.ok && read.value.layers.map((l) => l.name)).toEqual(expect.arrayContaining(['FACE', 'TOE', 'TOP', 'TRENCH', 'STAKES', 'CENTRES']))
})
