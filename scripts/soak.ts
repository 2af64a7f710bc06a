/**
 * Long trials that a person runs, since they take minutes to hours:
 *
 *   npx tsx --tsconfig web/tsconfig.json scripts/soak.ts kill 100     a process at random killed with -9 under load, so many times
 *   … fuzz 100000                                                    so many bodies nobody would send, over every route
 *   … probe                                                          the largest bodies that are let in, and how long each holds everybody else
 *   … hour 60                                                        fifty devices for so many minutes; memory of the last third against the first
 *
 * Each starts what it needs on a throw-away folder and says at the end what was kept and what was not.
 */
import { type ChildProcess, spawn } from 'node:child_process'
import { randomInt } from 'node:crypto'
import { chmodSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import { type Entry, verifyChain } from '@stone-tally/core'
import { noteOf } from '../bench/note'
import { smallPlan } from '../core/test/plans'
import { DEMO_PASSWORD, DEMO_PEOPLE } from '../demo/load'
import { ROOT } from './build'
import { freePort, stopCluster } from './cluster'

const say = (line: string) => console.log(`${new Date().toISOString().slice(11, 19)} ${line}`)
const home = mkdtempSync(join(tmpdir(), 'tally-soak-'))
chmodSync(home, 0o755)
const data = join(home, 'data')
let port = 0
let starter: ChildProcess | undefined

function start() {
  starter = spawn(process.execPath, ['--import', 'tsx', 'scripts/start.ts', '--data', data, '--port', `${port}`, '--no-instruments'], {
    cwd: ROOT,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, TSX_TSCONFIG_PATH: 'web/tsconfig.json', RATE_LIMITS: 'off' },
  })
}
const url = (path: string) => `http://127.0.0.1:${port}${path}`
async function healthy(seconds = 120) {
  for (const end = Date.now() + seconds * 1000; Date.now() < end; await new Promise((r) => setTimeout(r, 200)))
    if (
      await fetch(url('/api/health'), { signal: AbortSignal.timeout(2000) }).then(
        (r) => r.ok,
        () => false,
      )
    )
      return
  throw new Error(`the application was not up within ${seconds} s`)
}
async function cookieOf(role: string): Promise<string> {
  const email = DEMO_PEOPLE.find((p) => p.role === role)?.email
  const answer = await fetch(url('/api/sign-in'), {
    method: 'POST',
    headers: { origin: url('') },
    body: JSON.stringify({ email, password: DEMO_PASSWORD }),
  })
  return answer.headers
    .getSetCookie()
    .map((c) => c.split(';')[0])
    .join('; ')
}
const post = (path: string, cookie: string, body: unknown, patience = 8000) =>
  fetch(url(path), { method: 'POST', headers: { origin: url(''), cookie }, body: JSON.stringify(body), signal: AbortSignal.timeout(patience) })
const wallOf = async (cookie: string, name: string) =>
  ((await (await post('/api/walls', cookie, { plan: { ...smallPlan, name } })).json()) as { id: string }).id

/** Processes of this machine by what they were started with. */
const processes = (like: RegExp): number[] =>
  readdirSync('/proc')
    .filter((p) => /^\d+$/.test(p))
    .flatMap((p) => {
      try {
        return like.test(readFileSync(`/proc/${p}/cmdline`, 'utf8').replaceAll('\0', ' ')) ? [Number(p)] : []
      } catch {
        return []
      }
    })
/** Those that belong to this trial: the starter, what serves on its port, the database below its folder. */
function targets() {
  const own = starter?.pid ?? 0
  const below = (pid: number): number[] => {
    const direct = processes(/./).filter((p) => {
      try {
        return (
          Number(
            readFileSync(`/proc/${p}/stat`, 'utf8')
              .replace(/^.*\) \S+ /, '')
              .split(' ')[0],
          ) === pid
        )
      } catch {
        return false
      }
    })
    return direct.flatMap((p) => [p, ...below(p)])
  }
  const web = below(own)
  let database: number[] = []
  try {
    database = [Number(readFileSync(join(data, 'postgres', 'data', 'postmaster.pid'), 'utf8').split('\n')[0])]
  } catch {
    // Not up at this moment.
  }
  return { starter: [own], web, database, all: [own, ...web, ...database] }
}

