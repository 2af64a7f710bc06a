import { type CourseReading, expectedAt, type GrowthRule, growthOf } from '@stone-tally/core'

/** A rule of heights and one of lean, and the growth of readings by them. */
export const rule: GrowthRule = { model: 'level', limit: 0.006, step: 0.003, grain: 0.001 }
export const lean: GrowthRule = { ...rule, model: 'lean', limit: 0.012, step: 0.006 }
export const line = (from: number, slope: number, courses: number): CourseReading[] =>
  Array.from({ length: courses }, (_, i) => ({ course: i + 1, deviation: from + slope * i }))
export const growth = (readings: readonly CourseReading[], top = 12, of = rule) => {
  const g = growthOf(readings, top, of)
  if (!g) throw new Error('no growth')
  return g
}
export const top = (g: ReturnType<typeof growth>) => expectedAt(g, g.top)
