import { writeFileSync } from 'node:fs'
import { entriesJsonSchema, tallyJsonSchema } from '@stone-tally/core'

writeFileSync('docs/formats/entries.schema.json', `${JSON.stringify(entriesJsonSchema(), null, 2)}\n`)
/** Publishes the JSON Schema of the file format from the Yup schemas in force. */
writeFileSync('docs/formats/tally.schema.json', `${JSON.stringify(tallyJsonSchema(), null, 2)}\n`)
