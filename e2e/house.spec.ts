import type { BrowserContext, Page } from '@playwright/test'
import { CALCULATORS } from '@stone-tally/core'
import { oddly } from '../core/test/said-oddly'
import { bring, demoWall, expect, fact, newWall, openBoard, post, ready, signIn, test, unreadable, url } from './site'

/** Every page of the house, by its path. */
const wall = (place: string) => () => `/walls/${demoWall()}${place}`
const PAGES: readonly (readonly [string, () => string])[] = [
  ['Yard', () => '/'],
  ['New wall', () => '/walls/new'],
  ['Catalogue', () => '/catalogue'],
  ['Rule book', () => '/rules'],
  ['Instruments', () => '/instruments'],
  ['This device', () => '/device'],
  ['Words of the trade', () => '/words'],
  ['Days', () => '/days'],
  ['People', () => '/people'],
  ['Security log', () => '/people/log'],
  ['Your sign-in', () => '/me'],
  ['The house', () => '/house'],
  ...CALCULATORS.map((c) => [`Bench: ${c.title}`, () => `/bench/${c.name}`] as const),
  ['Board', wall('')],
  ...['dig', 'soil', 'pad', 'level', 'map', 'density', 'weather'].map((t) => [`Dig and pad: ${t}`, wall(`/ground?tab=${t}`)] as const),
  ...[
    '/water',
    '/layers',
    '/ahead',
    '/checks',
    '/record',
    '/readings',
    '/set-out',
    '/plan',
    '/rules',
    '/units',
    '/pole',
    '/crew',
    '/stock',
    '/days',
    '/saw',
    '/print',
  ].map((p) => [p.slice(1), wall(p)] as const),
]
const show = async (page: Page, path: string) => {
  await page.goto(`${url()}${path}`)
  await ready(page)
  // The record of a wall comes in after the page; what it brings is part of what is looked at.
  await expect(page.getByText(/Loading the record|Reading the record/)).toHaveCount(0)
  await page.waitForTimeout(path.startsWith('/walls/') ? 200 : 100)
}

/** Collects what moves on a page that nobody touches. */
function watchShifts() {
  const seen = window as unknown as { moved: { by: number; what: string }[] }
  seen.moved = []
  new PerformanceObserver((list) => {
    for (const e of list.getEntries() as unknown as { value: number; hadRecentInput: boolean; sources: { node: Node | null }[] }[])
      if (!e.hadRecentInput) seen.moved.push({ by: e.value, what: e.sources.map((s) => s.node?.textContent?.slice(0, 30) ?? '').join(' | ') })
  }).observe({ type: 'layout-shift', buffered: true })
}
/** What moved, where all of it together is more than a reader forgives. */
function moved(): string[] {
  const all = (window as unknown as { moved: { by: number; what: string }[] }).moved
  return all.reduce((sum, m) => sum + m.by, 0) > 0.05 ? all.map((m) => `${m.by.toFixed(3)}: ${m.what}`) : []
}

/** What is wrong with headings, main part and tables of the page. */
function order(): string[] {
  const seen = (e: Element) => e.getClientRects().length > 0
  const wrong: string[] = []
  const mains = [...document.querySelectorAll('main')].filter(seen)
  if (mains.length !== 1) wrong.push(`${mains.length} main parts`)
  const heads = [...document.querySelectorAll('h1,h2,h3,h4,h5,h6')].filter(seen)
  const ones = heads.filter((h) => h.tagName === 'H1').length
  if (ones !== 1) wrong.push(`${ones} first headings`)
  let before = 0
  for (const h of heads) {
    const level = Number(h.tagName[1])
    if (level > before + 1) wrong.push(`${h.tagName} "${h.textContent}" after H${before}`)
    before = level
  }
  for (const t of [...document.querySelectorAll('table')].filter(seen)) {
    const name = t.getAttribute('aria-label') ?? t.caption?.textContent ?? t.closest('[role=region],section,fieldset')?.getAttribute('aria-label')
    const words = t.textContent?.slice(0, 40)
    if (!name) wrong.push(`a table without a name: ${words}`)
    if (!t.querySelector('th')) wrong.push(`a table without headers: ${words}`)
  }
  return [...new Set(wrong)]
}

