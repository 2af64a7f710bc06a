import { capHeight, type Layout } from '@stone-tally/core'
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'

/** Where stations and elevations lie on the drawing of a wall seen from the front, px; and how its parts are outlined. */
export interface Sheet {
  readonly layout: Layout
  readonly width: number
  readonly height: number
  /** Stations at its edges, m. */
  readonly from: number
  readonly to: number
  readonly perMetre: number
  /** Elevation at its upper edge, m. */
  readonly edge: number
  /** Small and without words. */
  readonly plain: boolean
  /** px of a station, to a tenth: finer is not seen, and a page is half as long. */
  x(station: number): number
  /** px of an elevation. */
  y(elevation: number): number
  inView(from: number, to: number): boolean
  /** Outline of a rectangle of the wall. */
  rect(from: number, to: number, bottom: number, top: number): string
  /** A line that runs along the wall from edge to edge. */
  profile(at: (station: number) => number): string
}

const tenth = (v: number) => Math.round(v * 10) / 10

/** The sheet of a drawing. @example sheetOf({ layout, width: 800, height: 180, from: 0, to: 12 }).x(6) // 400 */
export function sheetOf({
  layout,
  width,
  height,
  from,
  to,
  plain = false,
  down = 0,
}: Pick<Sheet, 'layout' | 'width' | 'height' | 'from' | 'to'> & { plain?: boolean | undefined; down?: number | undefined }): Sheet {
  const perMetre = width / (to - from)
  const low = Math.min(...layout.steps.map((s) => s.elevation)) - layout.building.foundation.thickness
  const high = Math.max(...layout.tops.map((s) => s.elevation)) + capHeight(layout.building)
  const middle = (low + high) / 2
  const along = scaleLinear([from, to], [0, width])
  const up = scaleLinear([middle - 1, middle + 1], [height / 2 + down + perMetre, height / 2 + down - perMetre])
  const [x, y] = [(s: number) => tenth(along(s)), (e: number) => tenth(up(e))]
  return {
    layout,
    width,
    height,
    from,
    to,
    perMetre,
    edge: middle + (height / 2 + down) / perMetre,
    plain,
    x,
    y,
    inView: (a, b) => b >= from && a <= to,
    rect: (a, b, bottom, top) => `M${x(a)} ${y(bottom)}H${x(b)}V${y(top)}H${x(a)}Z`,
    profile: (at) =>
      line()([from, ...layout.plan.grades.map((g) => g.station).filter((s) => s > from && s < to), to].map((s) => [x(s), y(at(s))])) ?? '',
  }
}
