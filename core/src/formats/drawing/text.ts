import { fail, ok, type Result } from '../../base/result'

/** Largest drawing taken in, bytes: a wall's own layer is a few hundred kilobytes. */
export const DRAWING_LIMIT = 40 * 1024 * 1024

const EAST: ReadonlyMap<string, string> = new Map([
  ['932', 'shift_jis'],
  ['936', 'gbk'],
  ['949', 'euc-kr'],
  ['950', 'big5'],
  ['874', 'windows-874'],
])
/** The code page a drawing names in its header; Western where it names none. */
function codePageOf(bytes: Uint8Array): string {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 20_000))
  const page = /\$DWGCODEPAGE\s{1,8}3\s{1,8}ANSI_(\d{3,4})/i.exec(head)?.[1] ?? '1252'
  return EAST.get(page) ?? (/^125[0-8]$/.test(page) ? `windows-${page}` : 'windows-1252')
}

/**
 * The text of a file in whatever encoding it was saved: UTF-8, UTF-16 with a mark, else Western single bytes.
 *
 * @returns text and the encoding it was read by; refused when it is too large or no text at all
 * @example decodeText(new Uint8Array([0x41]))
 */
export function decodeText(bytes: Uint8Array): Result<{ text: string; encoding: string }> {
  if (bytes.length > DRAWING_LIMIT) {
    return fail(
      'file',
      `is ${(bytes.length / 1048576).toFixed(0)} MB; at most ${DRAWING_LIMIT / 1048576} MB are taken. Save only the layers of the wall into a new file`,
    )
  }
  if (bytes.length === 0) return fail('file', 'is empty')
  const two = (a: number, b: number) => bytes[0] === a && bytes[1] === b
  const wide = two(0xff, 0xfe) ? 'utf-16le' : two(0xfe, 0xff) ? 'utf-16be' : undefined
  if (wide) return ok({ text: new TextDecoder(wide).decode(bytes), encoding: wide })
  // Without a mark, but every other byte of plain text is nothing: UTF-16.
  const head = bytes.subarray(0, 512)
  const nulls = (odd: number) => head.filter((b, i) => i % 2 === odd && b === 0).length
  const half = head.length / 2
  if (half >= 8 && nulls(1) > half * 0.8 && nulls(0) === 0) return ok({ text: new TextDecoder('utf-16le').decode(bytes), encoding: 'utf-16le' })
  if (half >= 8 && nulls(0) > half * 0.8 && nulls(1) === 0) return ok({ text: new TextDecoder('utf-16be').decode(bytes), encoding: 'utf-16be' })
  if (bytes.subarray(0, 4096).includes(0)) return fail('file', 'is binary, not text; save the drawing as an ASCII DXF, LandXML or CSV')
  try {
    return ok({ text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), encoding: 'utf-8' })
  } catch {
    const encoding = codePageOf(bytes)
    return ok({ text: new TextDecoder(encoding).decode(bytes), encoding })
  }
}
