import type { Sheet } from '@stone-tally/core'

const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'
/** A file larger than this is no list a person keeps. */
const MOST = 20 * 1024 * 1024

/** Sheets as a workbook; the library comes only when it is asked for. @example saveWorkbook('Wall orders.xlsx', [orderSheet(orders)]) */
export async function saveWorkbook(name: string, sheets: readonly Sheet[]): Promise<void> {
  const { default: write } = await import('write-excel-file/universal')
  const blob = await write(
    sheets.map((s) => ({
      sheet: s.name.slice(0, 31),
      stickyRowsCount: 1,
      columns: s.columns.map((c, i) => ({ width: Math.min(40, Math.max(c.length, ...s.rows.slice(0, 200).map((r) => `${r[i] ?? ''}`.length)) + 2) })),
      data: [s.columns.map((value) => ({ value, fontWeight: 'bold' as const })), ...s.rows.map((r) => r.map((c) => c ?? null))],
    })) as never,
  ).toBlob()
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([blob], { type: XLSX }))
  link.download = name.replace(/[^\p{L}\p{N}._ -]+/gu, '-')
  link.click()
  URL.revokeObjectURL(link.href)
}

/** A cell as people would have typed it: days as 2026-05-31. */
const cellText = (c: unknown): string =>
  c === null || c === undefined ? '' : c instanceof Date ? c.toISOString().slice(0, 10) : typeof c === 'boolean' ? (c ? 'yes' : 'no') : String(c)

/**
 * Rows of a table somebody chose: a workbook by its first bytes, its first sheet; anything else as CSV.
 *
 * @param csv - reads the text of a CSV
 * @returns what is wrong with the file, where it cannot be read
 */
export async function rowsOfFile(
  file: File,
  csv: (text: string) => readonly (readonly string[])[],
): Promise<readonly (readonly string[])[] | { readonly wrong: string }> {
  if (file.size > MOST) return { wrong: `is ${Math.round(file.size / 1024 / 1024)} MB; at most ${MOST / 1024 / 1024} MB are read` }
  const bytes = new Uint8Array(await file.arrayBuffer())
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) {
    try {
      const { readSheet } = await import('read-excel-file/universal')
      return (await readSheet(bytes.buffer as ArrayBuffer)).map((r) => r.map(cellText))
    } catch {
      return { wrong: 'looks like a workbook, but cannot be read as one; save it anew, or as CSV' }
    }
  }
  try {
    return csv(new TextDecoder('utf-8', { fatal: true }).decode(bytes))
  } catch {
    return { wrong: 'is no text and no workbook this program reads; save it as CSV (UTF-8) or XLSX' }
  }
}
