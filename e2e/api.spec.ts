import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import { SIGNED } from '../core/test/plans'
import { bring, demoWall, expect, fact, newWall, post, signIn, smallPlan, test, unreadable, url } from './site'

type Route = { path: string; methods: string[] }
/** Routes below a folder with their methods, as they lie in the application: one that is added is looked at too. */
function routesIn(...folder: string[]): Route[] {
  const root = join(import.meta.dirname, '..', 'web', 'app', 'api', ...folder)
  const found = (readdirSync(root, { recursive: true }) as string[]).filter((f) => f.endsWith('route.ts'))
  return found.map((f) => ({
    path: `/${f}`.replace(/\/route\.ts$/, '').replace(/\[[^\]]+\]/g, '01a1fc6a-d4e4-7b86-ae6f-8ca056bf33b3'),
    methods: [...readFileSync(join(root, f), 'utf8').matchAll(/export (?:const|async function) (GET|POST|PUT|DELETE)\b/g)].map((m) => m[1] as string),
  }))
}
function routesOfAWall(): Route[] {
  const found = routesIn('walls', '[id]')
  expect(found.length).toBeGreaterThan(10)
  return found
}

test('an empty installation offers to make the first company', () => {
  expect(process.env.FIRST_PAGE).toBe('/welcome')
})

test('signed out: pages lead to the sign-in, routes say so', async ({ page, context }) => {
  await page.goto(url())
  await expect(page).toHaveURL(/sign-in/)
  const answer = await post(context, `/api/walls/${demoWall()}/entries`, { entries: [] })
  expect(answer.status()).toBe(401)
  expect(await answer.text()).toContain('signed out')
})

test('a missing or foreign origin is refused', async ({ context }) => {
  await signIn(context, 'foreman')
  expect((await post(context, `/api/walls/${demoWall()}/entries`, { entries: [] }, {})).status()).toBe(403)
  expect((await post(context, `/api/walls/${demoWall()}/entries`, { entries: [] }, { origin: 'http://evil.example' })).status()).toBe(403)
  expect((await post(context, '/api/sign-in', {}, { origin: 'null' })).status()).toBe(403)
})

test('a session that was revoked, or forged, is nobody', async ({ context, browser }) => {
  await signIn(context, 'crew')
  expect((await context.request.get(`${url()}/api/walls/${demoWall()}/entries`)).status()).toBe(200)
  const gone = await context.request.delete(`${url()}/api/people`, { headers: { origin: url() } })
  expect(((await gone.json()) as { ended: number }).ended).toBeGreaterThan(0)
  expect((await context.request.get(`${url()}/api/walls/${demoWall()}/entries`)).status()).toBe(401)
  const other = await browser.newContext()
  await other.addCookies([{ name: 'better-auth.session_token', value: 'made.up', url: url() }])
  expect((await other.request.get(`${url()}/api/walls/${demoWall()}/entries`)).status()).toBe(401)
  await other.close()
})

test('the answer to a sign-in carries no token but the HttpOnly cookie', async ({ context }) => {
  const answer = await post(context, '/api/sign-in', { email: 'odd@tidewrack.example', password: 'quarry-lantern' })
  expect(await answer.json()).toEqual({ ok: true })
  expect((await context.cookies()).find((c) => c.name.includes('session_token'))?.httpOnly).toBe(true)
})

test('another company: not listed, not opened, not written, not exported', async ({ context, browser }) => {
  await signIn(context, 'office')
  const { default: pg } = await import('pg')
  const owner = new pg.Client({ connectionString: process.env.OWNER_URL })
  await owner.connect()
  const { rows } = await owner.query("INSERT INTO company (name) VALUES ('Rivals') RETURNING id")
  await post(context, '/api/people', { name: 'Rival', email: 'rival@other.example', password: 'rivals-password', role: 'office' })
  await owner.query('UPDATE "user" SET "companyId" = $1 WHERE email = $2', [rows[0].id, 'rival@other.example'])
  await owner.end()
  const rival = await browser.newContext()
  await post(rival, '/api/sign-in', { email: 'rival@other.example', password: 'rivals-password' })
  const page = await rival.newPage()
  await page.goto(url())
  await expect(page.getByRole('heading', { name: 'Begin with a wall' })).toBeVisible()
  expect(await unreadable(page)).toEqual([])
  await page.goto(`${url()}/walls/${demoWall()}`)
  await expect(page.getByText('There is nothing here')).toBeVisible()
  const nobody = await browser.newContext()
  for (const { path, methods } of routesOfAWall())
    for (const method of methods) {
      const ask = (who: typeof rival) =>
        who.request.fetch(`${url()}/api/walls/${demoWall()}${path}`, {
          method,
          headers: { origin: url() },
          ...(method === 'GET' ? {} : { data: {} }),
        })
      // What a device gives back that was signed out is taken from nobody who is signed in.
      const no = method === 'POST' && path.startsWith('/set-aside') ? 401 : 404
      expect([method, path, (await ask(rival)).status()]).toEqual([method, path, no])
      expect([method, path, (await ask(nobody)).status()]).toEqual([method, path, 401])
    }
  await nobody.close()
  expect((await post(rival, `/api/walls/${demoWall()}/entries`, { entries: [fact(demoWall(), 'note', {}, { text: 'x' })] })).status()).toBe(404)
  // A company id that somebody sends is not a field anyone reads.
  expect(
    (
      await post(rival, '/api/people', {
        name: 'M',
        email: 'm@x.example',
        password: 'long enough now',
        role: 'crew',
        companyId: '0d3a0000-0000-7000-8000-000000000001',
      })
    ).status(),
  ).toBe(422)
  await rival.close()
})

