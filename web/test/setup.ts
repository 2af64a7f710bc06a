import { TextDecoder, TextEncoder } from 'node:util'

Object.assign(globalThis, { TextEncoder, TextDecoder })
globalThis.ResizeObserver = class {
  observe() {}
  unobserve() {}
  disconnect() {}
}

// Not in the simulated browser: the dialogs look their fields up by it.
Object.assign(globalThis, { CSS: { escape: (text: string) => text.replace(/[^\w-]/g, (c) => `\\${c}`), supports: () => false } })

// No canvas either; what is painted is tested on the painter itself.
HTMLCanvasElement.prototype.getContext = (() => null) as never

// No instrument is within reach unless a test brings one.
globalThis.fetch ??= (async () => ({ ok: true, json: async () => ({ instruments: [] }) })) as never

// Outside the framework there is no router; where a test asks where one went, it mocks its own.
jest.mock('next/navigation', () => ({ useRouter: () => ({ push() {}, refresh() {} }) }))
