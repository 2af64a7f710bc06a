import { type InferType, optionalText, optionalYesNo, quantity, record } from '../../base/schema'
import { formatLength } from '../../units/length'
import { defineKind, MEASURERS } from './kind'

/** The instrument set up: benchmark and backsight, m. */
export const setupData = record({
  benchmark: quantity({ min: -500, max: 9000, unit: 'm' }),
  backsight: quantity({ min: 0, max: 10, unit: 'm' }),
  /** The point looked back at; the benchmark of the plan when left out. */
  point: optionalText(60),
  /** It is a turning point: its elevation comes from the foresight before. */
  turning: optionalYesNo(),
})
export type SetupData = InferType<typeof setupData>
export const setup = defineKind({
  kind: 'setup',
  roles: MEASURERS,
  schema: setupData,
  line: (e, r) =>
    `Instrument set up: HI ${formatLength(e.data.benchmark + e.data.backsight, r.units)}, backsight ${formatLength(e.data.backsight, r.units)}${e.data.point ? ` on ${e.data.point}` : ''}`,
})
