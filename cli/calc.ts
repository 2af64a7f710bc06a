import { CALCULATORS, calculatorOf, fail, type Result, calculate as run, schemaOf as schema } from '@stone-tally/core'

export const NAMES = CALCULATORS.map((c) => c.name)
const unknown = (name: string) => `"${name}" is not a calculator; there are ${NAMES.join(', ')}`

/** Runs one calculator on JSON text. */
export function calculate(name: string, content: string): Result<unknown> {
  const calculator = calculatorOf(name)
  if (!calculator) return fail('name', unknown(name))
  let value: unknown
  try {
    value = JSON.parse(content.replace(/^\uFEFF/, ''))
  } catch {
    return fail('', 'standard input is not JSON')
  }
  return run(calculator, value)
}

export const schemaOf = (name: string) => {
  const calculator = calculatorOf(name)
  return calculator && schema(calculator)
}
