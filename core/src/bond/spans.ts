/** Positions this close are one position (m). */
export const NEAR = 1e-7
/** A cut piece is shorter than a full one by at least this (m). */
export const LESS = 1e-6

/** First joint below at or after a position. */
export function after(below: ArrayLike<number>, x: number): number {
  let low = 0
  let high = below.length
  while (low < high) {
    const m = (low + high) >> 1
    if ((below[m] as number) < x) low = m + 1
    else high = m
  }
  return low
}

/** Flat list of intervals lo, hi, lo, hi …, ascending; a point has lo = hi. */
export type Spans = number[]

export function merge(spans: Spans): Spans {
  if (spans.length <= 2) return spans
  const pairs: [number, number][] = []
  for (let i = 0; i < spans.length; i += 2) pairs.push([spans[i] as number, spans[i + 1] as number])
  pairs.sort((a, b) => a[0] - b[0])
  const result: Spans = []
  for (const [lo, hi] of pairs) {
    const last = result.length - 1
    if (last > 0 && lo <= (result[last] as number) + NEAR) {
      if (hi > (result[last] as number)) result[last] = hi
    } else result.push(lo, hi)
  }
  return result
}

/** Takes the open interval lo … hi out of the spans; its ends stay. */
export function without(spans: Spans, lo: number, hi: number): Spans {
  const result: Spans = []
  for (let i = 0; i < spans.length; i += 2) {
    const a = spans[i] as number
    const b = spans[i + 1] as number
    if (b <= lo + NEAR || a >= hi - NEAR) result.push(a, b)
    else {
      if (a <= lo + NEAR) result.push(a, Math.max(a, lo))
      if (b >= hi - NEAR) result.push(Math.min(b, hi), b)
    }
  }
  return result
}
