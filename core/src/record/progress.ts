import { statusOf } from './fold'
import type { WallState } from './state'
import { settled } from './status'
import { stepKey } from './step'

/** How a course of a section stands at a glance: units set of those planned, filled up, anything open. */
export interface CellProgress {
  readonly set: number
  readonly planned: number
  readonly filled: boolean
  readonly open: boolean
  /** Something was recorded for an earlier revision and does not match the plan in force. */
  readonly changed: boolean
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
    changed: stages.some((s) => {
      const step = s.scope === 'course' ? stepAt(s.id) : undefined
      return step !== undefined && state.logs.has(step.key) && statusOf(state, step).unmatched.length > 0
    }),
  }
}

/** Progress of every course of the wall, kept from one state to the next. */
export interface ProgressBook {
  of(section: string, course: number): CellProgress
  /** Of what it was made; not to be read. */
  readonly cells: Map<string, (CellProgress | undefined)[]>
  readonly logs: WallState['logs']
  readonly layout: WallState['layout']
  readonly upTo: number
}

/**
 * Progress by course; after an entry only the course it touched is looked at again, the others are the very same objects.
 *
 * @param earlier - the book before; it is used up
 * @example book = progressBook(state, book); book.of('A', 3).set
 */
export function progressBook(state: WallState, earlier?: ProgressBook): ProgressBook {
  const { logs, layout, touched } = state
  const kept = earlier && earlier.logs === logs && earlier.layout === layout && earlier.upTo <= touched.length ? earlier : undefined
  const cells = kept?.cells ?? new Map<string, (CellProgress | undefined)[]>()
  for (let i = kept?.upTo ?? touched.length; i < touched.length; i++) {
    const own = cells.get(touched[i]?.section ?? '')
    if (own) own[touched[i]?.course ?? 0] = undefined
  }
  return {
    of(section, course) {
      let own = cells.get(section)
      if (!own) {
        own = []
        cells.set(section, own)
      }
      own[course] ??= progressOf(state, section, course)
      return own[course] as CellProgress
    },
    cells,
    logs,
    layout,
    upTo: touched.length,
  }
}

const gridStage = (state: WallState) => state.layout.system.stages.find((s) => s.work.type === 'grid')?.id

/** Is the geogrid layer on this course of this section recorded as placed? */
export function gridPlaced(state: WallState, section: string, course: number): boolean {
  const step = state.byKey.get(stepKey({ stage: gridStage(state), section, course }))
  return step !== undefined && state.logs.has(step.key) && statusOf(state, step).done > 0
}
