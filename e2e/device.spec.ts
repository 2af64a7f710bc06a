// The device first: cold starts without a signal, what waits, what comes back, and every bad day a device has.

import { randomBytes } from 'node:crypto'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { type BrowserContext, chromium, type Page } from '@playwright/test'
import { CHROMIUM } from '../scripts/chromium'
import { type Line, line } from './line'
import { expect, newWall, post, signIn, test, upTo, url } from './site'

import { ahead, boxed, counts, kept, longAgo, multiply } from './store'

test.use({ serviceWorkers: 'allow' })

let road: Line
test.beforeEach(async () => {
  road = await line()
})
test.afterEach(async () => road.end())

interface Recorded {
  readonly seq: number
  readonly entry: { id: string; kind: string; data: { text?: string; name?: string }; clock?: number }
}
const recordOf = async (context: BrowserContext, wall: string): Promise<Recorded[]> =>
  (await (await context.request.get(`${url()}/api/walls/${wall}/entries?after=0`)).text())
    .split('\n')
    .filter(Boolean)
    .map((l) => JSON.parse(l) as Recorded)
const notes = async (context: BrowserContext, wall: string) =>
  (await recordOf(context, wall)).filter((e) => e.entry.kind === 'note').map((e) => e.entry.data.text)

/** Opens a wall over the line and waits until the device has it. */
async function opened(context: BrowserContext, wall: string, place = ''): Promise<Page> {
  const page = await context.newPage()
  await page.goto(`${road.url}/walls/${wall}${place}`)
  await page.waitForSelector('html[data-ready]')
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => true))
  await expect.poll(() => kept(page, wall)).toBe(true)
  await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null)).toBe(true)
  return page
}
const addNote = async (page: Page, text: string) => {
  await page.getByLabel('Note for the diary: weather, visitors, deliveries').fill(text)
  await page.getByRole('button', { name: 'Add note' }).click()
  await expect(page.getByText(text).first()).toBeVisible()
}
/** Confirms all of the check that is next and records it, with a second press. */
async function press(page: Page) {
  const card = page.getByRole('region', { name: 'Now' })
  for (const box of await card.getByRole('checkbox').all()) if (!(await box.isChecked())) await box.check({ force: true })
  await card.getByLabel('Last day of the ticket').fill('2099-12-31')
  await card.getByLabel('Locate ticket or permit number').fill('T-4711')
  await card
    .getByRole('button', { name: /^Record/ })
    .first()
    .dblclick()
}
const waiting = (page: Page) => page.getByText('◌ not sent yet')

test('in flight mode from a cold start: Yard, wall, work; then everything goes once', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Flight wall')
  await (await opened(context, wall)).close()
  road.mode = 'dead'
  const page = await context.newPage()
  await page.goto(`${road.url}/`)
  await expect(page.getByText(/No connection: these are the walls this device keeps/)).toBeVisible()
  // How far it is and what is next, as with a signal.
  await expect(page.getByText(/^0 of \d+ set$/)).toBeVisible()
  await expect(page.getByText(/^Next:/).first()).toBeVisible()
  // Tools of the Bench too.
  await page.getByRole('link', { name: 'Bench' }).click()
  await expect(page.getByRole('navigation', { name: 'Calculators' })).toBeVisible()
  await page.goBack()
  await page.getByRole('link', { name: 'Flight wall', exact: true }).click()
  await expect(page.getByText(/No connection, what you record is kept here/)).toBeVisible()
  // From place to place without asking anybody.
  await page.getByRole('button', { name: 'Prove it' }).click()
  await page.getByRole('link', { name: 'Record', exact: true }).click()
  await addNote(page, 'first without signal')
  await addNote(page, 'second without signal')
  await expect(waiting(page)).toHaveCount(2)
  // Killed and started again: it is all still there.
  await page.close()
  const again = await context.newPage()
  await again.goto(`${road.url}/walls/${wall}/record`)
  await expect(waiting(again)).toHaveCount(2)
  expect(await notes(context, wall)).toEqual([])
  await again.goto(`${road.url}/device`)
  await expect(again.getByText('◌ 2 entries on this device alone.')).toBeVisible()
  await again.goto(`${road.url}/walls/${wall}/record`)
  await expect(waiting(again)).toHaveCount(2)
  road.mode = 'good'
  await expect(waiting(again)).toHaveCount(0, { timeout: 60_000 })
  expect(await notes(context, wall)).toEqual(['first without signal', 'second without signal'])
})

