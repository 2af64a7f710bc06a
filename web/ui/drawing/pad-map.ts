import type { PadRaster } from '@stone-tally/core'
import { contours } from 'd3-contour'
import { geoPath } from 'd3-geo'

export interface MapInk {
  readonly high: string
  readonly low: string
  readonly line: string
  readonly ground: string
}

/** Levels of the contours, m: half the tolerance, the tolerance, and multiples of it, either way. */
export const levelsFor = (tolerance: number): number[] => [-3, -2, -1, -0.5, 0.5, 1, 2, 3].map((k) => k * tolerance)

/** Contours of a raster of deviations at the given levels, as d3 makes them. */
export const contoursOf = (raster: PadRaster, levels: readonly number[]) =>
  contours()
    .size([raster.columns, raster.rows])
    .smooth(true)
    .thresholds([...levels])(raster.values as unknown as number[])

/**
 * Paints a map of deviations: high ground hatched one way, low the other, so that it reads on a photocopy; contour lines over it.
 *
 * @param size - px of the map
 */
export function paintPadMap(
  g: CanvasRenderingContext2D,
  raster: PadRaster,
  levels: readonly number[],
  size: { width: number; height: number },
  ink: MapInk,
) {
  const limit = levels[5] ?? 0
  const shapes = contoursOf(raster, levels)
  const sx = size.width / raster.columns
  const sy = size.height / raster.rows
  g.save()
  g.clearRect(0, 0, size.width, size.height)
  // Row 0 is the front, which lies towards the reader.
  g.translate(0, size.height)
  g.scale(sx, -sy)
  const path = geoPath(null, g)
  // Filled from the lowest level up: below it, and from each level upwards. Low ground is what no contour of −k covers.
  for (const shape of shapes) {
    g.beginPath()
    path(shape)
    if (shape.value >= limit - 1e-9) {
      g.globalAlpha = 0.22
      g.fillStyle = ink.high
      g.fill()
    }
    g.globalAlpha = 1
    g.strokeStyle = ink.line
    // The tolerance itself is the heavy line.
    g.lineWidth = (Math.abs(Math.abs(shape.value) - limit) < 1e-9 ? 2.4 : 1) / Math.max(sx, sy)
    g.stroke()
  }
  for (const shape of shapes.filter((s) => s.value <= -limit + 1e-9)) {
    // Everything outside the contour of −k is lower than −k.
    g.beginPath()
    g.rect(0, 0, raster.columns, raster.rows)
    path(shape)
    g.globalAlpha = 0.22
    g.fillStyle = ink.low
    g.fill('evenodd')
  }
  g.restore()
}
