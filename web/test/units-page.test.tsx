import { buildingOf, cutList, layOut, quantities, systemOf, type Unit, withAnswerTo } from '@stone-tally/core'
import { fireEvent, render, screen, within } from '@testing-library/react'
import { built, layoutOf, plain, smallPlan } from '../../core/test/plans'
import { at, circle, planOn, unitNamed } from '../../core/test/walls'
import { Catalogue } from '../features/catalogue/catalogue'
import { UnitFace } from '../features/catalogue/unit-face'
import { draftOf, emptyDraft, planOf } from '../features/plan/plan/draft'
import { UnitsPlace } from '../features/plan/units'
import { WallProvider } from '../features/wall'

const me = { id: 'f', name: 'Fay', role: 'foreman' as const }

describe('units and quantities', () => {
  const plan = built(planOn([at(0, 0), at(7.3, 0, 0.3), at(14, 5)], false))
  const layout = layoutOf(plan)
  const open = (p = plan) =>
    render(
      <WallProvider me={me} wall="w" name="Bent" plans={[p]}>
        <UnitsPlace />
      </WallProvider>,
    )
  test('every quantity is there with its working, and nothing of which it takes nothing', () => {
    open()
    const all = quantities(layout)
    expect(all.filter((q) => q.value !== 0).length).toBeGreaterThan(8)
    // Asked for once: a page of hundreds of rows is long to look through.
    const rows = new Map(screen.getAllByRole('cell').map((c) => [c.textContent, c.closest('tr') as HTMLElement]))
    for (const q of all.filter((x) => x.value === 0)) expect(rows.has(plain(q.name))).toBe(false)
    for (const q of all.filter((x) => x.value !== 0)) {
      const row = rows.get(plain(q.name))
      if (!row) throw new Error(`no line for ${q.name}`)
      expect(within(row).getByText(plain(q.working))).toBeTruthy()
    }
  })
  test('the table is the twin of the drawing: course by course, each piece with its station, length and cut', () => {
    open()
    fireEvent.click(screen.getByRole('button', { name: 'Course above' }))
    const course = layout.courses[1]
    const pieces = layout.cells.get(`A/${course?.course}`)?.pieces ?? []
    expect(screen.getAllByRole('button', { name: /^Show \d+ of section A$/ })).toHaveLength(pieces.length)
    const cut = pieces.findIndex((p) => p.kind === 'cut')
    expect(cut).toBeGreaterThanOrEqual(0)
    fireEvent.click(screen.getByRole('button', { name: `Show ${cut + 1} of section A` }))
    expect(screen.getByRole('status').textContent).toMatch(/cut, 0\.\d{3} m, out of unit \d+ of the cut list/)
  })
  test('a tap outside the wall picks nothing; the governing rule of embedment is named', () => {
    open()
    fireEvent.click(screen.getByRole('img', { name: 'Bent: every unit' }), { clientX: 3, clientY: 2 })
    expect(screen.getByRole('status').textContent).toMatch(/^Tap a block/)
    expect(screen.getByText(/the fixed least depth of 0.200 m governs, rounded up to 1 course/)).toBeTruthy()
  })
  test('the cut list uses every piece once and says how few can do', () => {
    open()
    const list = cutList(layout)
    expect(
      screen.getByText(new RegExp(`${list.pieces.length} pieces out of ${list.units.length} whole blocks; no fewer than ${list.lowerBound} can do`)),
    ).toBeTruthy()
    expect(within(screen.getByRole('region', { name: 'Cut list' })).getAllByRole('row')).toHaveLength(list.units.length + 1)
  })
  test('a long course is walked through page by page', () => {
    open(built(planOn([at(0, 0), at(60, 0)], false)))
    expect(screen.getByText('1 of 3')).toBeTruthy()
    fireEvent.click(screen.getByRole('button', { name: 'after ›' }))
    expect(screen.getByRole('button', { name: 'Show 61 of section A' })).toBeTruthy()
  })
  test('a plan that cannot be laid out says why', () => {
    const { minRadius: _, ...unit } = unitNamed('lug-200')
    open(withAnswerTo(plan, 'unit', unit))
    expect(screen.getByRole('alert').textContent).toMatch(/unit.minRadius: is missing/)
  })
})

