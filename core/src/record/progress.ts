import { statusOf } from './fold'
import type { WallState } from './state'
import { settled } from './status'
import { stepKey } from './steps'

/** How a course of a section stands at a glance: units set of those planned, filled up, anything open. */
export interface CellProgress {
  readonly set: number
  readonly planned: number
  readonly filled: boolean
  readonly open: boolean
}

/**
 * Progress of one course in one section; every drawing and list shows the same.
 *
 * @example progressOf(state, 'A', 3).set
 */
export function progressOf(state: WallState, section: string, course: number): CellProgress {
  const { open, stages } = state.layout.system
  const stepAt = (stage: string) => state.byKey.get(stepKey({ stage, section, course }))
  const units = stepAt(open.from)
  const set = units ? statusOf(state, units).done : 0
  const done = (stage: string) => {
    const step = stepAt(stage)
    return !step || settled(statusOf(state, step))
  }
  return {
    set,
    planned: units?.planned ?? 0,
    filled: set > 0 && open.until.every(done),
    open: stages.some((s) => {
      const step = s.scope === 'course' ? stepAt(s.id) : undefined
      return step !== undefined && statusOf(state, step).open.length > 0
    }),
  }
}

/** Is the geogrid layer on this course of this section recorded as placed? */
export const gridPlaced = (state: WallState, section: string, course: number): boolean =>
  state.steps.some((s) => s.stage.work.type === 'grid' && s.section === section && s.course === course && statusOf(state, s).done > 0)
