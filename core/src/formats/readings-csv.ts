import { fail, ok, type Result } from '../base/result'
import { FOOT } from '../units/length'
import { numberIn, tableOf } from './table'

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
/** A unit as a header states it. @example fileUnit('metres') // 'm' */
export function fileUnit(text: string | undefined): FileUnit | undefined {
  const t = (text ?? '').replace(/\.$/, '')
  return /^(m|met(er|re)s?)$/.test(t) ? 'm' : t === 'mm' ? 'mm' : /^(ft|foot|feet)$/.test(t) ? 'ft' : undefined
}
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
  const made = tableOf(content, (n) => n.includes('station') && (n.includes('reading') || n.includes('course')), 3)
  if (!made.ok) return made
  const { names, units, rows, top, delimiter } = made.value
  const column = { station: names?.indexOf('station') ?? -1, course: names?.indexOf('course') ?? -1, reading: names?.indexOf('reading') ?? -1 }
  for (const [name, at] of Object.entries(column)) {
    if (at < 0) {
      const found = names ?? top
      return fail('file', `has no column "${name}"; the first line must name station, course and reading (found ${found.join(', ')})`)
    }
  }
  const scale = (at: number) => FILE_UNITS[fileUnit(units[at]) ?? unit]
  const good: ReadingRow[] = []
  const bad: BadRow[] = [...made.value.bad]
  for (const row of rows) {
    const { line, cells } = row
    const say = (message: string) => bad.push({ line, text: row.text, message })
    const [station, course, reading] = [numberIn(cells[column.station]), numberIn(cells[column.course]), numberIn(cells[column.reading])]
    const height = reading * scale(column.reading)
    if (Number.isNaN(station)) say(`station "${cells[column.station] ?? ''}" is not a number`)
    else if (!Number.isInteger(course) || course < 1) say(`course "${cells[column.course] ?? ''}" is not a course number`)
    else if (Number.isNaN(reading)) say(`reading "${cells[column.reading] ?? ''}" is not a number`)
    else if (Math.abs(height) > 10)
      say(`reading ${reading} ${fileUnit(units[column.reading]) ?? unit} is over 10 m; is the file in ${unit === 'm' ? 'mm' : 'm'}?`)
    else good.push({ line, station: station * scale(column.station), course, reading: height })
  }
  bad.sort((a, b) => a.line - b.line)
  return ok({ good, bad, delimiter })
}
