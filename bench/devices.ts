import { layOut, type EarlierPlan as Plan, pieceEstimate, storedPlan } from '@stone-tally/core'
import { smallPlan } from '../core/test/plans'
import { DEMO_PASSWORD, DEMO_PEOPLE } from '../demo/load'
import { noteOf } from './note'
import { print } from './print'
import type { Figure } from './record'
import { served } from './served'

const DEVICES = 50
const SECONDS = 60

/** Fifty devices on one wall, each with its stream open and an entry a second; and everyone else while a large plan is laid out. */
async function main() {
  const site = await served({ errors: 'inherit' })
  try {
    print([...(await devices(site.port)), ...(await large(site.port))])
  } finally {
    site.end()
  }
}

const percentile = (list: readonly number[], share: number) => [...list].sort((a, b) => a - b)[Math.floor(list.length * share)] ?? Number.NaN
const most = (name: string, value: number, limit: number, unit = '', note = ''): Figure => ({ name, value, unit, over: 'at most', limit, note })

const url = (port: number, path: string) => `http://127.0.0.1:${port}${path}`
async function signedIn(port: number): Promise<Record<string, string>> {
  const email = DEMO_PEOPLE.find((p) => p.role === 'foreman')?.email
  const answer = await fetch(url(port, '/api/sign-in'), {
    method: 'POST',
    headers: { origin: url(port, '') },
    body: JSON.stringify({ email, password: DEMO_PASSWORD }),
  })
  return {
    cookie: answer.headers
      .getSetCookie()
      .map((c) => c.split(';')[0])
      .join('; '),
    origin: url(port, ''),
  }
}
async function post(port: number, headers: Record<string, string>, path: string, body: unknown) {
  const answer = await fetch(url(port, path), { method: 'POST', headers, body: JSON.stringify(body), signal: AbortSignal.timeout(30_000) })
  return { status: answer.status, body: (await answer.json()) as { id?: string; outcomes?: { ok: boolean }[] } }
}
async function devices(port: number): Promise<Figure[]> {
  const headers = await signedIn(port)
  const wall = (await post(port, headers, '/api/walls', { plan: { ...smallPlan, name: 'Fifty devices' } })).body.id as string
  const sent = new Map<string, number>()
  const delays: number[] = []
  let [errors, heard] = [0, 0]
  const over = new AbortController()
  const listen = async () => {
    const response = await fetch(url(port, `/api/walls/${wall}/live?after=1`), { headers, signal: over.signal })
    let rest = ''
    for await (const part of response.body as unknown as AsyncIterable<Uint8Array>) {
      const events = (rest + Buffer.from(part).toString()).split('\n\n')
      rest = events.pop() ?? ''
      for (const e of events) {
        const data = /^data: (.*)$/m.exec(e)?.[1]
        const id = data?.startsWith('{') ? (JSON.parse(data) as { entry: { id: string } }).entry.id : undefined
        const at = id === undefined ? undefined : sent.get(id)
        if (at === undefined) continue
        heard++
        delays.push(performance.now() - at)
      }
    }
  }
  const streams = Array.from({ length: DEVICES }, () => listen().catch((e: Error) => e.name !== 'AbortError' && errors++))
  await new Promise((r) => setTimeout(r, 1500))
  const answers: number[] = []
  const device = async (n: number) => {
    await new Promise((r) => setTimeout(r, (n / DEVICES) * 1000))
    for (let i = 0; i < SECONDS; i++) {
      const began = performance.now()
      const entry = noteOf(wall, `Device ${n}, entry ${i}`)
      sent.set(entry.id, began)
      const answer = await post(port, headers, `/api/walls/${wall}/entries`, { entries: [entry] }).catch(() => undefined)
      if (answer?.status !== 200 || !answer.body.outcomes?.[0]?.ok) errors++
      answers.push(performance.now() - began)
      await new Promise((r) => setTimeout(r, Math.max(0, 1000 - (performance.now() - began))))
    }
  }
  await Promise.all(Array.from({ length: DEVICES }, (_, n) => device(n)))
  for (let i = 0; i < 100 && heard < DEVICES * DEVICES * SECONDS; i++) await new Promise((r) => setTimeout(r, 100))
  over.abort()
  await Promise.all(streams)
  return [
    most(`${DEVICES} devices, an entry a second each, ${SECONDS} s: errors`, errors, 0),
    most('entries that did not reach a screen', DEVICES * DEVICES * SECONDS - heard, 0),
    most('another screen has it, p95', percentile(delays, 0.95) / 1000, 2, 's'),
    most('own answer, p95', percentile(answers, 0.95) / 1000, 2, 's'),
  ]
}

/** A plan just under the limit is issued while somebody else asks for the Yard's health every 20 ms: the longest anyone waits. */
async function large(port: number): Promise<Figure[]> {
  const headers = await signedIn(port)
  const plan: Plan = {
    ...smallPlan,
    name: 'Large',
    length: 1000,
    unit: { ...smallPlan.unit, length: 0.2, height: 0.1 },
    grades: [
      { station: 0, toe: 10, top: 13.9 },
      { station: 1000, toe: 10, top: 13.9 },
    ],
    sections: [{ id: 'A', from: 0, to: 1000 }],
    drain: { ...smallPlan.drain, outlets: [{ station: 0, invert: 9.9 }] },
    grid: [],
  }
  const began = performance.now()
  layOut(storedPlan(plan))
  const alone = performance.now() - began
  const waits: number[] = []
  let over = false
  const others = (async () => {
    while (!over) {
      const at = performance.now()
      await fetch(url(port, '/api/health'))
      waits.push(performance.now() - at)
      await new Promise((r) => setTimeout(r, 20))
    }
  })()
  const start = performance.now()
  const made = await post(port, headers, '/api/walls', { plan })
  const took = performance.now() - start
  over = true
  await others
  if (made.status !== 201) throw new Error(JSON.stringify(made.body))
  return [
    most(
      'plan of the largest size: longest wait of others / layout',
      Math.max(...waits) / alone,
      0.5,
      '',
      `${pieceEstimate(storedPlan(plan))} pieces`,
    ),
    most('that wait', Math.max(...waits) / 1000, 1, 's'),
    most('issuing it / layout', took / alone, 4),
  ]
}

main().catch((error) => {
  console.error(error)
  process.exitCode = 1
})
