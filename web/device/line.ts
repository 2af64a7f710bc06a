'use client'

import type { RecordedEntry } from '@stone-tally/core'
import { compare } from './clock'
import { wasEnded } from './give-back'
import { appendLog, linesOf, putLogAside, readLog } from './log'
import { alone, hear, tell, tellOthers } from './tabs'

/** What is told to whoever follows. */
export interface Following {
  /** Number of the last entry one has, and its link where it is known. */
  from(): { seq: number; hash?: string | undefined }
  take(entries: readonly RecordedEntry[]): void
  /** Everything up to now is there. */
  caughtUp(): void
  line(live: 'live' | 'lost'): void
  /** The house has another record than this device: everything is asked for anew. */
  restart(): void
  /** @param ended - by the office: what is kept here is given back */
  signedOut(ended: boolean): void
}

const RETRY = 2000
/** Entries that are read in one go before the page gets its turn. */
const SLICE = 500
const pause = (ms: number, signal: AbortSignal) =>
  new Promise<void>((done) => {
    const wait = setTimeout(done, ms)
    signal.addEventListener('abort', () => {
      clearTimeout(wait)
      done()
    })
  })

class OtherRecord extends Error {}
class SignedOut extends Error {
  constructor(readonly ended: boolean) {
    super()
  }
}

/** Asks for what is new, keeps it and hands it on. @throws whatever stops it half-way; what came before is kept */
async function catchUp(wall: string, f: Following, signal: AbortSignal) {
  const { seq, hash } = f.from()
  const asked = Date.now()
  const response = await fetch(`/api/walls/${wall}/entries?after=${seq}&head=1${hash ? `&link=${hash}` : ''}`, { signal })
  if (response.status === 401) throw new SignedOut(await wasEnded(response))
  if (response.status === 409) throw new OtherRecord()
  // A hotel's page that answers everything is no record of ours.
  if (!response.ok || !response.body || !response.headers?.get('x-record')) throw new Error(`${response.status}`)
  compare(response, asked)
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader()
  let rest = ''
  let open = false
  for (;;) {
    const { done, value } = await reader.read()
    const lines = (rest + (value ?? '')).split('\n')
    rest = lines.pop() ?? ''
    const whole = lines.filter(Boolean)
    const last = whole[whole.length - 1]
    const head = last?.startsWith('{"head"') ? (JSON.parse(whole.pop() as string) as { head: { seq: number; hash: string } }).head : undefined
    open = head === undefined && (open || whole.length > 0)
    for (let i = 0; i < whole.length; i += SLICE) {
      const text = whole.slice(i, i + SLICE).join('\n')
      const entries = linesOf(text)
      // Kept first: what was shown once is there again without a signal.
      await appendLog(wall, text, head && i + SLICE >= whole.length ? head.hash : undefined).catch(() => undefined)
      f.take(entries)
      if (whole.length > SLICE) await pause(0, signal)
    }
    if (done) break
  }
  // Ended without its last line: cut off somewhere on the way, whatever it looked like.
  if (open || rest !== '') throw new Error('the record was cut off')
}

/**
 * Follows the record of a wall: asks once for what is new, then listens. Of all tabs of a device one listens and tells the others.
 *
 * @returns ends it
 */
export function followWall(wall: string, f: Following): () => void {
  const abort = new AbortController()
  const { signal } = abort
  let leading = false
  const unhear = hear((word) => {
    if (!('wall' in word) || word.wall !== wall || leading) return
    if (word.is === 'entries') {
      const list = linesOf(word.text)
      f.take(list)
      // One word of the other tab was missed: what is between stands in the log of the device.
      if ((list[0]?.seq ?? 0) > f.from().seq + 1) setTimeout(() => readLog(wall, f.from().seq, f.take).catch(() => undefined), 200)
    } else if (word.is === 'line') f.line(word.live)
  })
  const say = (live: 'live' | 'lost') => {
    f.line(live)
    if (leading) tellOthers({ is: 'line', wall, live })
  }
  const begin = async (): Promise<boolean> => {
    for (;;) {
      if (signal.aborted) return false
      try {
        await catchUp(wall, f, signal)
        f.caughtUp()
        return true
      } catch (error) {
        if (signal.aborted) return false
        if (error instanceof SignedOut) {
          f.signedOut(error.ended)
          return false
        }
        if (error instanceof OtherRecord) {
          await putLogAside(wall).catch(() => undefined)
          f.restart()
          return false
        }
        say('lost')
        await pause(RETRY, signal)
      }
    }
  }
  const listen = () =>
    new Promise<void>((over) => {
      let source: EventSource | undefined
      const open = () => {
        source?.close()
        source = new EventSource(`/api/walls/${wall}/live?after=${f.from().seq}`)
        source.onopen = () => say('live')
        source.onmessage = (e) => {
          const entry = JSON.parse(e.data) as RecordedEntry & { hash?: string }
          appendLog(wall, `${e.data}\n`, entry.hash).catch(() => undefined)
          f.take([entry])
          tellOthers({ is: 'entries', wall, text: e.data })
        }
        source.addEventListener?.('here', (e) => tell({ is: 'here', wall, text: (e as MessageEvent<string>).data }))
        source.onerror = () => {
          say('lost')
          // A refused stream is not tried again by the browser itself: the house is asked why, and what is new.
          if (source?.readyState === EventSource.CLOSED) pause(RETRY, signal).then(async () => (await begin()) && !signal.aborted && open())
        }
      }
      open()
      signal.addEventListener('abort', () => {
        source?.close()
        over()
      })
    })
  const run = async () => {
    if (!(await begin())) return
    // Another tab may hold the line: then it is this one's turn when that one is closed, after what came meanwhile.
    let waited = false
    const turn = setTimeout(() => {
      waited = true
      f.line('live')
    }, 300)
    await alone(
      `line ${wall}`,
      async () => {
        clearTimeout(turn)
        leading = true
        if (waited && !(await begin())) return
        if (!signal.aborted) await listen()
      },
      signal,
    ).catch(() => undefined)
    clearTimeout(turn)
  }
  run()
  return () => {
    abort.abort()
    unhear()
  }
}
