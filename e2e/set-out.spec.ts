import { readFileSync } from 'node:fs'
import type { BrowserContext, Page } from '@playwright/test'
import { writeLandXml, writeStakesCsv } from '@stone-tally/core'
import { layoutOf } from '../core/test/plans'
import { at, planOn } from '../core/test/walls'
import { expect, fact, newWall, post, ready, signIn, test, unreadable, url } from './site'

/** What is wrong, as it is shown; the framework keeps an empty alert of its own. */
const alarm = (page: Page) => page.locator('[role=alert]:not(#__next-route-announcer__)')
const tab = (page: Page, name: string) => page.locator('.tabs label', { hasText: name }).click()
const open = async (page: Page, wall: string) => {
  await page.goto(`${url()}/walls/${wall}/set-out`)
  await ready(page)
}
/** A wall with a bend, an outside corner and a gas line close by. */
async function bentWall(context: BrowserContext, name: string): Promise<string> {
  const plan = planOn([at(0, 0), at(10, 0, 0.2), at(16, 4), at(14, 10)], false, {
    name,
    references: [
      {
        name: 'kerb',
        kind: 'building-line',
        points: [
          { easting: 0, northing: -3 },
          { easting: 20, northing: -3 },
        ],
      },
    ],
    obstacles: [
      {
        name: 'gas',
        kind: 'service',
        points: [
          { easting: 4, northing: -0.6 },
          { easting: 4, northing: -4 },
        ],
        clearance: 0.6,
      },
    ],
  })
  const answer = await post(context, '/api/walls', { plan })
  expect(answer.status(), await answer.text()).toBe(201)
  return ((await answer.json()) as { id: string }).id
}

test('a line is typed, dragged and moved by keys; undone and redone', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await open(page, await bentWall(context, 'Typed line'))
  await page.getByRole('button', { name: 'Choose point 1', exact: true }).click()
  await page.getByLabel('Length', { exact: true }).fill('12')
  await expect(page.getByText(/revision 1, changed/)).toBeVisible()
  await expect(page.getByRole('button', { name: /^Point 2: east 12.000 m/ })).toBeVisible()
  // The other points came along.
  await expect(page.getByRole('button', { name: /^Point 3: east 18.000 m, north 4.000 m/ })).toBeVisible()
  await page.getByLabel('Bearing', { exact: true }).fill('N 80 E')
  await expect(page.getByRole('button', { name: /^Point 2: east 11.818 m, north 2.084 m/ })).toBeVisible()
  const point = page.getByRole('button', { name: /^Point 2:/ })
  await point.focus()
  await page.keyboard.press('Shift+ArrowUp')
  await expect(page.getByRole('button', { name: /^Point 2: east 11.818 m, north 3.084 m/ })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('button', { name: /^Point 2: east 11.818 m, north 2.084 m/ })).toBeVisible()
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(page.getByText(/revision 1 ·/)).toBeVisible()
  await page.keyboard.press('Control+y')
  await expect(page.getByRole('button', { name: /^Point 2: east 12.000 m, north 0.000 m/ })).toBeVisible()
  const box = await page.getByRole('button', { name: /^Point 4:/ }).boundingBox()
  if (!box) throw new Error('no point 4')
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(box.x + 40, box.y - 20, { steps: 5 })
  await page.mouse.up()
  await expect(page.getByRole('button', { name: /^Point 4: east 16.000 m, north 10.000 m/ })).toHaveCount(0)
  // One drag is one step back.
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('button', { name: /^Point 4: east 16.000 m, north 10.000 m/ })).toBeVisible()
})

test('a dragged point snaps to the kerb; a point is placed from it by numbers', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await open(page, await bentWall(context, 'Snapped'))
  const centre = async (name: RegExp) => {
    const box = await page.getByRole('button', { name }).boundingBox()
    if (!box) throw new Error('not drawn')
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
  }
  const [one, two] = [await centre(/^Point 1:/), await centre(/^Point 2:/)]
  const metre = (two.x - one.x) / 10
  await page.mouse.move(one.x, one.y)
  await page.mouse.down()
  await page.mouse.move(one.x + 2 * metre, one.y + 2.9 * metre, { steps: 8 })
  await expect(page.getByRole('status').filter({ hasText: 'on kerb' })).toBeVisible()
  await page.mouse.up()
  await expect(page.getByRole('button', { name: /^Point 1: east \d\.\d+ m, north -3.000 m/ })).toBeVisible()
  await page.getByLabel('Along it').fill('1.5')
  await page.getByLabel('Offset, + to its left').fill('3')
  await page.getByRole('button', { name: 'Put point 1 there' }).click()
  await expect(page.getByRole('button', { name: 'Point 1: east 1.500 m, north 0.000 m' })).toBeVisible()
})

