import { parentPort } from 'node:worker_threads'
import { headOf, type Layout, layOut, type Plan, runsToSend } from '@stone-tally/core'

/**
 * Lays plans out, one after the other; bundled by scripts/build.ts and started by layouts.ts. What it made is fetched course by
 * course, so that whoever takes it in is never busy for long.
 */
let made: Layout | undefined
parentPort?.on('message', (asked: { plan: Plan } | { course: number }) => {
  if ('course' in asked) return parentPort?.postMessage(made ? runsToSend(made, asked.course) : [])
  const laid = layOut(asked.plan)
  made = laid.ok ? laid.value : undefined
  parentPort?.postMessage(laid.ok ? { ok: true, value: headOf(laid.value) } : laid)
})