test('what waits goes from any page, when its wall is not open', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Closed wall')
  const page = await opened(context, wall, '/record')
  road.mode = 'dead'
  await addNote(page, 'left behind')
  await expect(waiting(page)).toHaveCount(1)
  await page.goto(`${road.url}/device`)
  await expect(page.getByText('◌ 1 entry on this device alone.')).toBeVisible()
  road.mode = 'good'
  await expect(page.getByText('Everything recorded here is in the house.')).toBeVisible({ timeout: 90_000 })
  expect(await notes(context, wall)).toEqual(['left behind'])
})

test('queued is recorded: the next step opens, and a second press is no second entry', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Queue wall')
  const page = await opened(context, wall)
  const title = page.getByRole('region', { name: 'Now' }).getByRole('heading', { level: 2 }).first()
  const before = await title.textContent()
  road.mode = 'dead'
  await press(page)
  await expect(title).not.toHaveText(before ?? '')
  await expect(page.getByText(/◌ 1 kept on this device, not sent yet/)).toBeVisible()
  road.mode = 'good'
  await expect.poll(async () => (await recordOf(context, wall)).filter((e) => e.entry.kind === 'check').length, { timeout: 60_000 }).toBe(1)
})

test('a PIN stands before everything on a cold start without a signal; signed out there is nothing to be seen', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Locked wall')
  const page = await opened(context, wall)
  await page.goto(`${road.url}/device`)
  await page.getByRole('textbox', { name: 'PIN' }).fill('4711')
  await page.getByRole('button', { name: 'Set the PIN' }).click()
  await expect(page.getByRole('button', { name: 'Take it away' })).toBeVisible()
  road.mode = 'dead'
  await page.goto(`${road.url}/walls/${wall}/record`)
  await expect(page.getByText('Locked wall')).toHaveCount(0)
  await page.getByLabel('PIN of this device').fill('0000')
  await page.getByRole('button', { name: 'Open' }).click()
  await expect(page.getByText(/is not the PIN; 5 tries are left/)).toBeVisible()
  await page.getByLabel('PIN of this device').fill('4711')
  await page.getByRole('button', { name: 'Open' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Record' })).toBeVisible()
  await addNote(page, 'before signing out')
  // Signed out where the house cannot hear it: nothing is shown any more, and the house is told later.
  await page.getByRole('button', { name: 'Sign out' }).click()
  await expect(page.getByText(/Nobody is signed in on this device/)).toBeVisible()
  road.mode = 'good'
  await page.goto(`${road.url}/walls/${wall}`)
  await page.waitForURL(/sign-in/, { timeout: 60_000 })
  expect(await notes(context, wall).catch(() => [])).toEqual([])
  // The same person again: what waited goes.
  await signIn(context, 'foreman')
  await page.goto(`${road.url}/walls/${wall}/record`)
  await expect.poll(() => notes(context, wall), { timeout: 60_000 }).toEqual(['before signing out'])
})

test('two tabs without a signal: both are kept, each entry goes once', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Two tabs')
  const one = await opened(context, wall, '/record')
  const two = await opened(context, wall, '/record')
  road.mode = 'dead'
  await Promise.all([addNote(one, 'from tab one'), addNote(two, 'from tab two')])
  // Each sees what the other one holds.
  await expect(waiting(one)).toHaveCount(2)
  await expect(waiting(two)).toHaveCount(2)
  road.mode = 'good'
  await expect(waiting(one)).toHaveCount(0, { timeout: 60_000 })
  await expect(waiting(two)).toHaveCount(0)
  expect((await notes(context, wall)).sort()).toEqual(['from tab one', 'from tab two'])
})

test('a page in between that answers everything with 200, and a house whose answers are lost', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Portal wall')
  const page = await opened(context, wall, '/record')
  road.mode = 'portal'
  await addNote(page, 'through the portal')
  await expect(waiting(page)).toHaveCount(1)
  await page.reload()
  await expect(page.getByRole('heading', { level: 1, name: 'Record' })).toBeVisible()
  await expect(waiting(page)).toHaveCount(1)
  await expect(page.getByText('Accept the terms')).toHaveCount(0)
  // It arrives, nobody hears of it, it is sent again: once in the record.
  road.mode = 'answers-lost'
  await expect.poll(() => notes(context, wall), { timeout: 90_000 }).toEqual(['through the portal'])
  road.mode = 'good'
  // By the answer to what is sent again, or by the line, whichever is first: then it waits no longer.
  await expect(waiting(page)).toHaveCount(0, { timeout: 60_000 })
  await expect(page.getByText(/No connection/)).toHaveCount(0, { timeout: 30_000 })
  await expect.poll(() => boxed(page)).toBe(0)
  expect(await notes(context, wall)).toEqual(['through the portal'])
})

