// Every table, limit, start and form the core shows to others, as it stands: a value that changes is seen by its name, and changed on purpose.

import { createHash } from 'node:crypto'
import * as core from '@stone-tally/core'

/** Forms as what they ask and refuse; all else as it is. Functions have tests of their own. */
const plainly = (value: unknown): string =>
  JSON.stringify(value, (_k, v) => (v && typeof v === 'object' && '__isYupSchema__' in v ? v.describe() : v instanceof Map ? [...v] : v))

/** By name: the value where it is short, else a mark of it. */
export function valuesKept(): Record<string, unknown> {
  const kept: Record<string, unknown> = {}
  for (const [name, value] of Object.entries(core)) {
    // The library itself is not ours to keep.
    if (typeof value === 'function' || name === 'yup') continue
    const text = plainly(value)
    kept[name] = text.length < 300 ? JSON.parse(text) : createHash('sha256').update(text).digest('hex').slice(0, 10)
  }
  for (const c of core.CALCULATORS)
    kept[`calculator ${c.name}`] = createHash('sha256')
      .update(plainly(core.schemaOf(c)))
      .digest('hex')
      .slice(0, 10)
  return kept
}
