import { type BrowserContext, chromium } from '@playwright/test'
import { DEMO_PASSWORD, DEMO_PEOPLE } from '../demo/load'
import { CHROMIUM } from '../scripts/chromium'
import { print } from './print'
import { type Figure, median } from './record'
import { served } from './served'
import { wallOf } from './wall-of'

const ROUNDS = 9

/** From the Board to Water, to Checks and back: how long until each is shown, ms, and what was asked for meanwhile. */
async function round(context: BrowserContext, wall: string): Promise<{ shown: number; asked: number }> {
  const page = await context.newPage()
  await page.goto(`/walls/${wall}`)
  await page.waitForSelector('html[data-ready]')
  await page.waitForResponse((r) => r.url().includes('/live')).catch(() => undefined)
  await page.waitForTimeout(1500)
  let asked = 0
  page.on('request', (r) => {
    if (/\/(entries|live)\b/.test(r.url())) asked++
  })
  const go = (group: string | undefined, place: string, heading: string) =>
    page.evaluate(
      async ([group, place, heading]) => {
        const nav = document.querySelector('nav[aria-label="Places of this wall"]') as HTMLElement
        // Nothing in here has a name: the runner marks what has one, and the page knows no such marks.
        if (group) ([...nav.querySelectorAll('button')].find((e) => e.textContent?.startsWith(group)) as HTMLElement).click()
        await new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))
        const start = performance.now()
        ;([...nav.querySelectorAll('a')].find((e) => e.textContent === place) as HTMLElement).click()
        while (document.querySelector('h1')?.textContent !== heading || document.body.textContent?.includes('Loading the record'))
          await new Promise((done) => requestAnimationFrame(done))
        return performance.now() - start
      },
      [group, place, heading] as const,
    )
  const times: number[] = []
  for (let i = 0; i < ROUNDS; i++) {
    const one = (await go('Build it', 'Water', 'Water')) + (await go('Prove it', 'Checks', 'Checks')) + (await go(undefined, 'Board', 'Board'))
    // The first time the scripts of a place come in.
    if (i > 1) times.push(one)
  }
  await page.close()
  return { shown: median(times), asked }
}

async function figures(port: number): Promise<Figure[]> {
  const base = `http://127.0.0.1:${port}`
  const browser = await chromium.launch({ executablePath: CHROMIUM, args: ['--no-sandbox'] })
  try {
    const context = await browser.newContext({ baseURL: base, viewport: { width: 1280, height: 800 } })
    const email = DEMO_PEOPLE.find((p) => p.role === 'foreman')?.email
    await context.request.post('/api/sign-in', { headers: { origin: base }, data: { email, password: DEMO_PASSWORD } })
    const [few, many] = [await wallOf(context, base, 200), await wallOf(context, base, 20_000)]
    const [short, long] = [await round(context, few), await round(context, many)]
    return [
      {
        name: 'Board, Water, Checks and back: 20,000 entries / 200',
        value: long.shown / short.shown,
        limit: 2,
        over: 'at most',
        unit: 'x',
        note: `${Math.round(long.shown)} ms and ${Math.round(short.shown)} ms`,
      },
      { name: 'entries or streams asked for on the way', value: long.asked, limit: 0, over: 'at most', unit: '', note: `${ROUNDS} rounds` },
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
