import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'

/** Words are the tests' own matter; a changed word breaks no wall. Conditions, signs, limits and blocks do. */
export const EXCLUDED = ['StringLiteral', 'Regex']

/**
 * What is drawn, the same on every machine.
 * ROOMS=rules,water  which folders of core/src; all six of the contract when left out
 * SAMPLE=0.1         a share of their lines, drawn by SEED; the whole when left out
 *
 * @returns the lines of each file, 1-based; undefined for all of them
 */
export function drawn() {
  const rooms = (process.env.ROOMS ?? 'record,rules,ground,water,bond,layout').split(',')
  const share = Number(process.env.SAMPLE ?? 1)
  let seed = Number(process.env.SEED ?? 1)
  /** Lehmer's generator. */
  const draw = () => {
    seed = (seed * 48271) % 2147483647
    return seed / 2147483647
  }
  const files = rooms.flatMap((room) =>
    readdirSync(join('core/src', room), { recursive: true, encoding: 'utf8' })
      .filter((f) => f.endsWith('.ts') && !f.endsWith('index.ts'))
      .sort()
      .map((f) => join('core/src', room, f)),
  )
  const ranges = new Map()
  for (const f of files) {
    if (share >= 1) ranges.set(f, undefined)
    else {
      const lines = readFileSync(f, 'utf8')
        .split('\n')
        .flatMap((_, i) => (draw() < share ? [i + 1] : []))
      if (lines.length > 0) ranges.set(f, lines)
    }
  }
  return { rooms, ranges }
}
