import { chromium } from '@playwright/test'
import { DEMO_PASSWORD, DEMO_PEOPLE } from '../demo/load'

/** Takes the current pictures of the main views from a running demo: tsx scripts/shoot.ts URL FOLDER [name…]. */
const [, , base = 'http://127.0.0.1:3080', folder = 'docs/screenshots', ...only] = process.argv

interface Shot {
  readonly name: string
  readonly as: 'foreman' | 'inspector' | undefined
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
const SHOTS: readonly Shot[] = [
  { name: 'sign-in', as: undefined, path: () => '/sign-in', width: 1280, height: 800 },
  { name: 'yard', as: 'foreman', path: () => '/', width: 1280, height: 800 },
  {
    name: 'board',
    as: 'foreman',
    path: board,
    width: 1280,
    height: 800,
    before: async (p) => void (await p.locator('label', { hasText: 'Section B' }).click()),
  },
  {
    name: 'board-reading',
    as: 'foreman',
    path: board,
    width: 1280,
    height: 800,
    before: async (p) => {
      await p.locator('label', { hasText: 'Section B' }).click()
      await p.getByRole('button', { name: 'Course 5' }).click()
      await p.getByRole('button', { name: 'Step after' }).click()
      await p.getByLabel(/Rod reading/).fill('1.298')
    },
  },
  { name: 'board-night', as: 'inspector', path: board, width: 1280, height: 800, night: true, imperial: true },
  {
    name: 'board-tablet',
    as: 'foreman',
    path: board,
    width: 820,
    height: 1180,
    touch: true,
    before: async (p) => void (await p.locator('label', { hasText: 'Section B' }).click()),
  },
  { name: 'board-phone', as: 'inspector', path: board, width: 390, height: 844, touch: true },
  { name: 'plan', as: 'foreman', path: (w) => `/walls/${w}/plan`, width: 1280, height: 800 },
  {
    name: 'set-out',
    as: 'foreman',
    path: (w) => `/walls/${w}/set-out`,
    wall: 'Kiosk terrace',
    width: 1280,
    height: 800,
    before: async (p) => void (await p.getByRole('button', { name: /^Point 2:/ }).focus()),
  },
  {
    name: 'set-out-corner',
    as: 'foreman',
    path: (w) => `/walls/${w}/set-out`,
    wall: 'Kiosk terrace',
    width: 1280,
    height: 800,
    before: async (p) => {
      await p.locator('label', { hasText: 'Stakes' }).click()
      const box = await p.getByRole('button', { name: /^Point 5:/ }).boundingBox()
      if (!box) return
      await p.mouse.move(box.x + box.width / 2, box.y + box.height / 2 - 20)
      for (let i = 0; i < 8; i++) {
        await p.mouse.wheel(0, -240)
        await p.waitForTimeout(60)
      }
    },
  },
  { name: 'set-out-ring', as: 'foreman', path: (w) => `/walls/${w}/set-out`, wall: 'Compass planter', width: 1280, height: 800 },
  { name: 'set-out-phone', as: 'foreman', path: (w) => `/walls/${w}/set-out`, wall: 'Kiosk terrace', width: 390, height: 844, touch: true },
  { name: 'units', as: 'foreman', path: (w) => `/walls/${w}/units`, wall: 'Kiosk terrace', width: 1280, height: 800 },
  {
    name: 'units-near',
    as: 'foreman',
    path: (w) => `/walls/${w}/units`,
    wall: 'Kiosk terrace',
    width: 1280,
    height: 800,
    before: async (p) => {
      for (let i = 0; i < 3; i++) await p.getByRole('button', { name: 'Zoom in' }).click()
      for (let i = 0; i < 2; i++) await p.getByRole('button', { name: 'Towards the end' }).click()
      const box = await p.getByRole('img', { name: /every unit/ }).boundingBox()
      if (box) await p.mouse.click(box.x + box.width * 0.47, box.y + box.height * 0.45)
    },
  },
  { name: 'gabions', as: 'foreman', path: (w) => `/walls/${w}/units`, wall: 'Breakwater gabions', width: 1280, height: 800 },
  { name: 'catalogue', as: 'foreman', path: () => '/catalogue', width: 1280, height: 800 },
  { name: 'record', as: 'foreman', path: (w) => `/walls/${w}/record`, width: 1280, height: 800 },
  { name: 'print', as: 'foreman', path: (w) => `/walls/${w}/print`, width: 820, height: 1160 },
]

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
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
