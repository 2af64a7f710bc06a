import { fail, ok, type Result } from '../../base/result'

/** Largest drawing taken in, bytes: a wall's own layer is a few hundred kilobytes. */
export const DRAWING_LIMIT = 40 * 1024 * 1024

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
  if (bytes.subarray(0, 4096).includes(0)) return fail('file', 'is binary, not text; save the drawing as an ASCII DXF, LandXML or CSV')
  try {
    return ok({ text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), encoding: 'utf-8' })
  } catch {
    return ok({ text: new TextDecoder('windows-1252').decode(bytes), encoding: 'windows-1252' })
  }
}
