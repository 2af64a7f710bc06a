import { expect, newWall, ready, signIn, test, url } from './site'

test('a story pole is printed at full size: what the paper has is what the wall has', async ({ page, context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Pole wall')
  await page.goto(`${url()}/walls/${wall}/units`)
  await ready(page)
  await page.getByRole('link', { name: 'Story pole' }).click()
  await page.waitForURL(/\/pole$/)
  await ready(page)
  await page.getByLabel(/^Station/).fill('8')
  await page.getByLabel(/^Height of instrument/).fill('11.5')
  await expect(page.getByRole('row', { name: /^Course 1 0.200 m 10.000 m 1.500 m/ })).toBeVisible()
  const strips = page.getByRole('img', { name: /^Strip/ })
  const count = await strips.count()
  expect(count).toBeGreaterThan(5)
  // CSS has 96 pixels to the inch, on paper as on the screen.
  const mm = async (what: string) =>
    (await strips
      .first()
      .locator(what)
      .evaluate((e) => (e as unknown as SVGGraphicsElement).getBoundingClientRect().height)) *
    (25.4 / 96)
  expect(await mm('[data-check="100 mm"]')).toBeCloseTo(100, 1)
  expect(await mm('[data-check="4 in"]')).toBeCloseTo(101.6, 1)
  // Course 1 lies 200 mm above the pad on the first strip.
  const at = async (title: string) =>
    (await strips
      .first()
      .getByText(title, { exact: true })
      .evaluate((e) => e.getBoundingClientRect().top)) *
    (25.4 / 96)
  expect((await at('Top of the pad')) - (await at('Course 1'))).toBeCloseTo(200, 0)
  await page.emulateMedia({ media: 'print' })
  await expect(page.getByRole('button', { name: /^Print/ })).toBeHidden()
  const pages = (pdf: Buffer) => (pdf.toString('latin1').match(/\/Type\s*\/Page[^s]/g) ?? []).length
  const printed = pages(await page.pdf({ preferCSSPageSize: true }))
  // The list, and a sheet for each strip; none is cut in two.
  expect(printed).toBeGreaterThanOrEqual(count + 1)
  expect(printed).toBeLessThanOrEqual(count + 2)
})

test('tomorrow on one page: what comes on each section, with its targets, and only what can come', async ({ page, context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Crew wall')
  await page.goto(`${url()}/walls/${wall}/record`)
  await ready(page)
  await page.getByRole('button', { name: 'Build it' }).click()
  await page.getByRole('link', { name: 'Crew sheet' }).click()
  await page.waitForURL(/\/crew$/)
  await ready(page)
  await expect(page.getByRole('region', { name: 'Whole wall' }).getByRole('listitem')).toHaveCount(1)
  const a = page.getByRole('region', { name: 'Section A' })
  await expect(a.getByText('Excavation depth, section A')).toBeVisible()
  await expect(a.getByText(/^at 9\.\d{3} m.* · within ±25 mm$/).first()).toBeVisible()
  await expect(a.getByText(/Subgrade, released by the inspector/)).toBeVisible()
  await expect(page.getByRole('region', { name: 'Everybody minds' })).toBeVisible()
})
