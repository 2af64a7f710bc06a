import type { Result } from '../base/result'
import type { yup } from '../base/schema'
import type { Measure } from '../units'

/** A line of working: what it is, how it comes about with the numbers put in, and what comes out. */
export interface Working {
  readonly what: string
  readonly how: string
  readonly result: string
}

/**
 * A calculator: one formula of the trade with its schema, an example and its working in words. The command line and the Bench
 * serve whatever is in the index; a new one is a file beside these and its line there.
 */
export interface Calculator<I = unknown, O = unknown> {
  readonly name: string
  readonly title: string
  /** What it is for, in a sentence. */
  readonly purpose: string
  readonly formula: string
  readonly source: string
  readonly schema: yup.AnySchema
  readonly example: I
  /** Names of fields for reading, by their name in the schema; with the measure of what is typed in the reader's units. */
  readonly labels: Readonly<Record<string, string | readonly [title: string, measure: Measure]>>
  run(input: I): Result<O>
  working(input: I, output: O): readonly Working[]
}

/** Defines a calculator; input and output types follow from what it is given. */
export const defineCalculator = <I, O>(c: Omit<Calculator<I, O>, 'schema'> & { readonly schema: yup.ISchema<I> }): Calculator =>
  c as unknown as Calculator

/** A number for the working: enough digits to follow, none to drown in. @example num(2013.8312) // '2013.831' */
export const num = (v: number, places = 3) => `${+v.toFixed(places)}`
