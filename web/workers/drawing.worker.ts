import { type Drawing, type DrawingUnit, decodeText, type Result, readDrawing } from '@stone-tally/core'
import { expose } from 'comlink'

/** Reads a drawing beside the page: a large one takes seconds. */
const api = {
  read(
    bytes: Uint8Array,
    axes?: 'northing-first' | 'easting-first',
    unit?: DrawingUnit,
    progress?: (share: number) => void,
  ): Result<{ drawing: Drawing; encoding: string }> {
    const text = decodeText(bytes)
    if (!text.ok) return text
    const drawing = readDrawing(text.value.text, axes, unit, progress)
    return drawing.ok ? { ok: true, value: { drawing: drawing.value, encoding: text.value.encoding } } : drawing
  },
}
export type DrawingWorker = typeof api
expose(api)
