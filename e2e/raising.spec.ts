import type { BrowserContext } from '@playwright/test'
import { SIGNED } from '../core/test/plans'
import { pictureOf } from '../demo/pictures'
import { bring, demoWall, expect, fact, newWall, openBoard, post, ready, sawAll, sendPhoto, signIn, test, unreadable, url } from './site'

async function people(context: BrowserContext, browser: import('@playwright/test').Browser) {
  await signIn(context, 'foreman')
  const inspector = await browser.newContext()
  await signIn(inspector, 'inspector')
  return inspector
}
/** Brings section B of a small wall up to a stage; after `grid`, course 1 is whole. */
async function builtTo(context: BrowserContext, browser: import('@playwright/test').Browser, name: string, stage: string) {
  const inspector = await people(context, browser)
  const wall = await newWall(context, name)
  await bring(context, inspector, wall, stage)
  return { wall, inspector }
}

test('one course: a number and a press, then the next one offers itself', async ({ page, context, browser }) => {
  const { wall } = await builtTo(context, browser, 'In one go', 'grid')
  await openBoard(page, wall)
  const sheet = page.getByRole('region', { name: 'Course 2 in one go' })
  await expect(sheet).toBeVisible()
  // Digits typed anywhere on the Board land in the one number there is.
  await page.keyboard.type('3')
  await expect(sheet.getByRole('status')).toContainText('3 mm high')
  await sheet.getByRole('button', { name: 'Record course 2' }).click()
  await expect(page.getByRole('heading', { name: 'Geogrid' })).toBeVisible()
  await expect(page.getByText('· 0 of 1')).toBeVisible()
  const record = await (await context.request.get(`${url()}/api/walls/${wall}/entries?after=0`)).text()
  const kinds = record
    .trim()
    .split('\n')
    .slice(-7)
    .map((l) => (JSON.parse(l) as { entry: { kind: string } }).entry.kind)
  expect(kinds).toEqual(['units', 'sighting', 'sighting', 'check', 'check', 'lift', 'lift'])
})

test('pipe: laid by stretches, seen on a photo, released with a signature, only then covered', async ({ page, context, browser }) => {
  const { wall, inspector } = await builtTo(context, browser, 'Pipe', 'drain')
  const cover = fact(
    wall,
    'check',
    { stage: 'cover', section: 'B', course: 1 },
    { confirmed: ['stone', 'fabric'], measured: [{ id: 'cover', value: 0.2 }] },
  )
  const refused = await (await post(context, `/api/walls/${wall}/entries`, { entries: [cover] })).json()
  expect(JSON.stringify(refused)).toContain('a pipe nobody has seen may not be covered')

  await openBoard(page, wall)
  await expect(page.getByRole('heading', { name: 'Drain pipe laid' })).toBeVisible()
  await page.getByLabel('Bed below it, mm').fill('90')
  await page.getByText('With the flow', { exact: true }).click()
  await sawAll(page)
  await page.getByRole('button', { name: 'Record this stretch' }).click()
  await expect(page.getByText('a photo of 4.50 to 9.00').first()).toBeVisible()
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({ name: 'pipe.jpg', mimeType: 'image/jpeg', buffer: await pictureOf('pipe', new Date()) })
  const photo = page.getByRole('list', { name: 'Photos' }).locator('img')
  await expect(photo).toBeVisible()
  // The list is drawn anew when the photo is in the record: a picture that left the page meanwhile would never say that it is decoded.
  await expect.poll(() => photo.evaluate((i: HTMLImageElement) => (i.complete ? i.naturalWidth : 0))).toBe(480)
  await expect(page.getByText('It waits for the inspector')).toBeVisible()

  const theirs = await inspector.newPage()
  await openBoard(theirs, wall)
  await theirs.getByLabel('What was seen').fill('bed, fall and outlet seen')
  await theirs.locator('label', { hasText: 'By hand' }).click()
  const sheet = theirs.getByRole('img', { name: 'Sign here' })
  const box = await sheet.boundingBox()
  if (!box) throw new Error('no sheet')
  await theirs.mouse.move(box.x + 20, box.y + 60)
  await theirs.mouse.down()
  for (let i = 1; i < 12; i++) await theirs.mouse.move(box.x + 20 + i * 18, box.y + 60 - (i % 3) * 20)
  await theirs.mouse.up()
  await theirs.getByRole('button', { name: 'Release', exact: true }).click()
  await expect(theirs.getByRole('heading', { name: 'Pipe covered' })).toBeVisible()
  const record = await (await context.request.get(`${url()}/api/walls/${wall}/entries?after=0`)).text()
  const release = record
    .trim()
    .split('\n')
    .map((l) => (JSON.parse(l) as { entry: { kind: string; data: { signature?: { drawn: unknown[][] } } } }).entry)
  expect(release.filter((e) => e.kind === 'release').pop()?.data.signature?.drawn[0]?.length).toBeGreaterThan(8)

  // The foreman's page follows without being touched.
  await expect(page.getByRole('heading', { name: 'Pipe covered' })).toBeVisible()
  await sawAll(page)
  await page.getByLabel('Stone over the pipe, mm').fill('160')
  await page.getByRole('button', { name: 'Record 3 of 3' }).click()
  // Since the pipe lies before the stone beside it, that comes next.
  await expect(page.getByRole('heading', { name: 'Cores and stone' })).toBeVisible()
})

