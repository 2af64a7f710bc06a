import type { ChildProcess } from 'node:child_process'

/** Waits before something that ended by itself is started again, ms: doubled up to the longest, short again after a good while. */
export const BACK_OFF = { first: 250, longest: 15_000, good: 30_000 }

/**
 * How long to wait before the next try.
 *
 * @param ran - how long it ran this time, ms
 * @param before - the wait before this try, ms; 0 at first
 * @example backOff(100, 250) // 500
 */
export const backOff = (ran: number, before: number) =>
  before === 0 || ran >= BACK_OFF.good ? BACK_OFF.first : Math.min(BACK_OFF.longest, before * 2)

export interface Supervised {
  /** Asks it to end, waits while it finishes what it has begun, and ends it when that takes too long. */
  end(patience?: number): Promise<void>
  /** Ends it so that it is started again at once, with what has changed. */
  restart(): void
}

/**
 * Keeps a program running: what ends by itself is started again, with a growing wait and a word in the log.
 *
 * @param start - starts it; may fail, which counts as an end
 * @param say - writes a line into the log
 */
export function supervise(name: string, start: () => ChildProcess | Promise<ChildProcess>, say: (line: string) => void): Supervised {
  let child: ChildProcess | undefined
  let ending = false
  let wait = 0
  let clock: NodeJS.Timeout | undefined
  const run = async () => {
    const began = Date.now()
    const again = (why: string) => {
      child = undefined
      if (ending) return
      wait = backOff(Date.now() - began, wait)
      say(`${name} ended by itself (${why}); it is started again in ${wait / 1000} s.`)
      clock = setTimeout(run, wait)
    }
    try {
      const made = await start()
      if (made.exitCode !== null || made.signalCode !== null) return again(`${made.signalCode ?? made.exitCode}`)
      child = made
      made.once('exit', (code, signal) => again(`${signal ?? code}`))
      if (ending) made.kill('SIGTERM')
    } catch (error) {
      again(error instanceof Error ? error.message : String(error))
    }
  }
  run()
  return {
    restart: () => void child?.kill('SIGTERM'),
    async end(patience = 10_000) {
      ending = true
      clearTimeout(clock)
      const mine = child
      if (!mine || mine.exitCode !== null || mine.signalCode !== null) return
      const gone = new Promise<void>((r) => mine.once('exit', () => r()))
      mine.kill('SIGTERM')
      const late = setTimeout(() => mine.kill('SIGKILL'), patience)
      await gone
      clearTimeout(late)
    },
  }
}

/**
 * Looks again and again whether something is up, and brings it up where it is not, with a growing wait and a word in the log.
 *
 * @param up - is it?
 * @param raise - brings it up
 * @returns ends the looking
 */
export function watchOver(name: string, up: () => boolean, raise: () => Promise<unknown>, say: (line: string) => void, every = 500): () => void {
  let over = false
  let wait = 0
  let since = Date.now()
  let clock: NodeJS.Timeout
  const look = async () => {
    if (over) return
    let next = every
    if (!up()) {
      wait = backOff(Date.now() - since, wait)
      since = Date.now()
      say(`${name} is down; it is started again.`)
      try {
        await raise()
        say(`${name} is up again.`)
      } catch (error) {
        say(`${name} did not start (${error instanceof Error ? error.message : error}); tried again in ${wait / 1000} s.`)
        next = wait
      }
    }
    if (!over) clock = setTimeout(look, next)
  }
  clock = setTimeout(look, every)
  return () => {
    over = true
    clearTimeout(clock)
  }
}
