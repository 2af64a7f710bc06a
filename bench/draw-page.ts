import { layOut } from '@stone-tally/core'
import { type Ink, paintUnits, type View } from '../web/ui/drawing/paint-units'
import { longWall } from './long-wall'

interface Rect {
  style: string | CanvasPattern
  x: number
  y: number
  w: number
  h: number
}

/** Runs in the browser: panning the long wall against a bare loop over the same rectangles. */
function run(metres: number): { ratio: number; units: number; rects: number } {
  const laid = layOut(longWall())
  if (!laid.ok) throw new Error('not laid out')
  const layout = laid.value
  const rows = new Map(layout.courses.map((c) => [c.course, c]))
  const canvas = document.createElement('canvas')
  const [width, height] = [1240, 360]
  canvas.width = width
  canvas.height = height
  document.body.append(canvas)
  const g = canvas.getContext('2d')
  if (!g) throw new Error('no canvas')
  const ink: Ink = { unit: '#f1efe8', line: '#b9b8b0', ink: '#000', done: '#cdd0d1', cut: '#fffdf2', filled: '#777', stone: '#ccc' }
  const perMetre = width / metres
  const middle = layout.courses[layout.courses.length >> 1]?.bottom ?? 0
  const viewAt = (from: number): View => ({ from, to: from + metres, width, height, high: middle + height / 2 / perMetre, perMetre })
  const look = (_s: string, course: number) => ({ set: course < 20 ? 1e6 : 30, filled: course < 15, open: false })
  // Reading a pixel back makes the browser really draw.
  const settle = () => g.getImageData(0, 0, 1, 1)
  const frames = 40
  const lists = Array.from({ length: frames }, (_, i) => {
    const rects: Rect[] = []
    const fake = {
      fillStyle: '' as string | CanvasPattern,
      fillRect: (x: number, y: number, w: number, h: number) => void rects.push({ style: fake.fillStyle, x, y, w, h }),
    }
    paintUnits(fake as unknown as CanvasRenderingContext2D, layout, rows, viewAt((i * 900) / frames), ink, look)
    return rects
  })
  const ratios: number[] = []
  for (let round = 0; round < 9; round++) {
    let bare = 0
    let own = 0
    for (let i = 0; i < frames; i++) {
      const list = lists[i] ?? []
      let start = performance.now()
      g.clearRect(0, 0, width, height)
      let style: string | CanvasPattern = ''
      for (const r of list) {
        if (r.style !== style) {
          style = r.style
          g.fillStyle = style
        }
        g.fillRect(r.x, r.y, r.w, r.h)
      }
      settle()
      bare += performance.now() - start
      start = performance.now()
      g.clearRect(0, 0, width, height)
      paintUnits(g, layout, rows, viewAt((i * 900) / frames), ink, look)
      settle()
      own += performance.now() - start
    }
    if (round > 1) ratios.push(own / bare)
  }
  ratios.sort((a, b) => a - b)
  return {
    ratio: ratios[ratios.length >> 1] ?? Number.NaN,
    units: layout.runs.flat().reduce((n, r) => n + r.pieces.length, 0),
    rects: Math.round(lists.reduce((n, l) => n + l.length, 0) / frames),
  }
}
Object.assign(globalThis, { run })