test('photos over the wire: what is none, 60 MB, a script in the name, another house', async ({ context, browser }) => {
  const { wall } = await builtTo(context, browser, 'Photos', 'dig')
  const send = (data: Buffer, name = 'a.jpg') =>
    context.request.post(`${url()}/api/walls/${wall}/photos?name=${encodeURIComponent(name)}`, { data, headers: { origin: url() } })
  const none = await send(Buffer.from('<script>alert(1)</script>'), 'trench.jpg')
  expect([none.status(), await none.text()]).toEqual([422, expect.stringContaining('is not a photo that can be read')])
  const large = await send(Buffer.alloc(60 * 1024 * 1024))
  expect([large.status(), await large.text()]).toEqual([413, expect.stringContaining('at most 12 MB')])
  const bytes = await pictureOf('outlet', new Date())
  const sent = (await sendPhoto(context, wall, bytes, '<img src=x onerror=alert(1)>.jpg')) as { file: string; name: string; location: string }
  expect(sent).toMatchObject({ name: 'img src=x onerror=alert(1) .jpg', location: 'stripped' })
  const got = await context.request.get(`${url()}/api/walls/${wall}/photos/${sent.file}`)
  expect(got.headers()).toMatchObject({ 'content-type': 'image/jpeg', 'x-content-type-options': 'nosniff' })
  expect(got.headers()['content-disposition']).toBe(`inline; filename="photo-${sent.file}.jpeg"`)
  // Not from another page, not by a stranger, not under another wall.
  expect(
    (await context.request.post(`${url()}/api/walls/${wall}/photos`, { data: bytes, headers: { origin: 'https://elsewhere.example' } })).status(),
  ).toBe(403)
  const stranger = await browser.newContext()
  expect((await stranger.request.get(`${url()}/api/walls/${wall}/photos/${sent.file}`)).status()).toBe(401)
  expect((await context.request.get(`${url()}/api/walls/${demoWall()}/photos/${sent.file}`)).status()).toBe(404)
  await stranger.close()
})

test('a clock that is hours wrong: kept, and shown as such', async ({ page, context, browser }) => {
  const { wall } = await builtTo(context, browser, 'Clock', 'dig')
  const e = { ...fact(wall, 'note', {}, { text: 'from a tablet with a wrong clock' }), at: new Date(Date.now() + 3 * 3_600_000).toISOString() }
  expect(await (await post(context, `/api/walls/${wall}/entries`, { entries: [e] })).json()).toMatchObject({ outcomes: [{ ok: true }] })
  await page.goto(`${url()}/walls/${wall}/record`)
  await expect(page.getByText(/clock of the device about 3 hours fast/)).toBeVisible()
})

test('an inspector does not release what they measured themselves', async ({ context, browser }) => {
  const { wall, inspector } = await builtTo(context, browser, 'Own eyes', 'line')
  const at = { stage: 'line', section: 'B', course: 1 }
  const put = async (who: BrowserContext, kind: string, where: object, data: object) =>
    (await post(who, `/api/walls/${wall}/entries`, { entries: [fact(wall, kind, where, data)] })).json()
  for (const station of [4.6, 6.75, 8.9])
    expect(await put(inspector, 'reading', { ...at, station }, { method: 'deviation', value: 0 })).toMatchObject({ outcomes: [{ ok: true }] })
  const answer = await put(inspector, 'release', at, { decision: 'released', reason: 'mine', signature: SIGNED })
  expect(JSON.stringify(answer)).toContain('takes a second pair of eyes')
})

