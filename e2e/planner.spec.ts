// A new wall: the ways in, one subject at a time beside the drawing, ways compared, nothing typed lost.
import type { Page } from '@playwright/test'
import { demoWall, expect, newWall, post, ready, signIn, test, unreadable, url } from './site'

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
  // The site that was planned on last is filled in; this wall stands on its own, apart from those of other tests.
  await expect(page.getByLabel('Site')).not.toHaveValue('')
  await act(page.getByLabel('Site').fill('Three-course yard'))
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

test('two other ways of the same wall side by side; the one that is kept is the plan, the other a sketch to take up again', async ({
  page,
  context,
}) => {
  await signIn(context, 'foreman')
  await byTyping(page)
  await page.getByLabel('Name', { exact: true }).first().fill('Compared wall')
  await page.getByLabel('Length, m', { exact: true }).fill('9')
  await page.getByLabel('Height, m', { exact: true }).fill('0.5')
  await subject(page, 'System and unit').click()
  const ways = page.getByRole('group', { name: 'Ways compared' })
  const choose = ways.getByRole('combobox', { name: 'Compare with another way' })
  await choose.selectOption({ index: 1 })
  const table = ways.getByRole('region', { name: 'What each way takes' })
  await expect(table.getByRole('columnheader')).toHaveCount(3)
  await choose.selectOption({ index: 3 })
  // Three stand side by side, no more.
  await expect(choose).toBeDisabled()
  await expect(table.getByRole('columnheader')).toHaveCount(4)
  for (const row of ['Courses', 'Units to set', 'Cuts', 'Dig', 'Working days, one crew', 'Lorries of 18 t'])
    await expect(table.getByRole('row', { name: new RegExp(`^${row}`) })).toBeVisible()
  const before = await page.getByRole('radio', { checked: true }).first().getAttribute('value')
  const title = ((await table.getByRole('columnheader').nth(2).textContent()) ?? '').replace('Another unit: ', '')
  await table.getByRole('button', { name: `Keep Another unit: ${title}` }).click()
  await expect(page.locator('label[data-selected]', { hasText: title })).toHaveCount(1)
  // What was planned before is a sketch, and comes back whole.
  await ways.getByRole('list', { name: 'Sketches' }).getByRole('button', { name: 'Take it up' }).click()
  await expect(page.getByRole('radio', { checked: true }).first()).toHaveValue(before ?? '')
  await subject(page, 'Pad and dig').click()
  await ways.getByRole('combobox').selectOption('buried eighth')
  await expect(table.getByRole('columnheader', { name: 'Buried: An eighth of the height' })).toBeVisible()
})

test('what it holds is said in plain words and means what the rules say; what it asks for is taken into the plan', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await byTyping(page)
  await page.getByLabel('Name', { exact: true }).first().fill('Held wall')
  await page.getByLabel('Length, m', { exact: true }).fill('9')
  await page.getByLabel('Height, m', { exact: true }).fill('0.4')
  await subject(page, 'What it holds').click()
  await page.getByText('A fence or rail on top').click()
  const means = page.getByRole('list', { name: 'What it means: a fence or rail on top' })
  await expect(means.getByText(/An engineer’s wall: a fence, open or closed nobody has said/)).toBeVisible()
  await page.getByLabel('Behind the face, m').fill('1.2')
  await page.getByLabel('Fence, high, m').fill('1')
  await page.getByText('Open: rails, wire, bars').click()
  await expect(means.getByText(/An engineer’s wall/)).toHaveCount(0)
  await expect(means.getByText(/Ask first: an open fence of 1 m/)).toBeVisible()
  await means.getByRole('button', { name: 'Take it in' }).click()
  await expect(means.getByText('✓ in the plan')).toBeVisible()
  await page.getByText('A pool or pond').click()
  await page.getByLabel('Behind the face, m').first().fill(`39'-4 3/8"`)
  await expect(page.getByRole('list', { name: 'What it means: a pool or pond' }).getByText(/not counted as a load on this wall/)).toBeVisible()
  await subject(page, 'Built in').click()
  await expect(page.getByLabel('Called').first()).toHaveValue('Fence')
  await expect(page.getByLabel('Behind the face, m')).toHaveValue('1.2')
})

