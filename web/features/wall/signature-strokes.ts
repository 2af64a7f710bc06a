import type { ReleaseData } from '@stone-tally/core'

/** As the record keeps it: a name, or strokes as shares of the field. */
export type Signature = NonNullable<ReleaseData['signature']>
export type Stroke = NonNullable<Signature['drawn']>[number]

/** What the record has room for: strokes of a signature, points of a stroke. */
const MOST = { strokes: 60, points: 400 }
const share = (v: number, of: number) => Math.round(Math.min(1, Math.max(0, of > 0 ? v / of : 0)) * 1000) / 1000

/** So many of a list at most, evenly, its first and last among them. */
function thinned<T>(list: readonly T[], most: number): readonly T[] {
  if (list.length <= most) return list
  return Array.from({ length: most }, (_, i) => list[Math.round((i * (list.length - 1)) / (most - 1))] as T)
}

/**
 * Strokes as the record keeps them. One with more points than there is room for keeps its whole way with fewer of them.
 *
 * @param strokes - as they were drawn, in pixels of the field
 * @param field - its size, pixels
 * @returns shares of the field, y down, 0 to 1; at most 60 strokes of 400 points
 * @example strokesOf([{ points: [{ x: 20, y: 50 }] }], { width: 200, height: 100 }) // [[{ x: 0.1, y: 0.5 }]]
 */
export const strokesOf = (
  strokes: readonly { readonly points: readonly { readonly x: number; readonly y: number }[] }[],
  field: { readonly width: number; readonly height: number },
): Stroke[] =>
  strokes
    .filter((s) => s.points.length > 0)
    .slice(0, MOST.strokes)
    .map((s) => thinned(s.points, MOST.points).map((p) => ({ x: share(p.x, field.width), y: share(p.y, field.height) })))
