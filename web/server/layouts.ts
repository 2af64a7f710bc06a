import { existsSync } from 'node:fs'
import { Worker } from 'node:worker_threads'
import {
  type Layout,
  type LayoutHead,
  layOut,
  ok,
  type Plan,
  planHash,
  type Result,
  type Run,
  reassemble,
  runsReceived,
  systemOf,
  type TravellingRun,
} from '@stone-tally/core'

/** Workers beside the request thread; each lays out one plan at a time. */
const WORKERS = 2
/** Pieces of all layouts kept, in sum: what a process of ordinary size holds without noticing. */
const KEEP = 1_000_000
/** A worker that has not answered by then is ended, ms. */
const PATIENCE = 120_000

interface Job {
  readonly plan: Plan
  readonly done: (result: Result<Layout>) => void
  readonly failed: (error: Error) => void
}

interface Shop {
  readonly known: Map<string, { layout: Promise<Result<Layout>>; pieces: number }>
  readonly ready: Worker[]
  readonly queue: Job[]
  running: number
}
/** `__tallyLaid`: those that are done, for pages while their HTML is made (ui/laid.ts). */
const shared = globalThis as { __tallyLayouts?: Shop; __tallyLaid?: Map<string, Result<Layout>> }
const shop = (): Shop => {
  shared.__tallyLayouts ??= { known: new Map(), ready: [], queue: [], running: 0 }
  return shared.__tallyLayouts
}

/** Built beside the server by scripts/build.ts; where it is not (a script, a unit test) plans are laid out where they are asked for. */
const script = () => process.env.LAYOUT_WORKER ?? ''

/**
 * The wall laid out, beside the request thread, and kept by the plan's fingerprint: whoever asks for the same plan again, or at the
 * same time, gets the same object.
 *
 * @example const layout = await laidOut(plan)
 */
export function laidOut(plan: Plan): Promise<Result<Layout>> {
  const { known } = shop()
  const key = planHash(plan)
  const before = known.get(key)
  if (before) {
    known.delete(key)
    known.set(key, before)
    return before.layout
  }
  const layout = script() !== '' && existsSync(script()) ? beside(plan) : Promise.resolve(layOut(plan))
  const entry = { layout, pieces: 0 }
  known.set(key, entry)
  layout.then(
    (made) => {
      if (!made.ok) return known.delete(key)
      shared.__tallyLaid ??= new Map()
      shared.__tallyLaid.set(key, made)
      entry.pieces = [...made.value.cells.values()].reduce((n, c) => n + c.pieces.length, 1000)
      let sum = [...known.values()].reduce((n, e) => n + e.pieces, 0)
      for (const [old, e] of known) {
        if (sum <= KEEP || old === key) break
        known.delete(old)
        shared.__tallyLaid.delete(old)
        sum -= e.pieces
      }
    },
    () => known.delete(key),
  )
  return layout
}

const beside = (plan: Plan) =>
  new Promise<Result<Layout>>((done, failed) => {
    shop().queue.push({ plan, done, failed })
    next()
  })

// Written so that the bundler does not look for the script: it is bundled by itself.
const workerOf = (file: string): Worker => Reflect.construct(Worker, [file, { resourceLimits: { maxOldGenerationSizeMb: 2048 } }])

function next() {
  const s = shop()
  if (s.running >= WORKERS) return
  const job = s.queue.shift()
  if (!job) return
  s.running++
  const worker = s.ready.pop() ?? workerOf(script())
  worker.ref()
  const over = (then: () => void, keep: boolean) => {
    clearTimeout(clock)
    worker.off('message', answered).off('error', failed).off('exit', ended)
    if (keep) {
      worker.unref()
      s.ready.push(worker)
    } else {
      worker.on('error', () => {})
      worker.terminate().catch(() => {})
    }
    s.running--
    then()
    next()
  }
  const lost = (why: string) => over(() => job.failed(new Error(`the plan was not laid out: ${why}`)), false)
  const clock = setTimeout(() => lost(`no answer within ${PATIENCE / 1000} s`), PATIENCE)
  let head: LayoutHead | undefined
  const runs: Run[][] = []
  const answered = (message: Result<LayoutHead> | readonly TravellingRun[]) => {
    if (!Array.isArray(message)) {
      const made = message as Result<LayoutHead>
      if (!made.ok) return over(() => job.done(made), true)
      head = made.value
    } else runs.push(runsReceived(message, runs[runs.length - 1] ?? []))
    if (!head) return lost('its answers came in the wrong order')
    // Others get their turn between two courses.
    if (runs.length < head.courses.length) return void setImmediate(() => worker.postMessage({ course: runs.length }))
    const system = systemOf(job.plan.system.id)
    if (!system) return lost(`there is no system ${job.plan.system.id}`)
    const layout = reassemble(job.plan, system, head, runs)
    over(() => job.done(ok(layout)), true)
  }
  const failed = (error: Error) => lost(error.message)
  const ended = () => lost('the worker ended')
  worker.on('message', answered).once('error', failed).once('exit', ended)
  worker.postMessage({ plan: job.plan })
}