test('what cannot be built is said with its place, and is not issued', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await open(page, await bentWall(context, 'Too tight'))
  await page.getByRole('button', { name: 'Choose point 2', exact: true }).click()
  // Between points that far apart no arc of 1 m goes, and none is made of it.
  await page.getByLabel('Radius', { exact: true }).fill('1')
  await expect(page.getByText(/apart, so .* or more/)).toBeVisible()
  await page.getByLabel('Radius', { exact: true }).fill('3.7')
  await page.getByRole('button', { name: 'Choose point 3', exact: true }).click()
  await page.getByLabel('Easting').fill('11.8')
  await page.getByLabel('Northing').fill('1.2')
  await expect(alarm(page)).toContainText(/first course must have \d\.\d\d m or more|too short|crosses itself/)
  await tab(page, 'Revisions')
  await expect(page.getByRole('button', { name: /Issue revision 2/ })).toBeDisabled()
})

test('grades by keys and numbers; clearances; stakes and their files', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await open(page, await bentWall(context, 'Graded'))
  const top = page.getByRole('button', { name: /^Top grade at 0.00 m: 11.300 m/ })
  await top.focus()
  await page.keyboard.press('Shift+ArrowUp')
  await expect(page.getByRole('button', { name: /^Top grade at 0.00 m: 11.400 m/ })).toBeVisible()
  await tab(page, 'Grades')
  await page.getByRole('button', { name: 'Add a grade point' }).click()
  await page.getByRole('textbox', { name: 'Toe' }).nth(1).fill('9.85')
  await expect(page.getByRole('button', { name: /^Toe grade at .*: 9.850 m/ })).toBeVisible()
  await tab(page, 'Around')
  await expect(page.getByText(/gas is 0\.\d+ m from the excavation|gas stands in the excavation/)).toBeVisible()
  await page.locator('label', { hasText: 'Tree' }).click()
  await page.getByLabel('Name').fill('ash')
  await page.getByLabel('Points: east north, one a line').fill('5 9')
  await page.getByLabel('Radius').fill('0.4')
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(page.getByText(/ash: \d\.\d+ m from the excavation/)).toBeVisible()
  await tab(page, 'Stakes')
  await expect(page.getByRole('cell', { name: 'S1', exact: true })).toBeVisible()
  await expect(page.getByText('in the fill')).toBeVisible()
  for (const [button, begins] of [
    ['CSV', 'point,northing,easting'],
    ['LandXML', '<?xml'],
    ['DXF', '0\nSECTION'],
  ] as const) {
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: button, exact: true }).click()])
    expect(
      readFileSync(await file.path(), 'utf8')
        .trimStart()
        .startsWith(begins),
    ).toBe(true)
  }
})

test('a survey is looked at, asked about and taken; a bad one changes nothing', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await open(page, await bentWall(context, 'Imported'))
  const asItWas = /^Set-out, revision 1 · \d\d\.\d\d m/
  await tab(page, 'Import')
  const file = page.getByLabel('Drawing file')
  await file.setInputFiles({ name: 'evil.xml', mimeType: 'application/xml', buffer: Buffer.from('<!DOCTYPE a [<!ENTITY b "c">]><LandXML/>') })
  await expect(alarm(page)).toContainText('document type or entities')
  await expect(page.getByText(asItWas)).toBeVisible()
  const survey = layoutOf(planOn([at(500, 900), at(512, 900, 0.3), at(520, 908)], false))
  await file.setInputFiles({ name: 'stakes.csv', mimeType: 'text/csv', buffer: Buffer.from(writeStakesCsv(survey)) })
  await expect(page.getByText('The file does not say its unit. Its numbers are')).toBeVisible()
  await expect(alarm(page)).toContainText('unit: the file does not say its unit')
  await page.locator('label', { hasText: 'metres' }).first().click()
  await expect(page.getByRole('button', { name: 'Take this line' })).toBeVisible()
  await page.getByRole('button', { name: 'Take this line' }).click()
  await expect(page.getByText(new RegExp(`revision 1, changed · ${survey.plan.length.toFixed(2)} m`))).toBeVisible()
  await tab(page, 'Import')
  await page
    .getByLabel('Drawing file')
    .setInputFiles({ name: 'wall.xml', mimeType: 'application/xml', buffer: Buffer.from(writeLandXml(survey, '2026-05-20T08:00:00Z')) })
  await page.getByRole('button', { name: 'Take this line' }).click()
  await expect(page.getByRole('button', { name: 'Point 1: east 500.000 m, north 900.000 m' })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText(asItWas)).toBeVisible()
})

