import { said } from '../../base/said'
import { variant, type yup } from '../../base/schema'
import type { Around, BuiltInData, BuiltInKind } from './kind'
import { conduit, waterLine } from './line'
import { clear, erosion, planting, underlay } from './site'
import { sleeves } from './sleeves'
import { basin, sealing } from './through'
import { foundPipe, padOutlet, shaft } from './water'

export type { Around, BuiltInData, BuiltInField, BuiltInKind, BuiltInTake, BuiltInWork, Lies } from './kind'

/** Every kind of thing that is built in with a wall, in the order of the work; a new one is a file beside these and its line here. */
export const BUILT_INS: readonly BuiltInKind[] = [
  clear,
  erosion,
  underlay,
  padOutlet,
  sealing,
  basin,
  foundPipe,
  shaft,
  conduit,
  waterLine,
  sleeves,
  planting,
]

/** A kind by its id. @example builtInKindOf('conduit')?.when // 'with' */
export const builtInKindOf = (id: string): BuiltInKind | undefined => BUILT_INS.find((k) => k.id === id)

/** Any of them, as a plan has it. */
export const builtInSchema = () => variant<BuiltInData>('kind', Object.fromEntries(BUILT_INS.map((k) => [k.id, k.schema as yup.ISchema<unknown>])))

/** A name as a stage has it: small letters, digits and hyphens. @example slugOf('Light cable, west') // 'light-cable-west' */
export const slugOf = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 26)

/** What is wrong with what is built in; fields of the plan. */
export function checkBuiltIn(list: readonly BuiltInData[], around: Around): { field: string; message: string }[] {
  const seen = new Map<string, string>()
  return list.flatMap((d, i) => {
    const at = (field: string) => `builtIn[${i}].${field}`
    const slug = slugOf(d.name)
    const other = seen.get(slug)
    seen.set(slug, d.name)
    return [
      ...(slug === '' ? [{ field: at('name'), message: `"${d.name}" must have a letter or digit in it` }] : []),
      ...(other !== undefined ? [{ field: at('name'), message: `"${d.name}" is told from "${other}" by nothing; give each a name of its own` }] : []),
      ...(builtInKindOf(d.kind)?.check?.(d, around) ?? []).map((p) => ({ field: at(p.field), message: p.message })),
      ...(builtInKindOf(d.kind)?.lies(d, around) ?? [])
        .filter((l) => l.from < -0.5 || l.to > around.length + 0.5)
        .slice(0, 1)
        .map((l) => ({ field: at('name'), message: `${d.name} at ${said.given(l.to)} is off the wall` })),
    ]
  })
}
