import { NONE, reached } from './grid'
import { after, LESS, merge, NEAR, type Spans, without } from './spans'
import type { BondPiece, StretchToBond } from './stretch'

/** What a cut costs beside a half: more than all the halves of a course. */
const CUT = 4096

/** Where a joint can stand within one window, by what it costs to get there. */
interface Costed {
  readonly keys: number[]
  readonly spans: Spans[]
}

/**
 * Exact search. Positions a joint can have are kept as intervals per cost (cuts, then halves) and swept from left to
 * right in windows of half a unit; a position that is reached cheaper is never kept twice, so that only a handful of costs
 * are alive at any place and the sweep is linear in the length.
 */
export function searchBond(s: StretchToBond, countHalves = true): BondPiece[] | undefined {
  // Most stretches take two cuts or three, and what takes more is the most of the work: it is looked at only where it must be.
  return sweep(s, countHalves, 2) ?? sweep(s, countHalves, 3) ?? sweep(s, countHalves, Number.POSITIVE_INFINITY)
}

/** As `searchBond`, with so many cuts at most: the same bond where that is enough, nothing where it is not. */
function sweep(s: StretchToBond, countHalves: boolean, mostCuts: number): BondPiece[] | undefined {
  const { length, full, below, minOverlap } = s
  const minPiece = Math.max(s.minPiece, 1e-3)
  const width = full / 2
  // What a half costs beside a cut; nothing where any bond with as few cuts will do.
  const halfCost = countHalves ? 1 : 0
  const count = Math.max(1, Math.ceil(length / width) + 1)
  const windows: (Costed | undefined)[] = new Array(count)
  const beyond = CUT * (mostCuts + 1)
  const last = CUT * mostCuts
  const toEnd = reached(s, Math.floor(length / width + NEAR), true, 4 * NEAR)
  /** With no cut left only whole units lead to the end: of a stretch of places those from where they do. */
  const putLast = (key: number, lo: number, hi: number, least: number) => {
    for (let j = Math.max(1, Math.ceil((length - hi) / width - 8 * NEAR)); j < toEnd.length; j++) {
      const at = length - j * width
      if (at < lo - 4 * NEAR) return
      if ((toEnd[j] as number) < NONE) keep(key, Math.max(lo, at - 4 * NEAR), Math.min(hi, at + 4 * NEAR), least)
    }
  }
  const put = (key: number, lo: number, hi: number, least: number) => {
    if (key >= beyond) return
    if (key >= last) putLast(key, lo, hi, least)
    else keep(key, lo, hi, least)
  }
  const keep = (key: number, lo: number, hi: number, least: number) => {
    // Nothing beyond the last possible joint is worth keeping.
    const top = Math.min(hi, length - NEAR)
    if (lo > top + NEAR) return
    const first = Math.max(least, Math.floor((lo + NEAR) / width))
    const until = Math.max(first, Math.floor((top + NEAR) / width))
    for (let w = first; w <= until && w < count; w++) {
      const a = w === first ? lo : w * width
      const b = w === until ? top : (w + 1) * width - NEAR
      let at = windows[w]
      if (!at) {
        at = { keys: [], spans: [] }
        windows[w] = at
      }
      const known = at.keys.indexOf(key)
      if (known >= 0) (at.spans[known] as Spans).push(a, Math.max(a, b))
      else {
        at.keys.push(key)
        at.spans.push([a, Math.max(a, b)])
      }
    }
  }
  const next = (key: number, lo: number, hi: number, w: number, cut: boolean) => {
    put(key, lo + full, hi + full, w + 1)
    if (s.half) put(key + halfCost, lo + width, hi + width, w + 1)
    if (cut) put(key + CUT, lo + minPiece, hi + full - LESS, w)
  }
  next(0, 0, 0, 0, s.cutStart)
  let best = Number.POSITIVE_INFINITY
  let bestFrom: { kind: BondPiece['kind']; lo: number; hi: number; key: number } | undefined
  const offer = (cost: number, kind: BondPiece['kind'], key: number, lo: number, hi: number) => {
    if (cost < best && lo <= hi + NEAR) {
      best = cost
      bestFrom = { kind, lo, hi, key }
    }
  }
  const finish = (key: number, lo: number, hi: number) => {
    const [one, two] = [length - full, length - width]
    if (lo <= one + NEAR && hi >= one - NEAR) offer(key, 'full', key, Math.max(lo, one), Math.min(hi, one))
    if (s.half && lo <= two + NEAR && hi >= two - NEAR) offer(key + halfCost, 'half', key, Math.max(lo, two), Math.min(hi, two))
    if (s.cutEnd) offer(key + CUT, 'cut', key, Math.max(lo, length - full + LESS), Math.min(hi, length - minPiece))
  }
  finish(0, 0, 0)
  const only = bestFrom as { kind: BondPiece['kind'] } | undefined
  if (only) {
    // The whole stretch is one piece; a cut at both its ends needs both to be allowed.
    if (only.kind !== 'cut' || s.cutStart) return [{ length, kind: only.kind }]
    best = Number.POSITIVE_INFINITY
    bestFrom = undefined
  }
  // What of a window is reached already.
  const done: Spans = []
  for (let w = 0; w < count; w++) {
    const at = windows[w]
    if (!at) continue
    done.length = 0
    // Keys grow while the window is worked, as a short cut may end in the same window.
    let before = -1
    for (;;) {
      let which = -1
      for (let i = 0; i < at.keys.length; i++) {
        const k = at.keys[i] as number
        if (k > before && (which < 0 || k < (at.keys[which] as number))) which = i
      }
      if (which < 0) break
      const key = at.keys[which] as number
      before = key
      const spans = at.spans[which] as Spans
      // What costs as much as a bond already found cannot better it.
      if (key >= best) {
        spans.length = 0
        continue
      }
      merge(spans)
      if (minOverlap > 0) {
        const top = spans[spans.length - 1] as number
        for (let i = after(below, (spans[0] as number) - minOverlap); i < below.length && (below[i] as number) < top + minOverlap; i++) {
          without(spans, (below[i] as number) - minOverlap, (below[i] as number) + minOverlap)
        }
      }
      for (let i = 0; i < done.length; i += 2) {
        const [lo, hi] = [done[i] as number, done[i + 1] as number]
        if (hi - lo > NEAR) without(spans, lo, hi)
        // A mere point that was reached cheaper goes too.
        let left = 0
        for (let j = 0; j < spans.length; j += 2) {
          const a = spans[j] as number
          const b = spans[j + 1] as number
          if (b - a < NEAR && a >= lo - NEAR && b <= hi + NEAR) continue
          spans[left++] = a
          spans[left++] = b
        }
        if (left < spans.length) spans.length = left
      }
      for (let i = 0; i < spans.length; i += 2) {
        const [lo, hi] = [spans[i] as number, spans[i + 1] as number]
        done.push(lo, hi)
        next(key, lo, hi, w, true)
        finish(key, lo, hi)
      }
    }
  }
  // One with more cuts was met by its last piece alone; others of as many were not looked at.
  if (!bestFrom || best >= beyond) return undefined

  // Back from the end along costs that add up.
  const pieces: BondPiece[] = []
  let { key } = bestFrom
  let at = (bestFrom.lo + bestFrom.hi) / 2
  pieces.push({ length: bestFrom.kind === 'full' ? full : bestFrom.kind === 'half' ? width : length - at, kind: bestFrom.kind })
  const find = (cost: number, lo: number, hi: number): [number, number] | undefined => {
    let found: [number, number] | undefined
    for (let w = Math.floor(lo / width) - 1; w <= Math.floor(hi / width) + 1; w++) {
      const at = windows[w]
      const spans = at?.spans[at.keys.indexOf(cost)]
      if (!spans) continue
      for (let i = 0; i < spans.length; i += 2) {
        const [a, b] = [Math.max(lo, spans[i] as number), Math.min(hi, spans[i + 1] as number)]
        if (a <= b + 2 * NEAR && (!found || b - a > found[1] - found[0])) found = [a, Math.max(a, b)]
      }
    }
    return found
  }
  for (let guard = 0; guard < 4 * count + 8; guard++) {
    const ends = (n: number) => Math.abs(n) < 3 * NEAR
    if (key === 0 && ends(at - full)) {
      pieces.push({ length: full, kind: 'full' })
      return pieces.reverse()
    }
    if (s.half && key === halfCost && ends(at - width)) {
      pieces.push({ length: width, kind: 'half' })
      return pieces.reverse()
    }
    if (s.cutStart && key === CUT && at >= minPiece - NEAR && at <= full - LESS + NEAR) {
      pieces.push({ length: at, kind: 'cut' })
      return pieces.reverse()
    }
    const before = find(key, at - full - NEAR, at - full + NEAR)
    if (before) {
      pieces.push({ length: full, kind: 'full' })
      at -= full
      continue
    }
    const half = s.half && key % CUT >= halfCost ? find(key - halfCost, at - width - NEAR, at - width + NEAR) : undefined
    if (half) {
      pieces.push({ length: width, kind: 'half' })
      at -= width
      key -= halfCost
      continue
    }
    const cut = key >= CUT ? find(key - CUT, at - full + LESS - NEAR, at - minPiece + NEAR) : undefined
    if (!cut) throw new Error('the sweep reached a joint that nothing leads to')
    const p = (cut[0] + cut[1]) / 2
    pieces.push({ length: at - p, kind: 'cut' })
    at = p
    key -= CUT
  }
  throw new Error('the way back does not end')
}
