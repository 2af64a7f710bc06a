import AxeBuilder from '@axe-core/playwright'
import { type BrowserContext, test as base, expect, type Page } from '@playwright/test'
import { issued, type Plan, placesOf, stepsOf } from '@stone-tally/core'
import { CURVE, FIRM_CLAY, goodSize } from '../core/test/build'
import { built, ENGINEERED, layoutOf, SIGNED, smallPlan } from '../core/test/plans'
import { DEMO_PASSWORD, DEMO_PEOPLE } from '../demo/load'
import { pictureOf } from '../demo/pictures'

export const url = () => process.env.BASE_URL ?? ''
export const demoWall = () => process.env.DEMO_WALL ?? ''

/** Signs a browser in as a person of the demo, over the same route the form uses. */
export async function signIn(context: BrowserContext, role: 'foreman' | 'crew' | 'inspector' | 'office') {
  const email = DEMO_PEOPLE.find((p) => p.role === role)?.email
  const answer = await context.request.post(`${url()}/api/sign-in`, { data: { email, password: DEMO_PASSWORD }, headers: { origin: url() } })
  expect(answer.ok()).toBe(true)
}

/** Sends JSON as a page of ours would. */
export const post = (context: BrowserContext, path: string, data: unknown, headers: Record<string, string> = { origin: url() }) =>
  context.request.post(`${url()}${path}`, { data: data as object, headers })

/**
 * What keeps somebody from reading the page as it stands: the rule that is broken, and where. No part of our pages is a page of somebody
 * else, so the page itself is looked at and no second one is opened for it, which takes a quarter of the time.
 *
 * @param but - a selector of what is left out
 */
