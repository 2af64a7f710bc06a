import { after, LESS, NEAR, type Spans, without } from './spans'
import type { BondPiece, StretchToBond } from './stretch'

export const NONE = 32_000

/** How far whole and half units reach from either end; worked out once for all that is tried on a stretch. */
export interface GridReach {
  readonly n: number
  readonly left: Int16Array
  readonly right: () => Int16Array
}
export function gridReach(s: StretchToBond): GridReach {
  const n = Math.floor(s.length / (s.full / 2) + NEAR)
  let right: Int16Array | undefined
  return {
    n,
    left: reached(s, n, false),
    right: () => {
      right ??= reached(s, n, true)
      return right
    },
  }
}

/**
 * Bonds with no cut or one, exactly and in one pass. Without a cut every joint lies on the half-unit grid counted from the
 * left end; with one, the joints before it lie on that grid and those after it on the grid counted from the right end. Each
 * grid point is given the fewest halves that reach it; the cheapest pair that leaves room for the cut wins. Undefined when
 * it takes two cuts or more.
 */
export function gridBond(s: StretchToBond, from: GridReach = gridReach(s)): BondPiece[] | undefined {
  const { length, full } = s
  const step = full / 2
  const { n, left } = from
  const whole = Math.abs(length - n * step) < NEAR * 10 && n > 0
  if (whole && (left[n] as number) < NONE) return walk(left, n, full, s.half).reverse()
  const right = from.right()
  let best = Number.POSITIVE_INFINITY
  let at: [number, number] = [0, 0]
  for (let k = s.cutStart ? 0 : 1; k <= n; k++) {
    const h = left[k] as number
    if (h >= NONE || h * 1e7 > best) continue
    const most = Math.floor((length - k * step - s.minPiece + NEAR) / step)
    for (let j = most; j >= most - 1 && j >= (s.cutEnd ? 0 : 1); j--) {
      const cut = length - (k + j) * step
      if (cut > full - LESS || cut < s.minPiece - NEAR || (right[j] as number) >= NONE) continue
      // As near the middle as can be: a cut is weakest at an end.
      const cost = (h + (right[j] as number)) * 1e7 + Math.abs(k - j)
      if (cost < best) {
        best = cost
        at = [k, j]
      }
    }
  }
  if (best === Number.POSITIVE_INFINITY) return undefined
  const [k, j] = at
  return [...walk(left, k, full, s.half).reverse(), { length: length - (k + j) * step, kind: 'cut' }, ...walk(right, j, full, s.half)]
}

/**
 * Fewest halves that reach each point of the half-unit grid from one end, every joint on the way keeping its overlap.
 *
 * @param play - how much of the overlap may be missing, m
 */
export function reached(s: StretchToBond, n: number, fromRight: boolean, play = NEAR): Int16Array {
  const { length, full, below, minOverlap } = s
  const step = full / 2
  const result = new Int16Array(n + 1).fill(NONE)
  result[0] = 0
  const count = below.length
  let i = fromRight ? count - 1 : 0
  const clear = minOverlap - play
  for (let k = 1; k <= n; k++) {
    const two = k > 1 ? (result[k - 2] as number) : NONE
    const one = s.half ? (result[k - 1] as number) + 1 : NONE
    const least = Math.min(two, one)
    if (least >= NONE) continue
    const x = fromRight ? length - k * step : k * step
    // The far end is no joint.
    if (fromRight ? x > NEAR * 10 : x < length - NEAR * 10) {
      if (fromRight) {
        while (i >= 0 && (below[i] as number) >= x + clear) i--
        if (i >= 0 && (below[i] as number) > x - clear) continue
      } else {
        while (i < count && (below[i] as number) <= x - clear) i++
        if (i < count && (below[i] as number) < x + clear) continue
      }
    }
    result[k] = least
  }
  return result
}

/** Pieces from a grid point back to its end. */
function walk(halves: Int16Array, from: number, full: number, half: boolean): BondPiece[] {
  const pieces: BondPiece[] = []
  let k = from
  while (k > 0) {
    if (k > 1 && halves[k - 2] === halves[k]) {
      pieces.push({ length: full, kind: 'full' })
      k -= 2
    } else {
      if (!half) throw new Error('a grid point was reached by a half that does not exist')
      pieces.push({ length: full / 2, kind: 'half' })
      k -= 1
    }
  }
  return pieces
}

/**
 * A bond with two cuts where one does not do: whole units from the left as far as their joints keep the overlap, a cut, whole
 * units on a grid of their own, a cut, and whole units from the right. Only the furthest places for the first cut are tried.
 */
export function twoCuts(s: StretchToBond, from: GridReach = gridReach(s)): BondPiece[] | undefined {
  const { length, full, below, minOverlap } = s
  const minPiece = Math.max(s.minPiece, 1e-3)
  const step = full / 2
  const { n, left } = from
  const right = from.right()
  const first = s.cutStart ? 0 : 1
  const last = s.cutEnd ? 0 : 1
  let furthest = n
  while (furthest >= first && (left[furthest] as number) >= NONE) furthest--
  for (let k = furthest; k >= first && k > furthest - 6; k--) {
    if ((left[k] as number) >= NONE) continue
    // Where the joint after the cut, and the whole units that follow it, may stand: intervals, shifted by a unit at a time.
    let spans: Spans = [k * step + minPiece, k * step + full - LESS]
    for (let fulls = 0; spans.length > 0 && (spans[0] as number) < length; fulls++) {
      const [low, high] = [spans[0] as number, spans[spans.length - 1] as number]
      for (let i = after(below, low - minOverlap); i < below.length && (below[i] as number) < high + minOverlap; i++) {
        spans = without(spans, (below[i] as number) - minOverlap, (below[i] as number) + minOverlap)
      }
      for (let i = 0; i < spans.length; i += 2) {
        const [lo, hi] = [spans[i] as number, spans[i + 1] as number]
        // The second cut ends at a grid point of the right: length − j·step.
        const most = Math.min(n, Math.floor((length - lo - minPiece + NEAR) / step))
        const least = Math.max(last, Math.ceil((length - hi - full + LESS - NEAR) / step))
        for (let j = most; j >= least; j--) {
          if ((right[j] as number) >= NONE) continue
          const y = length - j * step
          const a = Math.max(lo, y - full + LESS)
          const b = Math.min(hi, y - minPiece)
          if (a > b) continue
          const z = (a + b) / 2
          return [
            ...walk(left, k, full, s.half).reverse(),
            { length: z - fulls * full - k * step, kind: 'cut' },
            ...Array.from({ length: fulls }, () => ({ length: full, kind: 'full' as const })),
            { length: y - z, kind: 'cut' },
            ...walk(right, j, full, s.half),
          ]
        }
      }
      for (let i = 0; i < spans.length; i++) spans[i] = (spans[i] as number) + full
    }
  }
  return undefined
}
