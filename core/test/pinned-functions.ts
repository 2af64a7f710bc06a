// What is worked out of numbers alone, on coarse numbers: halves, eighths and tenths, so that what lies exactly at a limit comes up again and again.

import { createHash } from 'node:crypto'
import { KINDS, say } from '@stone-tally/core'
import type { Draw, Pinned } from './drawn'
import { numbers } from './pinned'
import { BOND } from './pinned-bond'
import { GROUND } from './pinned-ground'
import { kindSaid } from './pinned-kinds'
import { plansCompared } from './pinned-plans'
import { buried, recommended, rulesSaid, strangeBooks } from './pinned-rules'

/** What is pinned: each on so many draws. */
export const FUNCTIONS: Readonly<Record<string, Pinned>> = {
  ...GROUND,
  ...Object.fromEntries(KINDS.map((k) => [`kind ${k.kind}`, [300, (d: Draw) => kindSaid(k, d)] as const])),
  'rule books': [700, rulesSaid],
  'strange rule books': [300, strangeBooks],
  'schools spoken for': [1500, recommended],
  embedment: [400, buried],
  'plans compared': [300, plansCompared],
  ...BOND,
}

const PART = 150
/** How many parts of draws a function has. */
export const partsOf = (name: string) => Math.ceil((FUNCTIONS[name] as Pinned)[0] / PART)

/** A mark of a part of its draws, to nine digits. */
export function functionMark(name: string, part: number): string {
  const [count, of] = FUNCTIONS[name] as Pinned
  const hash = createHash('sha256')
  for (let n = part * PART; n < Math.min(count, (part + 1) * PART); n++) {
    const made = of(numbers(7907 * (n + 1)), n)
    const text = JSON.stringify(made, (_k, v) => (typeof v === 'number' && !Number.isInteger(v) ? Number(v.toPrecision(9)) + 0 : v))
    hash.update(say(text ?? '', 'metric'))
  }
  return hash.digest('hex').slice(0, 12)
}
/** The marks of all parts. */
export const functionMarks = (name: string): string[] => Array.from({ length: partsOf(name) }, (_, part) => functionMark(name, part))
