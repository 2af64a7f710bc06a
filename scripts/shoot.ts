import { chromium } from '@playwright/test'
import { DEMO_PASSWORD, DEMO_PEOPLE } from '../demo/load'
import { CHROMIUM } from './chromium'

/** Takes the current pictures of the main views from a running demo: tsx scripts/shoot.ts URL FOLDER [name…]. */
const [, , base = 'http://127.0.0.1:3080', folder = 'docs/screenshots', ...only] = process.argv

interface Shot {
  readonly name: string
  readonly as: 'foreman' | 'crew' | 'inspector' | 'office' | undefined
  readonly path: (wall: string) => string
  /** Another wall than the first of the demo. */
  readonly wall?: string
  readonly width: number
  readonly height: number
  readonly night?: boolean
  readonly imperial?: boolean
  readonly full?: boolean
  readonly touch?: boolean
  readonly before?: (page: import('@playwright/test').Page) => Promise<void>
}

const board = (w: string) => `/walls/${w}`
const section = (id: string) => async (p: import('@playwright/test').Page) => void (await p.locator('label', { hasText: `Section ${id}` }).click())
const SHOTS: readonly Shot[] = [
  { name: 'yard', as: 'foreman', path: () => '/', width: 1280, height: 800 },
  {
    name: 'board',
    as: 'foreman',
    path: board,
    width: 1280,
    height: 800,
    before: async (p) => void (await p.locator('label', { hasText: 'Section B' }).click()),
  },
  { name: 'board-phone', as: 'inspector', path: board, wall: 'Haul-road bank', width: 390, height: 844, touch: true },
  {
    name: 'plan',
    as: 'foreman',
    path: () => '/walls/new',
    width: 1280,
    height: 900,
    before: async (p) => {
      await p.getByRole('button', { name: /^Type length/ }).click()
      await p.getByLabel('Name', { exact: true }).first().fill('Bakery yard wall')
      await p.getByLabel('Length, m', { exact: true }).fill('14.2')
      await p.getByLabel('Height, m', { exact: true }).fill('0.6')
      await p
        .getByRole('navigation', { name: 'Subjects' })
        .getByRole('button', { name: /What it holds$/ })
        .click()
      await p.getByText('A fence or rail on top').click()
      await p.getByLabel('Behind the face, m').first().fill('1.2')
      await p.getByText('A drive, parking or stored goods').click()
      await p.getByLabel('Behind the face, m').first().fill('1.5')
      await p.getByText(/A load of/).waitFor()
    },
  },
  {
    name: 'set-out',
    as: 'foreman',
    path: (w) => `/walls/${w}/set-out`,
    wall: 'Kiosk terrace',
    width: 1280,
    height: 800,
    before: async (p) => void (await p.getByRole('button', { name: /^Point 2:/ }).focus()),
  },
  { name: 'units', as: 'foreman', path: (w) => `/walls/${w}/units`, wall: 'Boat-lift wall', width: 1280, height: 800 },
  { name: 'stock', as: 'foreman', path: (w) => `/walls/${w}/stock`, width: 1280, height: 900 },
  {
    name: 'days',
    as: 'foreman',
    path: (w) => `/walls/${w}/days`,
    width: 1280,
    height: 1260,
    before: async (p) => void (await p.getByText('in nine of ten').waitFor()),
  },
  {
    name: 'record',
    as: 'foreman',
    path: (w) => `/walls/${w}/record`,
    width: 1280,
    height: 1000,
    before: async (p) => {
      await p.getByRole('button', { name: 'Look now' }).click()
      await p.getByText(/✓ Whole/).waitFor()
      await p.getByRole('button', { name: 'Code to keep' }).click()
    },
  },
  { name: 'print', as: 'foreman', path: (w) => `/walls/${w}/print`, wall: 'Café terrace wall', width: 820, height: 1160 },
  {
    name: 'ground-dig',
    as: 'foreman',
    path: (w) => `/walls/${w}/ground`,
    width: 1280,
    height: 800,
    before: section('B'),
  },
  { name: 'ahead', as: 'foreman', path: (w) => `/walls/${w}/ahead`, width: 1280, height: 1000, before: section('B') },
  { name: 'water', as: 'foreman', path: (w) => `/walls/${w}/water`, width: 1280, height: 1000 },
  { name: 'layers', as: 'foreman', path: (w) => `/walls/${w}/layers`, width: 1280, height: 1100 },
  { name: 'checks', as: 'foreman', path: (w) => `/walls/${w}/checks`, width: 1280, height: 1100, before: section('B') },
  {
    name: 'people',
    as: 'office',
    path: () => '/people',
    width: 1280,
    height: 800,
    before: async (p) => {
      await p.getByLabel('Name, if you like').fill('Wim Corrie')
      await p.getByRole('button', { name: 'Make the link' }).click()
      await p.locator('code').waitFor()
    },
  },
  {
    name: 'rules',
    as: 'foreman',
    path: () => '/rules#chapter-courses',
    width: 1280,
    height: 1000,
    before: async (p) => void (await p.mouse.wheel(0, 900)),
  },
]

const browser = await chromium.launch({
  executablePath: CHROMIUM,
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
})
for (const shot of SHOTS) {
  if (only.length > 0 && !only.includes(shot.name)) continue
  const context = await browser.newContext({
    viewport: { width: shot.width, height: shot.height },
    baseURL: base,
    hasTouch: shot.touch ?? false,
    isMobile: shot.touch ?? false,
  })
  await context.addCookies([
    { name: 'theme', value: shot.night ? 'night' : 'day', url: base },
    { name: 'units', value: shot.imperial ? 'imperial' : 'metric', url: base },
  ])
  const page = await context.newPage()
  page.on('console', (m) => m.type() === 'error' && console.log(`${shot.name}: ${m.text()}`))
  page.on('pageerror', (e) => console.log(`${shot.name}: ${e.message}`))
  if (shot.as) {
    const email = DEMO_PEOPLE.find((p) => p.role === shot.as)?.email
    const answer = await context.request.post('/api/sign-in', { data: { email, password: DEMO_PASSWORD }, headers: { origin: base } })
    if (!answer.ok()) throw new Error(`${shot.name}: sign-in answered ${answer.status()}`)
  }
  let wall = ''
  if (shot.as) {
    await page.goto('/')
    wall = ((await page.getByRole('link', { name: shot.wall ?? 'Queue-lane wall', exact: true }).getAttribute('href')) ?? '').split('/').pop() ?? ''
  }
  await page.goto(shot.path(wall))
  await page.waitForTimeout(1200)
  await shot.before?.(page)
  await page.waitForTimeout(400)
  await page.screenshot({ path: `${folder}/${shot.name}.png`, fullPage: shot.full ?? false })
  await context.close()
}
await browser.close()