test('grades, outlets, openings and pad steps are moved on the drawing as they are typed; the ground as found says what is dug', async ({
  page,
  context,
}) => {
  await signIn(context, 'foreman')
  await byTyping(page)
  await page.getByLabel('Name', { exact: true }).first().fill('Moved wall')
  await page.getByLabel('Length, m', { exact: true }).fill('9')
  await page.getByLabel('Height, m', { exact: true }).fill('0.6')
  await subject(page, 'Ground and heights').click()
  const section = page.getByRole('group', { name: /^Long section/ })
  const grip = section.getByRole('button', { name: /^Toe grade at 9\.00/ })
  const box = (await grip.boundingBox()) as { x: number; y: number; width: number; height: number }
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
  await page.mouse.move(x, y)
  await page.mouse.down()
  for (let i = 1; i <= 12; i++) await page.mouse.move(x, y - i * 3)
  await page.mouse.up()
  const toe = page.getByLabel('Toe, m').nth(1)
  await expect(toe).not.toHaveValue('0')
  const moved = Number(await toe.inputValue())
  expect(moved).toBeGreaterThan(0.05)
  await section.getByRole('button', { name: /^Top grade at 9\.00/ }).press('Shift+ArrowUp')
  await expect(page.getByLabel('Top, m').nth(1)).toHaveValue('0.7')
  // One drag is one step back.
  await page.waitForTimeout(800)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByLabel('Top, m').nth(1)).toHaveValue('0.6')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByLabel('Toe, m').nth(1)).toHaveValue('0')
  await subject(page, 'Water').click()
  await section.getByRole('button', { name: /^Outlet at 0\.00/ }).press('ArrowRight')
  await expect(page.getByLabel('Outlet at, m').first()).toHaveValue('0.1')
  await subject(page, 'Ground and heights').click()
  await page.getByText('Ground as found', { exact: false }).first().click()
  await page.getByLabel(/^Levels, m/).fill('0; -2; 0\n0; 3; 0.9\n9; -2; 0\n9; 3; 0.9')
  await expect(page.getByText('Ground as found, 4 levels')).toBeVisible()
  const less = page.getByRole('group', { name: 'Least digging' })
  await less.getByRole('button', { name: 'Look for less digging' }).click()
  await expect(less.getByText(/forward: .* to dig instead of .*None of them can do with less than/)).toBeVisible()
  await less.getByRole('button', { name: /^Move it/ }).click()
  await expect(page.getByLabel(/^Levels, m/)).toHaveValue(/^0; -1\.7; 0/)
})

