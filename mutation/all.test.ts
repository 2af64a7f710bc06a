// Every test of the core in one file: a mutant loads the core once, not once a file.
import { readdirSync } from 'node:fs'
import { join } from 'node:path'

const folder = join(__dirname, '../core/test')
for (const file of readdirSync(folder, { recursive: true, encoding: 'utf8' }).sort()) if (file.endsWith('.test.ts')) require(join(folder, file))
