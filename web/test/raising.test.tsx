import type { Entry, Step, WallState } from '@stone-tally/core'
import { statusOf, stepKey } from '@stone-tally/core'
import { act, cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react'
import { entry } from '../../core/test/plans'
import { Site } from '../../core/test/site'
import { CourseSheetCard } from '../features/build/board/course-sheet'
import { readSieves } from '../features/build/water/filter-form'
import type { Fact, Me } from '../features/wall'
import { HoldPanel } from '../features/wall/gate'
import { PhotoStrip } from '../features/wall/photos'
import { RefusedPanel } from '../features/wall/refused'
import { SignaturePad } from '../features/wall/signature-pad'
import { strokesOf } from '../features/wall/signature-strokes'
import { UnitLevelPanel } from '../features/wall/unit-level'
import { PANELS } from '../features/wall/work'

afterEach(cleanup)
const foreman: Me = { id: 'foreman', name: 'Fay', role: 'foreman' }
const inspector: Me = { id: 'inspector', name: 'Ian', role: 'inspector' }
const press = async (name: string | RegExp) => {
  await act(async () => {
    fireEvent.click(screen.getByRole('button', { name }))
  })
}
const type = (label: string | RegExp, value: string) => fireEvent.change(screen.getByLabelText(label), { target: { value } })
const stepOf = (state: WallState, stage: string, section?: string, course?: number): Step => {
  const step = state.byKey.get(stepKey({ stage, section, course }))
  if (!step) throw new Error(`no ${stage}`)
  return step
}
const keeper = () => {
  const sent: Fact[] = []
  const record = async (facts: readonly Fact[]) => {
    sent.push(...facts)
    return { ok: true as const, verdict: undefined }
  }
  return { sent, record }
}
function panel(state: WallState, stage: string, section: string, course: number, recheck?: { id: string }) {
  const step = stepOf(state, stage, section, course)
  const Panel = PANELS[step.stage.work.type]
  if (!Panel) throw new Error('no panel')
  const { sent, record } = keeper()
  render(
    <Panel
      state={state}
      step={step}
      status={statusOf(state, step)}
      me={foreman}
      recheck={recheck}
      station={undefined}
      onStation={() => {}}
      record={record}
    />,
  )
  return sent
}
const first = () => new Site().toFirstCourse().release('line', 'B', 1).work('fill', 'B', 1)

describe('what is measured with a checklist', () => {
  test('all of these in one tap, and the size in millimetres', async () => {
    const sent = panel(first().state, 'cover', 'B', 1)
    expect(screen.getByText('at least 150 mm')).toBeTruthy()
    await press('All of these')
    type('Stone over the pipe, mm', '180')
    await press('Record 3 of 3')
    expect(sent[0]?.data).toEqual({ confirmed: ['stone', 'fabric'], measured: [{ id: 'cover', value: 0.18 }] })
  })
  test('a size that is none is said, and nothing is sent', async () => {
    const sent = panel(first().state, 'cover', 'B', 1)
    await press('All of these')
    type('Stone over the pipe, mm', 'thick')
    await press('Record 2 of 3 · missing: stone over the pipe')
    expect(screen.getByRole('alert').textContent).toMatch(/Stone over the pipe: .*thick/)
    expect(sent).toEqual([])
  })
  test('a re-check names its finding', async () => {
    const sent = panel(first().state, 'cover', 'B', 1, { id: 'x1' })
    await press('All of these')
    await press(/^Record re-check/)
    expect(sent[0]).toMatchObject({ recheckOf: 'x1' })
  })
})

describe('pipe', () => {
  test('the stretch that is missing is offered; what is seen is confirmed; the next one joins on', async () => {
    const site = first().work('invert', 'B', 1)
    const sent = panel(site.state, 'drain', 'B', 1)
    expect((screen.getByLabelText('From, m') as HTMLInputElement).value).toBe('4.50')
    type('To, m', '6.5')
    type('Bed below it, mm', '90')
    await press('All of these')
    // How its laps lie is seen, not supposed: nothing is recorded until somebody says so.
    await press('Record this stretch · missing: how the laps lie')
    expect(sent).toEqual([])
    expect(screen.getByText(/nobody has looked until somebody says so/)).toBeTruthy()
    fireEvent.click(screen.getByRole('radio', { name: 'With the flow' }))
    await press('Record this stretch')
    expect(sent[0]).toMatchObject({
      kind: 'pipe',
      data: { from: 4.5, to: 6.5, diameter: 0.1, bed: 0.09, start: 'joined', end: 'joined', laps: 'with', confirmed: ['bed', 'apart', 'outlet'] },
    })
    // What was seen of one stretch is asked for again for the next.
    expect(screen.getAllByRole('radio', { name: /the flow|Against it/ }).every((c) => !(c as HTMLInputElement).checked)).toBe(true)
    expect(screen.getAllByRole('checkbox').every((c) => !(c as HTMLInputElement).checked)).toBe(true)
  })
  test('without a bed nothing can be recorded', () => {
    panel(first().work('invert', 'B', 1).state, 'drain', 'B', 1)
    expect((screen.getByRole('button', { name: /^Record this stretch · missing: the bed/ }) as HTMLButtonElement).disabled).toBe(true)
  })
})

describe('a course in one go', () => {
  const show = (state: WallState, me: Me = foreman, course = 2) => {
    const { sent, record } = keeper()
    render(<CourseSheetCard state={state} section="B" course={course} me={me} record={record} typing />)
    return sent
  }
  const ready = () => new Site().toBackfill().state
  test('one number and one press', async () => {
    const sent = show(ready())
    expect(screen.getByRole('heading', { name: 'Course 2 in one go, as course 1' })).toBeTruthy()
    type(/Largest deviation of level/, '3')
    expect(screen.getByRole('status').textContent).toMatch(/3 mm high.*within limits/)
    await press('Record course 2')
    expect(sent.map((f) => f.kind)).toEqual(['units', 'sighting', 'sighting', 'check', 'check', 'lift', 'lift'])
    expect(sent[1]).toMatchObject({ where: { stage: 'level' }, data: { worst: 0.003 } })
    expect(sent[1]?.where).not.toHaveProperty('station')
  })
  test('out of tolerance: says what will be recorded and what not', async () => {
    const sent = show(ready())
    type(/Largest deviation of level/, '-9')
    expect(screen.getByRole('status').textContent).toMatch(/9 mm low.*only units and level are recorded/)
    // Where it was met is asked for, never made up.
    expect((screen.getByRole('button', { name: 'Record units and level' }) as HTMLButtonElement).disabled).toBe(true)
    await act(async () => void fireEvent.keyDown(screen.getByLabelText(/Largest deviation of level/), { key: 'Enter' }))
    expect(screen.getByRole('alert').textContent).toMatch(/Where: is missing/)
    expect(sent).toEqual([])
    type('Met at station, m', '6')
    await press('Record units and level')
    expect(sent.map((f) => [f.kind, f.where.station])).toEqual([
      ['units', undefined],
      ['sighting', 6],
    ])
  })
  test('where it was met', async () => {
    const sent = show(ready())
    type(/Largest deviation of level/, '2')
    await press('Say where it was met')
    type('Met at station, m', '7.5')
    await press('Record course 2')
    expect(sent[1]?.where.station).toBe(7.5)
  })
  test('digits typed anywhere land in the number', () => {
    show(ready())
    fireEvent.keyDown(window, { key: '4' })
    expect(document.activeElement).toBe(screen.getByLabelText(/Largest deviation/))
  })
  test('not for an inspector, not for a course whose lower neighbour is missing', () => {
    show(ready(), inspector)
    show(ready(), foreman, 3)
    expect(screen.queryByRole('heading')).toBeNull()
  })
})

describe('run along', () => {
  test('level wants a number, setback may be sighted', async () => {
    const site = new Site().toBackfill().work('units', 'B', 2)
    const sent = panel(site.state, 'setback', 'B', 2)
    await press(/Sighted along, or largest/)
    await press(/nothing over ±12 mm/)
    expect(sent).toMatchObject([{ kind: 'sighting', data: {} }])
    cleanup()
    const level = panel(site.state, 'level', 'B', 2)
    await press('Run along: largest deviation only')
    type('Largest met, mm', '5')
    type('At station, m', '6')
    expect(screen.getByText('5 mm high')).toBeTruthy()
    await press('Record for the whole course')
    expect(level).toMatchObject([{ kind: 'sighting', where: { station: 6 }, data: { worst: 0.005 } }])
  })
  test('the first course has no such way', () => {
    panel(new Site().toFirstCourse().state, 'level', 'B', 1)
    expect(screen.queryByRole('button', { name: /Run along/ })).toBeNull()
  })
})

describe('units of the first course', () => {
  test('one unit under the level, and what to do with it', async () => {
    const site = new Site().toFirstCourse()
    const { sent, record } = keeper()
    const step = stepOf(site.state, 'level', 'B', 1)
    const { rerender } = render(<UnitLevelPanel state={site.state} step={step} may me={inspector} record={record} recheck={undefined} />)
    await press(/One unit under the level/)
    type('Unit', '3')
    type('Across, mm', '4')
    await press('Record this unit')
    expect(sent[0]).toMatchObject({ kind: 'unit-level', data: { unit: 3, across: 0.004 } })
    expect((screen.getByLabelText('Unit') as HTMLInputElement).value).toBe('4')
    const bad = entry('unit-level', { stage: 'level', section: 'B', course: 1 }, { unit: 3, across: 0.004 })
    site.put(bad)
    rerender(<UnitLevelPanel state={site.state} step={step} may me={inspector} record={record} recheck={bad.id} />)
    expect(screen.getByText(/Unit 3: Knock down the back 4 mm/)).toBeTruthy()
    type('Across, mm', '1')
    await press('Record re-check of this unit')
    expect(sent[1]).toMatchObject({ recheckOf: bad.id, data: { unit: 3, across: 0.001 } })
  })
})

describe('signature', () => {
  const show = () => {
    const site = new Site().toFirstCourse()
    const { sent, record } = keeper()
    const step = stepOf(site.state, 'line', 'B', 1)
    render(<HoldPanel wall="w" state={site.state} step={step} status={statusOf(site.state, step)} me={inspector} record={record} />)
    type(/What was seen/, 'string checked')
    return sent
  }
  test('by name', async () => {
    const sent = show()
    await press('Release')
    expect(sent[0]?.data).toEqual({ decision: 'released', reason: 'string checked', signature: { typed: inspector.name } })
  })
  test('by hand; a dot is no signature; cleared it is none', async () => {
    // The library draws on a canvas, which the simulated browser has not: here whatever is drawn is taken.
    const nothing = HTMLCanvasElement.prototype.getContext
    HTMLCanvasElement.prototype.getContext = (() => new Proxy({}, { get: () => () => {}, set: () => true })) as never
    const sent = show()
    await act(async () => void fireEvent.click(screen.getByRole('radio', { name: 'By hand' })))
    const sheet = screen.getByRole('img', { name: 'Sign here' })
    Object.assign(sheet, { getBoundingClientRect: () => ({ left: 0, top: 0, width: 200, height: 100 }) })
    for (const [side, size] of [
      ['clientWidth', 200],
      ['clientHeight', 100],
    ] as const)
      Object.defineProperty(sheet, side, { value: size })
    await act(async () => void (await import('signature_pad')))
    let time = 0
    const at = (kind: 'down' | 'move' | 'up', x: number, y: number) => {
      // The simulated browser has a mouse only.
      const e = new MouseEvent(`mouse${kind}`, { bubbles: true, cancelable: true, clientX: x, clientY: y, buttons: kind === 'up' ? 0 : 1 })
      Object.defineProperty(e, 'timeStamp', { value: (time += 20) })
      act(() => void (kind === 'down' ? sheet : window).dispatchEvent(e))
    }
    at('down', 10, 50)
    at('up', 10, 50)
    expect((screen.getByRole('button', { name: 'Release' }) as HTMLButtonElement).disabled).toBe(true)
    at('down', 20, 50)
    for (let x = 40; x <= 180; x += 20) {
      at('move', x, 50 + (x % 40))
      // The library takes sixty places a second.
      await act(async () => void (await new Promise((r) => setTimeout(r, 20))))
    }
    at('up', 180, 60)
    await press('Release')
    const { drawn } = (sent[0]?.data as { signature: { drawn: { x: number; y: number }[][] } }).signature
    expect(drawn[1]?.[0]).toEqual({ x: 0.1, y: 0.5 })
    expect(drawn[1]?.at(-1)?.x).toBe(0.9)
    expect(drawn[1]?.length).toBeGreaterThan(4)
    await press('Clear')
    expect((screen.getByRole('button', { name: 'Reject' }) as HTMLButtonElement).disabled).toBe(true)
    HTMLCanvasElement.prototype.getContext = nothing
  })
  test('a field that cannot be drawn on yet does not ask to be signed', async () => {
    await act(async () => void render(<SignaturePad drawn={[]} onChange={() => {}} from={() => new Promise(() => {})} />))
    expect(screen.getByRole('img', { name: 'Getting ready to be signed' })).toBeTruthy()
    expect(screen.queryByRole('img', { name: 'Sign here' })).toBeNull()
  })
  test('where what draws does not come, it says so and how to sign', async () => {
    await act(async () => void render(<SignaturePad drawn={[]} onChange={() => {}} from={() => Promise.reject(new Error('no signal'))} />))
    expect(screen.getByText(/could not be fetched: sign by name/)).toBeTruthy()
    expect(screen.queryByRole('img', { name: 'Sign here' })).toBeNull()
  })
  test('a long stroke keeps its whole way, and no more points than the record has room for', () => {
    const long = { points: Array.from({ length: 2000 }, (_, i) => ({ x: i / 10, y: i % 100 })) }
    const [stroke, ...more] = strokesOf([long, { points: [] }], { width: 200, height: 100 })
    expect([stroke?.length, stroke?.[0], stroke?.at(-1), more]).toEqual([400, { x: 0, y: 0 }, { x: 1, y: 0.99 }, []])
    expect(strokesOf([{ points: [{ x: -4, y: 300 }] }], { width: 200, height: 100 })).toEqual([[{ x: 0, y: 1 }]])
    expect(
      strokesOf(
        Array.from({ length: 90 }, () => long),
        { width: 200, height: 100 },
      ),
    ).toHaveLength(60)
    expect(strokesOf([long], { width: 0, height: 0 })[0]?.[5]).toEqual({ x: 0, y: 0 })
  })
})

describe('photos', () => {
  const taken = {
    file: '01900000-0000-7000-8000-000000000001',
    sha256: 'a'.repeat(64),
    name: 'p.jpg',
    type: 'image/jpeg',
    bytes: 9,
    width: 4,
    height: 3,
    location: 'stripped',
  }
  const strip = (state: WallState, stage = 'drain') => {
    const { sent, record } = keeper()
    render(<PhotoStrip wall="w" state={state} step={stepOf(state, stage, 'B', 1)} station={undefined} me="foreman" record={record} />)
    return sent
  }
  const choose = async (file: File) => {
    await act(async () => {
      fireEvent.change(screen.getByLabelText('Photo'), { target: { files: [file] } })
    })
  }
  const jpeg = (size = 9) => Object.defineProperty(new File(['x'], 'p.jpg', { type: 'image/jpeg' }), 'size', { value: size })
  const laid = () => {
    const site = first().work('invert', 'B', 1)
    const pipe = entry(
      'pipe',
      { stage: 'drain', section: 'B', course: 1 },
      { from: 4.5, to: 9, diameter: 0.1, bed: 0.1, sock: false, start: 'joined', end: 'joined', laps: 'with', confirmed: ['bed', 'apart', 'outlet'] },
    )
    return { site: site.put(pipe), pipe }
  }
  test('sent, then recorded with what it shows; the place is taken out unless asked otherwise', async () => {
    const asked: string[] = []
    globalThis.fetch = (async (url: string) => {
      asked.push(url)
      return { ok: true, status: 201, json: async () => taken }
    }) as never
    const { site, pipe } = laid()
    const sent = strip(site.state)
    await choose(jpeg())
    await waitFor(() => expect(sent).toHaveLength(1))
    expect(asked[0]).toMatch(/^\/api\/walls\/w\/photos\?name=p.jpg&strip=1&person=[a-z]+&upload=[0-9a-f-]{36}&at=0&size=\d+$/)
    expect(sent[0]).toMatchObject({ kind: 'photo', where: { stage: 'drain', section: 'B', course: 1 }, data: { ...taken, of: pipe.id } })
  })
  test('too large: said before it is sent', async () => {
    let asked = 0
    globalThis.fetch = (async () => {
      asked++
      return { ok: true, json: async () => taken }
    }) as never
    const sent = strip(laid().site.state)
    await choose(jpeg(60 * 1024 * 1024))
    expect(screen.getByRole('alert').textContent).toMatch(/p.jpg is 60.0 MB; at most 12 MB/)
    expect([asked, sent.length]).toEqual([0, 0])
  })
  test('refused by the server: its reason is shown, nothing is recorded', async () => {
    globalThis.fetch = (async () => ({
      ok: false,
      status: 422,
      json: async () => ({ problems: [{ field: 'photo', message: 'is not a photo' }] }),
    })) as never
    const sent = strip(laid().site.state)
    await choose(jpeg())
    expect((await screen.findByRole('alert')).textContent).toMatch(/is not a photo/)
    expect(sent).toEqual([])
    // It stays on the device until a person puts it aside.
    expect(screen.getByRole('button', { name: 'Save it' })).toBeTruthy()
    await press('Put aside for good')
    await waitFor(() => expect(screen.queryByRole('alert')).toBeNull())
  })
  test('without signal it is kept and sent when the signal is back', async () => {
    let reachable = false
    globalThis.fetch = (async () => {
      if (!reachable) throw new TypeError('Failed to fetch')
      return { ok: true, status: 201, json: async () => taken }
    }) as never
    const sent = strip(laid().site.state)
    await choose(jpeg())
    expect(await screen.findByText('1 kept on this device, waiting to be sent')).toBeTruthy()
    expect(sent).toEqual([])
    reachable = true
    await act(async () => {
      window.dispatchEvent(new Event('online'))
    })
    await waitFor(() => expect(sent).toHaveLength(1))
    await waitFor(() => expect(screen.queryByText('1 kept on this device, waiting to be sent')).toBeNull())
  })
})

describe('not accepted', () => {
  test('what was kept and then refused is shown with the reason, and a person decides', async () => {
    const site = new Site()
    const e = entry('note', {}, { text: 'course 3 set' }) as Entry
    const did: string[] = []
    const feed = {
      state: site.state,
      loaded: true,
      live: 'live',
      waiting: 0,
      refused: [{ entry: e, problems: [{ field: 'where', message: 'the course below is not set' }] }],
      again: (id: string) => did.push(`again ${id}`),
      aside: (id: string) => did.push(`aside ${id}`),
      record: async () => ({ ok: true, verdict: undefined }),
    }
    render(<RefusedPanel feed={feed as never} me={foreman} />)
    expect(within(screen.getByRole('alert')).getByText(/course 3 set. the course below is not set/)).toBeTruthy()
    await press('Try again')
    await press('Put aside')
    expect(did).toEqual([`again ${e.id}`, `aside ${e.id}`])
  })
})

test('sieve curves as they are typed: comma or point, tabs or blanks, per cent sign or none', () => {
  expect(readSieves('0,063 12\n2\t80 \n\n16;100%')).toEqual({
    points: [
      { size: 0.063, passing: 12 },
      { size: 2, passing: 80 },
      { size: 16, passing: 100 },
    ],
    problems: [],
  })
  expect(readSieves('2 80\nsand').problems).toEqual([{ field: 'line 2', message: '"sand" is not a size in mm and what passes in per cent' }])
})
