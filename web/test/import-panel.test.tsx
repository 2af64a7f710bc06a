import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { ImportPanel } from '../features/plan/set-out/import-panel'
import { offeredOf } from '../features/plan/set-out/use-drawing'
import { PreferencesProvider } from '../ui/preferences'

/** A worker that reads as long as it is let, and tells how far it is when the test says so. */
class Reader extends EventTarget {
  static all: Reader[] = []
  ended = false
  readonly sent: unknown[] = []
  constructor() {
    super()
    Reader.all.push(this)
  }
  postMessage(message: unknown) {
    this.sent.push(message)
  }
  terminate() {
    this.ended = true
  }
}
class Channel {
  readonly port1 = Object.assign(new EventTarget(), { start: () => {}, postMessage: () => {} })
  readonly port2 = Object.assign(new EventTarget(), { start: () => {}, postMessage: () => {} })
}
beforeEach(() => {
  Reader.all = []
  Object.assign(globalThis, { Worker: Reader, MessageChannel: Channel })
})
afterEach(cleanup)
jest.mock('../features/plan/set-out/reader', () => ({ startReader: () => new (globalThis as unknown as { Worker: new () => Worker }).Worker() }))

const file = (name: string) => Object.assign(new File(['1,2,3'], name), { arrayBuffer: async () => new Uint8Array([49]).buffer })
const show = (handed?: File) =>
  render(
    <PreferencesProvider units="metric" theme="day">
      <ImportPanel length={9} units="metric" handed={handed} onTake={() => {}} />
    </PreferencesProvider>,
  )
const choose = (f: File) => act(async () => void fireEvent.change(screen.getByLabelText('Drawing file'), { target: { files: [f] } }))

test('a file being read says how far it is, and can be stopped; nothing comes of it afterwards', async () => {
  show()
  await choose(file('large.dxf'))
  expect(screen.getByRole('button', { name: 'Reading … 0 %' })).toBeTruthy()
  await act(async () => void fireEvent.click(screen.getByRole('button', { name: 'Stop reading' })))
  expect(screen.getByRole('button', { name: 'Choose file' })).toBeTruthy()
  expect(Reader.all.map((r) => r.ended)).toEqual([true])
  await choose(file('another.dxf'))
  expect(Reader.all).toHaveLength(2)
  expect(Reader.all[1]?.ended).toBe(false)
})
test('a file handed on from the Yard is read at once, and given up when the page is left', async () => {
  const page = show(file('face.dxf'))
  await act(async () => {})
  expect(screen.getByText('face.dxf')).toBeTruthy()
  expect(Reader.all).toHaveLength(1)
  page.unmount()
  expect(Reader.all[0]?.ended).toBe(true)
})
test('more than is taken is refused before it is read into memory', async () => {
  show()
  await choose(Object.defineProperty(file('huge.xml'), 'size', { value: 41 * 1024 * 1024 }))
  expect(screen.getByText(/huge.xml is 41 MB; at most 40 MB are taken/)).toBeTruthy()
  expect(Reader.all).toHaveLength(0)
})
test('of very many lines the longest are offered, and whatever is chosen is among them', () => {
  const line = (id: string, points: number) => ({
    id,
    name: id,
    layer: '0',
    closed: false,
    vertices: Array.from({ length: points }, (_, i) => ({ easting: i, northing: 0 })),
  })
  const few = { lines: [line('a', 2), line('b', 3)] } as never
  expect(offeredOf(few).map((l) => l.id)).toEqual(['a', 'b'])
  const many = { lines: [...Array.from({ length: 900 }, (_, i) => line(`short ${i}`, 2)), line('the face', 40)] } as never
  const offered = offeredOf(many, 'short 899').map((l) => l.id)
  expect(offered).toHaveLength(301)
  expect(offered.slice(-2)).toEqual(['short 899', 'the face'])
})
