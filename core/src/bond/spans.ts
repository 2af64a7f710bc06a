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

/** Intervals in order, those that touch made one. They come nearly in order, so that each is moved a place or two at most. */
export function merge(spans: Spans): Spans {
  if (spans.length <= 2) return spans
  for (let i = 2; i < spans.length; i += 2) {
    const [lo, hi] = [spans[i] as number, spans[i + 1] as number]
    let at = i
    while (at > 0 && (spans[at - 2] as number) > lo) {
      spans[at] = spans[at - 2] as number
      spans[at + 1] = spans[at - 1] as number
      at -= 2
    }
    spans[at] = lo
    spans[at + 1] = hi
  }
  let last = 1
  for (let i = 2; i < spans.length; i += 2) {
    const hi = spans[i + 1] as number
    if ((spans[i] as number) <= (spans[last] as number) + NEAR) {
      if (hi > (spans[last] as number)) spans[last] = hi
    } else {
      spans[++last] = spans[i] as number
      spans[++last] = hi
    }
  }
  if (last + 1 < spans.length) spans.length = last + 1
  return spans
}

/** Takes the open interval lo … hi out of the spans, which are changed by it; its ends stay. */
export function without(spans: Spans, lo: number, hi: number): Spans {
  for (let i = 0; i < spans.length; i += 2) {
    const a = spans[i] as number
    const b = spans[i + 1] as number
    if (b <= lo + NEAR || a >= hi - NEAR) continue
    const left = a <= lo + NEAR
    const right = b >= hi - NEAR
    if (left && right) {
      spans[i + 1] = Math.max(a, lo)
      spans.splice(i + 2, 0, Math.min(b, hi), b)
      i += 2
    } else if (left) spans[i + 1] = Math.max(a, lo)
    else if (right) spans[i] = Math.min(b, hi)
    else {
      spans.splice(i, 2)
      i -= 2
    }
  }
  return spans
}
