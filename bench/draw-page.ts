import { layOut, storedPlan } from '@stone-tally/core'
import { type Ink, paintUnits, repaintUnits, type View } from '../web/ui/drawing/paint-units'
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
  const laid = layOut(storedPlan(longWall()))
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
  const ink: Ink = { unit: '#f1efe8', line: '#b9b8b0', ink: '#000', done: '#cdd0d1', cut: '#fffdf2', filled: '#777', stone: '#ccc', mesh: '#ddd' }
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

/** A Board of 40 courses in 100 sections: one unit recorded against the whole wall painted, and against the paint of one frame. */
function oneCell(): { share: number; rects: number; all: number; own: number; frame: number } {
  const plan = longWall()
  const sections = Array.from({ length: 100 }, (_, i) => ({ id: `S${i}`, from: (plan.length * i) / 100, to: (plan.length * (i + 1)) / 100 }))
  const top = Math.max(...plan.grades.map((g) => g.toe)) + plan.unit.height * 39
  const laid = layOut(
    storedPlan({
      ...plan,
      grid: [],
      sections,
      grades: [0, plan.length].map((station) => ({
        station,
        toe: plan.grades[0]?.toe ?? 10,
        top: (plan.grades[0]?.toe ?? 10) + top - Math.max(...plan.grades.map((g) => g.toe)),
      })),
    }),
  )
  if (!laid.ok) throw new Error(laid.problems[0]?.message)
  const layout = laid.value
  const rows = new Map(layout.courses.map((c) => [c.course, c]))
  const canvas = document.createElement('canvas')
  const [width, height] = [1240, 360]
  canvas.width = width
  canvas.height = height
  const g = canvas.getContext('2d')
  if (!g) throw new Error('no canvas')
  const ink: Ink = { unit: '#f1efe8', line: '#b9b8b0', ink: '#000', done: '#cdd0d1', cut: '#fffdf2', filled: '#777', stone: '#ccc', mesh: '#ddd' }
  const cells = [...layout.cells.values()]
  const looks = new Map(cells.map((c) => [`${c.section}/${c.course}`, { set: 3, filled: false, open: false }]))
  const look = (s: string, c: number) => looks.get(`${s}/${c}`) ?? { set: 0, filled: false, open: false }
  // The whole wall in view: the hardest case, every cell is on the canvas.
  const view: View = {
    from: 0,
    to: plan.length,
    width,
    height,
    high: (layout.courses[layout.courses.length - 1]?.top ?? 0) + 1,
    perMetre: width / plan.length,
  }
  const settle = () => g.getImageData(0, 0, 1, 1)
  let painted = repaintUnits(g, layout, rows, view, ink, look, undefined)
  const all = painted.rects
  const [whole, one, counts]: [number[], number[], number[]] = [[], [], []]
  for (let i = 0; i < 40; i++) {
    let start = performance.now()
    painted = repaintUnits(g, layout, rows, view, ink, look, undefined)
    settle()
    whole.push(performance.now() - start)
    const cell = cells[(i * 97) % cells.length]
    if (!cell) continue
    looks.set(`${cell.section}/${cell.course}`, { set: 4 + i, filled: false, open: false })
    start = performance.now()
    painted = repaintUnits(g, layout, rows, view, ink, look, painted.painted)
    settle()
    one.push(performance.now() - start)
    counts.push(painted.rects)
  }
  const middle = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1] ?? Number.NaN
  return { share: (100 * middle(one)) / middle(whole), rects: Math.max(...counts), all, own: cells.length, frame: (100 * middle(one)) / (1000 / 60) }
}
Object.assign(globalThis, { run, oneCell })
