import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { built, ENGINEERED, smallPlan } from '../core/test/plans'
import { fact, newWall, openBoard, post, ready, signIn, upTo, url } from './site'
const O = '/tmp/shots/'
test('shots', async ({ context, browser }) => {
  test.setTimeout(300000)
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Slipway wall')
  const inspector = await browser.newContext()
  await signIn(inspector, 'inspector')
  for (const { by, fact: f } of upTo(wall, 'pad').slice(0, -1))
    await post(by === 'foreman' ? context : inspector, `/api/walls/${wall}/entries`, { entries: [f] })
  const page = await context.newPage()
  await page.setViewportSize({ width: 1280, height: 800 })
  await openBoard(page, wall)
  await page.getByRole('button', { name: 'Ask somebody from outside' }).click()
  await page.getByLabel('Who looks').scrollIntoViewIfNeeded()
  await page.screenshot({ path: O + 'ask.png' })
  await page.getByLabel('Who looks').fill('Imre Vale')
  await page.getByLabel('Their own e-mail address').fill('imre@vale.example')
  await page.setViewportSize({ width: 390, height: 844 })
  await page.getByLabel('Who looks').scrollIntoViewIfNeeded()
  await page.screenshot({ path: O + 'ask-phone.png' })
  await page.getByRole('button', { name: 'Send the link', exact: true }).click()
  await expect(page.getByText(/link sent/)).toBeVisible()
  await page.getByText(/link sent/).scrollIntoViewIfNeeded()
  await page.screenshot({ path: O + 'asked-phone.png' })
  const box = join(process.env.DATA_HERE ?? '', 'post')
  const l = existsSync(box) ? readdirSync(box).map((f) => readFileSync(join(box, f), 'utf8').replace(/=\r\n/g, '')).pop() : ''
  console.log(l)
  const link = l?.match(/http:\S+\/outside#[\w-]{43}/)?.[0] ?? ''
  const own = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  const phone = await own.newPage()
  await phone.goto(link)
  await ready(phone)
  await phone.waitForTimeout(500)
  await phone.screenshot({ path: O + 'outside.png' , fullPage: true})
  await phone.setViewportSize({ width: 390, height: 844 })
  await phone.screenshot({ path: O + 'outside-phone.png', fullPage: true })
  await page.setViewportSize({ width: 1280, height: 800 })
  await page.goto(`${url()}/rules`)
  await ready(page)
  await page.locator('#ladder').evaluate((e) => e.scrollIntoView())
  await page.screenshot({ path: O + 'ladder.png' })
  await page.getByRole('button', { name: 'Make stricter: an open fence on it' }).click()
  await page.waitForTimeout(300)
  await page.screenshot({ path: O + 'ladder-dialog.png' })
  await page.keyboard.press('Escape')
  await page.setViewportSize({ width: 390, height: 844 })
  await page.locator('#ladder').evaluate((e) => e.scrollIntoView())
  await page.screenshot({ path: O + 'ladder-phone.png' })

  const office = await browser.newContext()
  await signIn(office, 'office')
  const rules = (await (await office.request.get(`${url()}/api/rules`)).json()) as { choices?: unknown[] }
  const all = { ...rules, choices: [...(rules.choices ?? []), { choice: 'crew', option: 'one', why: 'I work alone' }] }
  const put = await office.request.put(`${url()}/api/rules`, { data: { rules: all, base: Number(process.env.RULE_BASE ?? 0), reason: 'alone' }, headers: { origin: url() } })
  console.log(put.status(), (await put.text()).slice(0, 300))
  const { engineer: _e, engineerBy: _b, engineerLicence: _l, engineerOn: _o, engineerCovers: _c, ...unsigned } = ENGINEERED as never as Record<string, unknown>
  const { engineer: _, ...bare } = smallPlan as never as Record<string, unknown>
  const low = { ...built({ ...bare, ...unsigned, grid: [], name: 'Low wall', unit: { ...smallPlan.unit, depth: 0.6 }, pad: { ...smallPlan.pad, width: 0.9 }, grades: [0, 9].map((station) => ({ station, toe: 10, top: 10.3 })) } as never), holds: [], front: { slope: 0, erodible: false }, soil: { behind: 'lean-clay', below: 'lean-clay' } }
  const answer = await post(context, '/api/walls', { plan: low })
  console.log(answer.status(), (await answer.text()).slice(0, 300))
  const id = ((await answer.json()) as { id: string }).id
  for (const { fact: f } of [{ fact: fact(id, 'look', {}, { by: 'Mara Quill', safe: true, seen: 'dry' }) }, ...upTo(id, 'pad').slice(0, -1)]) {
    const a = await post(context, `/api/walls/${id}/entries`, { entries: [f] })
    console.log(f.kind, (await a.text()).slice(0, 200))
  }
  await page.setViewportSize({ width: 1280, height: 800 })
  await openBoard(page, id)
  await page.screenshot({ path: O + 'second.png', fullPage: true })
  await page.setViewportSize({ width: 390, height: 844 })
  await page.screenshot({ path: O + 'second-phone.png', fullPage: true })
})
