// What a piece of work costs in taps, fields and pages, played by what people read: roles and labels. The counts stand in docs/journeys.md and do not grow.
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Locator, Page } from '@playwright/test'
import { stepKey, type Where } from '@stone-tally/core'
import { built, ENGINEERED, smallPlan } from '../core/test/plans'
import { DEMO_PASSWORD, DEMO_PEOPLE } from '../demo/load'
import { bring, expect, newWall, openBoard, post, ready, signIn, test, upTo, url } from './site'

/** Counts what a person does: presses, fields that are filled in, and pages that are gone to. */
class Hand {
  taps = 0
  fields = 0
  readonly pages = new Set<string>()
  constructor(readonly page: Page) {
    page.on('framenavigated', (f) => {
      if (f === page.mainFrame()) this.pages.add(new URL(f.url()).pathname.replace(/[0-9a-f-]{36}/, 'wall'))
    })
  }
  async tap(what: Locator) {
    await what.click()
    this.taps++
  }
  async fill(what: Locator, text: string) {
    await what.fill(text)
    this.fields++
  }
}

/** The row of a journey in docs/journeys.md: what was counted last. */
function counted(journey: string): number[] {
  const lines = readFileSync(join(import.meta.dirname, '..', 'docs', 'journeys.md'), 'utf8').split('\n')
  const row = lines.map((l) => l.split('|').map((c) => c.trim())).find((cells) => cells[1] === journey)
  if (!row) throw new Error(`docs/journeys.md has no journey “${journey}”`)
  return (row[2]?.match(/\d+/g) ?? []).map(Number)
}
/** None of the counts grew. */
function notMore(journey: string, now: readonly number[]) {
  const before = counted(journey)
  console.log(`${journey}: ${now.join(', ')} (stands at ${before.join(', ')})`)
  now.forEach((n, i) =>
    expect(n, `${journey}: ${now.join(', ')} where ${before.join(', ')} stands in docs/journeys.md`).toBeLessThanOrEqual(before[i] ?? 0),
  )
}
const now = (page: Page) => page.getByRole('region', { name: 'Now' })

/** Everything of a list that is sure, and the list recorded whole. */
async function allSeen(hand: Hand) {
  await hand.tap(now(hand.page).getByRole('button', { name: 'All of these' }))
  await hand.tap(now(hand.page).getByRole('button', { name: /^Record (\d+) of \1/ }))
}
/** Services, set-out and its release, by the foreman's hand. */
async function toTheDig(hand: Hand) {
  const card = now(hand.page)
  await expect(card.getByRole('heading', { name: 'Services located' })).toBeVisible()
  await hand.fill(card.getByLabel('Last day of the ticket'), '2099-12-31')
  await allSeen(hand)
  await expect(card.getByRole('heading', { name: 'Set-out verified' })).toBeVisible()
  await allSeen(hand)
  await hand.fill(card.getByLabel(/^What was seen/), 'line walked')
  await hand.tap(card.getByRole('button', { name: 'Release', exact: true }))
}

test('a wall of 22 m: named, high, on its unit, with what it holds', async ({ context, page }) => {
  await signIn(context, 'foreman')
  await page.goto(`${url()}/walls/new`)
  await ready(page)
  const hand = new Hand(page)
  await hand.tap(page.getByRole('button', { name: /^Type length and heights/ }))
  await hand.fill(page.getByLabel('Name', { exact: true }).first(), 'Lower terrace')
  await hand.fill(page.getByLabel('Length, m', { exact: true }), '22')
  await hand.fill(page.getByLabel('Height, m', { exact: true }), '0.6')
  await hand.tap(page.getByRole('button', { name: /^Next: System and unit/ }))
  await hand.tap(page.getByRole('button', { name: 'Rear-lip block', exact: true }))
  // Three outlets, their levels, the room behind and the benchmark stand already; nothing is missing.
  await expect(page.getByRole('status').filter({ hasText: /courses/ })).toBeVisible()
  await hand.tap(page.getByRole('button', { name: 'Make the wall' }))
  await expect(page.getByRole('heading', { name: 'Services located' })).toBeVisible()
  notMore('22 m wall planned: name, length, height, system', [hand.taps, hand.fields])
})

