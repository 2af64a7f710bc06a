import Papa from 'papaparse'
import { fail, ok, type Result } from '../base/result'
import { read } from '../base/schema'
import { systemOf, type Unit, unitSchema } from '../systems'
import { alive, inert } from './inert'
import { numberIn, tableOf } from './table'

/** A unit of the catalogue with the wall system it belongs to. */
export interface CatalogueUnit {
  readonly system: string
  readonly unit: Unit
}
export interface UnitsPreview {
  readonly good: readonly CatalogueUnit[]
  readonly bad: readonly { readonly line: number; readonly text: string; readonly message: string }[]
}

const TEXTS = ['id', 'name', 'profile'] as const
const NUMBERS = [
  'height',
  'length',
  'depth',
  'setback',
  'coreVolume',
  'mass',
  'capHeight',
  'minRadius',
  'minPiece',
  'cornerLength',
  'capLength',
  'capTaper',
  'perPallet',
  'porosity',
] as const
const COLUMNS = ['system', ...TEXTS, ...NUMBERS, 'half', 'pattern'] as const

/**
 * The catalogue as CSV, lengths in m, mass in kg; a pattern's tile is written as `length: shape x y length height; …`.
 *
 * @example writeUnitsCsv([{ system: 'hollow-core', unit }])
 */
export const writeUnitsCsv = (units: readonly CatalogueUnit[]): string =>
  `${Papa.unparse(
    {
      fields: [...COLUMNS],
      data: units.map(({ system, unit }) => [
        system,
        ...TEXTS.map((k) => inert(unit[k] ?? '')),
        ...NUMBERS.map((k) => unit[k] ?? ''),
        unit.half === undefined ? '' : unit.half ? 'yes' : 'no',
        unit.pattern
          ? `${unit.pattern.length}: ${unit.pattern.pieces.map((p) => `${p.shape} ${p.x} ${p.y} ${p.length} ${p.height}`).join('; ')}`
          : '',
      ]),
    },
    { newline: '\n' },
  )}\n`

/**
 * Units from a CSV with a header, columns in any order. Bad lines are named with their field, not fatal.
 *
 * @example readUnitsCsv(text).value.good
 */
export function readUnitsCsv(content: string): Result<UnitsPreview> {
  if (content.length > 2 * 1024 * 1024) return fail('file', 'is over the limit of 2 MB')
  const made = tableOf(content, (n) => n.includes('system') && n.includes('id'), 6)
  if (!made.ok) return made
  const { names, rows, top } = made.value
  const columns = names ?? top
  const missing = ['system', 'id', 'name', 'height', 'length', 'depth'].filter((c) => !columns.includes(c))
  if (missing.length > 0) return fail('header', `has no column ${missing.join(', ')}`)
  const good: CatalogueUnit[] = []
  const bad: { line: number; text: string; message: string }[] = [...made.value.bad]
  const seen = new Set<string>()
  for (const row of rows) {
    const refuse = (message: string) => {
      bad.push({ line: row.line, text: row.text, message })
    }
    const get = (k: string) => {
      const i = columns.indexOf(k.toLowerCase())
      return i < 0 ? '' : (row.cells[i] ?? '').trim()
    }
    const value: Record<string, unknown> = { setback: 0, coreVolume: 0, mass: 1, capHeight: 0 }
    for (const k of TEXTS) if (get(k) !== '') value[k] = alive(get(k))
    for (const k of NUMBERS) if (get(k) !== '') value[k] = numberIn(get(k))
    if (get('half') !== '') value.half = /^(yes|true|1|y)$/i.test(get('half'))
    if (get('pattern') !== '') {
      const [length, list] = get('pattern').split(':')
      value.pattern = {
        length: Number(length),
        pieces: (list ?? '').split(';').map((p) => {
          const [shape, ...sizes] = p.trim().split(/\s+/)
          const [x, y, l, h] = sizes.map(Number)
          return { shape, x, y, length: l, height: h }
        }),
      }
    }
    const system = get('system')
    if (!systemOf(system)) {
      refuse(`system: "${system}" is not a system of this application`)
      continue
    }
    const unit = read(unitSchema, value)
    if (!unit.ok) {
      refuse(unit.problems.map((p) => `${p.field}: ${p.message}`).join('; '))
      continue
    }
    if (seen.has(unit.value.id)) {
      refuse(`id: "${unit.value.id}" stands in the file twice`)
      continue
    }
    seen.add(unit.value.id)
    good.push({ system, unit: unit.value })
  }
  bad.sort((a, b) => a.line - b.line)
  return ok({ good, bad })
}