/** Written by people of the demo, in metres; and sieves, which are called by their millimetres everywhere. */
const WRITTEN = [
  'Shaved 12 mm, plated once more',
  'old pond bottom at 30 to 32 m',
  'Gradation of the',
  'Sieve, mm',
  '100 mm',
  'D15',
  'd85',
  'd15',
  'size, mm',
]

/** Quantities of the page in metres and kilograms. */
function metric(written: readonly string[]): string[] {
  const texts = [
    document.body.innerText,
    ...[...document.querySelectorAll('[aria-label]')].map((e) => e.getAttribute('aria-label') ?? ''),
    ...[...document.querySelectorAll('svg text, svg title')].map((e) => e.textContent ?? ''),
  ]
  // A code of the record is letters and digits by chance: "hq6h8l" is no eight litres.
  const code = /stone1( [a-z0-9]{1,6})+/g
  const unit = /\d[\d.,]*[ \u00a0]?(mm|cm|m|kg|kPa|kN|kN\/m³|kg\/m³|m²|m³|km\/h|°C|l\/s|litres|l)(?![\w²³/])|, (mm|m|kg|kPa|kg\/m³|kN\/m³|°C|m²|m³)$/
  return [...new Set(texts.flatMap((t) => t.replace(code, '').split('\n')).filter((l) => unit.test(l) && !written.some((w) => l.includes(w))))]
}

/** What the page says, what its parts are called, and its headings over nothing. */
function spoken(): { text: string; empty: string[] } {
  const names = [...document.querySelectorAll('[aria-label]')].map((e) => e.getAttribute('aria-label') ?? '')
  const heads = [...document.querySelectorAll('h1,h2,h3,h4')].filter((h) => h.getClientRects().length > 0)
  const empty = heads.filter((h) => !h.textContent?.trim() && !h.querySelector('img,svg')).map((h) => `an empty ${h.tagName}`)
  return { text: [document.body.innerText, ...names, document.title].join('\n'), empty }
}
const odd = async (page: Page): Promise<string[]> => {
  const { text, empty } = await page.evaluate(spoken)
  return [...oddly(text), ...empty]
}

/** What a gloved finger would miss: smaller than 48 px one way and not within running text. */
function small(): string[] {
  const wrong: string[] = []
  for (const e of document.querySelectorAll('button, a[href], select, input, textarea, summary, [role=button], label')) {
    if (e instanceof HTMLInputElement && (e.type === 'file' || e.type === 'radio' || e.type === 'checkbox')) continue
    if (e instanceof HTMLLabelElement && !e.querySelector('input')) continue
    const box = e.getBoundingClientRect()
    if (box.width < 2 || box.height < 2 || getComputedStyle(e).visibility === 'hidden') continue
    // A word of the trade reaches beyond what is drawn of it; a browser lays out no button as running text.
    const running =
      (getComputedStyle(e).display === 'inline' || (e.hasAttribute('data-word') && getComputedStyle(e, '::after').position === 'absolute')) &&
      (e.parentElement?.textContent ?? '').trim().length > (e.textContent ?? '').trim().length + 8
    if (running) continue
    if (box.height < 47.5 || box.width < 47.5)
      wrong.push(
        `${e.tagName.toLowerCase()} "${(e.getAttribute('aria-label') ?? e.textContent ?? '').slice(0, 30)}" ${Math.round(box.width)} × ${Math.round(box.height)}`,
      )
  }
  return [...new Set(wrong)]
}

