import type { WorkdaysData } from '../record'
import { calendarFrom } from './calendar'
import { Network, type Wiring } from './network'

/** What a simulation is made of; plain data, so that it goes to a worker. */
export interface OddsInput {
  readonly wiring: { readonly durations: readonly number[]; readonly after: Wiring['after']; readonly notBefore?: readonly number[] }
  /** Of each task: one day in six takes so many times as long. */
  readonly spreads: readonly number[]
  /** Of each task: which pace it hangs on; who is slow at one course is slow at all of them. Left out, each by itself. */
  readonly groups?: readonly number[]
  /** What all work shares: one time in six everything takes so many times as long as believed. 1 where left out. */
  readonly shared?: number
  readonly workdays: WorkdaysData
  /** Days the weather expected takes, and days it speaks of at all: of those nothing is left to chance. */
  readonly lost?: readonly string[]
  readonly foreseen?: readonly string[]
  readonly today: string
  readonly runs: number
  readonly seed: number
}

/** Days on which the wall is done, over many runs: the same seed gives the same. */
export interface Odds {
  /** Sorted, as 2026-05-31. */
  readonly days: readonly string[]
  /** The day by which it is done in so many of a hundred. */
  at(percent: number): string
}

/** A quick stream of numbers from 0 up to 2³², the same for the same seed. */
function random(seed: number): () => number {
  let s = seed >>> 0 || 1
  return () => {
    s ^= s << 13
    s ^= s >>> 17
    s ^= s << 5
    return s >>> 0
  }
}

const TABLE = 1024
/** The normal distribution at the middles of so many equal shares, by its inverse (Acklam's rational approximation). */
const normal = Float64Array.from({ length: TABLE }, (_, i) => inverse((i + 0.5) / TABLE))
function inverse(p: number): number {
  const a = [-39.6968302866538, 220.946098424521, -275.928510446969, 138.357751867269, -30.6647980661472, 2.50662827745924]
  const b = [-54.4760987982241, 161.585836858041, -155.698979859887, 66.8013118877197, -13.2806815528857]
  const c = [-0.00778489400243029, -0.322396458041136, -2.40075827716184, -2.54973253934373, 4.37466414146497, 2.93816398269878]
  const d = [0.00778469570904146, 0.32246712907004, 2.445134137143, 3.75440866190742]
  const poly = (k: readonly number[], x: number) => k.reduce((sum, v) => sum * x + v, 0)
  if (p < 0.02425) {
    const q = Math.sqrt(-2 * Math.log(p))
    return poly(c, q) / (poly(d, q) * q + 1)
  }
  if (p > 1 - 0.02425) return -inverse(1 - p)
  const q = p - 0.5
  return (poly(a, q * q) * q) / (poly(b, q * q) * q * q + 1)
}

/** Half of what is not known of a task is shared with all of its kind, and half is its own: variances add up. */
const SHARED = Math.SQRT1_2
/** How much a day of weather takes after the day before it: rain comes in spells. Share of the way from the month's odds to certainty. */
const SPELL = 0.4
/** How many times as long by one half of it, at each of the equal shares, by spread; each spread's table is made once. */
function factorsOf(spreads: readonly number[]): { tables: Float64Array[]; of: Uint16Array } {
  const known = new Map<number, number>()
  const tables: Float64Array[] = []
  const of = Uint16Array.from(spreads, (s) => {
    let k = known.get(s)
    if (k === undefined) {
      k = tables.push(Float64Array.from(normal, (z) => s ** (z * SHARED))) - 1
      known.set(s, k)
    }
    return k
  })
  return { tables, of }
}

/**
 * When the wall will be done, with odds: every task takes what it usually does, times what all work, its kind and it itself scatter by;
 * working days are lost to the weather of their month, in spells. What is not known stays out of it: a delivery that fails, a machine that breaks.
 *
 * @param told - hears how many runs are done; what it answers false to ends it, with the runs made so far
 * @example odds({ …, runs: 1000, seed: 1 }).at(90) // '2026-12-08'
 */
