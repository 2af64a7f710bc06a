import type { Step, StepStatus, WallState } from '@stone-tally/core'
import type { Fact, Me, RecordResult } from '../use-wall'

/** What every recording panel gets. */
export interface WorkProps {
  state: WallState
  step: Step
  status: StepStatus
  me: Me
  /** The finding a next reading re-checks. */
  recheck: { id: string; station?: number | undefined; offset?: number | undefined } | undefined
  station: number | undefined
  onStation(station: number): void
  record(facts: readonly Fact[]): Promise<RecordResult>
}

export const whereOf = (step: Step, station?: number, offset?: number) => ({
  stage: step.stage.id,
  ...(step.section === undefined ? {} : { section: step.section }),
  ...(step.course === undefined ? {} : { course: step.course }),
  ...(station === undefined ? {} : { station }),
  ...(offset === undefined ? {} : { offset }),
})
