import { fail, ok, type Result } from '../base/result'
import { said } from '../base/said'
import { type InferType, list, quantity, record } from '../base/schema'

export const gridCutInput = record({
  rollLength: quantity({ min: 0.01, max: 10_000, unit: 'm' }),
  strips: list(
    record({ length: quantity({ min: 0.001, max: 10_000, unit: 'm' }), count: quantity({ min: 1, max: 100_000, whole: true }) }),
    1,
    10_000,
  ),
})
export type GridCutInput = InferType<typeof gridCutInput>

/** Lengths that differ by less are the same length when they are fitted into a stock length (m). */
const FIT = 1e-9

/** Which lengths come out of each stock length, and the proof of how few can do. */
export interface Cutting {
  readonly rolls: number[][]
  /** Stock length not used, m. */
  readonly waste: number
  /** No cutting can do with fewer stock lengths than this. */
  readonly lowerBound: number
}

interface Size {
  readonly length: number
  readonly count: number
}

/**
 * Fewest stock lengths that any cutting needs: total length, pieces that cannot share one (Martello and Toth's L2), and
 * the rounding functions of Fekete and Schepers, each a proof of its own; the best one counts.
 */
export function cuttingBound(stock: number, sizes: readonly Size[]): number {
  const shares = sizes.map((s) => ({ x: s.length / stock, n: s.count }))
  let best = Math.ceil(shares.reduce((sum, s) => sum + s.x * s.n, 0) - 1e-9)
  const thresholds = [...new Set(shares.map((s) => s.x).filter((x) => x <= 0.5))].slice(0, 400)
  thresholds.push(0)
  for (const e of thresholds) {
    let over = 0
    let middle = 0
    let room = 0
    let small = 0
    for (const s of shares) {
      if (s.x > 1 - e + FIT) over += s.n
      else if (s.x > 0.5 + FIT) {
        middle += s.n
        room += s.n * (1 - s.x)
      } else if (s.x >= e - FIT) small += s.n * s.x
    }
    best = Math.max(best, over + middle + Math.max(0, Math.ceil(small - room - 1e-9)))
  }
  for (let k = 1; k <= 30; k++) {
    let sum = 0
    for (const s of shares) {
      const y = (k + 1) * s.x
      // A share a hair under a whole number of parts must not be rounded up into a wrong proof.
      sum += (Math.abs(y - Math.round(y)) < 1e-9 ? s.x : Math.floor(y) / k) * s.n
    }
    best = Math.max(best, Math.ceil(sum - 1e-9))
  }
  return best
}

/** One stock length as full as the remaining pieces allow, the longest piece in it. */
function fullest(stock: number, sizes: readonly Size[], left: readonly number[], nodes: number): number[] {
  const first = left.findIndex((n) => n > 0)
  let best: number[] = []
  let bestRoom = Number.POSITIVE_INFINITY
  const take = sizes.map(() => 0)
  let budget = nodes
  const search = (i: number, room: number) => {
    if (room < bestRoom - FIT) {
      bestRoom = room
      best = [...take]
    }
    if (bestRoom < FIT || budget-- <= 0) return
    for (let k = i; k < sizes.length; k++) {
      const size = (sizes[k] as Size).length
      if (size > room + FIT) continue
      const most = Math.min((left[k] as number) - (take[k] as number), Math.floor((room + FIT) / size))
      for (let n = most; n >= 1; n--) {
        take[k] = (take[k] as number) + n
        search(k + 1, room - n * size)
        take[k] = (take[k] as number) - n
        if (bestRoom < FIT || budget <= 0) return
      }
    }
  }
  take[first] = 1
  search(first, stock - (sizes[first] as Size).length)
  return best
}

type Pattern = { take: number[]; times: number }

function byFullest(stock: number, sizes: readonly Size[], nodes: number): Pattern[] {
  const left = sizes.map((s) => s.count)
  const patterns: Pattern[] = []
  while (left.some((n) => n > 0)) {
    const take = fullest(stock, sizes, left, nodes)
    const times = Math.min(...take.map((n, i) => (n > 0 ? Math.floor((left[i] as number) / n) : Number.POSITIVE_INFINITY)))
    take.forEach((n, i) => {
      left[i] = (left[i] as number) - n * times
    })
    patterns.push({ take, times })
  }
  return patterns
}

/** Longest first, each into the stock length it fills best. */
function bestFit(stock: number, sizes: readonly Size[]): number[][] {
  const rolls: { room: number; pieces: number[] }[] = []
  for (const s of sizes) {
    for (let n = 0; n < s.count; n++) {
      let best: { room: number; pieces: number[] } | undefined
      for (const r of rolls) if (r.room >= s.length - FIT && (!best || r.room < best.room)) best = r
      if (!best) {
        best = { room: stock, pieces: [] }
        rolls.push(best)
      }
      best.room -= s.length
      best.pieces.push(s.length)
    }
  }
  return rolls.map((r) => r.pieces)
}