test('a wall of 22 m with a corner, an arc, a step and two layers', async ({ context, page }) => {
  await signIn(context, 'foreman')
  await page.goto(`${url()}/walls/new`)
  await ready(page)
  const hand = new Hand(page)
  const point = async (east: string, north?: string) => {
    await hand.fill(page.getByLabel('Easting'), east)
    if (north) await hand.fill(page.getByLabel('Northing'), north)
  }
  await hand.tap(page.getByRole('button', { name: /^Sketch its line/ }))
  await point('10')
  await hand.tap(page.getByRole('button', { name: 'One more point' }))
  await point('10', '5')
  await hand.tap(page.getByRole('button', { name: 'One more point' }))
  await point('4', '5')
  await hand.tap(page.getByRole('button', { name: 'Point before' }))
  await hand.fill(page.getByLabel(/^Radius/), '4')
  await hand.tap(page.getByRole('button', { name: /^Take this line, 21.78/ }))
  await hand.fill(page.getByLabel('Name', { exact: true }).first(), 'Bend at the slip')
  await hand.fill(page.getByLabel('Height, m', { exact: true }), '0.8')
  await hand.tap(page.getByRole('button', { name: /^Next: System and unit/ }))
  await hand.tap(page.getByRole('button', { name: 'Hollow-core segmental block', exact: true }))
  await hand.tap(page.getByRole('button', { name: /^Next: Ground and heights/ }))
  // The ground rises towards the end, and the pad steps with it.
  await hand.fill(page.getByLabel('Toe, m', { exact: true }).last(), '0.4')
  await hand.fill(page.getByLabel('Top, m', { exact: true }).last(), '1.2')
  await hand.tap(page.getByText('Layers', { exact: true }).first())
  await hand.tap(page.getByRole('button', { name: 'Add a layer' }))
  await hand.fill(page.getByLabel('On top of course'), '1')
  await hand.fill(page.getByLabel('Length from face, m'), '1.2')
  await hand.fill(page.getByLabel('Type', { exact: true }), 'G40')
  await hand.tap(page.getByRole('button', { name: 'Add a layer' }))
  // The second is of the same roll, and as long.
  await hand.fill(page.getByLabel('On top of course').last(), '3')
  await expect(page.getByText(/[2-9] pad steps/)).toBeVisible()
  await hand.tap(page.getByRole('button', { name: 'Make the wall' }))
  await expect(page.getByRole('heading', { name: 'Services located' })).toBeVisible()
  notMore('22 m wall planned: corner, arc, step, two layers', [hand.taps, hand.fields])
})

test('the smallest wall, on a phone: from nothing to its released final', async ({ browser }) => {
  const small = { viewport: { width: 390, height: 844 }, hasTouch: true }
  const phone = await browser.newContext(small)
  const inspector = await browser.newContext(small)
  await signIn(phone, 'foreman')
  await signIn(inspector, 'inspector')
  const page = await phone.newPage()
  await page.goto(url())
  await ready(page)
  const hand = new Hand(page)
  await hand.tap(page.getByRole('link', { name: 'New wall' }))
  await hand.tap(page.getByRole('button', { name: /^Type length and heights/ }))
  await hand.fill(page.getByLabel('Name', { exact: true }).first(), 'Three courses')
  await hand.fill(page.getByLabel('Length, m', { exact: true }), '4')
  await hand.fill(page.getByLabel('Height, m', { exact: true }), '0.25')
  await hand.tap(page.getByRole('button', { name: /^Next: System and unit/ }))
  await hand.tap(page.getByRole('button', { name: 'Small landscape stone', exact: true }))
  await hand.tap(page.getByText('Up to three courses, on sand', { exact: true }))
  // What it holds is for a person to say: nothing, and level ground in front.
  await hand.tap(page.getByRole('button', { name: /What it holds/ }).first())
  await hand.tap(page.getByText('Nothing of these', { exact: true }))
  await hand.fill(page.getByLabel(/^Ground in front falls/), '0')
  await expect(page.getByText(/As it stands nobody may dig/)).toHaveCount(0)
  await hand.tap(page.getByRole('button', { name: 'Make the wall' }))
  const card = (title: string, part = '') =>
    expect(now(page).getByRole('heading', { name: title }))
      .toBeVisible()
      .then(() => expect(now(page).getByText(part).first()).toBeVisible())
  const done = () => allSeen(hand)
  await toTheDig(hand)
  await card('Trench and sand')
  await done()
  for (const course of [1, 2, 3]) {
    await card('Stones set', `course ${course}`)
    await hand.tap(now(page).getByRole('button', { name: /^All set/ }))
  }
  await card('Level and backed')
  await hand.fill(now(page).getByLabel(/^Off level, the worst/), '2')
  await done()
  // The two looks that are left share a card, and one press records both.
  const looks = page.getByRole('region', { name: /looks on one walk/ })
  await hand.tap(looks.getByRole('button', { name: 'All that is sure' }))
  await hand.tap(looks.getByText('Swale runs past both ends', { exact: true }))
  await hand.tap(looks.getByRole('button', { name: 'Record 2 looks' }))
  await expect(now(page).getByText(/It waits for the inspector/)).toBeVisible()
  const theirs = await inspector.newPage()
  await theirs.goto(page.url())
  const other = new Hand(theirs)
  await other.fill(theirs.getByLabel(/^What was seen/), 'walked along it')
  await other.tap(theirs.getByRole('button', { name: 'Release', exact: true }))
  await expect(now(page).getByText(/is complete/)).toBeVisible()
  // Two places: the planner and the Board.
  notMore('smallest wall, phone, nothing to its released final', [hand.taps + other.taps, hand.fields + other.fields, hand.pages.size])
  await phone.close()
  await inspector.close()
})

