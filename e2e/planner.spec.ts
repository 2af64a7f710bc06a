// A new wall: the ways in, one subject at a time beside the drawing, ways compared, nothing typed lost.
import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { expect, newWall, ready, signIn, test, url } from './site'

const begin = async (page: Page) => {
  await page.goto(`${url()}/walls/new`)
  await ready(page)
}
/** A subject of the row above, whether something of it is missing or not. */
const subject = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Subjects' }).getByRole('button', { name: new RegExp(`^(▲ )?${name}$`) })
const byTyping = async (page: Page) => {
  await begin(page)
  await page.getByRole('button', { name: /^Type length and heights/ }).click()
}

test('the smallest wall is on the Board in twelve actions or fewer', async ({ context, browser }) => {
  const phone = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, serviceWorkers: 'block' })
  await signIn(phone, 'foreman')
  const page = await phone.newPage()
  await page.goto(url())
  await ready(page)
  let actions = 0
  const act = async (what: Promise<unknown>) => {
    await what
    actions++
  }
  await act(page.getByRole('link', { name: 'New wall' }).click())
  await act(page.getByRole('button', { name: /^Type length and heights/ }).click())
  await act(page.getByLabel('Name', { exact: true }).first().fill('Three courses'))
  await act(page.getByLabel('Length, m', { exact: true }).fill('4'))
  await act(page.getByLabel('Height, m', { exact: true }).fill('0.4'))
  await act(page.getByRole('button', { name: 'Make the wall' }).click())
  await expect(page.getByRole('heading', { name: 'Services located' })).toBeVisible()
  expect(actions).toBeLessThanOrEqual(12)
  expect(await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)).toBe(0)
  await phone.close()
  await context.close()
})

test('one subject at a time: what a change does is said, what is missing is marked, a step back is a step back', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await byTyping(page)
  await expect(page.getByLabel('Name', { exact: true }).first()).toBeVisible()
  await expect(page.getByText('Grades along the wall')).toBeHidden()
  await page.getByLabel('Name', { exact: true }).first().fill('Asked wall')
  await page.getByLabel('Length, m', { exact: true }).fill('10')
  await page.getByLabel('Height, m', { exact: true }).fill('0.8')
  const effect = page.getByRole('status').filter({ hasText: /courses/ })
  await expect(effect).toBeVisible()
  await page.getByRole('button', { name: /^Next: System and unit/ }).click()
  await subject(page, 'Ground and heights').click()
  await page.getByLabel('Top, m').nth(1).fill('1.4')
  await expect(effect).toContainText(/courses \d+ → \d+/)
  await expect(effect).toContainText(/units \d+ → \d+/)
  // What is typed after a pause is a step of its own.
  await page.waitForTimeout(800)
  // Something impossible: said at the drawing, marked at its subject, and the drawing stays.
  await page.getByLabel('Top, m').nth(1).fill('-3')
  await expect(page.getByText('The drawing shows the plan before that.')).toBeVisible()
  await expect(page.getByRole('button', { name: '▲ Ground and heights' })).toBeVisible()
  await page.waitForTimeout(800)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByLabel('Top, m').nth(1)).toHaveValue('1.4')
  await expect(page.getByText('The drawing shows the plan before that.')).toBeHidden()
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(page.getByLabel('Top, m').nth(1)).toHaveValue('-3')
  await page.getByRole('button', { name: 'Undo' }).click()
  // Loaded anew: what was typed waits.
  await page.reload()
  await ready(page)
  await page.getByRole('button', { name: 'Go on with Asked wall' }).click()
  await subject(page, 'Ground and heights').click()
  await expect(page.getByLabel('Top, m').nth(1)).toHaveValue('1.4')
})

test('a little longer it takes fewer cuts: looked for beside the page, taken by a person', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await byTyping(page)
  await page.getByLabel('Name', { exact: true }).first().fill('Cut wall')
  await page.getByLabel('Length, m', { exact: true }).fill('6.13')
  await page.getByLabel('Height, m', { exact: true }).fill('0.9')
  const looks = page.getByRole('group', { name: 'Fewest cuts' })
  await looks.getByRole('button', { name: 'Look for fewer cuts' }).click()
  await expect(looks.getByText(/cuts instead of \d+\..*None of them can do with fewer than \d+/)).toBeVisible()
  await expect(looks.getByRole('button', { name: 'Look for fewer cuts' })).toBeVisible()
  const take = looks.getByRole('button', { name: /^Take / })
  const length = ((await take.textContent()) ?? '').replace('Take ', '')
  await take.click()
  await expect(page.getByLabel('Length, m', { exact: true })).toHaveValue(String(Number.parseFloat(length)))
})