export function odds(input: OddsInput, told?: (runs: number) => boolean): Odds {
  const network = Network.of(input.wiring)
  if (!(network instanceof Network)) throw new Error('a circle has no end')
  const hours = endsOf(network, input, told)
  const days = daysLost(hours, input)
  return oddsOf(days)
}

/** @returns the same from days that came out of a worker */
export function oddsOf(days: readonly string[]): Odds {
  const sorted = [...days].sort()
  return { days: sorted, at: (percent) => sorted[Math.min(sorted.length - 1, Math.max(0, Math.ceil((percent / 100) * sorted.length) - 1))] ?? '' }
}

/** Working hours until the end, run by run. */
export function endsOf(network: Network, { wiring, spreads, groups, shared, runs, seed }: OddsInput, told?: (runs: number) => boolean): number[] {
  const next = random(seed)
  const { tables, of } = factorsOf(spreads)
  // One factor a run for everything: a crew that is slower than believed, ground that is worse, is so at all of it.
  const common = shared && shared > 1 ? Float64Array.from(normal, (z) => shared ** z) : undefined
  const middle = Float64Array.from(wiring.durations)
  const [durations, finish] = [new Float64Array(middle.length), new Float64Array(middle.length)]
  const ends: number[] = []
  // Tasks of one kind and spread share a factor in each run; there are few of those.
  const kindsOf = new Map<string, number>()
  const share = Int32Array.from({ length: middle.length }, (_, i) => {
    const key = `${groups?.[i] ?? `own ${i}`} ${of[i]}`
    const known = kindsOf.get(key) ?? kindsOf.size
    kindsOf.set(key, known)
    return known
  })
  const tableOf = new Array<Float64Array>(kindsOf.size)
  const groupOf = new Int32Array(kindsOf.size)
  share.forEach((k, i) => {
    tableOf[k] = tables[of[i] as number] as Float64Array
    groupOf[k] = groups?.[i] ?? i
  })
  const factors = new Float64Array(kindsOf.size)
  const kinds = new Uint16Array(groupOf.reduce((most, g) => Math.max(most, g), 0) + 1)
  for (let r = 0; r < runs; r++) {
    for (let g = 0; g < kinds.length; g++) kinds[g] = next() >>> 22
    const all = common ? (common[next() >>> 22] as number) : 1
    for (let k = 0; k < factors.length; k++) factors[k] = all * (tableOf[k]?.[kinds[groupOf[k] as number] as number] as number)
    for (let i = 0; i < durations.length; i++) {
      const k = share[i] as number
      durations[i] = (middle[i] as number) * (factors[k] as number) * ((tableOf[k] as Float64Array)[next() >>> 22] as number)
    }
    ends.push(network.endWith(durations, finish))
    if (told && r % 50 === 49 && !told(r + 1)) break
  }
  return ends
}

/** The days those hours end on, working days lost with the odds of their month, more likely after one that was lost. */
function daysLost(hours: readonly number[], { workdays, today, seed, lost: gone, foreseen }: OddsInput): string[] {
  const next = random(seed ^ 0x5bd1e995)
  const plain = calendarFrom(workdays, today, new Set(gone))
  const known = new Set(foreseen)
  return hours.map((h) => {
    let left = h
    let wet = false
    for (let k = 0; ; k++) {
      const day = plain.nth(k)
      const lost = workdays.lost[Number(day.slice(5, 7)) - 1] ?? 0
      const share = lost / 100
      // In the long run as many days are lost as the month loses; they come together.
      const likely: number = wet ? share + (1 - share) * SPELL : share * (1 - SPELL)
      wet = !known.has(day) && next() < likely * 2 ** 32
      if (wet) continue
      left -= plain.hoursOn(day)
      if (left <= 1e-9) return day
    }
  })
}