test('a long wall is laid out beside the page, and what is changed meanwhile is not lost', async ({ page, context }) => {
  await signIn(context, 'foreman')
  const plan = planOn([at(0, 0), at(180, 0, 0.2), at(330, 60)], false, { name: 'Long', engineer: 'plan L-1' })
  const answer = await post(context, '/api/walls', { plan: { ...plan, grades: plan.grades.map((g) => ({ ...g, top: g.toe + 3 })) } })
  expect(answer.status(), await answer.text()).toBe(201)
  await open(page, ((await answer.json()) as { id: string }).id)
  const point = page.getByRole('button', { name: /^Point 1:/ })
  await point.focus()
  for (let i = 0; i < 5; i++) await page.keyboard.press('Shift+ArrowLeft')
  await expect(page.getByRole('button', { name: 'Point 1: east -5.000 m, north 0.000 m' })).toBeVisible()
  // The heading tells the length of the layout, which comes from the worker.
  await expect(page.getByText(new RegExp(`changed · ${(plan.length + 5).toFixed(2)} m · \\d+ courses$`))).toBeVisible()
})

test('a pipe through the wall stops its courses', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await open(page, await bentWall(context, 'Piped'))
  await tab(page, 'Around')
  await page.getByRole('button', { name: 'Add a pipe or culvert' }).click()
  await page.getByLabel('Station of its middle').fill('4')
  await tab(page, 'Stakes')
  await expect(page.getByRole('row', { name: /4\.000.*pipe 1/ })).toBeVisible()
  await tab(page, 'Revisions')
  await expect(page.getByText('Openings: none → pipe 1 at 4 m')).toBeVisible()
})

test('a revision is compared, what no longer matches is listed, then issued', async ({ page, context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Revised')
  const answer = await post(context, `/api/walls/${wall}/entries`, {
    entries: [
      fact(wall, 'check', { stage: 'services' }, { confirmed: ['located', 'marked', 'revision'], until: '2099-12-31' }),
      fact(wall, 'check', { stage: 'set-out' }, { confirmed: ['line', 'second', 'benchmark'] }),
    ],
  })
  expect(await answer.json()).toMatchObject({ outcomes: [{ ok: true }, { ok: true }] })
  await open(page, wall)
  await page.getByRole('button', { name: /^Point 2:/ }).focus()
  await page.keyboard.press('Shift+ArrowUp')
  await tab(page, 'Revisions')
  await expect(page.getByText(/Face line moved: up to \d+ mm into the fill/)).toBeVisible()
  await expect(page.getByText(/Set-out verified \(1\): the face line moved by up to \d+ mm since/)).toBeVisible()
  await page.getByRole('button', { name: 'Issue revision 2' }).click()
  await expect(page.getByText(/^Set-out, revision 2 ·/)).toBeVisible()
  await page.goto(`${url()}/walls/${wall}`)
  await ready(page)
  await expect(page.getByText(/Set-out verified: the face line moved by up to \d+ mm since/)).toBeVisible()
  // The plan form keeps the line it knows nothing of.
  await page.goto(`${url()}/walls/${wall}/plan`)
  await ready(page)
  await page.getByLabel('Pad thickness, m').fill('0.2')
  await page.getByRole('button', { name: 'Issue revision 3' }).click()
  await page.waitForURL(`**/walls/${wall}`)
  await page.goto(`${url()}/walls/${wall}/set-out`)
  await ready(page)
  await expect(page.getByRole('button', { name: 'Point 2: east 9.000 m, north 1.000 m' })).toBeVisible()
})

test('a unit under the finger: course, station, piece and cut, on the drawing and in its table', async ({ page, context }) => {
  await signIn(context, 'crew')
  await page.goto(url())
  await page.getByRole('link', { name: 'Kiosk terrace', exact: true }).click()
  await page.getByRole('button', { name: 'Plan it' }).click()
  await page.getByRole('link', { name: 'Set-out', exact: true }).click()
  await page.getByRole('link', { name: 'Units', exact: true }).click()
  await ready(page)
  const drawing = page.getByRole('img', { name: 'Kiosk terrace: every unit' })
  const box = await drawing.boundingBox()
  if (!box) throw new Error('no drawing')
  await page.mouse.click(box.x + box.width * 0.5, box.y + box.height * 0.5)
  await expect(page.getByRole('status').filter({ hasText: /Course \d+, station \d+\.\d\d/ })).toBeVisible()
  await page.getByRole('button', { name: 'Course below' }).click()
  await page.getByRole('button', { name: 'Show 3 of section A' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'block 3 of section A' })).toBeVisible()
  await expect(page.getByText(/pieces out of \d+ whole blocks; no fewer than \d+ can do/)).toBeVisible()
  await expect(page.getByRole('cell', { name: 'Order: whole blocks' })).toBeVisible()
})

