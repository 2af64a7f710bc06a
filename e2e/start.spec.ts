import { type ChildProcess, spawn } from 'node:child_process'
import { chmodSync, mkdtempSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { ROOT } from '../scripts/build'
import { freePort, stopCluster } from '../scripts/cluster'
import { expect, fact, smallPlan, test } from './site'

/** The start command itself, on a folder with a space in its name, with what can happen to it. */
test.describe.configure({ mode: 'serial' })
const home = mkdtempSync(join(tmpdir(), 'stone tally '))
// The database's system user must get there too.
chmodSync(home, 0o755)
const data = join(home, 'the data')
const cluster = join(data, 'postgres')
let port = 0
let running: { child: ChildProcess; said: () => string; ended: Promise<number | null> } | undefined

function start(...more: string[]) {
  const child = spawn(join(ROOT, 'bin', 'start'), ['--data', data, '--port', `${port}`, '--no-instruments', ...more], {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'pipe'],
    // Another name to be served as: the command still finds it by this machine's own.
    env: { ...process.env, SERVED_AS: 'walls.example' },
  })
  let text = ''
  for (const from of [child.stdout, child.stderr]) from?.on('data', (d: Buffer) => (text += d.toString()))
  const ended = new Promise<number | null>((r) => child.once('exit', (code) => r(code)))
  running = { child, said: () => text, ended }
  return running
}
const health = async () => {
  const began = Date.now()
  const status = await fetch(`http://127.0.0.1:${port}/api/health`).then(
    (r) => r.status,
    () => 0,
  )
  return { status, took: Date.now() - began }
}
const says = (word: string) => expect.poll(() => running?.said() ?? '', { timeout: 90_000 }).toContain(word)
const healthy = (status = 200) => expect.poll(async () => (await health()).status, { timeout: 40_000, intervals: [100] }).toBe(status)
/** Processes below one, whatever started them. */
const below = (pid: number, name: RegExp): number[] =>
  readdirSync('/proc')
    .filter((p) => /^\d+$/.test(p))
    .flatMap((p) => {
      try {
        const parent = Number(
          readFileSync(`/proc/${p}/stat`, 'utf8')
            .replace(/^.*\) \S+ /, '')
            .split(' ')[0],
        )
        return parent === pid && name.test(readFileSync(`/proc/${p}/cmdline`, 'utf8')) ? [Number(p)] : []
      } catch {
        return []
      }
    })
const server = () => Number(readFileSync(join(cluster, 'data', 'postmaster.pid'), 'utf8').split('\n')[0])
/** The node process that runs the start command: the command itself, or one below it. */
const starter = () => {
  const top = running?.child.pid as number
  return below(top, /start\.ts/)[0] ?? top
}

test.beforeAll(async () => {
  port = await freePort()
})
test.afterAll(() => {
  running?.child.kill('SIGKILL')
  stopCluster(cluster)
  rmSync(home, { recursive: true, force: true })
})

test('starts on an empty folder with a space in its name; the first page asks for the code it printed', async ({ page }) => {
  start('--empty')
  await says('Ctrl-C stops it')
  const code = /set-up code: (\S+)/.exec(running?.said() ?? '')?.[1] as string
  expect(code).toMatch(/^[a-z2-9]{4}-[a-z2-9]{4}$/)
  await page.goto(`http://127.0.0.1:${port}/`)
  for (const [label, text] of [
    ['Set-up code', 'nonsense1'],
    ['Company', 'Firm of one'],
    ['Your name', 'Owner One'],
    ['E-mail', 'owner@firm.example'],
    ['Password', 'a long password'],
  ] as const)
    await page.getByLabel(label).fill(text)
  await page.getByRole('button', { name: 'Start' }).click()
  await expect(page.getByText(/is not the set-up code/)).toBeVisible()
  await page.getByLabel('Set-up code').fill(code)
  await page.getByRole('button', { name: 'Start' }).click()
  await expect(page.getByRole('heading', { name: 'Yard' })).toBeVisible()
  // What happened is in the log: lines of JSON, without what was typed.
  const written = () => readFileSync(join(data, 'logs', 'application.log'), 'utf8')
  await expect.poll(written, { timeout: 20_000 }).toContain('"security":"sign-in"')
  expect(written()).not.toContain('a long password')
})

