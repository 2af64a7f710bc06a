import { fail, ok, type Result } from '../base/result'
import { type BadRow, CSV_LIMIT, FILE_UNITS, type FileUnit, fileUnit } from './readings-csv'
import { numberIn, tableOf } from './table'

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
  const made = tableOf(content, (n) => n.includes('station') && n.includes('elevation'), 2)
  if (!made.ok) return made
  const { names, units, rows, top } = made.value
  if (!names?.includes('station') || !names.includes('elevation')) {
    const found = names ?? top
    const missing = found.includes('station') ? 'elevation' : 'station'
    return fail('file', `has no column "${missing}"; the first line must name station and elevation, and may name offset (found ${found.join(', ')})`)
  }
  const at = { station: names.indexOf('station'), elevation: names.indexOf('elevation'), offset: names.indexOf('offset') }
  const value = (cells: readonly string[], i: number) => numberIn(cells[i]) * FILE_UNITS[fileUnit(units[i]) ?? unit]
  const good: PointRow[] = []
  const bad: BadRow[] = [...made.value.bad]
  for (const row of rows) {
    const { line, cells } = row
    const say = (message: string) => bad.push({ line, text: row.text, message })
    const [station, elevation] = [value(cells, at.station), value(cells, at.elevation)]
    const offset = at.offset >= 0 && (cells[at.offset] ?? '') !== '' ? value(cells, at.offset) : undefined
    if (Number.isNaN(station)) say(`station "${cells[at.station] ?? ''}" is not a number`)
    else if (Number.isNaN(elevation)) say(`elevation "${cells[at.elevation] ?? ''}" is not a number`)
    else if (offset !== undefined && Number.isNaN(offset)) say(`offset "${cells[at.offset]}" is not a number`)
    else good.push({ line, station, elevation, ...(offset === undefined ? {} : { offset }) })
  }
  bad.sort((a, b) => a.line - b.line)
  return ok({ good, bad })
}