test('a photo cut off at nine tenths goes on where it was', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Photo wall')
  const page = await opened(context, wall)
  const { default: sharp } = await import('sharp')
  // Noise does not pack: several pieces of half a megabyte.
  const noise = randomBytes(1600 * 1200 * 3)
  const bytes = await sharp(noise, { raw: { width: 1600, height: 1200, channels: 3 } })
    .jpeg({ quality: 96 })
    .toBuffer()
  expect(bytes.length).toBeGreaterThan(1_200_000)
  road.cut = { at: '/photos?', after: Math.round(bytes.length * 0.9) }
  await page.locator('input[type=file][aria-label=Photo]').first().setInputFiles({ name: 'pipe.jpg', mimeType: 'image/jpeg', buffer: bytes })
  await expect(page.getByText('1 kept on this device, waiting to be sent').first()).toBeVisible({ timeout: 60_000 })
  const before = road.went.filter((w) => w.path.includes('/photos?')).length
  road.mode = 'good'
  await expect.poll(async () => (await recordOf(context, wall)).filter((e) => e.entry.data.name === 'pipe.jpg').length, { timeout: 60_000 }).toBe(1)
  const after = road.went
    .slice()
    .filter((w) => w.path.includes('/photos?'))
    .slice(before)
  const sent = after.reduce((n, w) => n + w.bytes, 0)
  // One question from the beginning tells how far it is; the rest is what was missing.
  expect(sent).toBeLessThan(bytes.length * 0.9)
})

test('a full device refuses in words, and nothing counts as recorded', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Full wall')
  const page = await opened(context, wall, '/record')
  // The browser's own store, which has no room left from now on.
  await page.evaluate(() => {
    const add = IDBObjectStore.prototype.add
    Object.assign(window, { room: () => Object.assign(IDBObjectStore.prototype, { add }) })
    IDBObjectStore.prototype.add = () => {
      throw new DOMException('full', 'QuotaExceededError')
    }
  })
  road.mode = 'dead'
  await page.getByLabel('Note for the diary: weather, visitors, deliveries').fill(`no room for ${'this '.repeat(70)}`)
  await page.getByRole('button', { name: 'Add note' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'no room left; nothing was recorded' })).toBeVisible()
  await expect(waiting(page)).toHaveCount(0)
  await page.evaluate(() => (window as unknown as { room(): void }).room())
  await page.getByRole('button', { name: 'Add note' }).click()
  await expect(waiting(page)).toHaveCount(1)
})

test('storage taken away: the wall comes back from the house; without it that is said', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Evicted wall')
  const page = await opened(context, wall)
  const cdp = await context.newCDPSession(page)
  await page.goto('about:blank')
  await cdp.send('Storage.clearDataForOrigin', { origin: road.url, storageTypes: 'indexeddb' })
  road.mode = 'dead'
  await page.goto(`${road.url}/walls/${wall}`)
  await expect(page.getByText(/Nobody is signed in on this device/)).toBeVisible()
  road.mode = 'good'
  await page.goto(`${road.url}/walls/${wall}/record`)
  await expect(page.getByText(/entries\./)).toBeVisible()
  await addNote(page, 'after the loss')
  expect(await notes(context, wall)).toEqual(['after the loss'])
})

test('back after thirty days: signed in again, nothing of what waited is lost', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Month wall')
  const page = await opened(context, wall, '/record')
  road.mode = 'dead'
  await addNote(page, 'thirty days ago')
  await expect(waiting(page)).toHaveCount(1)
  await longAgo(page, 30)
  await page.reload()
  await expect(page.getByText(/has not spoken with the house for longer than/)).toBeVisible()
  road.mode = 'good'
  await page.reload()
  await expect.poll(() => notes(context, wall), { timeout: 60_000 }).toEqual(['thirty days ago'])
})

test('the wall is gone from the house meanwhile: what waits stays and is shown', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Gone wall')
  const page = await opened(context, wall, '/record')
  road.mode = 'dead'
  await addNote(page, 'for a wall that is gone')
  road.mode = 'wall-gone'
  await page.waitForTimeout(4000)
  await expect(waiting(page)).toHaveCount(1)
  road.mode = 'good'
  await expect(waiting(page)).toHaveCount(0, { timeout: 60_000 })
})