test.describe('every page of the house', () => {
  // A desk in feet by day, where most is shown, and a phone in metres at night go through all of it: what they have of the application they have from the page
  // before. By the names of its parts a page is the same in both units.
  const devices: BrowserContext[] = []
  const violations: string[] = []
  const pages: Page[] = []
  test.beforeAll(async ({ browser }) => {
    devices.push(
      await browser.newContext({ viewport: { width: 1280, height: 800 } }),
      await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true }),
    )
    for (const d of devices) {
      await signIn(d, 'foreman')
      const page = await d.newPage()
      page.on('console', (m) => /Content Security Policy|Refused to/.test(m.text()) && violations.push(`${page.url()}: ${m.text()}`))
      pages.push(page)
    }
    await devices[1]?.addInitScript(watchShifts)
    await devices[0]?.addCookies([{ name: 'units', value: 'imperial', url: url() }])
    await devices[1]?.addCookies([{ name: 'theme', value: 'night', url: url() }])
  })
  test.afterAll(async () => {
    for (const d of devices) await d.close()
  })
  for (const [name, path] of PAGES) {
    test(name, async () => {
      const [desk, phone] = pages as [Page, Page]
      await phone.setViewportSize({ width: 390, height: 844 })
      await Promise.all([show(desk, path()), show(phone, path())])
      expect.soft(await desk.evaluate(order), 'headings and tables').toEqual([])
      expect.soft([...(await odd(desk)), ...(await odd(phone))], 'said oddly').toEqual([])
      await expect
        .soft(desk, 'the name of its tab')
        .toHaveTitle(path().startsWith('/walls/') && name !== 'New wall' ? /^.+ · .+ · Stone Tally$/ : /^.+ · Stone Tally$/)
      // Every wall of the Yard is the same row: of the many that other tests made the first fifteen are looked at.
      const but = name === 'Yard' ? 'article:nth-of-type(n + 16)' : undefined
      expect.soft(await unreadable(desk, but), 'readable by everyone at the desk').toEqual([])
      // What this calculator answers is a size of sieve.
      const own = path().endsWith('/filter') ? [' mm'] : []
      expect.soft(await desk.evaluate(metric, [...WRITTEN, ...own]), 'metric words for a reader in feet').toEqual([])
      // At the width it was opened at: nothing moves under a thumb that is on its way.
      expect.soft(await phone.evaluate(moved), 'moved by itself').toEqual([])
      for (const width of [390, 320]) {
        await phone.setViewportSize({ width, height: 844 })
        expect
          .soft(await phone.evaluate(() => document.documentElement.scrollWidth - window.innerWidth), `wider than ${width} px by`)
          .toBeLessThanOrEqual(0)
      }
      await phone.setViewportSize({ width: 390, height: 844 })
      expect.soft(await phone.evaluate(small), 'too small for a finger').toEqual([])
      // On paper a phone has no part of its own.
      if (name !== 'print') expect.soft(await unreadable(phone, but), 'readable by everyone on a phone').toEqual([])
      expect.soft(violations.splice(0), 'against the policy of its own page').toEqual([])
    })
  }
})

test('by keys: past the navigation at one press, and a few Tabs to the first field of the card', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await openBoard(page, await newWall(context, 'By keys'))
  await page.goto(page.url())
  await ready(page)
  // The card has fields once the record is there.
  await expect(page.getByText('Loading the record')).toHaveCount(0)
  await page.keyboard.press('Tab')
  await expect(page.getByRole('link', { name: 'Skip to the work' })).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'Now' })).toBeFocused()
  let tabs = 0
  for (; tabs < 10; tabs++) {
    await page.keyboard.press('Tab')
    if (await page.evaluate(() => document.activeElement?.matches('input:not([type=radio]), textarea'))) break
  }
  expect(tabs).toBeLessThan(6)
})

test('on a phone the record button is on the first screen of a reading, and stays while the card is read', async ({ browser, context }) => {
  const phone = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true })
  await signIn(context, 'foreman')
  await signIn(phone, 'foreman')
  const inspector = await browser.newContext()
  await signIn(inspector, 'inspector')
  const made = await newWall(context, 'On a phone')
  await bring(context, inspector, made, 'pad-level')
  await post(context, `/api/walls/${made}/entries`, { entries: [fact(made, 'setup', {}, { benchmark: 10, backsight: 1.5 })] })
  const page = await phone.newPage()
  await openBoard(page, made)
  const button = page.getByRole('button', { name: 'Record reading' })
  await expect(button).toBeInViewport({ ratio: 1 })
  await page.getByLabel(/Rod reading/).scrollIntoViewIfNeeded()
  await expect(button).toBeInViewport({ ratio: 1 })
  await inspector.close()
  await phone.close()
})