describe('the catalogue page', () => {
  const shipped = systemOf('hollow-core')?.units.map((unit) => ({ system: 'hollow-core', unit, own: false })) ?? []
  let sent: { url: string; body: { units?: { unit: Unit }[] } }[]
  beforeEach(() => {
    sent = []
    globalThis.fetch = jest.fn(async (url: string, init: { body?: string }) => {
      sent.push({ url, body: JSON.parse(init.body ?? '{}') })
      return {
        ok: false,
        status: 422,
        json: async () => ({ problems: [{ field: 'units[0].unit.height', message: 'must be 1.5 m or less, not 90' }] }),
      }
    }) as never
  })
  test('shows every unit under its system; a reader cannot change it', () => {
    render(<Catalogue me={{ ...me, role: 'inspector' }} units={shipped} />)
    for (const u of shipped) expect(screen.getByText(u.unit.name)).toBeTruthy()
    expect(screen.queryByRole('button', { name: 'Change' })).toBeNull()
    expect(screen.queryByRole('button', { name: 'Add a unit' })).toBeNull()
  })
  test('a unit is changed in the crew’s own units, and what the server finds wrong is shown', async () => {
    render(<Catalogue me={me} units={shipped} />)
    fireEvent.click(screen.getAllByRole('button', { name: 'Change' })[0] as HTMLElement)
    const dialog = await screen.findByRole('dialog')
    fireEvent.change(within(dialog).getByRole('textbox', { name: 'Height, m' }), { target: { value: '90' } })
    fireEvent.change(within(dialog).getByRole('textbox', { name: 'Corner unit, face, m' }), { target: { value: '' } })
    fireEvent.click(within(dialog).getByRole('button', { name: 'Put into the catalogue' }))
    expect((await within(dialog).findByRole('alert')).textContent).toMatch(/must be 1.5 m or less/)
    expect(sent[0]?.body.units?.[0]?.unit).toMatchObject({ id: shipped[0]?.unit.id, height: 90, length: 0.45 })
    expect(sent[0]?.body.units?.[0]?.unit.cornerLength).toBeUndefined()
  })
  test('a number that is none is said before anything is sent', async () => {
    render(<Catalogue me={me} units={shipped} />)
    fireEvent.click(screen.getAllByRole('button', { name: 'Change' })[0] as HTMLElement)
    const dialog = await screen.findByRole('dialog')
    fireEvent.change(within(dialog).getByRole('textbox', { name: 'Mass, kg' }), { target: { value: 'heavy' } })
    fireEvent.click(within(dialog).getByRole('button', { name: 'Put into the catalogue' }))
    expect((await within(dialog).findByRole('alert')).textContent).toMatch(/"heavy" is not a number/)
    expect(sent).toEqual([])
  })
  test('the face of a pattern shows its shapes, of a basket its stone', () => {
    const rects = (id: string) => render(<UnitFace unit={unitNamed(id)} system="hollow-core" />).container.querySelectorAll('rect').length
    expect(rects('pattern-300')).toBe(1 + 5)
    expect(rects('lug-200')).toBe(2)
    expect(render(<UnitFace unit={unitNamed('basket-2x1x1')} system="gabion" />).container.querySelectorAll('circle').length).toBeGreaterThan(5)
  })
})

describe('the plan form and a line it does not show', () => {
  const ring = built(
    planOn(circle(5), true, {
      obstacles: [{ name: 'oak', kind: 'tree', points: [{ easting: 9, northing: 9 }], radius: 0.4, clearance: 1 }],
      openings: [{ name: 'pipe', station: 3, width: 0.3, bottom: 10, height: 0.3 }],
      embedment: [
        { kind: 'fixed', depth: 0.2 },
        { kind: 'perHeight', base: 0.1, perMetre: 0.05 },
        { kind: 'courses', count: 2 },
      ],
    }),
  )
  test.each(['metric', 'imperial'] as const)('everything the form does not ask for stays as it was (%s)', (units) => {
    const made = planOf(draftOf(ring, units), units, undefined, ring)
    if (!made.ok) throw new Error(JSON.stringify(made.problems))
    expect(made.value).toMatchObject({ alignment: ring.alignment, length: ring.length, obstacles: ring.obstacles, openings: ring.openings })
    const { embedment } = buildingOf(made.value)
    expect(embedment.map((r) => r.kind)).toEqual(['fixed', 'perHeight', 'courses'])
    expect(embedment[2]?.count).toBe(2)
    expect(layOut(made.value).ok).toBe(true)
  })
  const small = built(smallPlan)
  test('top and waste are the form’s own', () => {
    const shown = draftOf(small, 'metric')
    const made = planOf({ ...shown, topStyle: 'level', part: { ...shown.part, wasteUnits: '7' } }, 'metric', undefined, small)
    expect(made.ok && [made.value.top, buildingOf(made.value).waste]).toEqual([{ style: 'level' }, { units: 7, stone: 10, grid: 5 }])
  })
  test('a wall keeps a unit that has left the catalogue; another must be in it', () => {
    const draft = draftOf(small, 'metric')
    expect(planOf(draft, 'metric', [], small).ok).toBe(true)
    expect(planOf({ ...draft, part: { ...draft.part, unit: 'gone' } }, 'metric', [], small)).toMatchObject({
      ok: false,
      problems: [{ field: 'part.unit' }],
    })
  })
  test('a basket from the catalogue makes a gabion wall', () => {
    const empty = emptyDraft('metric')
    const draft = {
      ...empty,
      name: 'Baskets',
      site: 'Yard',
      engineer: 'plan G-1',
      part: { ...empty.part, unit: 'basket-2x1x05', padWidth: '1.2' },
      lists: { outlets: [{ cells: { station: '0', invert: '9' } }] },
      length: '12',
      benchmark: '10',
      grades: [
        { station: '0', toe: '10', top: '11.6' },
        { station: '', toe: '10', top: '11.6' },
      ],
    }
    const made = planOf(draft, 'metric')
    expect(made.ok && [made.value.system.id, layoutOf(made.value).system.noun.many]).toEqual(['gabion', 'baskets'])
  })
})
