import { fail, ok, type Result } from '../base/result'
import { said } from '../base/said'
import { toeAt, topAt } from '../plan'
import { capHeight } from '../systems'
import { gridOn } from './grid'
import { type Layout, stepAt } from './layout'
import { coursesAt } from './section'

/** A mark of the pole; elevation in m, and how it is measured: up the pole from its zero, as a rod reads it, as a drop from the string. m. */
export interface PoleMark {
  readonly kind: 'dig' | 'pad' | 'toe' | 'course' | 'layer' | 'cap' | 'top'
  readonly title: string
  readonly course?: number
  readonly elevation: number
  /** Above the top of the pad, where the pole stands; the bottom of the trench is below it. */
  readonly up: number
  /** What a rod on it reads under the instrument; negative where it is above it. */
  readonly rod?: number
  /** Down from the string; negative where it is above it. */
  readonly drop?: number
}

/** The list a crew measures by at a station: every course top, layer, cap and grade. */
export interface StoryPole {
  readonly station: number
  /** Elevation of the pole's zero: the top of the pad there, m. */
  readonly zero: number
  readonly marks: readonly PoleMark[]
}

/**
 * The story pole of a station, from the bottom of the trench up.
 *
 * @param by - elevation of the instrument and of the string, m, where rod readings and drops are wanted
 * @example storyPole(layout, 12, { hi: 11.482 }).value.marks.find((m) => m.course === 1)?.rod // 1.852
 */
export function storyPole(layout: Layout, station: number, by: { hi?: number | undefined; string?: number | undefined } = {}): Result<StoryPole> {
  const { plan, building } = layout
  if (!(station >= 0 && station <= plan.length + 1e-6))
    return fail('station', `${said.given(station)} is not on the wall, which runs from ${said.given(0)} to ${said.given(plan.length)}`)
  const zero = stepAt(layout.steps, station)
  const marks: PoleMark[] = []
  const put = (kind: PoleMark['kind'], title: string, elevation: number, course?: number) =>
    marks.push({
      kind,
      title,
      elevation,
      up: elevation - zero,
      ...(course === undefined ? {} : { course }),
      ...(by.hi === undefined ? {} : { rod: by.hi - elevation }),
      ...(by.string === undefined ? {} : { drop: by.string - elevation }),
    })
  put('dig', 'Bottom of the trench', zero - building.foundation.thickness)
  put('pad', 'Top of the pad', zero)
  put('toe', 'Ground in front', toeAt(plan, station))
  const courses = coursesAt(layout, station)
  for (const c of courses) {
    put('course', `Course ${c.course}`, c.top, c.course)
    const layer = gridOn(layout, c.course)
    if (layer?.over.some((s) => s.from <= station + 1e-6 && station <= s.to + 1e-6))
      put('layer', `Geogrid, ${layer.type}, on course ${c.course}`, c.top, c.course)
  }
  const last = courses[courses.length - 1]
  if (last && building.cap && layout.caps.some((c) => c.start <= station + 1e-6 && station <= c.to + 1e-6))
    put('cap', 'Top of the cap', last.top + capHeight(building))
  put('top', 'Top grade', topAt(plan, station))
  // From below; a layer lies on the course it is named with.
  return ok({ station, zero, marks: marks.sort((a, b) => a.elevation - b.elevation) })
}

/** Paper the pole is printed on: what of a sheet can be printed on, m. */
export const PAPERS = {
  A4: { width: 0.19, height: 0.27, size: 'A4 portrait' },
  Letter: { width: 0.195, height: 0.252, size: 'letter portrait' },
} as const
export type Paper = keyof typeof PAPERS

/** What two strips share, so that one is taped over the other, m. */
const OVERLAP = 0.02
/** Paper above and below the strip on a sheet, for its number and the check marks, m. */
const MARGIN = 0.03

/** A strip of the pole on one sheet: from and to above the pole's zero, m. */
export interface PoleStrip {
  readonly from: number
  readonly to: number
}

/**
 * The strips a pole is printed on at full size, lowest first, each overlapping the one below.
 *
 * @param low, high - of the marks that are printed, above the pole's zero, m
 * @example poleStrips(0, 0.5, 'A4').length // 3
 */
export function poleStrips(low: number, high: number, paper: Paper): PoleStrip[] {
  const each = PAPERS[paper].height - MARGIN
  const strips: PoleStrip[] = []
  for (let from = low; from < high - 1e-9 || strips.length === 0; from += each - OVERLAP) {
    strips.push({ from, to: from + each })
    if (from + each >= high - 1e-9) break
  }
  return strips
}
