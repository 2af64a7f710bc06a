import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { newWall, openBoard, post, ready, signIn, unreadable, upTo, url } from './site'

/** Letters of this house, the newest last, as they would be sent on. */
function letters(to: string): string[] {
  const box = join(process.env.DATA_HERE ?? '', 'post')
  if (!existsSync(box)) return []
  return readdirSync(box)
    .filter((f) => f.endsWith('.eml'))
    .sort()
    .map((f) => readFileSync(join(box, f), 'utf8').replace(/=\r\n/g, ''))
    .filter((l) => l.includes(`To: ${to}`))
}

test('somebody from outside is asked by a link, decides on a phone of their own, and the work goes on', async ({ context, browser }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Outside wall')
  const inspector = await browser.newContext()
  await signIn(inspector, 'inspector')
  const facts = upTo(wall, 'pad')
  for (const { by, fact: f } of facts.slice(0, -1)) {
    const answer = await post(by === 'foreman' ? context : inspector, `/api/walls/${wall}/entries`, { entries: [f] })
    expect(await answer.json(), f.kind).toMatchObject({ outcomes: [{ ok: true }] })
  }
  const page = await context.newPage()
  await openBoard(page, wall)
  await page.getByRole('button', { name: 'Ask somebody from outside' }).click()
  await expect(page.getByRole('button', { name: 'Send the link · missing: who, their address' })).toBeDisabled()
  await page.getByLabel('Who looks').fill('Imre Vale')
  await page.getByLabel('Their own e-mail address').fill('imre@vale.example')
  await page.getByRole('button', { name: 'Send the link', exact: true }).click()
  await expect(page.getByText(/^Asked: Imre Vale, engineer, imre@vale\.example: link sent/)).toBeVisible()
  const link = letters('imre@vale.example')[0]?.match(/http:\S+\/outside#[\w-]{43}/)?.[0] ?? ''
  expect(link).toContain(url())

  // Not here, where the foreman is signed in.
  const here = await context.newPage()
  await here.goto(link)
  await expect(here.locator('p[role=alert]')).toContainText('Open the link on a device of your own')
  await here.close()

  const own = await browser.newContext({ viewport: { width: 390, height: 844 } })
  const phone = await own.newPage()
  await phone.goto(link)
  await ready(phone)
  await expect(phone.getByRole('heading', { name: /^Please look: Subgrade/ })).toBeVisible()
  await expect(phone.getByRole('button', { name: 'Release · missing: licence number, what you saw' })).toBeDisabled()
  await phone.getByLabel('Licence or register number').fill('E-2231')
  await phone.getByLabel('What you saw; it is kept with the decision').fill('Firm, dry, nothing soft')
  expect(await unreadable(phone)).toEqual([])
  await phone.getByRole('button', { name: 'Release', exact: true }).click()
  await expect(phone.getByText(/^✓ Released/)).toBeVisible()
  await phone.goto('about:blank')
  await phone.goto(link)
  await expect(phone.locator('p[role=alert]')).toContainText(/was used/)
  await own.close()

  // The Board goes on by itself; what is not known of who decided stands in the record.
  await expect(page.getByText(/^Asked: Imre Vale/)).toHaveCount(0)
  await page.goto(`${url()}/walls/${wall}/record`)
  await ready(page)
  await expect(page.getByText(/released by Imre Vale, engineer, E-2231, by a link sent to them; identity not checked/).first()).toBeVisible()
  await inspector.close()
})