async function kills(rounds: number) {
  let cookie = await cookieOf('foreman')
  const walls = await Promise.all([0, 1, 2].map((i) => wallOf(cookie, `Soak ${i}`)))
  const acknowledged = new Map<string, Set<string>>(walls.map((w) => [w, new Set()]))
  let over = false
  const device = async (d: number) => {
    const wall = walls[d % walls.length] as string
    let waiting: ReturnType<typeof noteOf>[] = []
    while (!over) {
      waiting.push(noteOf(wall, `device ${d}`))
      try {
        const answer = await post(`/api/walls/${wall}/entries`, cookie, { entries: waiting })
        const { outcomes = [] } = (await answer.json()) as { outcomes?: { id: string; ok: boolean }[] }
        for (const o of outcomes) if (o.ok) acknowledged.get(wall)?.add(o.id)
        const known = new Set(outcomes.map((o) => o.id))
        waiting = waiting.filter((w) => !known.has(w.id))
      } catch {
        // Killed in the middle: it is sent again.
      }
      await new Promise((r) => setTimeout(r, randomInt(20, 120)))
    }
  }
  const devices = Array.from({ length: 12 }, (_, d) => device(d))
  for (let round = 1; round <= rounds; round++) {
    await new Promise((r) => setTimeout(r, randomInt(200, 2500)))
    const which = (['starter', 'web', 'database', 'all'] as const)[randomInt(4)] as 'starter' | 'web' | 'database' | 'all'
    for (const pid of targets()[which]) {
      try {
        process.kill(pid, 'SIGKILL')
      } catch {
        // Gone by itself.
      }
    }
    if (which === 'starter' || which === 'all') start()
    await healthy()
    if (round % 10 === 0) say(`${round} kills, ${[...acknowledged.values()].reduce((n, s) => n + s.size, 0)} entries acknowledged`)
  }
  over = true
  await Promise.all(devices)
  cookie = await cookieOf('foreman')
  let [lost, doubled, broken] = [0, 0, 0]
  for (const wall of walls) {
    const file = (await (await fetch(url(`/api/walls/${wall}/export`), { headers: { cookie } })).json()) as {
      entries: { seq: number; receivedAt: string; hash: string; entry: Entry }[]
      head: { seq: number; hash: string }
    }
    const ids = file.entries.map((e) => e.entry.id)
    const there = new Set(ids)
    for (const id of acknowledged.get(wall) ?? []) if (!there.has(id)) lost++
    doubled += ids.length - there.size
    if (!verifyChain(wall, file.entries, file.head).intact) broken++
  }
  const count = [...acknowledged.values()].reduce((n, s) => n + s.size, 0)
  say(
    `${lost + doubled + broken === 0 ? 'kept' : 'MISSED'}  ${rounds} kills: of ${count} acknowledged entries ${lost} lost, ${doubled} there twice, ${broken} chains broken`,
  )
  if (lost + doubled + broken > 0) process.exitCode = 1
}

/** Something no one would send: bytes, broken JSON, and JSON with a field of every wrong type. */
function rubbish(wall: string): BodyInit {
  const deep = (n: number): unknown => (n === 0 ? 1 : [deep(n - 1)])
  const odd = [
    null,
    true,
    -1,
    Number.MAX_VALUE,
    '',
    'x'.repeat(randomInt(4000)),
    '\u0000',
    '\ud800',
    [],
    {},
    [[[]]],
    { $ne: 1 },
    { __proto__: { role: 'office' } },
    'DROP TABLE entry',
    '../../etc/passwd',
    deep(60),
  ]
  const pick = <T>(list: readonly T[]) => list[randomInt(list.length)] as T
  const kind = randomInt(5)
  if (kind === 0) return Buffer.from(Array.from({ length: randomInt(300) }, () => randomInt(256)))
  if (kind === 1) return JSON.stringify(pick(odd)) ?? ''
  if (kind === 2)
    return JSON.stringify({ ...noteOf(wall, 'x'), [pick(['id', 'at', 'data', 'where', 'kind', 'revision', 'wall'])]: pick(odd) }).slice(
      0,
      randomInt(400),
    )
  const entry = {
    ...noteOf(wall, 'x'),
    [pick(['id', 'at', 'data', 'where', 'kind', 'revision', 'wall', 'supersedes', 'instrument', 'clock'])]: pick(odd),
  }
  if (kind === 3) return JSON.stringify({ entries: [entry, pick(odd), entry] })
  const keys = [
    'email',
    'password',
    'name',
    'role',
    'token',
    'plan',
    'base',
    'id',
    'what',
    'stands',
    'why',
    'code',
    'do',
    'number',
    'words',
    'idle',
    'most',
    'current',
    'response',
    'rules',
    'reason',
    'level',
    'unit',
  ]
  return JSON.stringify(Object.fromEntries(Array.from({ length: randomInt(1, 6) }, () => [pick(keys), pick(odd)])))
}