test('the application killed is up again; the database killed is up again, and health says so within a second', async () => {
  const web = below(starter(), /next-server|standalone\/web\/server\.js/)[0] as number
  process.kill(web, 'SIGKILL')
  await says('The application ended by itself (SIGKILL)')
  await healthy()
  const before = server()
  // Stopped in its tracks: it takes connections and never answers.
  process.kill(before, 'SIGSTOP')
  for (const child of below(before, /./)) process.kill(child, 'SIGSTOP')
  const hung = await health()
  expect(hung.status).toBe(503)
  expect(hung.took).toBeLessThan(1000)
  for (const child of below(before, /./)) process.kill(child, 'SIGKILL')
  process.kill(before, 'SIGKILL')
  await says('The database is up again')
  await healthy()
  expect(server()).not.toBe(before)
})

test('killed itself and started again it finds its port free and everything there', async () => {
  process.kill(starter(), 'SIGKILL')
  running?.child.kill('SIGKILL')
  start()
  await says('Ctrl-C stops it')
  await healthy()
  // A company is there: no demo is put beside it.
  expect(running?.said()).not.toMatch(/demo/i)
})

test('told to end it ends open streams first, finishes what is being recorded, then the database', async ({ context }) => {
  const site = `http://127.0.0.1:${port}`
  const headers = { origin: site }
  const signed = await context.request.post(`${site}/api/sign-in`, { data: { email: 'owner@firm.example', password: 'a long password' }, headers })
  expect(signed.ok(), await signed.text()).toBe(true)
  const made = await context.request.post(`${site}/api/walls`, { data: { plan: smallPlan }, headers })
  const { id } = (await made.json()) as { id: string }
  const cookie = (await context.cookies(site)).map((c) => `${c.name}=${c.value}`).join('; ')
  // Ten screens follow the wall; each stream ends by itself, none is cut in the middle of a line.
  const streams = await Promise.all(Array.from({ length: 10 }, () => fetch(`${site}/api/walls/${id}/live?after=0`, { headers: { cookie } })))
  expect(streams.map((s) => s.status)).toEqual(streams.map(() => 200))
  const texts = Promise.all(streams.map((s) => s.text()))
  const note = fact(id, 'note', {}, { text: 'said last' })
  const recorded = fetch(`${site}/api/walls/${id}/entries`, {
    method: 'POST',
    headers: { cookie, origin: site, 'content-type': 'application/json' },
    body: JSON.stringify({ entries: [note] }),
  })
  await new Promise((r) => setTimeout(r, 50))
  const began = Date.now()
  // On a slow machine it takes a while before it hears of it: nobody in between may kill it for that.
  process.kill(starter(), 'SIGSTOP')
  running?.child.kill('SIGTERM')
  setTimeout(() => process.kill(starter(), 'SIGCONT'), 500)
  expect(await (await recorded).json()).toMatchObject({ outcomes: [{ ok: true }] })
  for (const text of await texts) expect(text).toMatch(/\n\n$/)
  expect(await running?.ended).toBe(0)
  expect(Date.now() - began).toBeLessThan(20_000)
  expect((await health()).status).toBe(0)
  expect(() => server()).toThrow()
})

test('a data folder it cannot understand is left alone, named, with what to do', async () => {
  const settings = join(cluster, 'cluster.json')
  const kept = readFileSync(settings)
  const version = join(cluster, 'data', 'PG_VERSION')
  const count = () => readdirSync(join(cluster, 'data')).length
  const whole = count()
  const refused = async (what: RegExp) => {
    const code = await start().ended
    expect([code, running?.said()]).toEqual([1, expect.stringMatching(what)])
    expect(count()).toBeGreaterThanOrEqual(whole - 1)
  }
  renameSync(settings, `${settings}.away`)
  await refused(/cluster\.json with its passwords is missing\. Put that file back from your backup.*Nothing in .* was changed/s)
  writeFileSync(settings, kept.subarray(0, 40))
  await refused(/cluster\.json is not whole/)
  renameSync(`${settings}.away`, settings)
  renameSync(version, `${version}.away`)
  await refused(/PG_VERSION is missing/)
  renameSync(`${version}.away`, version)
  renameSync(join(cluster, 'data'), join(cluster, 'data.mine'))
  const gone = await start().ended
  expect([gone, running?.said()]).toEqual([1, expect.stringMatching(/the database in .* is gone/)])
  renameSync(join(cluster, 'data.mine'), join(cluster, 'data'))
  start()
  await says('Ctrl-C stops it')
  running?.child.kill('SIGTERM')
  await running?.ended
})

test('putting the demo back asks where there is anything but the demo', async () => {
  const code = await start('--reset-demo').ended
  expect([code, running?.said()]).toEqual([3, expect.stringMatching(/1 other company, which stays.*changed nothing/s)])
})
