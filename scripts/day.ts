import { type BrowserContext, chromium, type Page } from '@playwright/test'
import sharp from 'sharp'
import { DEMO_PASSWORD, DEMO_PEOPLE } from '../demo/load'
import { pictureOf } from '../demo/pictures'
import { CHROMIUM } from './chromium'

/** Plays a working day on a fresh demo, on a desk and on a phone, and puts its pictures on one sheet: tsx scripts/day.ts URL FOLDER. */
const [, , base = 'http://127.0.0.1:3080', folder = 'docs/screenshots'] = process.argv
const DESK = { width: 1280, height: 800 }
const PHONE = { width: 390, height: 844 }

const browser = await chromium.launch({
  executablePath: CHROMIUM,
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
})
async function person(role: 'foreman' | 'inspector' | 'crew', phone: boolean): Promise<BrowserContext> {
  const context = await browser.newContext({ viewport: phone ? PHONE : DESK, baseURL: base, hasTouch: phone, isMobile: phone })
  await context.addCookies([
    { name: 'theme', value: 'day', url: base },
    { name: 'units', value: 'metric', url: base },
  ])
  const email = DEMO_PEOPLE.find((p) => p.role === role)?.email
  const answer = await context.request.post('/api/sign-in', { data: { email, password: DEMO_PASSWORD }, headers: { origin: base } })
  if (!answer.ok()) throw new Error(`sign-in answered ${answer.status()}`)
  return context
}
const desk = await (await person('foreman', false)).newPage()
const phone = await (await person('crew', true)).newPage()
await desk.goto('/')
const wall = ((await desk.getByRole('link', { name: 'Queue-lane wall', exact: true }).getAttribute('href')) ?? '').split('/').pop() ?? ''

const frames: { words: string; desk: Buffer; phone: Buffer }[] = []
const snap = async (words: string) => {
  await Promise.all([desk, phone].map((p) => p.waitForTimeout(500)))
  frames.push({ words, desk: await desk.screenshot(), phone: await phone.screenshot() })
}
const both = async (path: string) => {
  for (const p of [desk, phone]) {
    await p.goto(path)
    await p.waitForSelector('html[data-ready]')
    await p.waitForTimeout(700)
  }
}
const sectionB = async (p: Page) => p.locator('label', { hasText: 'Section B' }).click()
const board = `/walls/${wall}`

// Morning: yesterday's finding.
await both(board)
for (const p of [desk, phone]) await sectionB(p)
await desk.getByLabel('Cause').fill('Lug packed with mud')
await desk.getByLabel('Action').fill('Unit lifted, lug cleaned, set again')
await desk.getByRole('button', { name: 'Keep cause and action' }).click()
await desk.getByRole('button', { name: 'Re-check now' }).click()
await desk.getByLabel(/Off its setback/).fill('1')
await phone.getByRole('button', { name: 'Re-check now' }).click()
await phone.getByLabel(/Off its setback/).fill('1')
await phone.getByLabel(/Off its setback/).scrollIntoViewIfNeeded()
await snap('07:10  yesterday’s finding, looked at again')
await desk.getByRole('button', { name: 'Record re-check' }).click()
await desk.getByText('Engagement and joints').first().waitFor()

// The rest of course 7, then course 8 with one number.
const sheet = (p: Page, course: number) => p.getByRole('region', { name: `Course ${course} in one go` })
await sheet(desk, 7).getByRole('button', { name: 'Record course 7' }).click()
await sheet(desk, 8).waitFor()
for (const p of [desk, phone]) {
  await sheet(p, 8)
    .getByLabel(/Largest deviation/)
    .fill('3')
  await sheet(p, 8).scrollIntoViewIfNeeded()
}
await snap('10:30  a whole course: one number, one press')
await sheet(desk, 8).getByRole('button', { name: 'Record course 8' }).click()
await desk.getByRole('heading', { name: 'Geogrid' }).waitFor()

// Afternoon: the layer, with its photo.
for (const p of [desk, phone]) {
  await p.getByLabel(/Front edge, mm/).waitFor()
  await p.getByLabel(/Front edge, mm/).fill('40')
  await p.getByText('Pulled tight and pinned, no').click()
}
await desk.getByText('U30-204').click()
await phone.getByText('U30-204').click()
const file = { name: 'layer.jpg', mimeType: 'image/jpeg', buffer: await pictureOf('grid', new Date()) }
await desk.locator('input[type=file]').first().setInputFiles(file)
await desk.getByRole('list', { name: 'Photos' }).waitFor()
await phone.getByRole('button', { name: 'Record layer' }).scrollIntoViewIfNeeded()
await snap('14:05  the layer of course 8, seen before it is covered')
await desk.getByRole('button', { name: 'Record layer' }).click()
await desk.getByLabel('What was seen').fill('Tight, 40 mm behind the face, roll and lot read')
await desk.getByRole('button', { name: 'Release', exact: true }).click()
await sheet(desk, 9).waitFor()

// Evening: what is due, and by whom.
await both(`/walls/${wall}/checks`)
for (const p of [desk, phone]) {
  await sectionB(p)
  await p.locator('label', { hasText: 'Everyone' }).click()
}
await snap('17:20  what is due, and by whom')
await browser.close()

const words = (text: string, width: number) =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="40"><rect width="${width}" height="40" fill="#fff"/><text x="4" y="27" font-family="sans-serif" font-size="21" font-weight="600">${text}</text></svg>`,
  )
async function sheetOf(pick: (f: (typeof frames)[number]) => Buffer, size: { width: number; height: number }, columns: number, scale: number) {
  const [w, h] = [Math.round(size.width * scale), Math.round(size.height * scale)]
  const cell = { w: w + 16, h: h + 56 }
  const parts = await Promise.all(
    frames.map(async (f, i) => {
      const [left, top] = [(i % columns) * cell.w + 8, Math.floor(i / columns) * cell.h + 4]
      const picture = await sharp(pick(f)).resize(w, h).extend({ top: 1, bottom: 1, left: 1, right: 1, background: '#999' }).png().toBuffer()
      return [
        { input: words(f.words.length * 11 > w ? f.words.slice(0, 5) : f.words, w), left, top },
        { input: picture, left: left - 1, top: top + 41 },
      ]
    }),
  )
  const [width, height] = [cell.w * columns, cell.h * Math.ceil(frames.length / columns)]
  const sheet = sharp({ create: { width, height, channels: 3, background: '#fff' } }).composite(parts.flat())
  return { width, height, input: await sheet.png().toBuffer() }
}
const [large, small] = [await sheetOf((f) => f.desk, DESK, 2, 0.64), await sheetOf((f) => f.phone, PHONE, 4, 1)]
await sharp({ create: { width: Math.max(large.width, small.width), height: large.height + small.height, channels: 3, background: '#fff' } })
  .composite([
    { input: large.input, left: 0, top: 0 },
    { input: small.input, left: 0, top: large.height },
  ])
  .png({ palette: true })
  .toFile(`${folder}/day.png`)