test('signed out by the office while forty entries wait: they are set aside for the foreman, the walls leave the device', async ({ browser }) => {
  const crew = await browser.newContext({ serviceWorkers: 'allow' })
  const office = await browser.newContext()
  await signIn(office, 'office')
  const wall = await newWall(office, 'Set-aside wall')
  // Somebody of the crew whom no other test signs in.
  const email = `leaving-${Date.now()}@tidewrack.example`
  const added = await post(office, '/api/people', { name: 'Lea Ving', email, password: 'a good long one', role: 'crew' })
  expect(added.ok(), await added.text()).toBe(true)
  const { id } = (await added.json()) as { id: string }
  const into = await crew.request.post(`${url()}/api/sign-in`, { data: { email, password: 'a good long one' }, headers: { origin: url() } })
  expect(into.ok()).toBe(true)
  const page = await opened(crew, wall, '/record')
  road.mode = 'dead'
  await addNote(page, 'waiting 00')
  await expect(waiting(page)).toHaveCount(1)
  // A photo of the day as well.
  const { default: sharp } = await import('sharp')
  const buffer = await sharp({ create: { width: 640, height: 480, channels: 3, background: '#887766' } })
    .jpeg()
    .toBuffer()
  await page.goto(`${road.url}/walls/${wall}`)
  await page.locator('input[type=file][aria-label=Photo]').first().setInputFiles({ name: 'left.jpg', mimeType: 'image/jpeg', buffer })
  await expect.poll(() => counts(page, ['photos'])).toEqual([1])
  // The same again thirty-nine times, as a long day would leave it.
  await multiply(page, 40)
  const ended = await office.request.delete(`${url()}/api/people?id=${id}`, { headers: { origin: url() } })
  expect(ended.ok(), await ended.text()).toBe(true)
  // It comes back on the Yard: it is asked to sign in, and gives back what it keeps all the same.
  road.mode = 'good'
  await page.goto(`${road.url}/`)
  await page.waitForURL(/sign-in/, { timeout: 90_000 })
  await expect.poll(() => counts(page, ['walls']), { timeout: 60_000 }).toEqual([0])
  expect(await counts(page, ['walls', 'pages', 'outbox', 'photos'])).toEqual([0, 0, 0, 0])
  expect(await notes(office, wall)).toEqual([])
  const foreman = await browser.newContext()
  await signIn(foreman, 'foreman')
  const record = await foreman.newPage()
  await record.goto(`${url()}/walls/${wall}/record`)
  await expect(record.getByRole('heading', { name: 'Set aside from devices that were signed out: 41' })).toBeVisible()
  await expect(record.getByText(/left\.jpg/)).toBeVisible()
  await crew.close()
  await office.close()
  await foreman.close()
})

test('since you were away: two recorded the same, a person decides', async ({ context, browser }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Apart wall')
  const page = await opened(context, wall)
  const [first] = upTo(wall, 'never')
  road.mode = 'dead'
  await press(page)
  await expect(page.getByText(/No connection/)).toBeVisible()
  const crew = await browser.newContext()
  await signIn(crew, 'crew')
  const theirs = await post(crew, `/api/walls/${wall}/entries`, { entries: [first?.fact] })
  expect(await theirs.json()).toMatchObject({ outcomes: [{ ok: true }] })
  await crew.close()
  road.mode = 'good'
  const list = page.getByRole('alert').filter({ hasText: 'Since you were away' })
  await expect(list).toContainText('Recorded twice', { timeout: 60_000 })
  await list.getByRole('button', { name: 'Leave it as it is' }).click()
  await expect(list).toHaveCount(0)
  await page.reload()
  await expect(page.getByRole('region', { name: 'Now' }).getByRole('heading', { level: 2 }).first()).toBeVisible()
  await expect(list).toHaveCount(0)
})

test('killed while writing: what was shown as recorded is there after the browser is started again', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'device-'))
  const launch = () =>
    chromium.launchPersistentContext(folder, { executablePath: CHROMIUM, args: ['--no-sandbox', '--disable-gpu', '--no-first-run'] })
  try {
    const first = await launch()
    await signIn(first, 'foreman')
    const wall = await newWall(first, 'Killed wall')
    const page = await opened(first, wall, '/record')
    road.mode = 'dead'
    await addNote(page, 'shown before the kill')
    await expect(waiting(page)).toHaveCount(1)
    await page.getByLabel('Note for the diary: weather, visitors, deliveries').fill('pressed and killed')
    await page.getByRole('button', { name: 'Add note' }).click({ noWaitAfter: true })
    const cdp = await first.newCDPSession(page)
    await cdp.send('Browser.crash').catch(() => undefined)
    await first.close().catch(() => undefined)
    const second = await launch()
    await signIn(second, 'foreman')
    const again = await second.newPage()
    await again.goto(`${road.url}/walls/${wall}/record`)
    await expect(again.getByText('shown before the kill').first()).toBeVisible()
    const shown = await waiting(again).count()
    expect([1, 2]).toContain(shown)
    road.mode = 'good'
    await expect(waiting(again)).toHaveCount(0, { timeout: 60_000 })
    expect(await notes(second, wall)).toHaveLength(shown)
    await second.close()
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
})

