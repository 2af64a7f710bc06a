import { failAll, formatLength, type Problem, parseAmount, type Result, type Unit, type UnitSystem } from '@stone-tally/core'
import type { Listed } from '@/server/catalogue'

/** Lengths of a unit that can be edited, with their words; the others are numbers of their own. */
export const LENGTHS = [
  ['height', 'Height'],
  ['length', 'Length'],
  ['depth', 'Depth'],
  ['setback', 'Setback a course'],
  ['capHeight', 'Cap height'],
  ['capLength', 'Cap length'],
  ['cornerLength', 'Corner unit, face'],
  ['minRadius', 'Smallest radius'],
  ['capTaper', 'Tapered caps under radius'],
  ['minPiece', 'Shortest cut piece'],
] as const
export const NUMBERS = [
  ['mass', 'Mass, kg'],
  ['coreVolume', 'Core volume, m³'],
  ['perPallet', 'On a pallet'],
  ['porosity', 'Air between stones, 0 to 0.6'],
] as const
const OPTIONAL = new Set(['capLength', 'cornerLength', 'minRadius', 'capTaper', 'minPiece', 'perPallet', 'porosity'])

/** A unit as it is typed: its numbers as texts, by their names. */
export interface TypedUnit {
  readonly system: string
  readonly profile: NonNullable<Unit['profile']>
  readonly half: 'yes' | 'no'
  readonly texts: Readonly<Record<string, string>>
}

/** A unit as a form shows it. @example typedUnit(listed, 'metric').texts.height // '0.2' */
export function typedUnit({ system, unit }: Listed, units: UnitSystem): TypedUnit {
  const length = (v: number) => (units === 'metric' ? `${v}` : formatLength(v, units))
  return {
    system,
    profile: unit.profile ?? 'lug',
    half: unit.half === false ? 'no' : 'yes',
    texts: {
      id: unit.id,
      name: unit.name,
      ...Object.fromEntries(LENGTHS.map(([k]) => [k, unit[k] == null ? '' : length(unit[k] as number)])),
      ...Object.fromEntries(NUMBERS.map(([k]) => [k, unit[k] == null ? '' : `${unit[k]}`])),
    },
  }
}

/**
 * The unit a form says. What still reads as it was shown keeps its value to the last digit: opened in feet and saved, nothing moves.
 *
 * @param start - the unit the form was opened with
 * @returns problems by the words of the form; the rest is looked at by the house
 */
export function readUnit(typed: TypedUnit, start: Listed, units: UnitSystem): Result<{ system: string; unit: Unit }> {
  const shown = typedUnit(start, units).texts
  const wrong: Problem[] = []
  const text = (k: string) => (typed.texts[k] ?? '').trim()
  const unit: Record<string, unknown> = { id: text('id'), name: text('name'), profile: typed.profile, half: typed.half === 'yes' }
  if (start.unit.pattern && typed.profile === 'pattern') unit.pattern = start.unit.pattern
  for (const [k, name] of LENGTHS) {
    if (text(k) === '' && OPTIONAL.has(k)) continue
    if (text(k) !== '' && text(k) === shown[k]) {
      unit[k] = start.unit[k]
      continue
    }
    const read = parseAmount(text(k), 'length', units)
    if (read.ok) unit[k] = read.value
    else wrong.push({ field: name, message: read.problems[0]?.message ?? '' })
  }
  for (const [k, name] of NUMBERS) {
    if (text(k) === '' && OPTIONAL.has(k)) continue
    const n = Number(text(k).replace(',', '.'))
    if (Number.isFinite(n) && text(k) !== '') unit[k] = n
    else wrong.push({ field: name, message: `"${typed.texts[k] ?? ''}" is not a number` })
  }
  return wrong.length > 0 ? failAll(wrong) : { ok: true, value: { system: typed.system, unit: unit as unknown as Unit } }
}
