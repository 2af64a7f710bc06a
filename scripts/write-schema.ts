import { writeFileSync } from 'node:fs'
import { tallyJsonSchema } from '@stone-tally/core'

/** Publishes the JSON Schema of the file format from the Yup schemas in force. */
writeFileSync('docs/formats/tally.schema.json', `${JSON.stringify(tallyJsonSchema(), null, 2)}\n`)
