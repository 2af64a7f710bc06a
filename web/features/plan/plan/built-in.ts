import { BUILT_INS, type BuiltInData, type BuiltInField, builtInKindOf, type Plan, type Problem, type UnitSystem } from '@stone-tally/core'
import type { Draft } from './draft-fields'
import { reading, shownAs } from './part'

type Lines = Draft['builtIn']

/** What is built in with a wall as texts of the form. @example builtInTexts(plan.builtIn, 'metric')[0].cells.from // '2' */
export const builtInTexts = (list: Plan['builtIn'], units: UnitSystem): Lines =>
  (list ?? []).map((d, was) => ({
    was,
    kind: d.kind,
    cells: Object.fromEntries(
      fieldsOf(d.kind).map((f) => [f.id, f.of === 'choice' ? `${fieldOf(d, f) ?? ''}` : shownAs(f.of, fieldOf(d, f), units)]),
    ),
  }))

/** Fields of a kind; none for one that is not known here. */
export const fieldsOf = (kind: string): readonly BuiltInField[] => builtInKindOf(kind)?.fields ?? []
const fieldOf = (d: BuiltInData, f: BuiltInField): unknown => (d as unknown as Record<string, unknown>)[f.id]

/** A new line of a kind: its choices as they stand first. */
export const newBuiltIn = (kind = BUILT_INS[0]?.id ?? ''): Lines[number] => ({
  kind,
  cells: Object.fromEntries(fieldsOf(kind).map((f) => [f.id, f.options?.[0]?.[0] ?? ''])),
})

/** What was typed, as the plan has it; a field nobody touched keeps its value to the last digit. */
export function builtInRead(typed: Lines, shown: Lines | undefined, own: Plan['builtIn'], units: UnitSystem, problems: Problem[]): Plan['builtIn'] {
  if (shown && JSON.stringify(typed) === JSON.stringify(shown)) return own
  if (typed.length === 0) return undefined
  return typed.map((line, i) => {
    const before = line.was === undefined ? undefined : own?.[line.was]
    const asShown = line.was === undefined ? undefined : shown?.[line.was]
    const same = before?.kind === line.kind && asShown?.kind === line.kind
    const cells = fieldsOf(line.kind).flatMap((f): (readonly [string, unknown])[] => {
      const text = line.cells[f.id] ?? ''
      if (same && asShown?.cells[f.id] === text)
        return fieldOf(before as BuiltInData, f) === undefined ? [] : [[f.id, fieldOf(before as BuiltInData, f)]]
      if (f.optional && text.trim() === '') return []
      return [[f.id, f.of === 'choice' ? text : reading(f.of, text, units, `builtIn.${i}.cells.${f.id}`, problems)]]
    })
    return { kind: line.kind, ...Object.fromEntries(cells) } as BuiltInData
  })
}

/** A field of the plan where it stands on the form. @example builtInField('builtIn[0].from') // 'builtIn.0.cells.from' */
export const builtInField = (field: string): string | undefined => {
  const at = /^builtIn\[(\d+)\](?:\.(.+))?$/.exec(field)
  return at ? `builtIn.${at[1]}${at[2] && at[2] !== 'kind' ? `.cells.${at[2]}` : ''}` : undefined
}

/** A field of the form in its words. @example builtInLabel('builtIn.0.cells.from', draft) // 'Built in 1: from' */
export function builtInLabel(field: string): string | undefined {
  const at = /^builtIn\.(\d+)(?:\.cells\.(\w+))?$/.exec(field)
  if (!at) return undefined
  const words = BUILT_INS.flatMap((k) => k.fields)
    .find((f) => f.id === at[2])
    ?.label.toLowerCase()
  return `Built in, ${Number(at[1]) + 1}${words ? `: ${words}` : ''}`
}
