import { randomBytes, randomInt } from 'node:crypto'
import { chmodSync, existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

/** A secret of this installation, made at its first start; of two that make it at once the first one's stands. */
function secretOf(file: string, make: () => string): string {
  if (!existsSync(file))
    try {
      writeFileSync(file, make(), { mode: 0o600, flag: 'wx' })
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error
    }
  chmodSync(file, 0o600)
  return readFileSync(file, 'utf8').trim()
}

/** Read off a screen and typed in: without signs that look alike. */
const setupCode = () => Array.from({ length: 8 }, (_, i) => (i === 4 ? '-' : '') + 'abcdefghjkmnpqrstuvwxyz23456789'[randomInt(31)]).join('')

/** What an installation keeps to itself, in its data folder: by what it signs sessions and checkpoints, and the code of its first page. */
export const installationSecrets = (folder: string) => ({
  secret: secretOf(join(folder, 'auth-secret'), () => randomBytes(32).toString('hex')),
  setupCode: secretOf(join(folder, 'setup-code'), setupCode),
  checkpointKey: secretOf(join(folder, 'checkpoint-key'), () => randomBytes(32).toString('hex')),
})
