import {
  baseSteps,
  baseStepsInput,
  bond,
  bondInput,
  embedment,
  embedmentInput,
  fail,
  gridCut,
  gridCutInput,
  lifts,
  liftsInput,
  ok,
  type Result,
  read,
  rod,
  rodInput,
  toJsonSchema,
  type yup,
} from '@stone-tally/core'

interface Calculation {
  readonly schema: yup.AnySchema
  run(input: never): Result<unknown>
}

const define = <I>(schema: yup.ISchema<I>, run: (input: I) => Result<unknown>): Calculation => ({
  schema: schema as yup.AnySchema,
  run: run as unknown as (input: never) => Result<unknown>,
})

/** The calculators by name; each is a core function and its Yup schema. */
export const CALCULATIONS: Readonly<Record<string, Calculation>> = {
  'base-steps': define(baseStepsInput, baseSteps),
  bond: define(bondInput, bond),
  embedment: define(embedmentInput, embedment),
  'grid-cut': define(gridCutInput, gridCut),
  lifts: define(liftsInput, lifts),
  rod: define(rodInput, (input) => ok(rod(input))),
}

/** Runs one calculator on JSON text. */
export function calculate(name: string, content: string): Result<unknown> {
  const calculation = CALCULATIONS[name]
  if (!calculation) return fail('name', `"${name}" is not a calculator; there are ${Object.keys(CALCULATIONS).join(', ')}`)
  let value: unknown
  try {
    value = JSON.parse(content.replace(/^\uFEFF/, ''))
  } catch {
    return fail('', 'standard input is not JSON')
  }
  const input = read(calculation.schema, value)
  return input.ok ? calculation.run(input.value as never) : input
}

export const schemaOf = (name: string) => {
  const calculation = CALCULATIONS[name]
  return calculation && { $schema: 'https://json-schema.org/draft/2020-12/schema', title: name, ...toJsonSchema(calculation.schema) }
}
