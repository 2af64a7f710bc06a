import { chromium } from '@playwright/test'
import sharp from 'sharp'
import { DEMO_PASSWORD, DEMO_PEOPLE } from '../demo/load'
import { newWall, post, upTo } from '../e2e/site'
import { CHROMIUM } from './chromium'

/** A phone in flight mode from a cold start, what waits on it, and what met others' entries when it came back, on one sheet: tsx scripts/flight.ts URL FOLDER. */
const [, , base = 'http://127.0.0.1:3080', folder = 'docs/screenshots'] = process.argv
const PHONE = { width: 390, height: 844 }
const GAP = 16

const browser = await chromium.launch({
  executablePath: CHROMIUM,
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
})
const person = async (role: 'foreman' | 'crew') => {
  const context = await browser.newContext({ viewport: PHONE, baseURL: base, hasTouch: true, isMobile: true })
  const email = DEMO_PEOPLE.find((p) => p.role === role)?.email
  const answer = await context.request.post('/api/sign-in', { data: { email, password: DEMO_PASSWORD }, headers: { origin: base } })
  if (!answer.ok()) throw new Error(`sign-in answered ${answer.status()}`)
  return context
}
const foreman = await person('foreman')
const crew = await person('crew')
const first = await foreman.newPage()
await first.goto('/')
const wall = ((await first.getByRole('link', { name: 'Queue-lane wall', exact: true }).getAttribute('href')) ?? '').split('/').pop() ?? ''
await first.goto(`/walls/${wall}`)
await first.evaluate(() => navigator.serviceWorker.ready.then(() => true))
await first.waitForTimeout(3000)
await first.close()

const frames: Buffer[] = []
await foreman.setOffline(true)
const phone = await foreman.newPage()
const snap = async () => {
  await phone.waitForTimeout(900)
  frames.push(await phone.screenshot())
}
await phone.goto('/')
await phone.getByText('No connection').waitFor()
await snap()
await phone.goto(`/walls/${wall}/record`)
await phone.getByLabel('Note for the diary: weather, visitors, deliveries').fill('Stone lorry turned away at the gate')
await phone.getByRole('button', { name: 'Add note' }).click()
await phone.getByText('◌ not sent yet').waitFor()
await snap()
await phone.goto('/device')
await phone.getByText('on this device alone').first().waitFor()
await snap()
// Two do the same first check of another wall, knowing nothing of each other; a person decides when the signal is back.
await foreman.setOffline(false)
process.env.BASE_URL = base
const other = await newWall(foreman, 'Return wall')
await phone.goto(`/walls/${other}`)
await phone.waitForTimeout(3000)
await foreman.setOffline(true)
const card = phone.getByRole('region', { name: 'Now' })
for (const box of await card.getByRole('checkbox').all()) await box.check({ force: true })
await card.getByLabel('Last day of the ticket').fill('2099-12-31')
await card.getByLabel('Locate ticket or permit number').fill('T-4711')
await card
  .getByRole('button', { name: /^Record/ })
  .first()
  .click()
await phone.waitForTimeout(1500)
const [same] = upTo(other, 'never')
await post(crew, `/api/walls/${other}/entries`, { entries: [same?.fact] })
await foreman.setOffline(false)
const away = phone.getByRole('alert').filter({ hasText: 'Since you were away' })
await away.waitFor({ timeout: 60_000 })
await away.scrollIntoViewIfNeeded()
await snap()
await crew.close()
await browser.close()

const width = frames.length * (PHONE.width + GAP) - GAP
await sharp({ create: { width, height: PHONE.height, channels: 3, background: '#b9b8b0' } })
  .composite(frames.map((input, i) => ({ input, left: i * (PHONE.width + GAP), top: 0 })))
  .png()
  .toFile(`${folder}/device.png`)