export async function unreadable(page: Page, but?: string): Promise<string[]> {
  const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'] })
  const { violations } = await (but ? axe.exclude(but) : axe).analyze()
  return violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 120)).join(' | ')}`)
}

let made = 0
/** An entry as a device sends it. */
export function fact(wall: string, kind: string, where: object, data: object, more: object = {}) {
  made++
  const time = Date.now().toString(16).padStart(12, '0')
  const id = `${time.slice(0, 8)}-${time.slice(8)}-7000-8000-${made.toString(16).padStart(12, '0')}`
  return { id, wall, revision: 1, at: new Date().toISOString(), kind, where, data, ...more }
}

/** The small wall of the tests with its engineer named, as the house issues it. */
export const yardPlan: Plan = built({ ...smallPlan, ...ENGINEERED })

/** The trench looked at this minute: nobody goes in before. */
export const lookedAt = (wall: string) => fact(wall, 'look', {}, { by: 'Mara Quill', safe: true, seen: 'sides dry, no cracks' })

/** A new small wall of the demo company, made over the route, its trench looked at. */
export async function newWall(context: BrowserContext, name: string, { look = true } = {}): Promise<string> {
  const answer = await post(context, '/api/walls', { plan: { ...yardPlan, name } })
  expect(answer.status(), await answer.text()).toBe(201)
  const { id } = (await answer.json()) as { id: string }
  if (look) expect((await post(context, `/api/walls/${id}/entries`, { entries: [lookedAt(id)] })).ok()).toBe(true)
  return id
}

/** What the subgrade of section B needs to know: its soil, and its cut as it is held. */
export const groundFacts = (wall: string) => [
  fact(wall, 'soil', { stage: 'dig', section: 'B' }, { answers: FIRM_CLAY, from: 4.5, to: 9 }),
  fact(wall, 'cut', { stage: 'dig', section: 'B', station: 4.5 }, { slope: 1.5, water: false, spoil: 1, plant: 1.5, ladder: 6, by: 'Mara Quill' }),
]

/** Facts that bring section B of the small wall up to the given stage of course 1 (that stage excluded), with releases. */
export function upTo(wall: string, stage: string): { by: 'foreman' | 'inspector'; fact: ReturnType<typeof fact> }[] {
  const layout = layoutOf(issued(yardPlan))
  const list: { by: 'foreman' | 'inspector'; fact: ReturnType<typeof fact> }[] = []
  for (const s of layout.system.stages) {
    if (s.id === stage) break
    if (s.id === 'setback' || s.id === 'joints') continue
    const where = { stage: s.id, ...(s.scope === 'wall' ? {} : { section: 'B' }), ...(s.scope === 'course' ? { course: 1 } : {}) }
    const put = (kind: string, data: object, at: object = {}) => list.push({ by: 'foreman', fact: fact(wall, kind, { ...where, ...at }, data) })
    if (s.needs) {
      for (const f of groundFacts(wall)) list.push({ by: 'foreman', fact: f })
    }
    if (s.work.type === 'check')
      put('check', {
        confirmed: s.work.items.map((i) => i.id),
        ...(s.work.until ? { until: '2099-12-31' } : {}),
        ...(s.work.measures ? { measured: s.work.measures.map((m) => ({ id: m.id, value: goodSize(m) })) } : {}),
      })
    if (s.work.type === 'pipe') {
      put('pipe', {
        from: 4.5,
        to: 9,
        diameter: 0.1,
        bed: 0.1,
        sock: false,
        start: 'cap',
        end: 'outlet',
        laps: 'with',
        confirmed: s.work.items.map((i) => i.id),
      })
      put('photo', {}, { station: 6 })
    }
    if (s.work.type === 'units') put('units', { set: layout.cells.get('B/1')?.pieces.length })
    if (s.work.type === 'lifts') {
      const backfill = s.work.of === 'backfill'
      const curve = fact(wall, 'curve', where, CURVE)
      list.push({ by: 'foreman', fact: curve })
      for (let lift = 1; lift <= 2; lift++)
        put('lift', { lift, thickness: backfill ? 0.1 : 0.075, passes: 3, plant: 'light-plate', ...(backfill ? { fill: 'granular' } : {}) })
      // What is typed with a lift pays for no test.
      const gauge = { wetDensity: 2150, moisture: 9, densityStandard: 2300, densityReference: 2300, moistureStandard: 680, moistureReference: 680 }
      for (let lift = 1; lift <= 2; lift++) put('density', { method: 'gauge', lift, curve: curve.id, gauge }, { station: 6 })
    }
    if (s.work.type === 'readings') for (const at of points(s.id)) put('reading', { method: 'deviation', value: 0.001 }, at)
    if (s.hold)
      list.push({
        by: s.hold === 'before-digging' ? 'foreman' : 'inspector',
        fact: fact(wall, 'release', where, { decision: 'released', reason: 'seen', signature: SIGNED }),
      })
  }
  return list

  function points(id: string) {
    const step = stepsOf(layout).find((x) => x.stage.id === id && x.section === 'B' && (x.course === undefined || x.course === 1))
    return step ? placesOf(step) : []
  }
}

/** Sends those facts, each as its own person. */
export async function bring(foreman: BrowserContext, inspector: BrowserContext, wall: string, stage: string) {
  for (const { by, fact } of upTo(wall, stage)) {
    let f = fact
    // A photo goes first; what the record says of it is what the house answers.
    if (f.kind === 'photo') f = { ...f, data: await sendPhoto(foreman, wall, await pictureOf('pipe', new Date())) }
    const answer = await post(by === 'foreman' ? foreman : inspector, `/api/walls/${wall}/entries`, { entries: [f] })
    expect(await answer.json(), `${f.kind} ${JSON.stringify(f.where)}`).toMatchObject({ outcomes: [{ ok: true }] })
  }
}

/** Sends a photo as a device would; the answer is what an entry says of it. */
export async function sendPhoto(context: BrowserContext, wall: string, bytes: Buffer, name = 'pipe.jpg'): Promise<object> {
  const answer = await context.request.post(`${url()}/api/walls/${wall}/photos?name=${encodeURIComponent(name)}&strip=1`, {
    data: bytes,
    headers: { origin: url() },
  })
  expect(answer.status(), await answer.text()).toBe(201)
  return (await answer.json()) as object
}

/** Waits until the page answers to touch. */
export const ready = (page: Page) => page.waitForSelector('html[data-ready]')

export const openBoard = async (page: Page, wall: string, section = 'B') => {
  await page.goto(`${url()}/walls/${wall}`)
  await ready(page)
  // Steps are gone through when the whole record is there.
  await expect(page.getByText('Loading the record')).toHaveCount(0)
  await page.locator('label', { hasText: `Section ${section}` }).click()
}

/** Says of a list that all of it was seen: what is sure in one press, what may not be there one by one. */
export async function sawAll(page: Page) {
  await page.getByRole('button', { name: 'All of these' }).click()
  const rows = page.getByRole('button', { name: /^Not here: / })
  for (let i = 0; i < (await rows.count()); i++) {
    const item = ((await rows.nth(i).getAttribute('aria-label')) ?? '').slice('Not here: '.length)
    await page.getByText(item, { exact: true }).click()
  }
}

/** Reports on the console where a page shows the marks of a quantity instead of the quantity in the reader's units. */
function watchMarks() {
  let waiting = false
  const look = () => {
    waiting = false
    const line = document.body?.innerText.split('\n').find((l) => l.includes('\u2045'))
    if (line) console.error(`a quantity was not put into words: ${line}`)
  }
  new MutationObserver(() => {
    if (waiting) return
    waiting = true
    setTimeout(look, 150)
  }).observe(document, { childList: true, subtree: true, characterData: true })
}

/** Any error on a page's console, and any quantity left unsaid, fails the test. */
export const test = base.extend<{ quiet: undefined }>({
  quiet: [
    async ({ context }, use) => {
      const errors: string[] = []
      context.on('weberror', (e) => errors.push(e.error().message))
      context.on(
        'console',
        (m) => m.type() === 'error' && !/status of 4\d\d|ERR_INTERNET_DISCONNECTED|Failed to load resource/.test(m.text()) && errors.push(m.text()),
      )
      await context.addInitScript(watchMarks)
      await use(undefined)
      expect(errors).toEqual([])
    },
    { auto: true },
  ],
})
export { expect, smallPlan }