test('roles: crew may not pass or release, the foreman not the inspector’s holds, crew may not plan', async ({ context, browser }) => {
  await signIn(context, 'foreman')
  const inspector = await browser.newContext()
  await signIn(inspector, 'inspector')
  const crew = await browser.newContext()
  await signIn(crew, 'crew')
  const wall = await newWall(context, 'Roles')
  await bring(context, inspector, wall, 'fill')
  const line = { stage: 'drain', section: 'B', course: 1 }
  const send = async (who: typeof context, kind: string, data: object) =>
    (await post(who, `/api/walls/${wall}/entries`, { entries: [fact(wall, kind, line, data)] })).json()
  // Who releases is said by the point, in the rules of the plan.
  expect(await send(crew, 'release', { decision: 'released', reason: 'ok', signature: SIGNED })).toMatchObject({
    outcomes: [{ ok: false, problems: [{ field: 'by.role', message: expect.stringContaining('takes the inspector; the crew may not release it') }] }],
  })
  expect(await send(context, 'release', { decision: 'released', reason: 'ok', signature: SIGNED })).toMatchObject({
    outcomes: [{ ok: false, problems: [{ field: 'by.role' }] }],
  })
  expect(await send(crew, 'override', { reason: 'because' })).toMatchObject({ outcomes: [{ ok: false, problems: [{ field: 'kind' }] }] })
  expect((await post(crew, '/api/walls', { plan: smallPlan })).status()).toBe(422)
  expect((await post(crew, '/api/people', {})).status()).toBe(403)
  await inspector.close()
  await crew.close()
})

/** What no page of ours sends: values that say themselves what they read as, of another kind, or nothing at all. */
const STRANGE: readonly unknown[] = [
  { toString: 1 },
  { toString: null, valueOf: null },
  [],
  [[[]]],
  7,
  true,
  null,
  '\u0000',
  { length: -1 },
  { __proto__: 1 },
]
/** Every name a body may have here. */
const NAMES =
  'token id role name email password current next plan file base entries person request rules reason site units csv scene fault response what stands why decision licence signature template unit value'.split(
    ' ',
  )
test('whatever is sent to whatever route, by nobody or by the office: refused, never a fault of the house', async ({ browser }) => {
  const [nobody, office] = [await browser.newContext(), await browser.newContext()]
  await signIn(office, 'office')
  const routes = routesIn()
  expect(routes.length).toBeGreaterThan(35)
  const wall = await newWall(office, 'Strange bodies', { look: false })
  const bodies = [...STRANGE, ...STRANGE.map((v) => Object.fromEntries(NAMES.map((n) => [n, v]))), ...NAMES.map((n) => ({ [n]: STRANGE[0] }))]
  const few = [7, null, { token: STRANGE[0] }, Object.fromEntries(NAMES.map((n) => [n, STRANGE[0]]))]
  const faults: string[] = []
  // What is taken away has no body.
  // What ends a session would end the test.
  // Where tries are counted few are made: nobody of another test is shut out.
  for (const { path, methods } of routes)
    for (const method of methods.filter((m) => m === 'POST' || m === 'PUT'))
      for (const [who, context] of Object.entries({ nobody, office }))
        for (const body of path === '/sign-out' ? [] : /^\/(sign-in|join|outside|first-company)/.test(path) ? few : bodies) {
          const at = `${url()}/api${path.replace(/01a1fc6a[\w-]+/, wall)}`
          const answer = await context.request.fetch(at, {
            method,
            data: JSON.stringify(body),
            headers: { origin: url(), 'content-type': 'application/json' },
          })
          // An instrument that stands in for a real one may be off; a stated overload says when to come again.
          if (answer.status() >= 500 && !path.startsWith('/instruments') && answer.headers()['retry-after'] === undefined)
            faults.push(`${answer.status()} ${who} ${method} ${path}: ${JSON.stringify(body).slice(0, 80)}`)
        }
  expect(faults).toEqual([])
  await nobody.close()
  await office.close()
})
test('broken, wrong and oversized bodies are named, nothing is written', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Bodies', { look: false })
  const entries = `/api/walls/${wall}/entries`
  const raw = (data: string) =>
    context.request.post(`${url()}${entries}`, { data: Buffer.from(data), headers: { origin: url(), 'content-type': 'application/json' } })
  expect([(await raw('{"entries":[')).status(), (await raw('7')).status(), (await raw('{"entries":{}}')).status()]).toEqual([400, 422, 422])
  expect((await post(context, entries, { entries: Array.from({ length: 1001 }, () => ({})) })).status()).toBe(422)
  const large = await post(context, '/api/walls', { file: 'x'.repeat(8.5 * 1024 * 1024) })
  expect([large.status(), await large.text()]).toEqual([400, expect.stringContaining('8 MB')])
  const truncated = await post(context, '/api/walls', { file: '{"format":"stone-tally","version":1,"plan":{"name":' })
  expect([truncated.status(), await truncated.text()]).toEqual([422, expect.stringContaining('is not complete JSON')])
  const record = (await (await context.request.get(`${url()}${entries}?after=0`)).text()).trim().split('\n')
  expect(record).toHaveLength(1)
})

