import { Agent, request } from 'node:http'
import { gzipSync } from 'node:zlib'
import { canonical } from '@stone-tally/core'
import pg from 'pg'
import { smallPlan } from '../core/test/plans'
import { DEMO_PASSWORD, DEMO_PEOPLE } from '../demo/load'
import { noteOf } from './note'
import { type Figure, median } from './record'
import { served } from './served'

const agent = new Agent({ keepAlive: true, maxSockets: 1 })
interface Answer {
  readonly status: number
  readonly cookies: string
  readonly bytes: number
  readonly body: Buffer
}

function send(port: number, method: string, path: string, headers: Record<string, string>, body = ''): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const out = request(
      {
        port,
        host: '127.0.0.1',
        method,
        path,
        agent,
        headers: {
          origin: `http://127.0.0.1:${port}`,
          ...headers,
          ...(body ? { 'content-type': 'application/json', 'content-length': `${Buffer.byteLength(body)}` } : {}),
        },
      },
      (r) => {
        const parts: Buffer[] = []
        r.on('data', (d: Buffer) => parts.push(d))
        r.on('end', () => {
          const all = Buffer.concat(parts)
          resolve({
            status: r.statusCode ?? 0,
            cookies: (r.headers['set-cookie'] ?? []).map((c) => c.split(';')[0]).join('; '),
            bytes: all.length,
            body: all,
          })
        })
      },
    )
    out.on('error', reject)
    out.end(body)
  })
}

/** Recording over HTTP against the same INSERT through pg alone, batches against singles, and what opening a Board costs to transfer. */
export async function httpFigures(): Promise<Figure[]> {
  const site = await served({ errors: 'ignore' })
  const { port } = site
  const direct = new pg.Client({ connectionString: site.databaseUrl })
  try {
    await direct.connect()
    const foreman = DEMO_PEOPLE.find((p) => p.role === 'foreman')
    const { cookies } = await send(port, 'POST', '/api/sign-in', {}, JSON.stringify({ email: foreman?.email, password: DEMO_PASSWORD }))
    const wallOf = async (name: string) =>
      (
        JSON.parse(
          (await send(port, 'POST', '/api/walls', { cookie: cookies }, JSON.stringify({ plan: { ...smallPlan, name } }))).body.toString(),
        ) as { id: string }
      ).id
    const viaHttp = await wallOf('Over HTTP')
    const viaPg = await wallOf('Over pg')
    const record = async (wall: string, list: readonly object[]) => {
      const answer = await send(port, 'POST', `/api/walls/${wall}/entries`, { cookie: cookies }, JSON.stringify({ entries: list }))
      if (answer.status !== 200 || answer.body.includes('"ok":false')) throw new Error(answer.body.toString())
    }
    const insert = async () => {
      const e = { ...noteOf(viaPg, 'Truck with stone'), by: { id: 'x', name: 'Somebody', role: 'foreman' } }
      await direct.query({ name: 'one', text: 'INSERT INTO entry (wall_id, id, body) VALUES ($1, $2, $3)', values: [viaPg, e.id, canonical(e)] })
    }
    // Both are warm before they are measured: a server that has just started compiles as it goes.
    for (let i = 0; i < 800; i++) {
      await record(viaHttp, [noteOf(viaHttp, 'warm')])
      await insert()
    }
    const timed = async (work: () => Promise<void>) => {
      const start = performance.now()
      await work()
      return performance.now() - start
    }
    const http: number[] = []
    const alone: number[] = []
    // In turns of fifty, so that a noisy moment of the machine meets both and each has its own caches warm.
    for (let turn = 0; turn < 10; turn++) {
      for (let i = 0; i < 50; i++) http.push(await timed(() => record(viaHttp, [noteOf(viaHttp, 'Truck with stone')])))
      for (let i = 0; i < 50; i++) alone.push(await timed(insert))
    }
    // The floor: a request the route turns away before it asks the database anything.
    const bare: number[] = []
    for (let i = 0; i < 500; i++)
      bare.push(await timed(() => send(port, 'POST', `/api/walls/${viaHttp}/entries`, { origin: 'http://elsewhere.example' }, '{}').then(() => {})))
    const batches: number[] = []
    for (let i = 0; i < 10; i++) {
      const batch = Array.from({ length: 100 }, (_, j) => noteOf(viaHttp, `Truck ${i}-${j} with stone`))
      batches.push(await timed(() => record(viaHttp, batch)))
    }
    const perEntry = batches.reduce((a, b) => a + b, 0) / 1000
    const long = await wallOf('Long')
    for (let i = 0; i < 10; i++)
      await record(
        long,
        Array.from({ length: 1000 }, (_, j) => noteOf(long, `Truck ${i}-${j}, ticket ${(i * 7919 + j * 104729) % 99991}`)),
      )
    const zipped = await send(port, 'GET', `/api/walls/${long}/entries?after=0`, { cookie: cookies, 'accept-encoding': 'gzip' })
    const plain = await send(port, 'GET', `/api/walls/${long}/entries?after=0`, { cookie: cookies })
    const page = await send(port, 'GET', `/walls/${long}`, { cookie: cookies, 'accept-encoding': 'gzip' })
    return [
      {
        name: 'record over HTTP / INSERT through pg',
        value: median(http) / median(alone),
        limit: 4,
        over: 'at most',
        unit: '×',
        note: `medians of 500: ${median(http).toFixed(2)} and ${median(alone).toFixed(2)} ms; a route that asks the database nothing takes ${median(bare).toFixed(2)} ms`,
      },
      {
        name: 'single entry / entry in a batch of 100',
        value: median(http) / perEntry,
        limit: 10,
        over: 'at least',
        unit: '×',
        note: `${(perEntry * 1000).toFixed(0)} µs an entry in batches`,
      },
      {
        name: 'Board of 10,000: page and record / gzipped entries',
        value: (zipped.bytes + page.bytes) / gzipSync(plain.body).length,
        limit: 1.3,
        over: 'at most',
        unit: '×',
        note: `${(zipped.bytes / 1024).toFixed(0)} kB record, ${(page.bytes / 1024).toFixed(0)} kB page; scripts and fonts are cached apart`,
      },
    ]
  } finally {
    await direct.end()
    agent.destroy()
    site.end()
  }
}
