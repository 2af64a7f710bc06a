import { chromium } from '@playwright/test'
import { build } from 'esbuild'
import { CHROMIUM } from '../scripts/chromium'
import type { Figure } from './record'

/** Redraw while panning, measured in Debian's Chromium. */
export async function drawFigures(): Promise<Figure[]> {
  const made = await build({
    entryPoints: ['bench/draw-page.ts'],
    bundle: true,
    write: false,
    format: 'iife',
    platform: 'browser',
    target: 'es2022',
    minify: true,
  })
  const browser = await chromium.launch({ executablePath: CHROMIUM, args: ['--no-sandbox', '--disable-gpu'] })
  try {
    const page = await browser.newPage()
    await page.setContent('<!doctype html><title>bench</title>')
    await page.addScriptTag({ content: made.outputFiles[0]?.text ?? '' })
    const figures: Figure[] = []
    for (const metres of [40, 110]) {
      const r = await page.evaluate(
        (m) => (globalThis as unknown as { run(m: number): { ratio: number; rects: number; units: number } }).run(m),
        metres,
      )
      figures.push({
        name: `redraw while panning, ${metres} m in view / bare loop`,
        value: r.ratio,
        limit: 1.5,
        over: 'at most',
        unit: 'x',
        note: `${r.rects} rectangles a frame of ${r.units} units`,
      })
    }
    const cell = await page.evaluate(() =>
      (globalThis as unknown as { oneCell(): { share: number; rects: number; all: number; own: number; frame: number } }).oneCell(),
    )
    figures.push(
      {
        name: `one cell of ${cell.own} changed: rectangles filled`,
        value: cell.rects,
        limit: 4,
        over: 'at most',
        unit: '',
        note: `of ${cell.all} for the whole wall; ${cell.share.toFixed(1)} % of the time of a whole paint`,
      },
      { name: 'one cell changed / a frame', value: cell.frame, limit: 100, over: 'at most', unit: '%', note: 'looking for what changed included' },
    )
    return figures
  } finally {
    await browser.close()
  }
}