/**
 * Exhaustive search for a cutting into `target` stock lengths: the longest piece left is completed in every way that
 * cannot be bettered. Undefined when there is none; null when the search was given up.
 */
function within(stock: number, sizes: readonly Size[], target: number, nodes: number): number[][] | undefined | null {
  const left = sizes.map((s) => s.count)
  const rolls: number[][] = []
  let budget = nodes
  let gaveUp = false
  const remaining = () => sizes.map((s, i) => ({ length: s.length, count: left[i] as number })).filter((s) => s.count > 0)
  const go = (): boolean => {
    const first = left.findIndex((n) => n > 0)
    if (first < 0) return true
    if (budget-- <= 0) {
      gaveUp = true
      return false
    }
    if (rolls.length + cuttingBound(stock, remaining()) > target) return false
    const take = sizes.map(() => 0)
    take[first] = 1
    left[first] = (left[first] as number) - 1
    const complete = (k: number, room: number): boolean => {
      let i = k
      while (i < sizes.length && ((left[i] as number) <= 0 || (sizes[i] as Size).length > room + FIT)) i++
      if (i >= sizes.length) {
        // A filling that leaves room for a piece still there is bettered by one that takes it.
        for (let j = first; j < sizes.length; j++) if ((left[j] as number) > 0 && (sizes[j] as Size).length <= room + FIT) return false
        rolls.push(take.flatMap((n, j) => Array.from({ length: n }, () => (sizes[j] as Size).length)))
        if (go()) return true
        rolls.pop()
        return false
      }
      const size = (sizes[i] as Size).length
      const most = Math.min(left[i] as number, Math.floor((room + FIT) / size))
      for (let n = most; n >= 0; n--) {
        take[i] = (take[i] as number) + n
        left[i] = (left[i] as number) - n
        const good = complete(i + 1, room - n * size)
        take[i] = (take[i] as number) - n
        if (!good) left[i] = (left[i] as number) + n
        else return true
        if (gaveUp) return false
      }
      return false
    }
    const good = complete(first, stock - (sizes[first] as Size).length)
    if (!good) left[first] = (left[first] as number) + 1
    return good
  }
  const found = go()
  return found ? rolls : gaveUp ? null : undefined
}

/**
 * Strips from rolls, and as well cut units from whole units: as few stock lengths as possible.
 *
 * @param stock - length of a roll or unit, m
 * @param wanted - lengths and how many of each, none longer than the stock
 * @returns what is cut from each, and a bound that proves how few can do; equal to the number where the optimum is proven
 * @example cutting(50, [{ length: 2.1, count: 40 }])
 */
export function cutting(stock: number, wanted: readonly Size[], effort = 40_000): Cutting {
  const grouped = new Map<number, number>()
  for (const w of wanted) grouped.set(w.length, (grouped.get(w.length) ?? 0) + w.count)
  const sizes = [...grouped].map(([length, count]) => ({ length, count })).sort((a, b) => b.length - a.length)
  const total = sizes.reduce((sum, s) => sum + s.length * s.count, 0)
  const pieces = sizes.reduce((sum, s) => sum + s.count, 0)
  let lowerBound = cuttingBound(stock, sizes)
  const patterns = byFullest(stock, sizes, 400)
  let rolls = patterns.flatMap((p) =>
    Array.from({ length: p.times }, () => p.take.flatMap((n, j) => Array.from({ length: n }, () => (sizes[j] as Size).length))),
  )
  if (rolls.length > lowerBound && pieces <= 20_000) {
    const other = bestFit(stock, sizes)
    if (other.length < rolls.length) rolls = other
  }
  while (rolls.length > lowerBound && pieces <= 400) {
    const better = within(stock, sizes, rolls.length - 1, effort)
    if (better === null) break
    if (better === undefined) lowerBound = rolls.length
    else rolls = better
  }
  return { rolls, waste: rolls.length * stock - total, lowerBound }
}

/** The contract of `grid-cut`. */
export function gridCut(input: GridCutInput): Result<Cutting> {
  for (const [i, s] of input.strips.entries()) {
    if (s.length > input.rollLength + FIT) {
      return fail(`strips[${i}].length`, `${said.given(s.length)} is longer than the roll of ${said.given(input.rollLength)}`)
    }
  }
  const pieces = input.strips.reduce((sum, s) => sum + s.count, 0)
  if (pieces > 200_000) return fail('strips', `${pieces} strips are over the limit of 200,000; give them in parts`)
  return ok(cutting(input.rollLength, input.strips))
}
