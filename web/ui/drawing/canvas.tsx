'use client'

import { useEffect, useLayoutEffect, useRef, useState } from 'react'
import { flushSync } from 'react-dom'
import type { Ink } from './paint-units'

/**
 * Draws on a canvas at the device's own resolution, and at print resolution while the page is printed. `fresh` says that the canvas is
 * empty or in other colours; otherwise it shows what was drawn last, and a drawing may paint only what changed.
 */
export function Canvas({
  width,
  height,
  draw,
}: {
  width: number
  height: number
  draw(g: CanvasRenderingContext2D, ink: Ink, fresh: boolean): void
}) {
  const ref = useRef<HTMLCanvasElement>(null)
  const [printing, setPrinting] = useState(false)
  const [theme, setTheme] = useState('')
  const shown = useRef<{ key: string; ink: Ink }>(undefined)
  useEffect(() => {
    // The browser takes its picture as soon as this returns, so the canvas is drawn anew before it does.
    const before = () => flushSync(() => setPrinting(true))
    const after = () => setPrinting(false)
    window.addEventListener('beforeprint', before)
    window.addEventListener('afterprint', after)
    const observer = new MutationObserver(() => setTheme(document.documentElement.dataset.theme ?? ''))
    observer.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] })
    return () => {
      window.removeEventListener('beforeprint', before)
      window.removeEventListener('afterprint', after)
      observer.disconnect()
    }
  }, [])
  useLayoutEffect(() => {
    const canvas = ref.current
    const g = canvas?.getContext('2d')
    if (!canvas || !g) return
    // A printer sets four dots where a screen has one; more than 4,096 a side some devices cannot hold.
    const wanted = printing ? 4 : window.devicePixelRatio || 1
    const scale = Math.min(wanted, 4096 / Math.max(width, height, 1))
    const [w, h] = [Math.round(width * scale), Math.round(height * scale)]
    if (canvas.width !== w || canvas.height !== h) {
      canvas.width = w
      canvas.height = h
    }
    g.setTransform(scale, 0, 0, scale, 0, 0)
    const key = `${w} ${h} ${scale} ${theme} ${document.documentElement.dataset.theme ?? ''}`
    const fresh = shown.current?.key !== key
    const ink = fresh ? inkOf(canvas, g) : (shown.current?.ink ?? inkOf(canvas, g))
    if (fresh) g.clearRect(0, 0, width, height)
    shown.current = { key, ink }
    draw(g, ink, fresh)
  })
  return <canvas ref={ref} aria-hidden style={{ position: 'absolute', inset: 0, width, height, maxWidth: '100%', pointerEvents: 'none' }} />
}

/** The theme's colours as the canvas needs them. */
function inkOf(canvas: HTMLCanvasElement, g: CanvasRenderingContext2D): Ink {
  const css = getComputedStyle(canvas)
  const colour = (name: string, otherwise: string) => css.getPropertyValue(name).trim() || otherwise
  const [done, ink] = [colour('--done', '#6f777c'), colour('--ink', '#000')]
  return {
    unit: colour('--unit', '#f1efe8'),
    line: colour('--line', '#b9b8b0'),
    ink,
    done: colour('--set', '#cfd2d3'),
    cut: colour('--cut', '#fff'),
    stone: stones(g, colour('--soft', '#555'), colour('--unit', '#f1efe8')) ?? colour('--unit', '#f1efe8'),
    mesh: wires(g, colour('--soft', '#555'), colour('--unit', '#f1efe8')) ?? colour('--unit', '#f1efe8'),
    filled: hatch(g, done, ink, colour('--unit', '#f1efe8')) ?? done,
  }
}

const tiles = new Map<string, CanvasPattern | null>()
/** A small tile that repeats; painted once for its colours. */
function tiled(
  g: CanvasRenderingContext2D,
  key: string,
  [width, height]: readonly [number, number],
  under: string,
  paint: (t: CanvasRenderingContext2D) => void,
): CanvasPattern | null {
  const known = tiles.get(key)
  if (known !== undefined) return known
  const tile = document.createElement('canvas')
  tile.width = width
  tile.height = height
  const t = tile.getContext('2d')
  if (!t) return null
  t.fillStyle = under
  t.fillRect(0, 0, width, height)
  paint(t)
  const pattern = g.createPattern(tile, 'repeat')
  tiles.set(key, pattern)
  return pattern
}

/** Stones of uneven size behind mesh: baskets. */
const stones = (g: CanvasRenderingContext2D, ink: string, under: string) =>
  tiled(g, `stone|${ink}|${under}`, [24, 18], under, (t) => {
    t.strokeStyle = ink
    t.lineWidth = 0.8
    t.globalAlpha = 0.7
    for (const [x, y, a, b] of [
      [5, 5, 4.4, 3.6],
      [15, 4, 5, 3.2],
      [22, 11, 4, 3.8],
      [-2, 11, 4, 3.8],
      [10, 13, 5, 3.8],
      [2, 18, 3, 2.6],
      [2, 0, 3, 2.6],
      [18, 17, 3.4, 2.4],
      [18, -1, 3.4, 2.4],
    ] as const) {
      t.beginPath()
      t.ellipse(x, y, a, b, 0.3, 0, Math.PI * 2)
      t.stroke()
    }
  })

/** Wires crossing: a face of welded mats. */
const wires = (g: CanvasRenderingContext2D, ink: string, under: string) =>
  tiled(g, `mesh|${ink}|${under}`, [9, 9], under, (t) => {
    t.strokeStyle = ink
    t.lineWidth = 0.9
    t.beginPath()
    t.moveTo(4.5, 0)
    t.lineTo(4.5, 9)
    t.moveTo(0, 4.5)
    t.lineTo(9, 4.5)
    t.stroke()
  })

/** Slanting lines on grey: set and filled. The same hatch as in the printed sections. */
const hatch = (g: CanvasRenderingContext2D, back: string, ink: string, under: string) =>
  tiled(g, `filled|${back}|${ink}|${under}`, [6, 6], under, (t) => {
    t.globalAlpha = 0.45
    t.fillStyle = back
    t.fillRect(0, 0, 6, 6)
    t.globalAlpha = 1
    t.strokeStyle = ink
    t.lineWidth = 0.7
    for (const shift of [-6, 0, 6]) {
      t.beginPath()
      t.moveTo(shift, 6)
      t.lineTo(shift + 6, 0)
      t.stroke()
    }
  })
