import { expect, post, signIn, test, unreadable, url, yardPlan } from './site'

const SITE = 'Lantern quay'
const page_ = () => `${url()}/rules?site=${encodeURIComponent(SITE)}`
let wall = ''

test.describe.configure({ mode: 'serial' })

test('a site gets its own rules: changed with a reason, put in force, listed with author and what they change', async ({ page, context }) => {
  await signIn(context, 'office')
  const made = await post(context, '/api/walls', { plan: { ...yardPlan, name: 'Lantern wall', site: SITE } })
  expect(made.status()).toBe(201)
  wall = ((await made.json()) as { id: string }).id
  await page.goto(page_())
  await page.waitForSelector('html[data-ready]')
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(`Rule book, ${SITE}`)
  await page.getByRole('button', { name: 'Change Compaction, of maximum density' }).click()
  await page.getByLabel('At least, %').fill('40')
  await page.getByLabel('Why').fill('clay from the dock')
  await page.getByRole('button', { name: 'Take into the change' }).click()
  await expect(page.getByText(/must be 85 % to 105 %; is the unit right/)).toBeVisible()
  await page.getByLabel('At least, %').fill('98')
  await page.getByRole('button', { name: 'Take into the change' }).click()
  await page.getByRole('button', { name: /^Each course/ }).click()
  await page.getByLabel('Why').fill('flat stones here')
  await page.getByRole('button', { name: 'Take into the change' }).click()
  const change = page.getByRole('region', { name: 'Change not in force yet' })
  await expect(change.getByRole('heading')).toHaveText('2 changes not in force yet')
  await change.getByText('What it changes on the work').click()
  await expect(change.locator('p', { hasText: 'Hollow-core segmental block' })).toContainText('Adhesive: a stage more')
  // Nothing is in force yet, and nothing is lost by looking elsewhere.
  await page.reload()
  await page.waitForSelector('html[data-ready]')
  await expect(change.getByRole('heading')).toHaveText('2 changes not in force yet')
  await expect(change.getByRole('button', { name: 'Put in force' })).toBeDisabled()
  await change.getByLabel('Reason for this change, kept with it').fill('after the soil report')
  await change.getByRole('button', { name: 'Put in force' }).click()
  await expect(change).toHaveCount(0)
  await expect(page.getByText('1. after the soil report')).toBeVisible()
  await expect(page.getByRole('link', { name: 'Lantern wall, revision 1' })).toBeVisible()
  // Walls of other tests may stand on the same site.
  const own = page.getByRole('listitem').filter({ hasText: 'Lantern wall, revision 1 would take up 2 changes with its next revision' })
  await expect(own.first()).toBeVisible()
})

test('opened in feet and left alone a limit stays as it is; stricter in inches it is what was typed', async ({ page, context }) => {
  await signIn(context, 'office')
  await context.addCookies([{ name: 'units', value: 'imperial', url: url() }])
  await page.goto(page_())
  await page.waitForSelector('html[data-ready]')
  await page.getByRole('button', { name: 'Change Geogrid behind the face, most' }).click()
  await page.getByLabel('Why').fill('only the reason changes')
  await page.getByRole('button', { name: 'Take into the change' }).click()
  await page.getByRole('button', { name: 'Change Pad thickness' }).click()
  await page.getByLabel('Either way, in').fill('1/2')
  await page.getByLabel('Why').fill('thin pads')
  await page.getByRole('button', { name: 'Take into the change' }).click()
  const kept = await page.evaluate(() => Object.entries(sessionStorage).find(([k]) => k.includes('draft'))?.[1] ?? '')
  const { rules } = JSON.parse(kept) as { rules: { limits: { limit: string; value: number }[] } }
  expect(rules.limits.find((l) => l.limit === 'gridFrontMax')?.value).toBe(0.05)
  expect(rules.limits.find((l) => l.limit === 'padThickness')?.value).toBeCloseTo(0.0127, 12)
  await page.getByRole('button', { name: 'Throw away' }).click()
  await expect(page.getByRole('region', { name: 'Change not in force yet' })).toHaveCount(0)
  await context.clearCookies({ name: 'units' })
})

