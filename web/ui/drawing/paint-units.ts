import type { Cell, Course, Layout, Piece } from '@stone-tally/core'

/** How a course of a section stands, for drawing: nothing, set, or set and filled; and whether something is wrong there. */
export interface CellLook {
  readonly set: number
  readonly filled: boolean
  readonly open: boolean
}

/** Colours of the theme in force, and the hatch of a filled unit. */
export interface Ink {
  readonly unit: CanvasPattern | string
  readonly line: string
  readonly ink: string
  readonly done: string
  readonly cut: CanvasPattern | string
  readonly filled: CanvasPattern | string
  /** Baskets show their stone. */
  readonly stone: CanvasPattern | string
  /** Wire faces show their wires. */
  readonly mesh: CanvasPattern | string
}

/** What part of the wall is drawn, and how large: stations and elevations (m) to pixels. */
export interface View {
  readonly from: number
  readonly to: number
  readonly width: number
  readonly height: number
  /** Elevation at the top edge, m. */
  readonly high: number
  readonly perMetre: number
}

/** Pixels under which single units are not told apart and a course is drawn as one. */
export const UNIT_PIXELS = 4

/** First piece that ends beyond a station; pieces stand in order of their station, row by row in a band. */
function firstBeyond(pieces: readonly Piece[], station: number): number {
  let low = 0
  let high = pieces.length
  while (low < high) {
    const middle = (low + high) >> 1
    if ((pieces[middle] as Piece).to <= station) low = middle + 1
    else high = middle
  }
  return low
}

/** Is the order of pieces that of their stations? Bands of several rows and rings that begin elsewhere are not. */
const inOrder = new WeakMap<readonly Piece[], boolean>()
function sorted(pieces: readonly Piece[]): boolean {
  let known = inOrder.get(pieces)
  if (known === undefined) {
    known = pieces.every((p, i) => i === 0 || (pieces[i - 1] as Piece).to <= p.start + 1e-6)
    inOrder.set(pieces, known)
  }
  return known
}

/**
 * Paints the units of an elevation: every unit where they are large enough to be told apart, else each course as one bar
 * with the share that is set. Only what lies in the view is looked at.
 *
 * @param g - anything that fills rectangles like a canvas
 * @param cells - only these; all of the wall when left out
 * @returns how many rectangles were filled
 */
export function paintUnits(
  g: Pick<CanvasRenderingContext2D, 'fillRect' | 'fillStyle'>,
  layout: Layout,
  rows: ReadonlyMap<number, Course>,
  view: View,
  ink: Ink,
  look?: (section: string, course: number) => CellLook,
  cells: Iterable<Cell> = layout.cells.values(),
): number {
  const { from, to, perMetre, high } = view
  const close = layout.building.course(1).length * perMetre >= UNIT_PIXELS
  const low = high - view.height / perMetre
  // Mesh is drawn heavy round its stone; block joints are light until they are set.
  const baskets = layout.system.traits.face !== 'plain'
  const gap = baskets ? 1.8 : perMetre > 60 ? 1.4 : 0.8
  const through = layout.system.traits.face === 'stone' ? ink.stone : layout.system.traits.face === 'mesh' ? ink.mesh : undefined
  const own = through === undefined ? ink : { ...ink, unit: through, cut: through, line: ink.ink }
  let filled = 0
  for (const cell of cells) {
    const row = rows.get(cell.course)
    if (!row || row.bottom > high || row.top < low) continue
    if (!cell.stretches.some((s) => s.to > from && s.from < to)) continue
    const seen = look?.(cell.section, cell.course)
    filled += close ? paintCell(g, cell, row, view, own, seen, gap) : paintBar(g, cell, row, view, own, seen)
  }
  return filled
}

const spans = new WeakMap<Cell, readonly (readonly [number, number])[]>()
/**
 * Where a cell's own pieces lie, stretch by stretch. At the end of a section a unit belongs to one of the two, whichever its middle stands
 * in; the other one ends where it begins, so that no cell is ever painted over its neighbour.
 */
function spansOf(cell: Cell): readonly (readonly [number, number])[] {
  let known = spans.get(cell)
  if (!known) {
    known = cell.stretches.flatMap((s) => {
      const own = cell.pieces.filter((p) => (p.start + p.to) / 2 > s.from - 1e-6 && (p.start + p.to) / 2 < s.to + 1e-6)
      return own.length > 0 ? [[Math.min(...own.map((p) => p.start)), Math.max(...own.map((p) => p.to))] as const] : []
    })
    spans.set(cell, known)
  }
  return known
}

/** What a canvas shows at the moment. */
export interface Painted {
  readonly layout: Layout
  readonly view: View
  readonly looks: Map<string, CellLook | undefined>
}

const sameLook = (a: CellLook | undefined, b: CellLook | undefined) =>
  a === b || (a !== undefined && b !== undefined && a.set === b.set && a.filled === b.filled && a.open === b.open)
const sameView = (a: View, b: View) =>
  a.from === b.from && a.to === b.to && a.width === b.width && a.height === b.height && a.high === b.high && a.perMetre === b.perMetre

/**
 * Paints the units, or, where the canvas shows the same wall in the same place already, only the cells whose look changed: a unit
 * recorded on a wall of thousands of cells costs one cell.
 *
 * @param before - what the canvas shows; undefined when it is empty
 * @returns what it shows now, and how many rectangles were filled
 */