test('two other ways of the same wall side by side; the one that is kept is the plan', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await byTyping(page)
  await page.getByLabel('Name', { exact: true }).first().fill('Compared wall')
  await page.getByLabel('Length, m', { exact: true }).fill('9')
  await page.getByLabel('Height, m', { exact: true }).fill('0.9')
  await subject(page, 'System and unit').click()
  const ways = page.getByRole('group', { name: 'Ways compared' })
  const others = ways.getByRole('button')
  await others.nth(0).click()
  await others.nth(1).click()
  // Three stand side by side, no more.
  await expect(others.nth(2)).toBeDisabled()
  const table = ways.getByRole('region', { name: 'What each way takes' })
  await expect(table.getByRole('columnheader')).toHaveCount(4)
  for (const row of ['Courses', 'Units to set', 'Cuts', 'Dig', 'Working days, one crew', 'Lorries of 18 t'])
    await expect(table.getByRole('row', { name: new RegExp(`^${row}`) })).toBeVisible()
  const name = (
    (await table
      .getByRole('button', { name: /^Keep / })
      .first()
      .textContent()) ?? ''
  ).replace('Keep ', '')
  await table
    .getByRole('button', { name: /^Keep / })
    .first()
    .click()
  await expect(page.locator('label', { hasText: name }).locator('input')).toBeChecked()
})

test('a wall is copied with what makes sense to copy; a line is sketched; what cannot be read is said', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await newWall(context, 'Wall to copy')
  await begin(page)
  await page.getByRole('button', { name: /^Copy a wall/ }).click()
  await page.getByRole('button', { name: /^Wall to copy,/ }).click()
  await expect(page.getByLabel('Name', { exact: true }).first()).toHaveValue('Copy of Wall to copy')
  await subject(page, 'What it holds').click()
  await expect(page.getByLabel('Drawing', { exact: true })).toHaveValue('')
  await page.getByRole('button', { name: 'Another way in' }).click()
  await page.getByRole('button', { name: /^Sketch its line/ }).click()
  await page.getByRole('button', { name: /^Point 2/ }).focus()
  for (let i = 0; i < 5; i++) await page.keyboard.press('Shift+ArrowUp')
  await expect(page.getByRole('button', { name: /^Take this line, 13\.00/ })).toBeVisible()
  await page.getByRole('button', { name: /^Take this line/ }).click()
  await expect(page.getByText(/On a line 13\.00.* long/)).toBeVisible()
  await page.getByLabel('Name', { exact: true }).first().fill('Sketched wall')
  await page.getByLabel('Height, m', { exact: true }).fill('0.6')
  await page.getByRole('button', { name: 'Make the wall' }).click()
  await expect(page.getByRole('heading', { name: 'Services located' })).toBeVisible()
  await begin(page)
  await page
    .getByLabel('Drawing, survey or plan file')
    .setInputFiles({ name: 'x.tally.json', mimeType: 'application/json', buffer: Buffer.from('{"format":') })
  await expect(page.getByText(/is not complete JSON/)).toBeVisible()
})

test('the planner is readable by everyone at the desk and on a phone, nothing wider than the screen', async ({ context, browser }) => {
  await context.close()
  for (const size of [
    { width: 1280, height: 800 },
    { width: 390, height: 844 },
  ]) {
    const other = await browser.newContext({ viewport: size, hasTouch: size.width < 500, serviceWorkers: 'block' })
    await signIn(other, 'foreman')
    const page = await other.newPage()
    const look = async (name: string) => {
      expect([name, size.width, await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)]).toEqual([
        name,
        size.width,
        0,
      ])
      const { violations } = await new AxeBuilder({ page }).analyze()
      expect(violations.map((v) => `${name} ${v.id} ${v.nodes.map((n) => n.html.slice(0, 120)).join(' | ')}`)).toEqual([])
    }
    await begin(page)
    await look('ways in')
    await page.getByRole('button', { name: /^Sketch its line/ }).click()
    await look('sketch')
    await byTyping(page)
    await page.getByLabel('Length, m', { exact: true }).fill('9')
    await page.getByLabel('Height, m', { exact: true }).fill('0.9')
    for (const name of [
      'System and unit',
      'Ground and heights',
      'What it holds',
      'Pad and dig',
      'Water',
      'Sections',
      'Built in',
      'Rules and order',
    ]) {
      await subject(page, name).click()
      await look(name)
    }
    await other.close()
  }
})