async function fuzz(count: number) {
  const cookie = await cookieOf('office')
  const wall = await wallOf(cookie, 'Fuzzed')
  const own = `/api/walls/${wall}`
  // With the methods they have; one in twenty is asked with another.
  const routes: readonly (readonly [path: string, methods: readonly string[]])[] = [
    [`${own}/entries`, ['POST', 'POST', 'POST', 'GET']],
    [`${own}/revisions`, ['POST']],
    [`${own}/proof`, ['POST', 'GET']],
    [`${own}/photos`, ['POST', 'PUT']],
    [`${own}/shelf`, ['POST']],
    [`${own}/here`, ['POST']],
    [`${own}/set-aside`, ['POST', 'GET']],
    [`${own}/set-aside/photos`, ['POST']],
    ...['desk', 'export', 'glimpse', 'overview', 'pace'].map((r) => [`${own}/${r}`, ['GET']] as const),
    ...['/api/walls', '/api/walls/made-up', '/api/first-company', '/api/rules', '/api/seen', '/api/templates', '/api/people'].map(
      (r) => [r, ['POST']] as const,
    ),
    ...['/api/people/invite', '/api/people/link', '/api/people/role', '/api/people/sessions', '/api/me/password', '/api/sign-in'].map(
      (r) => [r, ['POST']] as const,
    ),
    ['/api/catalogue', ['POST', 'PUT', 'GET']],
    ['/api/join', ['POST', 'PUT']],
    ['/api/me/passkeys', ['POST', 'PUT', 'GET', 'DELETE']],
    ['/api/sign-in/passkey', ['POST', 'PUT']],
    ...['/api/health', '/api/instruments', '/walls/%E0', `/walls/${wall}/record?entry=x`, '/join', '/api/walls/nonsense/entries'].map(
      (r) => [r, ['GET']] as const,
    ),
  ]
  const answers = new Map<number, number>()
  const failures: string[] = []
  let sizes: number[] = []
  const rss = () => {
    const pid = targets().web.find((p) => /next-server/.test(readFileSync(`/proc/${p}/cmdline`, 'utf8')))
    return pid ? Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024 : 0
  }
  let [sent, overload] = [0, 0]
  const one = async () => {
    while (sent < count) {
      const n = ++sent
      const [path, methods] = routes[randomInt(routes.length)] as (typeof routes)[number]
      const other = (['POST', 'PUT', 'DELETE', 'GET', 'PATCH'] as const)[randomInt(5)] as string
      // What would sign this trial out is left alone.
      const method = randomInt(20) === 0 && !/^\/api\/(people|me)/.test(path) ? other : (methods[randomInt(methods.length)] as string)
      const query =
        randomInt(4) === 0
          ? `?${['after', 'id', 'what', 'have', 'link', 'limit'][randomInt(6)]}=${encodeURIComponent(String.fromCharCode(...Array.from({ length: randomInt(20) }, () => randomInt(1, 500))))}`
          : ''
      try {
        const answer = await fetch(url(path + query), {
          method,
          headers: { ...(randomInt(5) > 0 ? { origin: url('') } : {}), ...(randomInt(5) > 0 ? { cookie } : {}) },
          ...(method === 'GET' ? {} : { body: rubbish(wall) }),
          signal: AbortSignal.timeout(60_000),
        })
        await answer.arrayBuffer()
        answers.set(answer.status, (answers.get(answer.status) ?? 0) + 1)
        // Too busy just now, and said so: a person tries again.
        if (answer.status === 503 && answer.headers.get('retry-after')) overload++
        else if (answer.status >= 500) failures.push(`${answer.status} ${method} ${path}${query}`)
      } catch (error) {
        failures.push(`${method} ${path}: ${error instanceof Error ? error.message : error}`)
      }
      if (n % 1000 === 0) sizes.push(rss())
      if (n % 10_000 === 0)
        say(
          `${n} sent; ${[...answers]
            .sort((a, b) => a[0] - b[0])
            .map(([s, c]) => `${s}: ${c}`)
            .join(', ')}; ${Math.round(sizes[sizes.length - 1] ?? 0)} MB`,
        )
    }
  }
  await Promise.all(Array.from({ length: 16 }, one))
  sizes = sizes.filter((s) => s > 0)
  for (const f of [...new Set(failures)].slice(0, 20)) say(`  ${f}`)
  // What the house itself wrote down of them.
  const log = readFileSync(join(data, 'logs', 'application.log'), 'utf8').split('\n')
  const errors = log.filter((l) => l.includes('"level":50')).map((l) => /"stack":"(.{0,300})/.exec(l)?.[1] ?? l.slice(0, 200))
  for (const e of [...new Set(errors)].slice(0, 10)) say(`  ${e}`)
  say(
    `${failures.length === 0 ? 'kept' : 'MISSED'}  ${count} bodies: ${failures.length} answers of 5xx or none, ${overload} times it said that it is too busy; memory ${Math.round(sizes[0] ?? 0)} MB at first, ${Math.round(Math.max(...sizes))} MB at most`,
  )
  if (failures.length > 0) process.exitCode = 1
}

async function hour(minutes: number) {
  const cookie = await cookieOf('foreman')
  const wall = await wallOf(cookie, 'An hour')
  const until = Date.now() + minutes * 60_000
  let [errors, count] = [0, 0]
  const devices = Array.from({ length: 50 }, async (_, d) => {
    await new Promise((r) => setTimeout(r, d * 100))
    const stream = new AbortController()
    fetch(url(`/api/walls/${wall}/live?after=1`), { headers: { cookie }, signal: stream.signal })
      .then(async (r) => {
        for await (const _ of r.body as unknown as AsyncIterable<Uint8Array>) if (stream.signal.aborted) return
      })
      .catch(() => undefined)
    while (Date.now() < until) {
      const answer = await post(`/api/walls/${wall}/entries`, cookie, { entries: [noteOf(wall, `device ${d}`)] }).catch(() => undefined)
      count++
      if (!answer?.ok) errors++
      await answer?.arrayBuffer()
      await new Promise((r) => setTimeout(r, 5000))
    }
    stream.abort()
  })
  const sizes: number[] = []
  while (Date.now() < until) {
    await new Promise((r) => setTimeout(r, 10_000))
    const pid = targets().web.find((p) => /next-server/.test(readFileSync(`/proc/${p}/cmdline`, 'utf8')))
    if (pid) sizes.push(Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024)
  }
  await Promise.all(devices)
  const third = Math.max(1, Math.floor(sizes.length / 3))
  const mean = (list: readonly number[]) => list.reduce((a, b) => a + b, 0) / list.length
  const [first, last] = [mean(sizes.slice(0, third)), mean(sizes.slice(-third))]
  const grown = last / first - 1
  say(
    `${errors === 0 && grown <= 0.1 ? 'kept' : 'MISSED'}  ${minutes} min at 50 devices: ${errors} errors of ${count}; memory ${first.toFixed(0)} MB in the first third, ${last.toFixed(0)} MB in the last (${(grown * 100).toFixed(1)} %, limit 10)`,
  )
  if (errors > 0 || grown > 0.1) process.exitCode = 1
}

/** Bodies made to hold a process: as long, as many and as deep as is let in. */
function heavy(wall: string, mb: number): readonly (readonly [what: string, body: string])[] {
  const fill = (one: string, from: string, to: string) =>
    `${from}${Array.from({ length: Math.floor((mb * 1_000_000) / (one.length + 1)) }, () => one).join(',')}${to}`
  const entry = JSON.stringify({ ...noteOf(wall, 'x'), data: 0 }).replace('"data":0', '"data":DATA')
  const plan = JSON.stringify({ ...smallPlan, grades: 0 }).replace('"grades":0', '"grades":LIST')
  const inPlan = (list: string) => plan.replace('LIST', list)
  const inEntry = (data: string) => `{"entries":[${entry.replace('DATA', data)}]}`
  return [
    ['numbers', fill('1', '[', ']')],
    ['words', JSON.stringify({ plan: 'x'.repeat(mb * 1_000_000) })],
    ['fields', `{${Array.from({ length: mb * 60_000 }, (_, i) => `"f${i}":1`).join(',')}}`],
    ['a plan of grades', `{"base":1,"plan":${inPlan(fill('{"station":1,"toe":1,"top":2}', '[', ']'))}}`],
    [
      'a plan of as many grades as it takes',
      `{"base":1,"plan":${inPlan(`[${Array.from({ length: 500 }, (_, i) => `{"station":${(i * smallPlan.length) / 499},"toe":10,"top":11.2}`).join(',')}]`)}}`,
    ],
    ['a plan of fields', `{"base":1,"plan":{${Array.from({ length: mb * 50_000 }, (_, i) => `"f${i}":1`).join(',')}}}`],
    ['an entry of points', inEntry(fill('{"station":1,"value":2}', '{"points":[', ']}'))],
    ['an entry of fields', inEntry(`{${Array.from({ length: mb * 50_000 }, (_, i) => `"f${i}":1`).join(',')}}`)],
    ['an entry of words', inEntry(`{"text":"${'x'.repeat(mb * 990_000)}"}`)],
    ['a thousand entries', `{"entries":[${Array.from({ length: 1000 }, () => JSON.stringify(noteOf(wall, 'x'))).join(',')}]}`],
    [
      'a thousand entries of another wall',
      `{"entries":[${Array.from({ length: 1000 }, () => JSON.stringify(noteOf('0', 'x'.repeat(5000)))).join(',')}]}`,
    ],
    ['lists in lists', fill(`${'['.repeat(30)}${']'.repeat(30)}`, '{"plan":[', ']}')],
    ['units as CSV', JSON.stringify({ csv: `system,id,name\n${'hollow-core,a,b\n'.repeat(Math.floor((mb * 1_000_000) / 18))}` })],
    ['a plan file', JSON.stringify({ file: inPlan(fill('{"station":1,"toe":1,"top":2}', '[', ']')) })],
  ]
}

/** Asks the house how it is, over and over, in a thread that sends nothing else: what it waits is the house's doing. */
const ASKS = `
const { parentPort, workerData } = require('node:worker_threads')
let worst = 0
parentPort.on('message', () => { parentPort.postMessage(worst); worst = 0 })
const ask = async () => {
  const began = performance.now()
  await fetch(workerData).then((r) => r.arrayBuffer()).catch(() => {})
  worst = Math.max(worst, performance.now() - began)
  setImmediate(ask)
}
ask()
`

/** How long everybody waits while one body is looked at, ms: the slowest answer of the house about itself, less what it takes on its own. */
async function probe() {
  const cookie = await cookieOf('office')
  const wall = await wallOf(cookie, 'Probed')
  const own = `/api/walls/${wall}`
  const routes = [
    ['POST', `${own}/entries`, 3.9],
    ['POST', `${own}/revisions`, 3.9],
    ['POST', '/api/walls', 7.8],
    ['PUT', '/api/rules', 3.9],
    ['PUT', '/api/catalogue', 3.9],
    ['POST', '/api/templates', 7.8],
  ] as const
  const asks = new Worker(ASKS, { eval: true, workerData: url('/api/health') })
  const worstSince = () =>
    new Promise<number>((done) => {
      asks.once('message', done)
      asks.postMessage('')
    })
  const settle = () => new Promise((r) => setTimeout(r, 300))
  await settle()
  await worstSince()
  await settle()
  const calm = await worstSince()
  say(`on its own it answers within ${calm.toFixed(0)} ms`)
  let missed = 0
  for (const [method, path, mb] of routes)
    for (const [what, body] of heavy(wall, mb)) {
      const bytes = Buffer.from(body)
      await settle()
      await worstSince()
      const answer = await fetch(url(path), { method, headers: { origin: url(''), cookie, 'content-type': 'application/json' }, body: bytes }).catch(
        (e: Error) => e,
      )
      if (!(answer instanceof Error)) await answer.arrayBuffer()
      await settle()
      const held = Math.max(0, (await worstSince()) - calm)
      if (held > 50) missed++
      say(
        `${held > 50 ? 'MISSED' : 'kept  '} ${held.toFixed(0).padStart(5)} ms  ${method} ${path.replace(wall, ':wall')} ${what}, ${(body.length / 1e6).toFixed(1)} MB: ${answer instanceof Error ? answer.message : answer.status}`,
      )
    }
  await asks.terminate()
  say(`${missed === 0 ? 'kept' : 'MISSED'}  ${missed} bodies held everybody longer than 50 ms`)
  if (missed > 0) process.exitCode = 1
}

async function main() {
  const [what = '', n] = process.argv.slice(2)
  const work = { kill: () => kills(Number(n ?? 100)), fuzz: () => fuzz(Number(n ?? 100_000)), hour: () => hour(Number(n ?? 60)), probe }[what]
  if (!work) throw new Error('soak takes kill ROUNDS, fuzz BODIES, probe or hour MINUTES')
  port = await freePort()
  start()
  try {
    await healthy(300)
    await work()
  } finally {
    starter?.kill('SIGTERM')
    await new Promise((r) => setTimeout(r, 5000))
    stopCluster(join(data, 'postgres'), 'immediate')
    rmSync(home, { recursive: true, force: true })
  }
}

main().catch((error) => {
  console.error(error)
  process.exit(2)
})
