import type { JsonSchema } from './drawn'

/** What the forms of entries hold since rule table 3; draws of before were made without. */
const SINCE: Readonly<Record<string, readonly string[]>> = {
  cut: ['from', 'to', 'planned'],
  soil: ['place'],
  pick: ['wind'],
  override: ['strength'],
  release: ['second', 'outside'],
}
/** Kinds of entry that came since. */
const KINDS_SINCE = ['request']
/** The published forms of entries as they were under rule table 2, so that what is drawn from them stays what was pinned. */
export function formsThen(forms: Record<string, JsonSchema>): Record<string, JsonSchema> {
  return Object.fromEntries(
    Object.entries(forms)
      .filter(([kind]) => !KINDS_SINCE.includes(kind))
      .map(([kind, form]) => {
        const gone = SINCE[kind] ?? []
        const properties = Object.fromEntries(
          Object.entries(form.properties ?? {})
            .filter(([name]) => !gone.includes(name))
            .map(([name, of]) => [name, kind === 'lift' && name === 'fill' ? { ...of, enum: ['granular', 'fine'] } : of]),
        )
        return [kind, { ...form, properties } as JsonSchema]
      }),
  )
}