test('opening a record of 10,000 entries transfers little more than the entries zipped', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Long', { look: false })
  for (let i = 0; i < 10; i++) {
    const answer = await post(context, `/api/walls/${wall}/entries`, {
      entries: Array.from({ length: 1000 }, (_, j) =>
        fact(wall, 'note', {}, { text: `Truck ${i}-${j} with stone, ticket ${(i * 7919 + j * 104729) % 99991}` }),
      ),
    })
    expect(answer.status()).toBe(200)
  }
  const state = await context.storageState()
  const cookie = state.cookies.map((c) => `${c.name}=${c.value}`).join('; ')
  const { get } = await import('node:http')
  const transferred = await new Promise<{ bytes: number; encoding: string | undefined }>((resolve, reject) => {
    get(`${url()}/api/walls/${wall}/entries?after=0`, { headers: { cookie, 'accept-encoding': 'gzip' } }, (r) => {
      let bytes = 0
      r.on('data', (d: Buffer) => {
        bytes += d.length
      })
      r.on('end', () => resolve({ bytes, encoding: r.headers['content-encoding'] }))
    }).on('error', reject)
  })
  const plain = await (await context.request.get(`${url()}/api/walls/${wall}/entries?after=0`)).text()
  const entries = plain.trim().split('\n')
  expect(entries).toHaveLength(10_001)
  expect(transferred.encoding).toBe('gzip')
  expect(transferred.bytes / gzipSync(plain).length).toBeLessThanOrEqual(1.3)
})

test('a live stream that comes back goes on after the last number it had', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Stream', { look: false })
  const note = (text: string) => post(context, `/api/walls/${wall}/entries`, { entries: [fact(wall, 'note', {}, { text })] })
  await note('one')
  await note('two')
  const cookie = (await context.cookies()).map((c) => `${c.name}=${c.value}`).join('; ')
  const abort = new AbortController()
  const response = await fetch(`${url()}/api/walls/${wall}/live`, { headers: { cookie, 'last-event-id': '2' }, signal: abort.signal })
  const reader = (response.body as ReadableStream<Uint8Array>)
    .pipeThrough(new TextDecoderStream() as never)
    .getReader() as ReadableStreamDefaultReader<string>
  let got = ''
  const until = async (word: string) => {
    while (!got.includes(word)) got += (await reader.read()).value ?? ''
  }
  await until('two')
  expect(got).not.toContain('"one"')
  expect(got).toContain('id: 3')
  await note('three')
  const start = Date.now()
  await until('three')
  expect(Date.now() - start).toBeLessThan(2000)
  expect(got).toContain('id: 4')
  abort.abort()
})

test('every answer says what a browser may do with it: pages, scripts, files and refusals', async ({ context }) => {
  await signIn(context, 'foreman')
  const page = await context.request.get(`${url()}/walls/${demoWall()}`)
  const script = /src="(\/_next\/static\/[^"]+\.js)"/.exec(await page.text())?.[1] ?? ''
  for (const path of [`/walls/${demoWall()}`, script, `/api/walls/${demoWall()}/export`, '/api/walls/none/entries', '/no-such-page']) {
    const headers = (await context.request.get(`${url()}${path}`)).headers()
    expect([path, headers['x-content-type-options'], headers['referrer-policy'], headers['x-frame-options']]).toEqual([
      path,
      'nosniff',
      'same-origin',
      'DENY',
    ])
    expect(headers['content-security-policy']).toContain("frame-ancestors 'none'")
    expect(headers['permissions-policy']).toContain('camera=(self)')
    expect(headers['cross-origin-opener-policy']).toBe('same-origin')
  }
})
