import type { Result } from '../base/result'
import { read, toJsonSchema } from '../base/schema'
import { baseStepsCalculator } from './base-steps'
import { bondCalculator } from './bond'
import type { Calculator } from './calculator'
import { criticalPathCalculator } from './critical-path'
import { drainCalculator } from './drain'
import { embedmentCalculator } from './embedment'
import { filterCalculator } from './filter'
import { gridCutCalculator } from './grid-cut'
import { liftsCalculator } from './lifts'
import { lineAheadCalculator } from './line-ahead'
import { proctorCalculator } from './proctor'
import { rodCalculator } from './rod'
import { sandConeCalculator } from './sand-cone'
import { stockPlanCalculator } from './stock-plan'
import { trenchCalculator } from './trench'
import { truckLoadsCalculator } from './truck-loads'

/** Every calculator, in the order of the work. */
export const CALCULATORS: readonly Calculator[] = [
  rodCalculator,
  baseStepsCalculator,
  embedmentCalculator,
  trenchCalculator,
  liftsCalculator,
  proctorCalculator,
  sandConeCalculator,
  drainCalculator,
  filterCalculator,
  bondCalculator,
  gridCutCalculator,
  truckLoadsCalculator,
  lineAheadCalculator,
  stockPlanCalculator,
  criticalPathCalculator,
]

/** @example calculatorOf('rod')?.title */
export const calculatorOf = (name: string): Calculator | undefined => CALCULATORS.find((c) => c.name === name)

/** Reads the input of a calculator and runs it: the same for the command line and the Bench. */
export function calculate(calculator: Calculator, value: unknown): Result<unknown> {
  const input = read(calculator.schema, value)
  return input.ok ? calculator.run(input.value) : input
}

/** JSON Schema of a calculator's input. */
export const schemaOf = (c: Calculator) => ({ $schema: 'https://json-schema.org/draft/2020-12/schema', title: c.name, ...toJsonSchema(c.schema) })

export type { Calculator, Working } from './calculator'
