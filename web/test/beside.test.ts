import { beside, NoAnswer } from '@/workers/beside'

/** A worker that only counts; questions are answered by the tests themselves. */
class Silent extends EventTarget {
  static made: Silent[] = []
  ended = false
  constructor() {
    super()
    Silent.made.push(this)
  }
  postMessage() {}
  terminate() {
    this.ended = true
  }
}
const make = () => new Silent() as unknown as Worker
const later = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms))
beforeEach(() => {
  Silent.made = []
})

test('an answer comes through, and the same worker is asked again', async () => {
  const b = beside(make, 50)
  expect(await b.ask(async () => 7)).toBe(7)
  expect(await b.ask(async () => 8)).toBe(8)
  expect(Silent.made).toHaveLength(1)
})

test('a worker that never answers is given up and replaced', async () => {
  const b = beside(make, 30)
  await expect(b.ask(() => new Promise(() => {}))).rejects.toThrow(NoAnswer)
  expect(Silent.made[0]?.ended).toBe(true)
  expect(await b.ask(async () => 1)).toBe(1)
  expect(Silent.made).toHaveLength(2)
})

test('a script that could not be loaded is noticed at once', async () => {
  const b = beside(make, 60_000)
  const asked = b.ask(() => new Promise(() => {}))
  Silent.made[0]?.dispatchEvent(new Event('error'))
  await expect(asked).rejects.toThrow('could not be loaded')
})

test('signs of life keep a slow answer, also the one that waits behind it', async () => {
  const b = beside(make, 1000)
  const slow = b.ask(async (_, alive) => {
    for (let i = 0; i < 8; i++) {
      await later(200)
      alive()
    }
    return 'slow'
  })
  const behind = b.ask(async () => {
    await slow
    return 'behind'
  })
  expect(await behind).toBe('behind')
})

test('what the worker itself refuses is handed on', async () => {
  await expect(beside(make, 50).ask(() => Promise.reject(new RangeError('no')))).rejects.toThrow(RangeError)
})
