import Papa from 'papaparse'
import { fail, ok, type Result } from '../base/result'

/** A row of a table with the line of the file it begins at, counted from 1. */
export interface TableRow {
  readonly line: number
  readonly cells: readonly string[]
  /** As it stands in the file, shortened. */
  readonly text: string
}
/** A table found in a text: its header, if it has one, its rows, and rows that cannot be read as what they should be. */
export interface Table {
  /** Names of the columns, lower case, without what stands in brackets; undefined where the file has no header. */
  readonly names: readonly string[] | undefined
  /** What stands in the first line of the file, whatever it is. */
  readonly top: readonly string[]
  /** Unit a header states for its column, as it stands there. */
  readonly units: readonly (string | undefined)[]
  readonly rows: readonly TableRow[]
  readonly bad: readonly { readonly line: number; readonly text: string; readonly message: string }[]
  readonly delimiter: ',' | ';' | '\t' | ' '
}

const COMMENT = /^\s*(#|\/\/|!|')/
const NUMBER = /^[+-]?(\d+([.,]\d*)?|[.,]\d+)([eE][+-]?\d{1,3})?$/
const plain = (cell: string) => cell.trim().replace(/^"|"$/g, '').trim()

/**
 * A number as people write it in a cell: with a point, or with a comma where that cannot be mistaken for the next column.
 *
 * @returns NaN for anything else; never half a number
 * @example numberIn('1,85') // 1.85
 */
export function numberIn(cell: string | undefined): number {
  const t = (cell ?? '').trim()
  return NUMBER.test(t) ? Number(t.replace(',', '.')) : Number.NaN
}

/** What stands in brackets behind a name, or after it: its unit. @example headerOf('Elevation (ft)') // ['elevation', 'ft'] */
function headerOf(cell: string): readonly [string, string | undefined] {
  const found = /^(.*?)\s*[([]\s*([^)\]]+)\s*[)\]]\s*$/.exec(plain(cell))
  return found ? [(found[1] ?? '').trim().toLowerCase(), (found[2] ?? '').trim().toLowerCase()] : [plain(cell).toLowerCase(), undefined]
}

/**
 * A table of numbers and words: commas, semicolons, tabs or blanks between columns; titles, comments and blank lines before and between;
 * every row with its own line. A row longer than the header, or a quote that is never closed, is named, not guessed at.
 *
 * @param isHeader - is a row with these names the header?
 * @param least - columns a row without a header has at least
 * @example tableOf('# survey\nstation;elevation (m)\n1,5;9,652', (n) => n.includes('station'), 2)
 */
export function tableOf(
  content: string,
  isHeader: (names: readonly string[]) => boolean,
  least: number,
  progress?: (share: number) => void,
): Result<Table> {
  const body = content.replace(/^\uFEFF/, '')
  const lines = body.split(/\r\n|\r|\n/)
  const used: number[] = []
  for (let i = 0; i < lines.length; i++) {
    const l = lines[i] as string
    if (l.trim() !== '' && !COMMENT.test(l)) used.push(i)
  }
  if (used.length === 0) return fail('file', 'is empty')
  const delimiters = [';', '\t', ',', ' '] as const
  // Setting the CSV library up for a line costs more than the line; it is asked where there are quotes to be understood.
  const split = (text: string, delimiter: Table['delimiter']) =>
    delimiter === ' '
      ? [text.trim().split(/\s+/)]
      : text.includes('"')
        ? Papa.parse<string[]>(text, { delimiter, skipEmptyLines: false }).data
        : [text.split(delimiter)]
  // The header is the first line that is one under any delimiter; what stands before it is a title.
  let at: { line: number; delimiter: Table['delimiter']; cells: readonly string[] } | undefined
  const isData = (i: number) => delimiters.some((d) => numbersIn(split(lines[i] as string, d)[0] ?? []) >= least)
  for (const i of used.slice(0, 50)) {
    if (isData(i)) break
    const found = delimiters.find((d) => isHeader((split(lines[i] as string, d)[0] ?? []).map((c) => headerOf(c)[0])))
    if (!found) continue
    at = { line: i, delimiter: found, cells: split(lines[i] as string, found)[0] ?? [] }
    break
  }
  const start = used.find(isData) ?? (used[0] as number)
  const sample = lines[start] ?? ''
  const fits = (d: Table['delimiter']) => (d === ' ' ? numbersIn(split(sample, d)[0] ?? []) : (split(sample, d)[0]?.length ?? 0)) >= least
  const delimiter = at?.delimiter ?? delimiters.find((d) => d !== ',' && sample.includes(d) && fits(d)) ?? ','
  // Words right above the numbers, one for each column, are a header too, if not one that is known.
  const above = at ? undefined : used[used.indexOf(start) - 1]
  const words = above === undefined ? undefined : (split(lines[above] as string, delimiter)[0] ?? [])
  if (words && above !== undefined && words.length === split(sample, delimiter)[0]?.length) at = { line: above, delimiter, cells: words }
  const first = at ? at.line + 1 : start
  const width = at?.cells.length
  const rows: TableRow[] = []
  const bad: { line: number; text: string; message: string }[] = []
  for (const i of used) {
    if (i < first) continue
    if (progress && i % 100_000 === 0) progress((i / lines.length) * 0.8)
    const text = lines[i] as string
    const short = text.slice(0, 80)
    // A quote left open would swallow the rows that follow: each line stands by itself.
    if (delimiter !== ' ' && text.includes('"') && text.split('"').length % 2 === 0) {
      bad.push({ line: i + 1, text: short, message: 'has a quote that is never closed' })
      continue
    }
    const cells = (split(text, delimiter)[0] ?? []).map((c) => c.trim())
    if (cells.every((c) => c === '')) continue
    // Trailing separators are no columns.
    while (width !== undefined && cells.length > width && cells[cells.length - 1] === '') cells.pop()
    if (width !== undefined && cells.length > width) {
      const why = delimiter === ',' ? '; decimal commas need semicolons or quotes' : ''
      bad.push({ line: i + 1, text: short, message: `has ${cells.length} columns, the header ${width}${why}` })
      continue
    }
    rows.push({ line: i + 1, cells, text: short })
  }
  const header = at?.cells.map(headerOf)
  const top = (split(lines[used[0] as number] as string, delimiter)[0] ?? []).map((c) => headerOf(c)[0])
  return ok({ top, names: header?.map((h) => h[0]), units: header?.map((h) => h[1]) ?? [], rows, bad, delimiter })
}
const numbersIn = (cells: readonly string[]) => cells.filter((c) => !Number.isNaN(numberIn(c))).length
