import { fail, ok } from '../base/result'
import { said } from '../base/said'
import { choice, type InferType, list, optionalQuantity, quantity, record } from '../base/schema'
import { expectedAt, type Growth, growthOf } from '../forecast'
import { defineCalculator } from './calculator'

/** Readings of many walls, course by course (m): height off design, or step back off the design step. */
export const lineAheadInput = record({
  sense: choice(['level', 'lean'] as const),
  courses: quantity({ min: 1, max: 400, whole: true }),
  limit: quantity({ min: 0.0001, max: 1, unit: 'm' }),
  scatter: optionalQuantity({ min: 0.00005, max: 0.1, unit: 'm' }),
  walls: list(
    list(record({ course: quantity({ min: 1, max: 400, whole: true }), deviation: quantity({ min: -1, max: 1, unit: 'm' }) }), 1, 400),
    1,
    100_000,
  ),
})
export type LineAheadInput = InferType<typeof lineAheadInput>
export interface LineAheadOutput {
  readonly walls: readonly { readonly top: number; readonly half: number; readonly leaves?: number }[]
}

export const lineAheadCalculator = defineCalculator<LineAheadInput, LineAheadOutput>({
  name: 'line-ahead',
  title: 'Line ahead',
  purpose: 'What readings so far become at the top, with the band that holds it in 19 cases of 20.',
  formula: 'level: height walks from course to course with a drift; lean: the face is the sum of the steps; three scatters weighed by what was read',
  source: 'Linear Gaussian state space models (Kalman filter) and their Bayesian average; any textbook of time series.',
  schema: lineAheadInput as never,
  example: {
    sense: 'level',
    courses: 12,
    limit: 0.006,
    walls: [
      [
        { course: 1, deviation: 0.001 },
        { course: 2, deviation: 0.002 },
        { course: 3, deviation: 0.004 },
      ],
    ],
  },
  labels: {
    sense: 'What was read',
    courses: 'Courses of the wall',
    limit: ['Limit, either way', 'small'],
    scatter: ['Scatter of a course, from your record', 'small'],
    walls: 'Walls',
    course: 'Course',
    deviation: ['Deviation', 'small'],
  },
  run(input) {
    const walls: { top: number; half: number; leaves?: number }[] = []
    for (const [i, wall] of input.walls.entries()) {
      const sorted = [...wall].sort((a, b) => a.course - b.course)
      for (const [k, r] of wall.entries()) {
        if (r.course > input.courses) return fail(`walls[${i}][${k}].course`, `must be ${input.courses} or less, the last course; not ${r.course}`)
      }
      const twice = sorted.find((r, k) => k > 0 && sorted[k - 1]?.course === r.course)
      if (twice) return fail(`walls[${i}][${wall.lastIndexOf(twice)}].course`, `course ${twice.course} is there twice`)
      const growth = growthOf(sorted, input.courses, {
        model: input.sense,
        limit: input.limit,
        scatter: input.scatter ?? undefined,
        step: 0.003,
        grain: 0.001,
      }) as Growth
      const { deviation, band } = expectedAt(growth, input.courses)
      walls.push({ top: deviation, half: band, ...(growth.leaves === undefined ? {} : { leaves: growth.leaves }) })
    }
    return ok({ walls })
  },
  working: (i, o) =>
    o.walls.slice(0, 20).map((w, k) => ({
      what: i.walls.length === 1 ? 'At the top' : `Wall ${k + 1}, at the top`,
      how: `${i.walls[k]?.length ?? 0} of ${i.courses} courses read${w.leaves === undefined ? '' : `; the expected line leaves the limit at course ${w.leaves}`}`,
      result: `${said.fine(w.top)}, give or take ${said.fine(w.half)}`,
    })),
})