test('the catalogue: a unit changed is offered to a new wall, bad lines of a CSV are named, another company sees nothing', async ({
  page,
  context,
}) => {
  await signIn(context, 'office')
  await page.goto(`${url()}/catalogue`)
  await ready(page)
  const csv =
    'system,id,name,height,length,depth,setback,mass,minRadius\nhollow-core,quay-180,Quay block 180,0.18,0.42,0.28,0.02,29,1.6\nhollow-core,bad,Bad,huge,0.4,0.3,0,10,1\n'
  await page.getByLabel('Catalogue file').setInputFiles({ name: 'units.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) })
  await expect(page.getByText('line 3: height: must be a number')).toBeVisible()
  await page.getByRole('button', { name: 'Take 1 unit' }).click()
  await expect(page.getByText('Quay block 180')).toBeVisible()
  await page
    .getByRole('row', { name: /Quay block 180/ })
    .getByRole('button', { name: 'Change' })
    .click()
  await page.getByLabel('Mass, kg').fill('30')
  await page.getByRole('button', { name: 'Put into the catalogue' }).click()
  await expect(page.getByRole('row', { name: /Quay block 180.*30/ })).toBeVisible()
  await page.goto(`${url()}/walls/new`)
  await ready(page)
  await page.getByRole('button', { name: /^Type length and heights/ }).click()
  await page.getByRole('button', { name: 'System and unit', exact: true }).click()
  await expect(page.getByText(/Quay block 180/)).toBeVisible()
  const saved = await context.request.get(`${url()}/api/catalogue`)
  expect(await saved.text()).toContain('quay-180,Quay block 180')
  await context.clearCookies()
  expect((await context.request.get(`${url()}/api/catalogue`)).status()).toBe(401)
})

test('a gabion wall is planned, drawn and begun through the same doors', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await page.goto(url())
  await page.getByRole('link', { name: 'Breakwater gabions', exact: true }).click()
  await ready(page)
  await expect(page.getByRole('heading', { name: 'Row level' })).toBeVisible()
  await page.getByRole('button', { name: 'Plan it' }).click()
  await page.getByRole('link', { name: 'Set-out', exact: true }).click()
  await page.getByRole('link', { name: 'Units', exact: true }).click()
  await expect(page.getByRole('cell', { name: 'Mass of stone' })).toBeVisible()
  await expect(page.getByRole('cell', { name: 'Bracing wires' })).toBeVisible()
})

for (const path of ['set-out', 'units']) {
  test(`${path} of a bent wall: readable by everyone at the desk and on a phone, nothing wider than the screen`, async ({ page, context }) => {
    await signIn(context, 'foreman')
    const wall = await bentWall(context, `Read ${path}`)
    for (const size of [
      { width: 1280, height: 800 },
      { width: 390, height: 844 },
    ]) {
      await page.setViewportSize(size)
      await page.goto(`${url()}/walls/${wall}/${path}`)
      await ready(page)
      expect([size.width, await unreadable(page)]).toEqual([size.width, []])
      expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBeLessThanOrEqual(0)
    }
  })
}
