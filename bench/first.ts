import { request } from 'node:http'
import { gzipSync } from 'node:zlib'
import { type BrowserContext, chromium, type Page } from '@playwright/test'
import { DEMO_PASSWORD, DEMO_PEOPLE } from '../demo/load'
import { CHROMIUM } from '../scripts/chromium'
import { barePage } from './bare'
import { print } from './print'
import { type Figure, median } from './record'
import { served } from './served'
import { wallOf } from './wall-of'

const ROUNDS = 7
const most = (name: string, value: number, limit: number, unit: string, note: string): Figure => ({ name, value, limit, unit, over: 'at most', note })

/** A device that was never here opens a wall: until its Board says what is next, ms. */
async function firstContact(make: () => Promise<BrowserContext>, wall: string): Promise<number> {
  const context = await make()
  const page = await context.newPage()
  const start = performance.now()
  await page.goto(`/walls/${wall}`, { waitUntil: 'commit' })
  await page.waitForSelector('section#work h2', { timeout: 60_000 })
  const taken = performance.now() - start
  await context.close()
  return taken
}

/** Bytes over the line for an answer of the house. */
const bytesOf = (base: string, cookie: string, path: string) =>
  new Promise<number>((done, failed) => {
    const asked = request(`${base}${path}`, { headers: { cookie, 'accept-encoding': 'gzip' } }, (answer) => {
      let bytes = 0
      answer.on('data', (d: Buffer) => {
        bytes += d.length
      })
      answer.on('end', () => done(bytes))
    })
    asked.on('error', failed)
    asked.end()
  })

/** From the Board to Water and back by a tap, ms. */
async function taps(page: Page): Promise<number> {
  const times: number[] = []
  for (let i = 0; i < ROUNDS; i++) {
    const one = await page.evaluate(async () => {
      // Nothing in here has a name: the runner marks what has one, and the page knows no such marks.
      ;(
        [...document.querySelectorAll('nav[aria-label="Places of this wall"] button')].find((e) =>
          e.textContent?.startsWith('Build it'),
        ) as HTMLElement
      ).click()
      await new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))
      const start = performance.now()
      ;([...document.querySelectorAll('nav[aria-label="Places of this wall"] a')].find((e) => e.textContent === 'Water') as HTMLElement).click()
      while (document.querySelector('h1')?.textContent !== 'Water') await new Promise((done) => requestAnimationFrame(done))
      ;([...document.querySelectorAll('nav[aria-label="Places of this wall"] a')].find((e) => e.textContent === 'Board') as HTMLElement).click()
      while (document.querySelector('h1')?.textContent !== 'Board') await new Promise((done) => requestAnimationFrame(done))
      return performance.now() - start
    })
    if (i > 1) times.push(one)
  }
  return median(times)
}

/** What a page holds, bytes, after what nobody needs was let go. */
async function heap(page: Page): Promise<number> {
  const cdp = await page.context().newCDPSession(page)
  for (let i = 0; i < 3; i++) await cdp.send('HeapProfiler.collectGarbage')
  const { usedSize } = (await cdp.send('Runtime.getHeapUsage')) as { usedSize: number }
  await cdp.detach()
  return usedSize
}

/** A phone six times slower than this machine on a slow network of phones. */
const SLOW = { cpu: 6, latency: 150, bytes: (1600 * 1000) / 8 }

/**
 * How long a slow phone waits until words stand on a page, ms: the page itself notes the first picture they are in, since a question from
 * outside waits for whatever its one thread does after that.
 */
async function slowly(make: () => Promise<BrowserContext>, path: string, words: string): Promise<number> {
  const times: number[] = []
  for (let i = 0; i < 7; i++) {
    const context = await make()
    const page = await context.newPage()
    const cdp = await context.newCDPSession(page)
    await cdp.send('Network.enable')
    await cdp.send('Network.emulateNetworkConditions', {
      offline: false,
      latency: SLOW.latency,
      downloadThroughput: SLOW.bytes,
      uploadThroughput: SLOW.bytes / 2,
    })
    await cdp.send('Emulation.setCPUThrottlingRate', { rate: SLOW.cpu })
    await page.addInitScript((wanted) => {
      const look = new MutationObserver(() => {
        if (!document.querySelector(wanted)) return
        look.disconnect()
        // The second picture from now has them in it.
        requestAnimationFrame(() =>
          requestAnimationFrame(() => {
            document.documentElement.dataset.read = `${performance.now()}`
          }),
        )
      })
      look.observe(document, { childList: true, subtree: true })
    }, words)
    await page.goto(path, { waitUntil: 'commit' })
    await page.waitForSelector('html[data-read]', { timeout: 120_000 })
    times.push(Number(await page.getAttribute('html', 'data-read')))
    await context.close()
  }
  return median(times)
}

