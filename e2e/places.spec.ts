import { demoWall, expect, newWall, openBoard, ready, signIn, test, url } from './site'

const places = (page: import('@playwright/test').Page) => page.getByRole('navigation', { name: 'Places of this wall' })

test('from place to place and back nothing of the record is asked for again, and back goes back', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await page.goto(`${url()}/walls/${demoWall()}`)
  await ready(page)
  await expect(page.getByText('Loading the record …')).toHaveCount(0)
  await page.waitForTimeout(800)
  const asked: string[] = []
  page.on('request', (r) => asked.push(r.url().replace(url(), '')))
  let documents = 0
  page.on('request', (r) => r.isNavigationRequest() && documents++)
  for (const [group, place, title] of [
    ['Build it', 'Water', 'Water'],
    ['Prove it', 'Checks', 'Checks'],
    ['Build it', 'Layers', 'Layers'],
    ['Prove it', 'Record', 'Record'],
  ] as const) {
    const open = places(page).getByRole('button', { name: group })
    if ((await open.getAttribute('aria-expanded')) !== 'true') await open.click()
    await places(page).getByRole('link', { name: place, exact: true }).click()
    await expect(page.getByRole('heading', { level: 1, name: title })).toBeVisible()
    await expect(places(page).getByRole('link', { name: place, exact: true })).toHaveAttribute('aria-current', 'page')
  }
  await page.goBack()
  await expect(page.getByRole('heading', { level: 1, name: 'Layers' })).toBeVisible()
  await places(page).getByRole('link', { name: 'Board' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Board' })).toBeAttached()
  expect(asked.filter((u) => /\/(entries|live)/.test(u))).toEqual([])
  expect(documents).toBe(0)
})

test('what is now stands on every place, and leads to its step on the Board', async ({ page, context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Strip wall')
  await page.goto(`${url()}/walls/${wall}/water`)
  await ready(page)
  const now = page.getByRole('complementary', { name: 'Now' })
  const title = (await now.getByRole('link').first().textContent()) ?? ''
  await now.getByRole('link').first().click()
  await page.waitForURL(/\?step=/)
  await expect(page.getByRole('heading', { level: 2, name: title.split(',')[0] as string })).toBeVisible()
})

test('Find takes what people say and goes there by keys alone; a station keeps its place', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await openBoard(page, demoWall(), 'B')
  await page.keyboard.press('/')
  await page.keyboard.type('2 b')
  await expect(page.getByRole('menuitem', { name: /^Course 2, section B/ })).toBeVisible()
  await page.keyboard.press('Enter')
  await page.waitForURL(/\?step=/)
  await expect(page.getByRole('searchbox', { name: /^A place/ })).toHaveCount(0)
  await expect(page.getByText(/^Section B · course 2/).first()).toBeVisible()
  await page.keyboard.press('Control+k')
  await page.keyboard.type('27.5')
  await page.getByRole('menuitem', { name: /^Station 27.50/ }).click()
  await page.waitForURL(/\?station=27.5/)
  await expect(page.getByText(/Section at 27.50/)).toBeVisible()
  // Letters go into a field that is being written in.
  await page.goto(`${url()}/walls/${demoWall()}/record`)
  await ready(page)
  await page.getByRole('textbox').first().fill('a/b')
  await page.getByRole('textbox').first().press('/')
  await expect(page.getByRole('searchbox', { name: /^A place/ })).toHaveCount(0)
})

test('units and theme are chosen from a menu that says what they are, by keys too', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await openBoard(page, demoWall(), 'B')
  await page.getByRole('button', { name: 'Units of measure and theme: Metres, Day' }).focus()
  await page.keyboard.press('Enter')
  await page.getByRole('menuitemradio', { name: 'Feet and inches' }).click()
  await expect(page.getByRole('button', { name: 'Units of measure and theme: Feet and inches, Day' })).toBeVisible()
  await expect(page.getByText(/Section at \d+'/)).toBeVisible()
  await page.getByRole('button', { name: /^Units of measure and theme/ }).click()
  await page.getByRole('menuitemradio', { name: /^Night/ }).click()
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'night')
})

test('on a phone the Board begins with its card, and every place is two taps away', async ({ browser }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true })
  await signIn(context, 'foreman')
  const page = await context.newPage()
  await page.goto(`${url()}/walls/${demoWall()}`)
  await ready(page)
  const card = await page.locator('#work').boundingBox()
  expect(card?.y).toBeLessThan(260)
  await expect(places(page).getByRole('link')).toHaveCount(1)
  await places(page).getByRole('button', { name: 'Plan it' }).tap()
  await places(page).getByRole('link', { name: 'Story pole' }).tap()
  await page.waitForURL(/\/pole$/)
  await places(page).getByRole('link', { name: 'Board' }).tap()
  await expect(page.locator('#work')).toBeVisible()
  await context.close()
})