test('what the planner starts from is a rule too', async ({ page, context }) => {
  await signIn(context, 'office')
  await page.goto(page_())
  await page.waitForSelector('html[data-ready]')
  await page.getByRole('button', { name: 'Change Pad, wide' }).click()
  await page.getByLabel('m', { exact: true }).fill('70')
  await page.getByLabel('Why').fill('wide plates')
  await page.getByRole('button', { name: 'Take into the change' }).click()
  await expect(page.getByText(/must be 0\.15 m to 4\.00 m; is the unit right/)).toBeVisible()
  await page.getByLabel('m', { exact: true }).fill('0.7')
  await page.getByRole('button', { name: 'Take into the change' }).click()
  await expect(page.getByRole('region', { name: 'Change not in force yet' })).toContainText('Planner: Pad, wide: 0.6 m → 0.7 m')
  await page.getByRole('button', { name: 'Throw away' }).click()
})

test('two people at once: the second is told whose change came between, and keeps what was typed', async ({ page, context, browser }) => {
  await signIn(context, 'office')
  const other = await browser.newContext()
  await signIn(other, 'foreman')
  await page.goto(page_())
  await page.waitForSelector('html[data-ready]')
  await page.getByRole('button', { name: 'Change Pad level', exact: true }).click()
  await page.getByLabel('Either way, mm').fill('4')
  await page.getByLabel('Why').fill('long units')
  await page.getByRole('button', { name: 'Take into the change' }).click()
  const before = (await (await other.request.get(`${url()}/api/rules?site=${encodeURIComponent(SITE)}`)).json()) as { limits: object[] }
  const theirs = { ...before, limits: [...before.limits, { limit: 'invert', value: 0.008, why: 'flat ground' }] }
  const put = await other.request.put(`${url()}/api/rules`, {
    data: { rules: theirs, base: 1, reason: 'flat ground', site: SITE },
    headers: { origin: url() },
  })
  expect(put.status(), await put.text()).toBe(200)
  const change = page.getByRole('region', { name: 'Change not in force yet' })
  await change.getByLabel('Reason for this change, kept with it').fill('long units')
  await change.getByRole('button', { name: 'Put in force' }).click()
  await expect(change.getByRole('alert')).toContainText('change 2 was made by Mara')
  await page.reload()
  await page.waitForSelector('html[data-ready]')
  await expect(change.getByText('Somebody else changed these rules since you began')).toBeVisible()
  // Going on keeps what the other changed, and puts only one's own on top of it.
  await change.getByRole('button', { name: 'Go on with mine' }).click()
  await expect(change.getByRole('heading')).toHaveText('1 change not in force yet')
  await expect(change.getByText(/Pipe invert/)).toHaveCount(0)
  await change.getByRole('button', { name: 'Put in force' }).click()
  await expect(change).toHaveCount(0)
  const after = (await (await other.request.get(`${url()}/api/rules?site=${encodeURIComponent(SITE)}`)).json()) as { limits: { limit: string }[] }
  expect(after.limits.map((l) => l.limit).sort()).toEqual(['compaction', 'invert', 'padLevel'])
  await other.close()
})

