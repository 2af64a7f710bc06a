'use client'

import type { Layout, Plan, Problem } from '@stone-tally/core'
import { useSteps } from '@/ui/steps-back'
import { useLaid } from './use-laid'

export interface Draft {
  readonly plan: Plan
  /** The last layout that could be made; `problems` say what is wrong with the plan as it stands now. */
  readonly layout: Layout
  readonly problems: readonly Problem[]
  /** 0 to 1 while a long wall is laid out beside the page. */
  readonly progress: number | undefined
  readonly changed: boolean
  readonly canUndo: boolean
  readonly canRedo: boolean
  edit(change: (p: Plan) => Plan, key?: string): void
  settle(): void
  undo(): void
  redo(): void
}

/** A plan being changed, with undo and redo, and its layout following. */
export function useDraft(start: Plan, initial: Layout): Draft {
  const { now: plan, steps, canUndo, canRedo } = useSteps(start)
  const { made, progress } = useLaid(plan, initial)
  const { edit, settle, undo, redo } = steps
  return { plan, layout: made.layout, problems: made.problems, progress, changed: plan !== start, canUndo, canRedo, edit, settle, undo, redo }
}

/** The line of a plan as it is edited; a wall that is only a length runs straight east. */
export const lineOf = (plan: Plan) =>
  plan.alignment ?? {
    vertices: [
      { easting: 0, northing: 0, bulge: 0 },
      { easting: plan.length, northing: 0, bulge: 0 },
    ],
    closed: false,
  }
