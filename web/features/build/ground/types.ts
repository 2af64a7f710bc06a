import { type Measure, parseAmount, type Step, type UnitSystem, type WallState } from '@stone-tally/core'
import type { Fact, Me, RecordResult } from '@/features/wall'

/** What every panel of the ground page gets. */
export interface GroundProps {
  wall: string
  state: WallState
  section: string
  station: number
  onStation(station: number): void
  units: UnitSystem
  me: Me
  record(facts: readonly Fact[]): Promise<RecordResult>
  /** Id of the finding that is to be re-checked. */
  finding: string | undefined
  /** The step whose tests are owed, where somebody came for those. */
  tested?: string | undefined
}

/** The step of a section that aims at something. */
export const stepOf = (state: WallState, section: string, is: (s: Step) => boolean) => state.steps.find((s) => s.section === section && is(s))
export const digStep = (state: WallState, section: string) =>
  stepOf(state, section, (s) => s.stage.work.type === 'readings' && s.stage.work.target === 'dig')
export const padStep = (state: WallState, section: string) =>
  stepOf(state, section, (s) => s.stage.work.type === 'lifts' && s.stage.work.of === 'pad')
export const padLevelStep = (state: WallState, section: string) =>
  stepOf(state, section, (s) => s.stage.work.type === 'readings' && s.stage.work.target === 'pad')

/** An amount as it is typed in the reader's units, in SI; NaN where it cannot be read. @example amountOf('125.9', 'density', 'imperial') */
export function amountOf(text: string, measure: Measure, units: UnitSystem): number {
  const read = parseAmount(text, measure, units)
  return read.ok ? read.value : Number.NaN
}

/** Numbers as they are typed: point or comma. */
export const numberOf = (text: string) => (/^[+-]?(\d+([.,]\d*)?|[.,]\d+)$/.test(text.trim()) ? Number(text.trim().replace(',', '.')) : Number.NaN)