test('a rule file goes out and comes in; one that does not fit is refused by field', async ({ page, context }) => {
  await signIn(context, 'office')
  await page.goto(page_())
  await page.waitForSelector('html[data-ready]')
  const file = (await (await context.request.get(`${url()}/api/rules?site=${encodeURIComponent(SITE)}`)).json()) as { limits: object[] }
  const choose = (value: unknown) =>
    page.getByLabel('Rule file').setInputFiles({
      name: 'rules.json',
      mimeType: 'application/json',
      buffer: Buffer.from(typeof value === 'string' ? value : JSON.stringify(value)),
    })
  await choose('not JSON')
  await expect(page.getByText(/is not JSON; take the file/)).toBeVisible()
  await choose({ ...file, limits: [{ limit: 'padLevel', value: 4, unit: 'mm', why: 'x' }] })
  await expect(page.getByText(/is mm; pad level is given in m/)).toBeVisible()
  await choose({ ...file, version: 2 })
  await expect(page.getByText(/written by a newer Stone Tally/)).toBeVisible()
  await choose({ ...file, limits: [...file.limits, { limit: 'padThickness', value: 0.02, unit: 'm', why: 'long units' }] })
  await expect(page.getByRole('region', { name: 'Change not in force yet' })).toContainText('Pad thickness')
  await page.getByRole('button', { name: 'Throw away' }).click()
})

test('a school changed on a wall under way is a revision: its stages follow, its entries of before stay', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await page.goto(`${url()}/walls/${wall}/rules`)
  await page.waitForSelector('html[data-ready]')
  await page.getByRole('button', { name: /^Left undisturbed/ }).click()
  await page.getByLabel('Why').fill('cut with a flat edge')
  await page.getByRole('button', { name: 'Take into the change' }).click()
  const change = page.getByRole('region', { name: 'Change not in force yet' })
  // What the site changed since comes along, and is said.
  await expect(change).toContainText('Compaction, of maximum density')
  await change.getByText('What it changes on the work').click()
  await expect(change.getByText(/Cut with a flat edge and undisturbed/).first()).toBeVisible()
  await change.getByRole('button', { name: 'Issue revision 2' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Rules of Lantern wall, revision 2')
  await expect(page.getByText('“cut with a flat edge”')).toBeVisible()
  await page.goto(`${url()}/rules?site=${encodeURIComponent(SITE)}`)
  await expect(page.getByText('Every wall’s newest revision was issued under these rules.')).toBeVisible()
})

test('what company and site changed since is shown on a wall’s page, with what judges it now; crew may only read it', async ({
  page,
  context,
  browser,
}) => {
  const office = await browser.newContext()
  await signIn(office, 'office')
  const path = `${url()}/api/rules?site=${encodeURIComponent(SITE)}`
  const rules = (await (await office.request.get(path)).json()) as { limits: { limit: string; value: number; why: string }[] }
  const stricter = { ...rules, limits: rules.limits.map((l) => (l.limit === 'compaction' ? { ...l, value: 99 } : l)) }
  const history = Number(
    ((
      await (
        await office.request.put(`${url()}/api/rules`, {
          data: { rules: stricter, base: 0, reason: 'wet fill', site: SITE },
          headers: { origin: url() },
        })
      ).text()
    ).match(/change (\d+) was made/) ?? [])[1],
  )
  const put = await office.request.put(`${url()}/api/rules`, {
    data: { rules: stricter, base: history, reason: 'wet fill', site: SITE },
    headers: { origin: url() },
  })
  expect(put.status(), await put.text()).toBe(200)
  await office.close()
  await signIn(context, 'crew')
  await page.goto(`${url()}/walls/${wall}/rules`)
  await page.waitForSelector('html[data-ready]')
  await expect(page.getByRole('heading', { name: '1 change of company and site since revision 2; the next revision takes them up' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'Fill and compaction' })).toContainText('98 %')
  await expect(page.getByRole('button', { name: /Issue revision|^Change /u })).toHaveCount(0)
})

test('who does not keep the book reads it; desk, tablet and phone, nothing wider than the screen', async ({ page, context }) => {
  await signIn(context, 'crew')
  await page.goto(page_())
  await page.waitForSelector('html[data-ready]')
  await expect(page.getByRole('button', { name: /^Change / })).toHaveCount(0)
  await expect(page.getByText('you may read it')).toBeVisible()
  for (const width of [1280, 820, 390]) {
    await page.setViewportSize({ width, height: 844 })
    await expect.poll(() => page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width)
  }
  expect(await unreadable(page)).toEqual([])
})