test('services to the released pad of 22 m, its cut under 1.2 m', async ({ context, browser, page }) => {
  const inspector = await browser.newContext()
  await signIn(context, 'foreman')
  await signIn(inspector, 'inspector')
  const made = await post(context, '/api/walls', {
    plan: built({
      ...smallPlan,
      ...ENGINEERED,
      name: 'Counted pad',
      length: 22,
      grades: [
        { station: 0, toe: 10, top: 10.8 },
        { station: 22, toe: 10, top: 10.8 },
      ],
      pad: { ...smallPlan.pad, material: 'open-graded' },
      sections: [{ id: 'A', from: 0, to: 22 }],
      drain: {
        ...smallPlan.drain,
        outlets: [
          { station: 0, invert: 9.85 },
          { station: 22, invert: 9.85 },
        ],
      },
    }),
  })
  expect(made.status(), await made.text()).toBe(201)
  const { id } = (await made.json()) as { id: string }
  await page.goto(`${url()}/walls/${id}`)
  await ready(page)
  const hand = new Hand(page)
  const theirs = await inspector.newPage()
  const other = new Hand(theirs)
  const card = (title: string) => expect(now(page).getByRole('heading', { name: title, exact: true })).toBeVisible()
  const done = () => allSeen(hand)
  const released = async () => {
    await expect(now(page).getByText(/It waits for the inspector/)).toBeVisible()
    await theirs.goto(`${url()}/walls/${id}`)
    await other.fill(theirs.getByLabel(/^What was seen/), 'walked along it')
    await other.tap(theirs.getByRole('button', { name: 'Release', exact: true }))
  }
  /** All points of a step off one sheet, by the deviation from the string. */
  const sheet = async (by: string) => {
    await hand.tap(now(page).getByText('Deviation', { exact: true }))
    await hand.tap(now(page).getByRole('button', { name: /^All \d+ points on one sheet/ }))
    const fields = now(page).getByRole('group', { name: 'All points on one sheet' }).getByRole('textbox')
    for (let i = 0; i < (await fields.count()); i++) await hand.fill(fields.nth(i), by)
    await hand.tap(now(page).getByRole('button', { name: /^Record (\d+) of \1 readings/ }))
  }
  await toTheDig(hand)
  await card('Excavation depth')
  await sheet('2')
  await card('Subgrade')
  await hand.tap(
    now(page)
      .getByText(/^Organic, soft or wet/)
      .first(),
  )
  await hand.tap(now(page).getByRole('button', { name: /^Not here: Undercut/ }))
  await done()
  await hand.tap(now(page).getByRole('link', { name: 'Judge the soil' }))
  for (const answer of [/^Gravel/, /^None/, /^Gritty/, /^One even colour/, /^None/, /^Dry/, /^Grown/, /^No mark/]) {
    const first = page.getByRole('group', { name: /\?$/ }).getByRole('button', { name: answer })
    await hand.tap(first)
  }
  await hand.tap(page.getByRole('button', { name: 'Record this soil' }))
  await expect(page.getByText(/may stay/)).toBeVisible()
  await hand.tap(page.getByRole('link', { name: 'Board', exact: true }))
  await card('Subgrade')
  await released()
  await card('Pad lifts')
  for (const lift of [1, 2]) await hand.tap(now(page).getByRole('button', { name: `Record lift ${lift}` }))
  await card('Pad level')
  await sheet('1')
  await hand.tap(now(page).getByRole('link', { name: 'Record the tests' }).first())
  // One a lift and 15 m: two of each. The form begins at the lift that owes one, and its reason is known from the test before.
  for (const [i, lift] of [1, 1, 2, 2].entries()) {
    await expect(page.getByLabel('Lift', { exact: true })).toHaveValue(`${lift}`)
    await hand.fill(page.getByLabel(/^What was seen: plant/), 'light plate, until nothing moved')
    if (i === 0) await hand.tap(page.getByText('Stone without fines', { exact: true }))
    await hand.tap(page.getByRole('button', { name: 'Record the test' }))
    await expect(page.getByText(new RegExp(`^${3 - i}\\s*tests owed`))).toBeVisible()
  }
  await hand.tap(page.getByRole('link', { name: 'Board', exact: true }))
  await card('Pad level')
  await released()
  await expect(now(page).getByRole('heading', { name: 'Pad level', exact: true })).toHaveCount(0)
  notMore('services to the released pad of 22 m', [hand.taps + other.taps, hand.fields + other.fields])
  await inspector.close()
})

