import { Agent, request } from 'node:http'
import { canonical } from '@stone-tally/core'
import { smallPlan } from '../core/test/plans'
import { DEMO_PASSWORD, DEMO_PEOPLE } from '../demo/load'
import { barePage } from './bare'
import { noteOf } from './note'
import { print } from './print'
import { type Figure, median } from './record'
import { served } from './served'

/** Seconds between two entries of a device, and how long it goes on. */
const EVERY = 5
const SECONDS = Number(process.env.LOAD_SECONDS ?? 60)
/** The first seconds of a run are not measured, as the first hundreds of the device alone are not; their errors are. */
const LEAD = 20

const percentile = (list: readonly number[], share: number) => [...list].sort((a, b) => a - b)[Math.floor(list.length * share)] ?? Number.NaN
const agent = new Agent({ keepAlive: true, maxSockets: 2000 })
const most = (name: string, value: number, limit: number, unit: string, note: string): Figure => ({ name, value, unit, over: 'at most', limit, note })

interface Answer {
  readonly status: number
  readonly text: string
  readonly cookies: string
}
function ask(port: number, method: string, path: string, headers: Record<string, string>, body?: unknown): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const sent = body === undefined ? '' : JSON.stringify(body)
    const r = request(
      {
        ...{ port, method, path, agent, host: '127.0.0.1' },
        headers: {
          origin: `http://127.0.0.1:${port}`,
          ...headers,
          'content-type': 'application/json',
          'content-length': `${Buffer.byteLength(sent)}`,
        },
      },
      (res) => {
        let text = ''
        res.on('data', (d) => {
          text += d
        })
        res.on('end', () =>
          resolve({ status: res.statusCode ?? 0, text, cookies: (res.headers['set-cookie'] ?? []).map((c) => c.split(';')[0]).join('; ') }),
        )
      },
    )
    r.setTimeout(30_000, () => r.destroy(new Error('no answer in 30 s')))
    r.on('error', reject)
    r.end(sent)
  })
}
/** A device with its stream open: when each entry, by its id, was on its screen. */
function follow(port: number, wall: string, cookie: string, seen: ((id: string, at: number) => void) | undefined): () => void {
  const r = request({ port, host: '127.0.0.1', path: `/api/walls/${wall}/live?after=1`, headers: { cookie }, agent: false }, (res) => {
    let rest = ''
    res.on('data', (d: Buffer) => {
      if (!seen) return
      const at = performance.now()
      const text = rest + d.toString()
      const lines = text.split('\n')
      rest = lines.pop() ?? ''
      for (const line of lines) {
        if (line.startsWith('data: {"seq"')) seen((JSON.parse(line.slice(6)) as { entry: { id: string } }).entry.id, at)
      }
    })
  })
  r.on('error', () => {})
  r.end()
  return () => r.destroy()
}

interface Run {
  readonly errors: number
  readonly count: number
  readonly p95: number
  readonly screen: number
}

/**
 * Devices on walls, each recording every few seconds; one in ten has a screen that is looked at. Each wall has its process, as the proxy that ships
 * with the units sends it (`deploy/proxy.conf`).
 */
async function run(ports: readonly number[], cookies: readonly string[], walls: readonly string[], devices: number): Promise<Run> {
  const portOf = (device: number) => ports[(device % walls.length) % ports.length] as number
  const took: number[] = []
  const screens: number[] = []
  const sent = new Map<string, number>()
  let errors = 0
  let counted = Number.POSITIVE_INFINITY
  const leave = Array.from({ length: devices }, (_, d) => {
    // Looked at on one screen in ten, or on each wall's first: reading them all would take the processor from the house.
    const looks = walls.length === 1 ? d % 10 === 0 : d < walls.length
    const seen = (id: string, at: number) => {
      const began = sent.get(id)
      if (began !== undefined && began >= counted) screens.push(at - began)
    }
    return follow(portOf(d), walls[d % walls.length] as string, cookies[d % cookies.length] as string, looks ? seen : undefined)
  })
  // A wall that nobody recorded on since the start is laid out and folded once; that is no matter of load.
  for (const [i, wall] of walls.entries())
    await ask(portOf(i), 'POST', `/api/walls/${wall}/entries`, { cookie: cookies[0] as string }, { entries: [noteOf(wall, 'first')] })
  await new Promise((r) => setTimeout(r, 2000))
  counted = performance.now() + LEAD * 1000
  const until = counted + SECONDS * 1000
  await Promise.all(
    Array.from({ length: devices }, async (_, d) => {
      await new Promise((r) => setTimeout(r, (d / devices) * EVERY * 1000))
      while (performance.now() < until) {
        const wall = walls[d % walls.length] as string
        const entry = noteOf(wall, `device ${d}`)
        const began = performance.now()
        sent.set(entry.id, began)
        try {
          const answer = await ask(
            portOf(d),
            'POST',
            `/api/walls/${wall}/entries`,
            { cookie: cookies[d % cookies.length] as string },
            { entries: [entry] },
          )
          if (answer.status !== 200 || !answer.text.includes('"ok":true')) errors++
        } catch {
          errors++
        }
        if (began >= counted) took.push(performance.now() - began)
        await new Promise((r) => setTimeout(r, Math.max(0, EVERY * 1000 - (performance.now() - began))))
      }
    }),
  )
  await new Promise((r) => setTimeout(r, 1500))
  for (const l of leave) l()
  return { errors, count: took.length, p95: percentile(took, 0.95), screen: percentile(screens, 0.95) }
}

