/** A reading of one station: the course it was taken on and how far off it was, m (+ is high, or out). */
export interface CourseReading {
  readonly course: number
  readonly deviation: number
}

/**
 * level: a reading is how high a course lies; what one course is off, the next one starts from. lean: a reading is how far a course
 * steps back more or less than designed; the face of the top is the sum of all steps.
 */
export type GrowthModel = 'level' | 'lean'

/** What is known beforehand, and what is allowed; lengths m. */
export interface GrowthRule {
  readonly model: GrowthModel
  /** Either way, at every course. */
  readonly limit: number
  /** What courses of this company scatter by, one standard deviation a course, where its own record says it. */
  readonly scatter?: number | undefined
  /** The most that one course can be corrected by, and the least that anyone can work to. */
  readonly step: number
  readonly grain: number
}