async function figures(port: number, least: string): Promise<Figure[]> {
  const base = `http://127.0.0.1:${port}`
  const browser = await chromium.launch({ executablePath: CHROMIUM, args: ['--no-sandbox'] })
  const make = async (serviceWorkers: 'allow' | 'block' = 'allow') => {
    const context = await browser.newContext({ baseURL: base, serviceWorkers, viewport: { width: 1280, height: 800 } })
    const email = DEMO_PEOPLE.find((p) => p.role === 'foreman')?.email
    await context.request.post('/api/sign-in', { headers: { origin: base }, data: { email, password: DEMO_PASSWORD } })
    return context
  }
  try {
    const context = await make()
    const [few, many] = [await wallOf(context, base, 200), await wallOf(context, base, 20_000)]
    const short: number[] = []
    const long: number[] = []
    for (let i = 0; i < ROUNDS; i++) {
      short.push(await firstContact(make, few))
      long.push(await firstContact(make, many))
    }
    const cookie = (await context.storageState()).cookies.map((c) => `${c.name}=${c.value}`).join('; ')
    const plain = await (await context.request.get(`/api/walls/${many}/entries?after=0`)).text()
    const [entries, glimpse] = [
      await bytesOf(base, cookie, `/api/walls/${many}/entries?after=0&head=1`),
      await bytesOf(base, cookie, `/api/walls/${many}/glimpse`),
    ]
    const zipped = gzipSync(plain).length

    // A tap, with the house and without.
    const page = await context.newPage()
    await page.goto(`/walls/${many}`)
    await page.waitForSelector('html[data-ready]')
    await page.evaluate(() => navigator.serviceWorker.ready.then(() => true))
    await page.waitForTimeout(6000)
    const online = await taps(page)
    const held = await heap(page)
    await context.setOffline(true)
    const shell = await context.newPage()
    await shell.goto(`/walls/${many}`)
    await shell.waitForSelector('section#work h2')
    await shell.waitForTimeout(3000)
    const offline = await taps(shell)
    await context.setOffline(false)

    // Memory: what the tab holds above an empty page, against its entries parsed and nothing else.
    const bare = await context.newPage()
    await bare.goto('about:blank')
    // What asks a page from outside lies in it too, and in this one as well.
    await bare.waitForSelector('html', { state: 'attached' })
    const empty = await heap(bare)
    await bare.evaluate((lines) => {
      Object.assign(window, {
        parsed: lines
          .split('\n')
          .filter(Boolean)
          .map((l) => JSON.parse(l)),
      })
    }, plain)
    const parsed = (await heap(bare)) - empty
    const small = await context.newPage()
    await small.goto(`/walls/${few}`)
    await small.waitForSelector('section#work h2')
    await small.waitForTimeout(3000)
    const app = await heap(small)

    // Scripts at first view, against the page with the least on it.
    const weigh = async (path: string, signedIn: boolean) => {
      const fresh = signedIn ? await make('block') : await browser.newContext({ baseURL: base, serviceWorkers: 'block' })
      const look = await fresh.newPage()
      let bytes = 0
      const cdp = await fresh.newCDPSession(look)
      await cdp.send('Network.enable')
      const scripts = new Set<string>()
      cdp.on('Network.responseReceived', (e) => e.type === 'Script' && scripts.add(e.requestId))
      cdp.on('Network.loadingFinished', (e) => {
        if (scripts.has(e.requestId)) bytes += e.encodedDataLength
      })
      await look.goto(path)
      await look.waitForSelector('html[data-ready]')
      await look.waitForTimeout(1500)
      await fresh.close()
      return bytes
    }
    const [board, water, plainest] = [await weigh(`/walls/${few}`, true), await weigh(`/walls/${few}/water`, true), await weigh(least, false)]
    const slowNow = await slowly(() => make('block'), `/walls/${few}`, 'section#work h2')
    const slowBare = await slowly(() => browser.newContext({ viewport: { width: 390, height: 844 } }), least, 'h1')
    const kB = (n: number) => `${Math.round(n / 1000)} kB`
    return [
      most(
        'first contact, Board says what is next: 20,000 entries / 200',
        median(long) / median(short),
        1.5,
        'x',
        `${Math.round(median(long))} and ${Math.round(median(short))} ms`,
      ),
      most(
        'first contact, transfer / entries zipped and the glimpse',
        (entries + glimpse) / (zipped + glimpse),
        1.1,
        'x',
        `${kB(entries)} and ${kB(glimpse)}; zipped whole ${kB(zipped)}`,
      ),
      most('a tap to its place: offline / online', offline / online, 1.2, 'x', `${Math.round(offline)} and ${Math.round(online)} ms there and back`),
      most(
        'memory of a tab with 20,000 entries above one with 200 / entries parsed',
        (held - app) / parsed,
        2,
        'x',
        `${kB(held)}, ${kB(app)}, ${kB(parsed)}; an empty page ${kB(empty)}`,
      ),
      most(
        'memory of a tab with 20,000 entries above an empty page / entries parsed',
        (held - empty) / parsed,
        2,
        'x',
        'application and framework counted in',
      ),
      most('script of the Board at first view / of a bare page', board / plainest, 1.6, 'x', `${kB(board)} and ${kB(plainest)}`),
      most('script of Water at first view / of a bare page', water / plainest, 1.6, 'x', `${kB(water)} and ${kB(plainest)}`),
      most(
        'slow phone: Now readable / a bare page readable',
        slowNow / slowBare,
        1.5,
        'x',
        `${Math.round(slowNow)} and ${Math.round(slowBare)} ms; processor ${SLOW.cpu} times slower, ${SLOW.latency} ms, 1.6 Mbit/s`,
      ),
    ]
  } finally {
    await browser.close()
  }
}

const site = await served({ errors: 'inherit' })
const bare = await barePage()
try {
  print(await figures(site.port, bare.base))
} finally {
  bare.end()
  site.end()
}
