import { parentPort } from 'node:worker_threads'
import { layOut, type Plan } from '@stone-tally/core'

/** Lays plans out, one after the other; bundled by scripts/build.ts and started by layouts.ts. */
parentPort?.on('message', (plan: Plan) => {
  const laid = layOut(plan)
  if (!laid.ok) return parentPort?.postMessage(laid)
  const { system: _, ...rest } = laid.value
  parentPort?.postMessage({ ok: true, value: rest })
})
