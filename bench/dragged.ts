import { chromium } from '@playwright/test'
import { DEMO_PASSWORD, DEMO_PEOPLE } from '../demo/load'
import { CHROMIUM } from '../scripts/chromium'
import { print } from './print'
import { type Figure, median } from './record'
import { served } from './served'

/** One frame of a screen that is drawn sixty times a second, ms. */
const FRAME = 1000 / 60
const MOVES = 90

/** A grade point dragged on a wall of a kilometre: time of the page’s main thread for every move, everything it causes included. */
async function figures(port: number): Promise<Figure[]> {
  const base = `http://127.0.0.1:${port}`
  const browser = await chromium.launch({ executablePath: CHROMIUM, args: ['--no-sandbox'] })
  try {
    const context = await browser.newContext({ baseURL: base, viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' })
    const email = DEMO_PEOPLE.find((p) => p.role === 'foreman')?.email
    await context.request.post('/api/sign-in', { headers: { origin: base }, data: { email, password: DEMO_PASSWORD } })
    const page = await context.newPage()
    await page.goto('/walls/new?way=type')
    await page.waitForSelector('html[data-ready]')
    await page.getByLabel('Name', { exact: true }).first().fill('A kilometre')
    await page.getByLabel('Length, m', { exact: true }).fill('1000')
    await page.getByLabel('Height, m', { exact: true }).fill('2')
    await page
      .getByRole('navigation', { name: 'Subjects' })
      .getByRole('button', { name: /Ground and heights$/ })
      .click()
    const grip = page.getByRole('group', { name: /^Long section/ }).getByRole('button', { name: /^Top grade at 1000\.00/ })
    await grip.waitFor()
    await page.waitForTimeout(4000)
    const session = await context.newCDPSession(page)
    await session.send('Performance.enable')
    const busy = async () => {
      const { metrics } = await session.send('Performance.getMetrics')
      return (metrics.find((m) => m.name === 'TaskDuration')?.value ?? 0) * 1000
    }
    const box = await grip.boundingBox()
    if (!box) throw new Error('nothing to drag')
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
    await page.mouse.move(x, y)
    await page.mouse.down()
    const each: number[] = []
    let before = await busy()
    const begun = before
    for (let i = 1; i <= MOVES; i++) {
      await page.mouse.move(x, y + 20 * Math.sin(i / 9))
      await page.waitForTimeout(FRAME)
      const now = await busy()
      each.push(now - before)
      before = now
    }
    await page.mouse.up()
    const mean = (before - begun) / MOVES
    return [
      {
        name: 'a grade dragged on 1,000 m: main thread a move / a frame',
        value: mean / FRAME,
        limit: 1,
        over: 'at most',
        unit: 'x',
        note: `${mean.toFixed(1)} ms on average, ${median(each).toFixed(1)} ms the median, ${Math.max(...each).toFixed(0)} ms the longest, where the plan follows`,
      },
    ]
  } finally {
    await browser.close()
  }
}

const site = await served({ errors: 'inherit' })
try {
  print(await figures(site.port))
} finally {
  site.end()
}