test('what a newer version kept can still be opened by an older one, and the reverse', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Version wall')
  const page = await opened(context, wall, '/record')
  road.mode = 'dead'
  await addNote(page, 'kept across versions')
  // A newer application has been here: its store has a higher number and one table more.
  await page.goto(`${road.url}/icon.svg`).catch(() => undefined)
  await page.goto('about:blank')
  road.mode = 'good'
  const raise = await context.newPage()
  await raise.goto(`${road.url}/manifest.webmanifest`)
  await raise.evaluate(
    () =>
      new Promise<void>((done, failed) => {
        const asked = indexedDB.open('stone-tally', 990)
        asked.onupgradeneeded = () => asked.result.createObjectStore('tomorrow')
        asked.onsuccess = () => {
          asked.result.close()
          done()
        }
        asked.onerror = () => failed(asked.error)
      }),
  )
  await raise.close()
  await page.goto(`${road.url}/walls/${wall}/record`)
  await expect.poll(() => notes(context, wall), { timeout: 60_000 }).toEqual(['kept across versions'])
})

test('a new version of the application waits until nothing is half typed, and what waits goes all the same', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Renewed wall')
  const page = await opened(context, wall, '/record')
  road.mode = 'dead'
  await addNote(page, 'kept by the older version')
  road.mode = 'good'
  road.newer = true
  const field = page.getByLabel('Note for the diary: weather, visitors, deliveries')
  await field.fill('half a sent')
  await page.evaluate(() =>
    navigator.serviceWorker
      .getRegistration()
      .then((r) => r?.update())
      .then(() => true),
  )
  await expect(page.getByText('A new version of the application is here.')).toBeVisible({ timeout: 60_000 })
  // Longer than it looks again: it still waits.
  await page.waitForTimeout(17_000)
  await expect(field).toHaveValue('half a sent')
  await field.fill('')
  await field.blur()
  // The page begins anew with the other version, and nothing is lost.
  await page.waitForEvent('load', { timeout: 60_000 })
  await expect(page.getByText('A new version of the application is here.')).toHaveCount(0)
  await expect.poll(() => notes(context, wall), { timeout: 60_000 }).toEqual(['kept by the older version'])
  // The new one runs without a signal too, with what the older one kept.
  road.mode = 'dead'
  await page.goto(`${road.url}/walls/${wall}/record`)
  await expect(page.getByText('kept by the older version')).toBeVisible({ timeout: 60_000 })
})

test('the house was set back behind the device: what it has not any more is put aside, and said', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Set-back wall')
  const page = await opened(context, wall, '/record')
  await addNote(page, 'the house will forget this')
  await expect.poll(() => notes(context, wall)).toEqual(['the house will forget this'])
  await page.goto('about:blank')
  const store = await context.newPage()
  await store.goto(`${road.url}/manifest.webmanifest`)
  // The device has one entry more than the house, as after a database restored from the day before.
  await ahead(store, wall)
  await store.close()
  await page.goto(`${road.url}/walls/${wall}/record`)
  await expect(page.getByText(/The house had another record of this wall than this device/)).toBeVisible({ timeout: 60_000 })
  await page.goto(`${road.url}/device`)
  const aside = page.getByRole('region', { name: 'Records put aside' })
  await expect(aside).toBeVisible()
  const [file] = await Promise.all([page.waitForEvent('download'), aside.getByRole('button', { name: 'Save' }).click()])
  const lines = (await (await import('node:fs/promises')).readFile(await file.path(), 'utf8')).trim().split('\n')
  expect(lines.map((l) => (JSON.parse(l) as Recorded).entry.data.text).filter(Boolean)).toEqual(['the house will forget this', 'only here'])
  await aside.getByRole('button', { name: 'Remove …' }).click()
  await aside.getByRole('button', { name: 'Remove it for good' }).click()
  await expect(aside).toHaveCount(0)
})
