import type { CourseReading, GrowthModel } from './rule'
import { generalScatter, quietestScatter, READING_NOISE } from './walks'

/** How much the courses of a wall scattered: squares (m²) of what each differed from the one below, and of how many. */
export interface CourseScatter {
  readonly steps: number
  readonly squares: number
}

/** What courses of a company scatter by, one standard deviation a course, m; left out where nothing was read. */
export type Scatter = Readonly<Partial<Record<GrowthModel, number>>>

/** How many courses of its own a crew must have read before its record weighs as much as what is believed of crews in general. */
const BELIEF = 30

/**
 * What the readings of one wall say of its crew. The noise of the readings is taken out. Stations of one wall share courses and
 * units, so that many of them say less than as many walls: they count by the root of their number.
 *
 * @param stations - deviations by course from the lowest, of each station, m: heights, or where the face stands
 * @returns what it comes to, for `scatterOf`
 * @example scatterSeen([[{ course: 1, deviation: 0 }, { course: 2, deviation: 0.002 }]], 'level').steps // 1
 */
export function scatterSeen(stations: readonly (readonly CourseReading[])[], model: GrowthModel): CourseScatter {
  // Two readings of height stand behind a difference; of setbacks each difference is one reading.
  const noise = (courses: number) => (model === 'level' ? 2 : courses) * READING_NOISE * READING_NOISE
  let [steps, squares, told] = [0, 0, 0]
  for (const readings of stations) {
    if (readings.length > 1) told++
    for (let i = 1; i < readings.length; i++) {
      const [a, b] = [readings[i - 1] as CourseReading, readings[i] as CourseReading]
      const courses = b.course - a.course
      if (courses < 1) continue
      steps += courses
      squares += (b.deviation - a.deviation) ** 2 - noise(courses)
    }
  }
  const share = told === 0 ? 0 : 1 / Math.sqrt(told)
  return { steps: steps * share, squares: squares * share }
}

/**
 * What courses of a company scatter by, from its walls and what is believed of crews in general: one standard deviation a course, m.
 * Never less than the quietest crew believed of: a band is made narrower by a long record only, and not without end.
 *
 * @returns undefined where nothing was read
 * @example scatterOf([{ steps: 300, squares: 300 * 0.0008 ** 2 }], 'level') // 0.00085
 */
export function scatterOf(walls: readonly CourseScatter[], model: GrowthModel): number | undefined {
  const steps = walls.reduce((sum, w) => sum + w.steps, 0)
  if (steps === 0) return undefined
  const squares = walls.reduce((sum, w) => sum + w.squares, 0)
  const mean = (BELIEF * generalScatter(model) ** 2 + squares) / (BELIEF + steps)
  return Math.max(quietestScatter(model), Math.sqrt(Math.max(0, mean)))
}