test('a revision says what it changes and what no longer fits before it is issued; who was told stays in the record', async ({ page, context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Revised wall')
  await page.goto(`${url()}/walls/${wall}/plan`)
  await ready(page)
  await subject(page, 'Ground and heights').click()
  await page.getByLabel('Top, m').nth(1).fill('11.5')
  const effects = page.getByRole('group', { name: 'What this revision changes' })
  await expect(effects.getByText(/^Top grade: up to 19\d mm higher/)).toBeVisible()
  await expect(effects.getByText('All that is recorded still fits.')).toBeVisible()
  // Loaded anew nothing typed is lost, and nothing is put in by itself.
  await page.reload()
  await ready(page)
  await page.getByRole('button', { name: 'Go on with what you had changed' }).click()
  await page.getByRole('button', { name: 'Issue revision 2' }).click()
  await expect(page.getByRole('heading', { name: 'Services located' })).toBeVisible()
  await page.goto(`${url()}/walls/${wall}/plan`)
  await ready(page)
  await page.getByText(/^Who was told of revision 2/).click()
  await page.getByText('Tobin Ash', { exact: true }).click()
  await page.getByRole('button', { name: 'Record who was told' }).click()
  await expect(page.getByRole('list', { name: 'Told' }).getByText(/^Tobin Ash, in person/)).toBeVisible()
})

test('a template begins the next wall; a wall is put away and brought back; a made-up one is thrown away whole', async ({ page, context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Usual wall')
  await page.goto(`${url()}/walls/${wall}/plan`)
  await ready(page)
  await page.getByRole('button', { name: 'Keep as a template' }).click()
  await page.getByRole('button', { name: 'Keep it' }).click()
  await expect(page.getByText('Kept as the template “Usual wall”', { exact: false })).toBeVisible()
  await page.getByRole('button', { name: 'Put this wall away' }).click()
  await page.getByLabel('Why, if you like').fill('next year')
  await page.getByRole('button', { name: 'Put it away' }).click()
  await page.getByText('1 wall put away').click()
  await expect(page.getByRole('list', { name: 'Walls put away' }).getByText(/next year/)).toBeVisible()
  await page.getByRole('button', { name: 'Bring Usual wall back' }).click()
  await expect(page.getByRole('link', { name: 'Usual wall', exact: true })).toBeVisible()
  await begin(page)
  await page.getByRole('button', { name: /^Begin with a template/ }).click()
  await page.getByRole('button', { name: 'Usual wall', exact: true }).click()
  await page.getByLabel('Name', { exact: true }).first().fill('Next one')
  await page.getByLabel('Site').fill('Three-course yard')
  await page.getByLabel('Length, m', { exact: true }).fill('6')
  await page.getByLabel('Height, m', { exact: true }).fill('0.5')
  await subject(page, 'Pad and dig').click()
  await expect(page.getByLabel('Shortest step, m')).toHaveValue('1.35')
  await page.getByRole('button', { name: 'Make the wall' }).click()
  await expect(page.getByRole('heading', { name: 'Services located' })).toBeVisible()
  const made = await post(context, '/api/walls/made-up', {})
  const { id } = (await made.json()) as { id: string }
  await page.goto(`${url()}/walls/${id}/plan`)
  await ready(page)
  await page.getByRole('button', { name: 'Throw this wall away' }).click()
  await page.getByRole('button', { name: 'Throw it away' }).click()
  await expect(page.getByRole('heading', { name: 'Yard' })).toBeVisible()
  expect((await context.request.get(`${url()}/api/walls/${id}/export`)).status()).toBe(404)
})

test('somebody new is walked through the first wall once, and a word of the trade opens its meaning', async ({ browser, context }) => {
  await signIn(context, 'office')
  const email = `new-${Date.now()}@tidewrack.example`
  await post(context, '/api/people', { name: 'Nell New', email, password: 'nells-password', role: 'crew' })
  const fresh = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, serviceWorkers: 'block' })
  await post(fresh, '/api/sign-in', { email, password: 'nells-password' })
  const page = await fresh.newPage()
  await page.goto(`${url()}/walls/${demoWall()}`)
  await ready(page)
  const walk = page.getByRole('region', { name: 'First time here' })
  await expect(walk.getByText('1 of 3: Here is the wall, and here is Now')).toBeVisible()
  await walk.getByRole('button', { name: 'Go on' }).click()
  await walk.getByRole('button', { name: 'hold point: what it means' }).click()
  await expect(page.getByRole('dialog', { name: 'hold point' })).toContainText('released it')
  await page.keyboard.press('Escape')
  await walk.getByRole('button', { name: 'Skip this' }).click()
  await expect(walk).toHaveCount(0)
  await page.reload()
  await ready(page)
  await expect(page.getByRole('region', { name: 'First time here' })).toHaveCount(0)
  await fresh.close()
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
  await page.getByLabel('Site').fill('Three-course yard')
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
      expect([name, await unreadable(page)]).toEqual([name, []])
    }
    await begin(page)
    await look('ways in')
    await page.getByRole('button', { name: /^Sketch its line/ }).click()
    await look('sketch')
    await byTyping(page)
    await page.getByLabel('Length, m', { exact: true }).fill('9')
    await page.getByLabel('Height, m', { exact: true }).fill('0.9')
    // Every subject has its own fields and drawing; all of them stand on one page too.
    await subject(page, 'What it holds').click()
    await page.getByText('A fence or rail on top').click()
    await look('one subject')
    await page.getByRole('button', { name: 'Everything', exact: true }).click()
    await look('every subject')
    await other.close()
  }
})