export function repaintUnits(
  g: Pick<CanvasRenderingContext2D, 'fillRect' | 'fillStyle' | 'clearRect'>,
  layout: Layout,
  rows: ReadonlyMap<number, Course>,
  view: View,
  ink: Ink,
  look: ((section: string, course: number) => CellLook) | undefined,
  before: Painted | undefined,
): { painted: Painted; rects: number } {
  const kept = before && before.layout === layout && sameView(before.view, view) ? before : undefined
  if (kept) {
    let rects = 0
    for (const [key, cell] of layout.cells) {
      const seen = look?.(cell.section, cell.course)
      if (sameLook(kept.looks.get(key), seen)) continue
      kept.looks.set(key, seen)
      // Bars and units cover whatever was there.
      rects += paintUnits(g, layout, rows, view, ink, () => seen as CellLook, [cell])
    }
    return { painted: kept, rects }
  }
  g.clearRect(0, 0, view.width, view.height)
  const looks = new Map<string, CellLook | undefined>()
  for (const [key, cell] of layout.cells) looks.set(key, look?.(cell.section, cell.course))
  return { painted: { layout, view, looks }, rects: paintUnits(g, layout, rows, view, ink, look) }
}

const returns = new WeakMap<readonly Piece[], readonly number[]>()
/** Where in a list of pieces the returns of other legs stand. */
function returnsOf(pieces: readonly Piece[]): readonly number[] {
  let known = returns.get(pieces)
  if (!known) {
    known = pieces.flatMap((p, i) => (p.kind === 'return' ? [i] : []))
    returns.set(pieces, known)
  }
  return known
}

function paintBar(
  g: Pick<CanvasRenderingContext2D, 'fillRect' | 'fillStyle'>,
  cell: Cell,
  row: Course,
  v: View,
  ink: Ink,
  seen: CellLook | undefined,
): number {
  const y = (v.high - row.top) * v.perMetre
  const h = (row.top - row.bottom) * v.perMetre
  const share = seen && cell.pieces.length > 0 ? Math.min(1, seen.set / cell.pieces.length) : 0
  let n = 0
  for (const s of cell.stretches) {
    const x = (s.from - v.from) * v.perMetre
    const w = (s.to - s.from) * v.perMetre
    g.fillStyle = ink.line
    g.fillRect(x, y, w, h)
    g.fillStyle = ink.unit
    g.fillRect(x, y, w, h > 3 ? h - 0.8 : h)
    n += 2
    if (share > 0) {
      g.fillStyle = seen?.filled ? ink.filled : ink.done
      g.fillRect(x, y, w * share, h > 3 ? h - 0.8 : h)
      n++
    }
  }
  return n
}

function paintCell(
  g: Pick<CanvasRenderingContext2D, 'fillRect' | 'fillStyle'>,
  cell: Cell,
  row: Course,
  v: View,
  ink: Ink,
  seen: CellLook | undefined,
  gap: number,
): number {
  const { pieces } = cell
  const { perMetre: k, from, to, high } = v
  const y = (high - row.top) * k
  const h = (row.top - row.bottom) * k - gap
  const ordered = sorted(pieces)
  const start = ordered ? firstBeyond(pieces, from) : 0
  const set = seen?.set ?? 0
  // The joints are what is left between the units on a bar of ink.
  let n = 0
  for (const [a, b] of spansOf(cell)) {
    if (b <= from || a >= to) continue
    g.fillStyle = set > 0 ? ink.ink : ink.line
    g.fillRect((a - from) * k, y, (b - a) * k, h + gap)
    n++
  }
  let style: string | CanvasPattern = ''
  // The end of the other leg's corner unit is nobody's to set: it is passed over when the set ones are counted.
  const upTo = returnsOf(pieces).reduce((end, r) => (r <= end && set > 0 ? end + 1 : end), set)
  const doneStyle = seen?.filled ? ink.filled : ink.done
  for (let i = start; i < pieces.length; i++) {
    const p = pieces[i] as Piece
    if (p.start >= to) {
      if (ordered) break
      continue
    }
    if (p.to <= from) continue
    const wanted = i < upTo ? doneStyle : p.kind === 'cut' || p.kind === 'mitre' ? ink.cut : ink.unit
    if (wanted !== style) {
      style = wanted
      g.fillStyle = wanted
    }
    const x = (p.start - from) * k
    const w = (p.to - p.start) * k - gap
    if (p.height === undefined) g.fillRect(x, y, w, h)
    else g.fillRect(x, (high - row.bottom - (p.bottom ?? 0) - p.height) * k, w, p.height * k - gap)
    n++
  }
  return n
}

/** The unit under a point of the elevation. */
export interface Picked {
  readonly cell: Cell
  readonly row: Course
  readonly index: number
  readonly piece: Piece
}

/**
 * The unit at a station and elevation (m), if there is one.
 *
 * @example unitAt(layout, 12.3, 10.45)?.piece.kind
 */
export function unitAt(layout: Layout, station: number, elevation: number): Picked | undefined {
  const row = layout.courses.find((c) => elevation >= c.bottom && elevation < c.top)
  if (!row) return undefined
  for (const cell of layout.cells.values()) {
    if (cell.course !== row.course) continue
    const index = cell.pieces.findIndex(
      (p) =>
        station >= p.start &&
        station < p.to &&
        (p.height === undefined || (elevation - row.bottom >= (p.bottom ?? 0) && elevation - row.bottom < (p.bottom ?? 0) + p.height)),
    )
    const piece = cell.pieces[index]
    if (piece) return { cell, row, index, piece }
  }
  return undefined
}