test('two devices: what came too late is not lost, and can be sent again', async ({ page, context, browser }) => {
  const { wall } = await builtTo(context, browser, 'Two devices', 'grid')
  await openBoard(page, wall)
  await expect(page.getByRole('region', { name: 'Course 2 in one go' })).toBeVisible()
  // This device loses its signal; the crew lead sets some units from another one meanwhile.
  await context.setOffline(true)
  const some = page.getByLabel(/^Some .* set$/)
  await some.fill('11')
  await page.getByRole('button', { name: 'Record', exact: true }).click()
  await expect(page.getByText(/kept on this device/)).toBeVisible()
  const crew = await browser.newContext()
  await signIn(crew, 'crew')
  const units = fact(wall, 'units', { stage: 'units', section: 'B', course: 2 }, { set: 4 })
  expect(await (await post(crew, `/api/walls/${wall}/entries`, { entries: [units] })).json()).toMatchObject({ outcomes: [{ ok: true }] })
  await context.setOffline(false)
  const panel = page.getByRole('alert').filter({ hasText: 'Recorded on this device, not accepted: 1' })
  await expect(panel).toContainText('4 are set, so at most 7 more, not 11', { timeout: 15_000 })
  await page.reload()
  await expect(panel).toBeVisible()
  await panel.getByRole('button', { name: 'Put aside' }).click()
  await expect(panel).toHaveCount(0)
  await crew.close()
})

test('Water: outlets worked out are taken into the plan as a revision', async ({ page, context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Outlets')
  await page.goto(`${url()}/walls/${wall}/water`)
  await ready(page)
  await expect(page.getByRole('img', { name: /Drain profile: 1 outlets/ })).toBeVisible()
  await page.getByRole('button', { name: 'Change what the plan says of water' }).click()
  await page.getByLabel(/Places where water could leave/).fill('4.5  9.85')
  await page.getByLabel('Ground above that drains here, m²').fill('300')
  await page.getByLabel('Share that runs off').fill('0,4')
  await page.getByLabel('Rain, mm in an hour').fill('60')
  await page.getByRole('button', { name: 'Issue as a new revision' }).click()
  await expect(page.getByText(/one outlet will do: at 4.50/)).toBeVisible()
  await expect(page.getByText(/l\/s of/)).toBeVisible()
  // Sieve curves decide about the sock.
  for (const [of, text] of [
    ['Soil behind', '0.002 10\n0.02 40\n0.08 90'],
    ['Drainage stone', '10 10\n16 40\n22 95'],
  ] as const) {
    if (of === 'Soil behind') await page.getByRole('button', { name: 'Enter a sieve curve' }).click()
    await page.locator('label', { hasText: of }).click()
    await page.getByLabel('From', { exact: true }).fill('sheet 4')
    await page.getByLabel(/one pair a line/).fill(text)
    await page.getByRole('button', { name: 'Record this curve' }).click()
    await expect(page.getByLabel(/one pair a line/)).toHaveValue('')
  }
  await expect(page.getByText(/Soil washes into this stone/)).toBeVisible()
})

test('Ahead and Checks: the creeping station is named, a cell of the checks opens its step', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await page.goto(`${url()}/walls/${demoWall()}/ahead`)
  await ready(page)
  await page.locator('label', { hasText: 'Section B' }).click()
  await expect(page.getByText(/Shave \d mm at (each of courses|course)/).first()).toBeVisible()
  await expect(page.getByText(/▲ leaves at course \d+/)).toBeVisible()
  await page.goto(`${url()}/walls/${demoWall()}/checks`)
  await ready(page)
  await page.locator('label', { hasText: 'Section B' }).click()
  await page.getByRole('link', { name: /^Setback, section B course 7: open finding/ }).click()
  await expect(page.getByRole('heading', { name: 'Setback' })).toBeVisible()
  await expect(page.getByText('▲ Out of tolerance: 1 open')).toBeVisible()
})

// Every page as it opens is looked at in house.spec.
for (const place of ['ahead', 'checks']) {
  test(`${place} of another section: readable by everyone at the desk and on a phone, nothing wider than the screen`, async ({ page, context }) => {
    await signIn(context, 'foreman')
    await page.goto(`${url()}/walls/${demoWall()}/${place}`)
    await ready(page)
    await expect(page.getByText('Loading the record')).toHaveCount(0)
    await page.locator('label', { hasText: 'Section B' }).click()
    for (const width of [1280, 390]) {
      await page.setViewportSize({ width, height: 844 })
      await expect.poll(() => page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width)
      expect([width, await unreadable(page)]).toEqual([width, []])
    }
  })
}
