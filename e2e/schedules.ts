import { type Browser, type BrowserContext, expect, type Page } from '@playwright/test'
import { type ChainedEntry, verifyChain } from '@stone-tally/core'
import { type Line, line, type Mode } from './line'
import { newWall, post, signIn, url, yardPlan } from './site'
import { boxed, kept } from './store'

/** The same numbers for the same seed. */
function random(seed: number) {
  let a = seed >>> 0
  return () => {
    a = (a + 0x6d2b79f5) >>> 0
    let t = Math.imul(a ^ (a >>> 15), 1 | a)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32
  }
}

/** A tablet of the crew: its own line, its own clock, its own tabs. */
export interface Tablet {
  readonly context: BrowserContext
  readonly road: Line
  /** By how much its clock is ahead, ms. */
  readonly ahead: number
  tabs: Page[]
}

/** Tablets for any number of schedules, their clocks hours apart. */
export async function tablets(browser: Browser): Promise<Tablet[]> {
  const made: Tablet[] = []
  for (const [role, hours] of [
    ['foreman', 5],
    ['crew', -3],
  ] as const) {
    const context = await browser.newContext({ serviceWorkers: 'allow' })
    await signIn(context, role)
    const ahead = hours * 3_600_000
    await context.addInitScript((off) => {
      const True = Date
      const shifted = class extends True {
        constructor(...given: unknown[]) {
          // biome-ignore lint/suspicious/noExplicitAny: whatever a date is made of
          super(...((given.length === 0 ? [True.now() + off] : given) as [any]))
        }
        static override now = () => True.now() + off
      }
      Object.assign(globalThis, { Date: shifted })
    }, ahead)
    made.push({ context, road: await line(), ahead, tabs: [] })
  }
  return made
}

const MODES: readonly Mode[] = ['dead', 'dead', 'portal', 'answers-lost', 'good', 'good']
const ACTS = 9

/**
 * One random day of two tablets with bad lines, tabs that are killed, and a plan revised meanwhile; in the end everything shown as
 * recorded is in the record exactly once, the chain holds, and both tablets show the same.
 */
export async function schedule(seed: number, devices: readonly Tablet[], office: BrowserContext): Promise<{ notes: number }> {
  const chance = random(seed)
  const pick = <T>(list: readonly T[]) => list[Math.floor(chance() * list.length)] as T
  const wall = await newWall(office, `Day ${seed}`)
  const shown = new Set<string>()
  const tried: string[] = []
  let revision = 1
  const open = async (d: Tablet) => {
    const page = await d.context.newPage()
    // A line that is dead on the very first day shows nothing; the wall was opened on a good one.
    await page.goto(`${d.road.url}/walls/${wall}/record`).catch(() => undefined)
    d.tabs.push(page)
    return page
  }
  for (const d of devices) {
    d.road.mode = 'good'
    d.tabs = []
    const page = await open(d)
    await page.waitForSelector('html[data-ready]')
    await page.evaluate(() => navigator.serviceWorker.ready.then(() => true))
    await expect.poll(() => kept(page, wall), { timeout: 30_000 }).toBe(true)
  }
  for (let act = 0; act < ACTS; act++) {
    const d = pick(devices)
    const what = chance()
    if (what < 0.55) {
      const text = `day ${seed} note ${act}`
      tried.push(text)
      const page = pick(d.tabs)
      const added = await page
        .getByLabel('Note for the diary: weather, visitors, deliveries')
        .fill(text, { timeout: 8000 })
        .then(() => page.getByRole('button', { name: 'Add note' }).click({ timeout: 4000 }))
        .then(() => page.getByText(text).first().waitFor({ timeout: 6000 }))
        .then(
          () => true,
          () => false,
        )
      if (added) shown.add(text)
    } else if (what < 0.8) d.road.mode = pick(MODES)
    else if (what < 0.92) {
      // Killed in whatever it was doing.
      const page = pick(d.tabs)
      d.tabs = d.tabs.filter((p) => p !== page)
      await page.close()
      if (d.tabs.length === 0 || chance() < 0.4) await open(d)
    } else if (revision === 1) {
      const plan = { ...yardPlan, name: `Day ${seed}, revised` }
      if ((await post(office, `/api/walls/${wall}/revisions`, { plan, base: revision })).ok()) revision++
    }
  }
  for (const d of devices) d.road.mode = 'good'
  for (const d of devices)
    for (const page of d.tabs) await expect.poll(() => boxed(page, wall), { timeout: 120_000, message: `what waits of day ${seed}` }).toBe(0)
  const file = (await (await office.request.get(`${url()}/api/walls/${wall}/export`)).json()) as {
    entries: ChainedEntry[]
    head: { seq: number; hash: string }
  }
  expect(verifyChain(wall, file.entries, file.head)).toMatchObject({ intact: true })
  const texts = file.entries.filter((e) => e.entry.kind === 'note').map((e) => (e.entry.data as { text: string }).text)
  expect(texts.length, `twice in the record of day ${seed}: ${texts.join(', ')}`).toBe(new Set(texts).size)
  expect([...shown].filter((t) => !texts.includes(t))).toEqual([])
  expect(texts.filter((t) => !tried.includes(t))).toEqual([])
  // Both tablets hold the same record, to the last link.
  for (const d of devices)
    for (const page of d.tabs) await expect(page.getByText(new RegExp(`^${file.entries.length} entries\\.`))).toBeVisible({ timeout: 60_000 })
  for (const d of devices) for (const page of d.tabs) await page.close()
  return { notes: texts.length }
}
