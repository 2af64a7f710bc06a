import { writeFileSync } from 'node:fs'
import { entriesJsonSchema, rulesJsonSchema, tallyJsonSchema } from '@stone-tally/core'

/** Publishes the JSON Schemas of the file formats from the Yup schemas in force. */
for (const [name, schema] of [
  ['entries', entriesJsonSchema()],
  ['tally', tallyJsonSchema()],
  ['rules', rulesJsonSchema()],
] as const)
  writeFileSync(`docs/formats/${name}.schema.json`, `${JSON.stringify(schema, null, 2)}\n`)
