import Papa from 'papaparse'
import { fail, ok, type Result } from '../base/result'
import { type BadRow, CSV_LIMIT, FILE_UNITS, type FileUnit } from './readings-csv'

/** A survey point on the work: station, distance from the face where given, elevation. m. */
export interface PointRow {
  readonly line: number
  readonly station: number
  readonly offset?: number
  readonly elevation: number
}

/**
 * Survey points from a CSV: columns station, elevation and, if there is one, offset; in any order, comma, semicolon or tab. Bad lines
 * are named, not fatal.
 *
 * @example readPointsCsv('station,offset,elevation\n1.5,0.1,9.652', 'm').value.good[0] // { line: 2, station: 1.5, offset: 0.1, elevation: 9.652 }
 */
export function readPointsCsv(content: string, unit: FileUnit): Result<{ good: readonly PointRow[]; bad: readonly BadRow[] }> {
  if (content.length > CSV_LIMIT) return fail('file', `is ${(content.length / 1048576).toFixed(1)} MB; at most 5 MB are taken`)
  const table = Papa.parse<string[]>(content.replace(/^\uFEFF/, '').trim(), { skipEmptyLines: 'greedy', delimitersToGuess: [';', '\t', ','] })
  const [header, ...rows] = table.data
  if (!header) return fail('file', 'is empty')
  const names = header.map((n) => n.trim().toLowerCase())
  const at = { station: names.indexOf('station'), elevation: names.indexOf('elevation'), offset: names.indexOf('offset') }
  for (const name of ['station', 'elevation'] as const) {
    if (at[name] < 0)
      return fail('file', `has no column "${name}"; the first line must name station and elevation, and may name offset (found ${names.join(', ')})`)
  }
  const number = (text: string | undefined) => {
    const t = (text ?? '').trim().replace(table.meta.delimiter === ',' ? /$^/ : ',', '.')
    return /^[+-]?(\d+\.?\d*|\.\d+)$/.test(t) ? Number(t) * FILE_UNITS[unit] : Number.NaN
  }
  const good: PointRow[] = []
  const bad: BadRow[] = []
  for (const [i, row] of rows.entries()) {
    const line = i + 2
    const say = (message: string) => bad.push({ line, text: row.join(table.meta.delimiter).slice(0, 80), message })
    const [station, elevation] = [number(row[at.station]), number(row[at.elevation])]
    const offset = at.offset >= 0 && (row[at.offset] ?? '').trim() !== '' ? number(row[at.offset]) : undefined
    if (Number.isNaN(station)) say(`station "${row[at.station] ?? ''}" is not a number`)
    else if (Number.isNaN(elevation)) say(`elevation "${row[at.elevation] ?? ''}" is not a number`)
    else if (offset !== undefined && Number.isNaN(offset)) say(`offset "${row[at.offset]}" is not a number`)
    else good.push({ line, station, elevation, ...(offset === undefined ? {} : { offset }) })
  }
  return ok({ good, bad })
}