test('a course of a wall: one number, one press', async ({ context, browser, page }) => {
  const inspector = await browser.newContext()
  await signIn(context, 'foreman')
  await signIn(inspector, 'inspector')
  const wall = await newWall(context, 'Counted course')
  await bring(context, inspector, wall, 'grid')
  await openBoard(page, wall)
  const sheet = page.getByRole('region', { name: 'Course 2 in one go' })
  await expect(sheet).toBeVisible()
  const hand = new Hand(page)
  await hand.fill(sheet.getByLabel(/^Largest deviation of level/), '2')
  await hand.tap(sheet.getByRole('button', { name: 'Record course 2' }))
  await expect(sheet).toHaveCount(0)
  notMore('a course in one go', [hand.taps, hand.fields])
  await inspector.close()
})

test('the inspector: from a link to a decision', async ({ context, browser }) => {
  const inspector = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true })
  await signIn(context, 'foreman')
  await signIn(inspector, 'inspector')
  const wall = await newWall(context, 'Counted release')
  // All that the pad's release wants is recorded: it waits for the inspector.
  const facts = upTo(wall, 'units')
  const last = facts.findLastIndex((f) => f.fact.kind === 'release')
  for (const { by, fact } of facts.slice(0, last)) {
    const sent = await post(by === 'foreman' ? context : inspector, `/api/walls/${wall}/entries`, { entries: [fact] })
    expect(await sent.json()).toMatchObject({ outcomes: [{ ok: true }] })
  }
  const page = await inspector.newPage()
  const hand = new Hand(page)
  await page.goto(`${url()}/walls/${wall}?step=${encodeURIComponent(stepKey(facts[last]?.fact.where as Where))}`)
  await ready(page)
  await hand.fill(page.getByLabel(/^What was seen/), 'read and walked')
  await hand.tap(page.getByRole('button', { name: 'Release', exact: true }))
  await expect(page.getByRole('button', { name: 'Release', exact: true })).toHaveCount(0)
  notMore('inspector, link to decision', [hand.taps, hand.fields])
  await inspector.close()
})

test('from the Yard to the wall last worked on by one key', async ({ context, browser, page }) => {
  const inspector = await browser.newContext()
  await signIn(context, 'foreman')
  await signIn(inspector, 'inspector')
  const wall = await newWall(context, 'Keyed wall')
  await bring(context, inspector, wall, 'services')
  await page.goto(url())
  await ready(page)
  // The wall last worked on is 1.
  await expect(page.getByRole('heading', { level: 2 }).filter({ hasText: 'Keyed wall' })).toBeVisible()
  await page.keyboard.press('1')
  await page.waitForURL(new RegExp(`/walls/${wall}`))
  await expect(page.getByRole('heading', { name: 'Services located' })).toBeVisible()
  notMore('Yard to the wall last worked on, keys', [1])
  await inspector.close()
})

test('by keyboard: from signing in to a recorded course', async ({ context, browser, page }) => {
  const [crew, inspector] = [await browser.newContext(), await browser.newContext()]
  await signIn(crew, 'foreman')
  await signIn(inspector, 'inspector')
  const wall = await newWall(crew, 'Course by keys')
  await bring(crew, inspector, wall, 'grid')
  await Promise.all([crew.close(), inspector.close()])
  let keys = 0
  const press = async (key: string) => {
    await page.keyboard.press(key)
    keys++
  }
  const { email } = DEMO_PEOPLE.find((p) => p.role === 'foreman') ?? { email: '' }
  await page.goto(`${url()}/sign-in`)
  await ready(page)
  // The first field has the focus; what is typed is text, what moves and sends is counted.
  await expect(page.getByLabel('E-mail')).toBeFocused()
  await page.keyboard.type(email)
  await press('Tab')
  await page.keyboard.type(DEMO_PASSWORD)
  await press('Enter')
  await expect(page.getByRole('heading', { level: 2 }).filter({ hasText: 'Course by keys' })).toBeVisible()
  await ready(page)
  await press('1')
  await page.waitForURL(new RegExp(`/walls/${wall}`))
  await expect(page.getByLabel(/^Rod reading at/)).toBeVisible()
  await press('Alt+2')
  const sheet = page.getByRole('region', { name: 'Course 2 in one go' })
  await expect(sheet).toBeVisible()
  // A digit typed anywhere is the largest deviation of the course.
  await press('2')
  await expect(sheet.getByLabel(/^Largest deviation of level/)).toHaveValue('2')
  await press('Enter')
  await expect(sheet).toHaveCount(0)
  notMore('sign-in to a recorded course, keys', [keys])
  await context.close()
})
