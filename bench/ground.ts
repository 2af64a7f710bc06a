import { chromium } from '@playwright/test'
import { build } from 'esbuild'
import { DEMO_PASSWORD, DEMO_PEOPLE } from '../demo/load'
import { startInstruments } from '../scripts/build'
import { CHROMIUM } from '../scripts/chromium'
import type { Figure } from './record'
import { served } from './served'

const launch = () => chromium.launch({ executablePath: CHROMIUM, args: ['--no-sandbox', '--disable-gpu'] })

/** Raster, fit, contours and painting of 5,000 readings against one call of d3-contour on the same raster, in Debian's Chromium. */
async function mapFigure(): Promise<Figure> {
  const made = await build({
    entryPoints: ['bench/map-page.ts'],
    bundle: true,
    write: false,
    format: 'iife',
    platform: 'browser',
    target: 'es2022',
    minify: true,
    tsconfig: 'web/tsconfig.json',
  })
  const browser = await launch()
  try {
    const page = await browser.newPage()
    await page.setContent('<!doctype html><title>bench</title>')
    await page.addScriptTag({ content: made.outputFiles[0]?.text ?? '' })
    const r = await page.evaluate(() => (globalThis as unknown as { run(): { ratio: number; all: number; alone: number; readings: number } }).run())
    return {
      name: 'screed map of 5,000 readings / one contour call',
      value: r.ratio,
      limit: 3,
      over: 'at most',
      unit: '×',
      note: `${r.readings} readings; medians ${r.all.toFixed(1)} and ${r.alone.toFixed(1)} ms`,
    }
  } finally {
    await browser.close()
  }
}

/** Two hundred readings a second for a minute through instrument, server and page: how many are lost, and the longest task of the page. */
async function streamFigures(seconds: number): Promise<Figure[]> {
  const instruments = await startInstruments()
  const site = await served({ errors: 'ignore', instruments: instruments.port })
  const { port } = site
  const browser = await launch()
  try {
    const url = `http://127.0.0.1:${port}`
    const context = await browser.newContext()
    const email = DEMO_PEOPLE.find((p) => p.role === 'foreman')?.email
    await context.request.post(`${url}/api/sign-in`, { data: { email, password: DEMO_PASSWORD }, headers: { origin: url } })
    const page = await context.newPage()
    await page.goto(`${url}/instruments`)
    await page.waitForSelector('html[data-ready]')
    await page.getByRole('button', { name: 'Watch LZ-20417' }).click()
    await page.locator('label', { hasText: '200 a second' }).click()
    await page.waitForTimeout(1500)
    // Tasks over 50 ms are what the browser reports; a minute without any leaves the longest below that.
    await page.evaluate(() => {
      const g = globalThis as unknown as { longest: number }
      g.longest = 0
      new PerformanceObserver((list) => {
        for (const e of list.getEntries()) g.longest = Math.max(g.longest, e.duration)
      }).observe({ type: 'longtask' })
    })
    const counts = page.getByTestId('counts')
    const before = Number(await counts.getAttribute('data-count'))
    const start = Date.now()
    await page.waitForTimeout(seconds * 1000)
    const took = (Date.now() - start) / 1000
    const count = Number(await counts.getAttribute('data-count')) - before
    const gaps = Number(await counts.getAttribute('data-gaps'))
    const longest = await page.evaluate(() => (globalThis as unknown as { longest: number }).longest)
    return [
      {
        name: 'readings lost at 200 a second',
        value: gaps,
        limit: 0,
        over: 'at most',
        unit: '',
        note: `${count} came in ${took.toFixed(0)} s, ${(count / took).toFixed(0)} a second`,
      },
      { name: 'readings come at the rate asked for', value: count / took / 200, limit: 0.98, over: 'at least', unit: '×', note: 'of 200 a second' },
      {
        name: 'longest task of the page meanwhile',
        value: longest,
        limit: 100,
        over: 'at most',
        unit: 'ms',
        note: longest === 0 ? 'none over 50 ms' : '',
      },
    ]
  } finally {
    await browser.close()
    instruments.end()
    site.end()
  }
}

export const groundFigures = async (): Promise<Figure[]> => [await mapFigure(), ...(await streamFigures(60))]
