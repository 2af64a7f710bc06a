import type { Draft } from './draft-fields'

/** What was typed to a revision and not issued: which one it was made from, the whole of it, and which fields read otherwise than the plan. */
export interface KeptDraft {
  readonly revision: number
  readonly draft: Draft
  readonly changed: readonly (readonly [field: string, text: string])[]
}

/** Fields that read otherwise, by their path; lists line by line. @example changedFields(shown, typed) // [['grades.1.top', '11.5']] */
export function changedFields(before: unknown, now: unknown, at = ''): (readonly [string, string])[] {
  if (JSON.stringify(before) === JSON.stringify(now)) return []
  if (now === null || typeof now !== 'object') return now === undefined ? [[at, 'taken out']] : [[at, String(now) || 'empty']]
  const [a, b] = [(before ?? {}) as Record<string, unknown>, now as Record<string, unknown>]
  return [...new Set([...Object.keys(b), ...Object.keys(a)])]
    .filter((key) => key !== 'was' && (at !== '' || (key !== 'typed' && key !== 'left')))
    .flatMap((key) => (key in b ? changedFields(a[key], b[key], at ? `${at}.${key}` : key) : [[at ? `${at}.${key}` : key, 'taken out'] as const]))
}

/** What the device kept; undefined where it cannot be read, written by another version. */
export function keptDraft(text: string): KeptDraft | undefined {
  if (text === '') return undefined
  try {
    const kept = JSON.parse(text) as KeptDraft
    return typeof kept.revision === 'number' && Array.isArray(kept.changed) && kept.draft?.grades ? kept : undefined
  } catch {
    return undefined
  }
}