/** One device by itself, as often as it likes: what recording takes when nobody else is there. */
async function alone(port: number, cookie: string, wall: string, count: number): Promise<number[]> {
  const took: number[] = []
  for (let i = 0; i < count; i++) {
    const began = performance.now()
    await ask(port, 'POST', `/api/walls/${wall}/entries`, { cookie }, { entries: [noteOf(wall, 'alone')] })
    took.push(performance.now() - began)
  }
  return took
}

async function main() {
  const site = await served({ errors: 'inherit', processes: 2 })
  const { port } = site
  const bare = await barePage(site.databaseUrl)
  try {
    const email = DEMO_PEOPLE.find((p) => p.role === 'foreman')?.email
    const cookies: string[] = []
    for (let i = 0; i < 20; i++) cookies.push((await ask(port, 'POST', '/api/sign-in', {}, { email, password: DEMO_PASSWORD })).cookies)
    const cookie = cookies[0] as string
    const wallOf = async (name: string) =>
      (JSON.parse((await ask(port, 'POST', '/api/walls', { cookie }, { plan: { ...smallPlan, name } })).text) as { id: string }).id

    // Recording against the least it can cost with this framework, in turns, so that a noisy moment meets both.
    const [mine, theirs] = [await wallOf('Ours'), await wallOf('Bare')]
    const token = decodeURIComponent(/session_token=([^;]+)/.exec(cookie)?.[1] ?? '').split('.')[0] as string
    const barePort = Number(new URL(bare.base).port)
    const by = { id: 'x', name: 'Somebody', role: 'foreman' }
    const insert = async () => {
      const e = { ...noteOf(theirs, 'alone'), by }
      const began = performance.now()
      const answer = await ask(barePort, 'POST', '/record', {}, { wall: theirs, id: e.id, body: canonical(e), token })
      if (answer.status !== 200) throw new Error(`the bare route answers ${answer.status}`)
      return performance.now() - began
    }
    // Every process warm, as the one is against which they are measured.
    for (const p of site.ports) await alone(p, cookie, mine, 600)
    for (let i = 0; i < 600; i++) await insert()
    const [ours, least]: [number[], number[]] = [[], []]
    for (let turn = 0; turn < 12; turn++) {
      ours.push(...(await alone(port, cookie, mine, 50)))
      for (let i = 0; i < 50; i++) least.push(await insert())
    }
    const single = percentile(ours, 0.95)
    const one = await run(site.ports, cookies, [await wallOf('Two hundred devices')], 200)
    const hundred: string[] = []
    for (let i = 0; i < 100; i++) hundred.push(await wallOf(`Wall ${i}`))
    const all = await run(site.ports, cookies, hundred, 1000)
    print([
      most(
        'record over HTTP / a bare route that looks a session up and inserts',
        median(ours) / median(least),
        2,
        '×',
        `medians of 600: ${median(ours).toFixed(2)} and ${median(least).toFixed(2)} ms`,
      ),
      most('200 devices on one wall: errors', one.errors, 0, '', `of ${one.count} entries in ${SECONDS} s`),
      most(
        '200 devices on one wall: p95 of recording / one device alone',
        one.p95 / single,
        5,
        '×',
        `${one.p95.toFixed(1)} and ${single.toFixed(1)} ms`,
      ),
      most('200 devices on one wall: p95 until on another screen', one.screen / 1000, 1, 's', 'a person’s patience'),
      most('1,000 devices on 100 walls: errors', all.errors, 0, '', `of ${all.count} entries in ${SECONDS} s`),
      most(
        '1,000 devices on 100 walls: p95 of recording / one device alone',
        all.p95 / single,
        5,
        '×',
        `${all.p95.toFixed(1)} and ${single.toFixed(1)} ms; ${site.ports.length} processes`,
      ),
      most('1,000 devices on 100 walls: p95 until on another screen', all.screen / 1000, 1, 's', 'a person’s patience'),
    ])
  } finally {
    bare.end()
    site.end()
  }
}

main().catch((error) => {
  console.error(error)
  process.exit(1)
})
