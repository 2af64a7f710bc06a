import type { GridLayer, Stretch } from '../layout'
import type { Stage } from '../systems'
import type { Where } from './entry'

/** A stage at a place: what a person records next, with what it takes to be done. */
export interface Step {
  readonly key: string
  readonly stage: Stage
  readonly section?: string
  readonly course?: number
  /** Stations that want a reading (m). */
  readonly points: readonly number[]
  /** Distances from the face (m) at each station, where readings are wanted across as well; empty for one line. */
  readonly lines: readonly number[]
  /** Units of the course in this section. */
  readonly planned: number
  /** Lifts that fill the thickness; compacted and loose m. */
  readonly lifts?: { readonly count: number; readonly compacted: number; readonly loose: number }
  readonly grid?: Omit<GridLayer, 'over'>
  /** Stretches (m) that must be covered, where work goes stretch by stretch. */
  readonly over?: readonly Stretch[]
}

export const stepKey = (w: Where) => `${w.stage ?? ''}|${w.section ?? ''}|${w.course ?? ''}`

/** Every place of a step that wants a reading. @example placesOf(step).length */
export const placesOf = (step: Step): { station: number; offset?: number }[] =>
  step.points.flatMap((station) => (step.lines.length === 0 ? [{ station }] : step.lines.map((offset) => ({ station, offset }))))

/** Where a step is, in words: ` section A course 3`. */
export const placeOfStep = (s: Step) => `${s.section ? ` section ${s.section}` : ''}${s.course === undefined ? '' : ` course ${s.course}`}`
/** @example titleOf(step) // 'Course level, section A course 3' */
export const titleOf = (s: Step) => `${s.stage.title}${placeOfStep(s) ? `,${placeOfStep(s)}` : ''}`
