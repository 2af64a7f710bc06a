import { readdirSync } from 'node:fs'
import { join } from 'node:path'

/** The faces every page is set in; a page that is drawn before they are here moves when they come. */
const FACES = [/^archivo-latin-wght-normal\..+\.woff2$/, /^barlow-condensed-latin-[56]00-normal\..+\.woff2$/]
let found: readonly string[] | undefined

/**
 * Addresses of the faces a page asks for together with itself, as the build named them; none where nothing is built.
 *
 * @example fonts() // ['/_next/static/media/archivo-latin-wght-normal.1_q0qa17ptz5n.woff2', …]
 */
export function fonts(): readonly string[] {
  if (found) return found
  try {
    const names = readdirSync(join(process.cwd(), '.next', 'static', 'media')).sort()
    found = FACES.flatMap((is) => names.filter((n) => is.test(n))).map((n) => `/_next/static/media/${n}`)
  } catch {
    found = []
  }
  return found
}
