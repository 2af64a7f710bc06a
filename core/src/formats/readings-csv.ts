import Papa from 'papaparse'
import { fail, ok, type Result } from '../base/result'
import { FOOT } from '../units/length'

/** One line of level readings that can be taken. m. */
export interface ReadingRow {
  readonly line: number
  readonly station: number
  readonly course: number
  readonly reading: number
}
/** One line that cannot, with the reason. */
export interface BadRow {
  readonly line: number
  readonly text: string
  readonly message: string
}
export interface ReadingsPreview {
  readonly good: readonly ReadingRow[]
  readonly bad: readonly BadRow[]
  readonly delimiter: string
}

/** Metres in one unit of a file. */
export const FILE_UNITS = { m: 1, mm: 0.001, ft: FOOT } as const
export type FileUnit = keyof typeof FILE_UNITS
export const CSV_LIMIT = 5 * 1024 * 1024

/**
 * Level readings from a CSV: columns station, course, reading in any order, comma, semicolon or tab, decimal points or
 * commas, BOM and blank lines allowed. Bad lines are named, not fatal.
 *
 * @param unit - of station and reading in the file
 * @example readReadingsCsv('station;course;reading\n1,5;1;1,302', 'm').value.good[0] // station 1.5, reading 1.302
 */
export function readReadingsCsv(content: string, unit: FileUnit): Result<ReadingsPreview> {
  if (content.length > CSV_LIMIT) return fail('file', `is ${(content.length / 1048576).toFixed(1)} MB; at most ${CSV_LIMIT / 1048576} MB are taken`)
  const body = content.replace(/^\uFEFF/, '')
  const header = body.split(/\r?\n/).find((l) => l.trim() !== '')
  if (header === undefined) return fail('file', 'is empty')
  const delimiter = [';', '\t', ','].find((d) => header.includes(d)) ?? ','
  const names = header.split(delimiter).map((n) => n.trim().replace(/^"|"$/g, '').toLowerCase())
  const column = { station: names.indexOf('station'), course: names.indexOf('course'), reading: names.indexOf('reading') }
  for (const [name, at] of Object.entries(column)) {
    if (at < 0) return fail('file', `has no column "${name}"; the first line must name station, course and reading (found ${names.join(', ')})`)
  }
  const good: ReadingRow[] = []
  const bad: BadRow[] = []
  let seenHeader = false
  for (const [i, raw] of body.split(/\r?\n/).entries()) {
    if (raw.trim() === '' || raw.split(delimiter).every((c) => c.trim() === '')) continue
    if (!seenHeader) {
      seenHeader = true
      continue
    }
    const line = i + 1
    const cells = (Papa.parse<string[]>(raw, { delimiter }).data[0] ?? []).map((c) => c.trim())
    const number = (at: number) => {
      const text = delimiter === ',' ? (cells[at] ?? '') : (cells[at] ?? '').replace(',', '.')
      return /^[+-]?(\d+\.?\d*|\.\d+)$/.test(text) ? Number(text) : Number.NaN
    }
    const say = (message: string) => bad.push({ line, text: raw.slice(0, 80), message })
    if (cells.length > names.length) {
      say(`has ${cells.length} columns, the header ${names.length}; decimal commas need semicolons between columns`)
      continue
    }
    const [station, course, reading] = [number(column.station), number(column.course), number(column.reading)]
    if (Number.isNaN(station)) say(`station "${cells[column.station] ?? ''}" is not a number`)
    else if (!Number.isInteger(course) || course < 1) say(`course "${cells[column.course] ?? ''}" is not a course number`)
    else if (Number.isNaN(reading)) say(`reading "${cells[column.reading] ?? ''}" is not a number`)
    else if (Math.abs(reading * FILE_UNITS[unit]) > 10) say(`reading ${reading} ${unit} is over 10 m; is the file in ${unit === 'm' ? 'mm' : 'm'}?`)
    else good.push({ line, station: station * FILE_UNITS[unit], course, reading: reading * FILE_UNITS[unit] })
  }
  return ok({ good, bad, delimiter })
}
