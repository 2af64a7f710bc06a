import { type Remote, wrap } from 'comlink'

/** The worker died, could not be loaded, or gave no sign of life for too long; the caller does the work itself or says so. */
export class NoAnswer extends Error {}

/** Without a sign of life for this long a worker is taken for dead, ms. */
const SILENCE = 6_000

export interface Beside<T> {
  /**
   * Asks the worker, which is made when first needed. A worker that dies or stays silent is thrown away; the next question
   * gets a new one.
   *
   * @param question - calls `alive` whenever there is a sign of life
   * @throws NoAnswer
   */
  ask<R>(question: (api: Remote<T>, alive: () => void) => Promise<R>): Promise<R>
  end(): void
}

/**
 * A worker beside the page that nobody waits on for ever: a script that did not load or a worker that was ended by the
 * system sends no answer and no error to the promise that waits for it.
 *
 * @param make - makes the worker; the bundler wants to see `new Worker(new URL(…))` where it is called
 * @example const answer = await beside<LayoutWorker>(() => new Worker(…)).ask((api) => api.layOut(plan))
 */
export function beside<T>(make: () => Worker, silence = SILENCE): Beside<T> {
  let running: { worker: Worker; api: Remote<T>; clocks: Set<() => void> } | undefined
  const drop = (one: typeof running) => {
    one?.worker.terminate()
    if (running === one) running = undefined
  }
  return {
    ask(question) {
      if (!running) {
        const worker = make()
        running = { worker, api: wrap<T>(worker), clocks: new Set() }
      }
      const mine = running
      return new Promise((resolve, reject) => {
        let clock: ReturnType<typeof setTimeout> | undefined
        const over = (then: () => void) => {
          clearTimeout(clock)
          mine.clocks.delete(wind)
          mine.worker.removeEventListener('error', died)
          then()
        }
        const lost = (why: string) =>
          over(() => {
            drop(mine)
            reject(new NoAnswer(why))
          })
        const died = () => lost('the worker could not be loaded or was ended')
        const wind = () => {
          clearTimeout(clock)
          clock = setTimeout(() => lost(`no sign of life for ${silence / 1000} s`), silence)
        }
        // Questions are answered in turn: while one is worked on, the others behind it are not lost.
        const alive = () => {
          for (const each of mine.clocks) each()
        }
        mine.clocks.add(wind)
        mine.worker.addEventListener('error', died)
        wind()
        question(mine.api, alive).then(
          (value) => {
            alive()
            over(() => resolve(value))
          },
          (error) => over(() => reject(error)),
        )
      })
    },
    end: () => drop(running),
  }
}
