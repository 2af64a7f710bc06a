import { atMost, below, tidy } from '../geometry'
import { toeAt, topAt } from '../plan'
import { gridOn } from './grid'
import { invertAt, type Layout, stepAt } from './layout'
import type { Course } from './rows'

type Point = readonly [number, number]

/** The wall cut at a station. x runs from the face of course 1 into the fill, y is elevation; m. */
export interface WallSection {
  readonly station: number
  readonly toe: number
  readonly top: number
  readonly pad: { readonly x: number; readonly width: number; readonly bottom: number; readonly top: number }
  readonly courses: readonly { readonly course: number; readonly x: number; readonly bottom: number; readonly top: number }[]
  readonly grid: readonly {
    readonly course: number
    readonly x: number
    readonly length: number
    readonly elevation: number
    readonly type: string
  }[]
  /** Left out where the wall has no pipe. */
  readonly pipe?: { readonly x: number; readonly y: number; readonly radius: number }
  /** Line of the cut behind, from the bottom of the trench up. */
  readonly cut: readonly Point[]
}

/** Courses that exist at a station. A step's edge belongs to what follows it, as in `stepAt`; the end of the wall to what is before. */
export const coursesAt = (layout: Layout, station: number): Course[] => {
  const end = layout.plan.length
  return layout.courses.filter((c) =>
    c.stretches.some((s) => atMost(s.from, station) && (below(station, s.to) || (atMost(end, s.to) && atMost(station, end)))),
  )
}

/**
 * Everything the section drawing needs at a station.
 *
 * @example sectionAt(layout, 12).pad.top
 */
export function sectionAt(layout: Layout, station: number): WallSection {
  const { plan, building } = layout
  const { foundation, drain, stone } = building
  const padTop = stepAt(layout.steps, station)
  const padBottom = tidy(padTop - foundation.thickness)
  const courses = coursesAt(layout, station)
  const start = courses[0]?.offset ?? 0
  const { depth } = building.course(courses[0]?.course ?? 1)
  const front = start - (foundation.width - depth) / 2
  const back = start + depth + plan.excavation.behind
  const top = topAt(plan, station)
  const invert = invertAt(layout, station)
  const last = courses[courses.length - 1]?.course ?? 0
  return {
    station,
    toe: toeAt(plan, station),
    top,
    pad: { x: front, width: foundation.width, bottom: padBottom, top: padTop },
    courses: courses.map((c) => ({ course: c.course, x: c.offset, bottom: c.bottom, top: c.top })),
    grid: courses.flatMap((course) => {
      const g = course.course < last ? gridOn(layout, course.course) : undefined
      const here = g && (!g.crossing || g.over.some((s) => atMost(s.from, station) && atMost(station, s.to)))
      return g && here ? [{ course: g.course, x: course.offset, length: g.length, elevation: course.top, type: g.type }] : []
    }),
    ...(drain && invert !== undefined
      ? { pipe: { x: start + depth + Math.max(stone?.width ?? 0, drain.diameter) / 2, y: invert + drain.diameter / 2, radius: drain.diameter / 2 } }
      : {}),
    cut: [
      [front, toeAt(plan, station)],
      [front, padBottom],
      [back, padBottom],
      [back + plan.excavation.slope * (top - padBottom), top],
    ],
  }
}
