import 'fake-indexeddb/auto'
import { TextDecoder, TextEncoder } from 'node:util'
import { deserialize, serialize } from 'node:v8'

// What keeps things on the device copies them; the simulated browser has no such thing of its own.
Object.assign(globalThis, { TextEncoder, TextDecoder })
const copy = (value: unknown): unknown =>
  value instanceof Blob
    ? value
    : Array.isArray(value)
      ? value.map(copy)
      : value && Object.getPrototypeOf(value) === Object.prototype
        ? Object.fromEntries(Object.entries(value).map(([k, v]) => [k, copy(v)]))
        : deserialize(serialize(value))
globalThis.structuredClone = copy as never
globalThis.ResizeObserver = class {
  observe() {}
  unobserve() {}
  disconnect() {}
}

// Nor does anything scroll.
Element.prototype.scrollTo ??= () => {}

// Not in the simulated browser: the dialogs look their fields up by it.
Object.assign(globalThis, { CSS: { escape: (text: string) => text.replace(/[^\w-]/g, (c) => `\\${c}`), supports: () => false } })

// No canvas either; what is painted is tested on the painter itself.
HTMLCanvasElement.prototype.getContext = (() => null) as never

// No instrument is within reach unless a test brings one.
globalThis.fetch ??= (async () => ({ ok: true, json: async () => ({ instruments: [] }) })) as never

// Outside the framework there is no router; where a test asks where one went, it mocks its own.
jest.mock('next/navigation', () => ({ useRouter: () => ({ push() {}, refresh() {} }) }))
