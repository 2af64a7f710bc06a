import type { ComponentType } from 'react'
import { CheckWork } from './check'
import { GridWork } from './grid'
import { LiftsWork } from './lifts'
import { PicksWork } from './picks'
import { PipeWork } from './pipe'
import { ReadingsWork } from './readings'
import type { WorkProps } from './types'
import { UnitsWork } from './units'

/** The panel for each type of work. */
export const PANELS: Readonly<Record<string, ComponentType<WorkProps>>> = {
  check: CheckWork,
  units: UnitsWork,
  lifts: LiftsWork,
  grid: GridWork,
  picks: PicksWork,
  pipe: PipeWork,
  readings: ReadingsWork,
}
