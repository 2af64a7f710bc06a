import { fail, ok, type Result } from '../base/result'
import { said } from '../base/said'
import { type InferType, list, quantity, record } from '../base/schema'
import { areaUnder, LENGTH_TOLERANCE, type ProfilePoint, tidy } from '../geometry'

const elevation = () => quantity({ min: -500, max: 9000, unit: 'm' })

export const baseStepsInput = record({
  datum: elevation(),
  minEmbedment: quantity({ min: 0, max: 5, unit: 'm' }),
  minRun: quantity({ min: 0, max: 1000, unit: 'm' }),
  unit: record({ height: quantity({ min: 0.01, max: 5, unit: 'm' }), length: quantity({ min: 0.01, max: 10, unit: 'm' }) }),
  profile: list(record({ station: quantity({ min: 0, max: 100_000, unit: 'm' }), toe: elevation() }), 2),
})
export type BaseStepsInput = InferType<typeof baseStepsInput>

/** A level stretch of pad: stations and top of pad, m. */
export interface PadStep {
  readonly start: number
  readonly end: number
  readonly elevation: number
}

/** Elevation on the line that leaves point `i` of a profile, level beyond the last (m). */
function between(profile: readonly ProfilePoint[], i: number, station: number): number {
  const a = profile[i] as ProfilePoint
  const b = profile[i + 1]
  if (!b || station <= a.station) return a.elevation
  return station >= b.station ? b.elevation : a.elevation + ((b.elevation - a.elevation) * (station - a.station)) / (b.station - a.station)
}

/** Where no step may begin or end: nearer to a station than a piece is long, unless at the station itself. m. */
export interface KeepOff {
  readonly station: number
  readonly within: number
}

/**
 * Pad steps under a rising or falling toe grade: tops at `datum + k·unit.height`, breaks on the half-unit grid from the
 * first station, each at least `minEmbedment` below the lowest toe grade over it and at least `minRun` long unless it is
 * the only one; least buried face area wins.
 *
 * The optimum by dynamic programming over elevation levels: a step that ends at a cell is either longer than the minimum
 * run (then the same step one cell shorter was good too) or just the minimum run after the best finish before it.
 * Time is cells × levels.
 *
 * @param keepOff - corners, openings and ends that steps stay a piece's length away from
 * @param levels - where courses are of several heights: what a top may lie above the datum, ascending, m; instead of multiples of a unit
 * @returns steps, and ∫(toe − elevation) ds in m²
 * @example baseSteps({ datum: 9, minEmbedment: 0.2, minRun: 1.2, unit: { height: 0.2, length: 0.45 },
 *   profile: [{ station: 0, toe: 10 }, { station: 9, toe: 10.1 }, { station: 15, toe: 10.75 }] }) // four steps, buriedArea 4.155
 */
export function baseSteps(
  input: BaseStepsInput,
  keepOff: readonly KeepOff[] = [],
  levels?: readonly number[],
): Result<{ steps: PadStep[]; buriedArea: number }> {
  const profile: ProfilePoint[] = input.profile.map((p) => ({ station: p.station, elevation: p.toe }))
  for (let i = 1; i < profile.length; i++) {
    const [a, b] = [profile[i - 1] as ProfilePoint, profile[i] as ProfilePoint]
    if (!(b.station > a.station + LENGTH_TOLERANCE)) {
      return fail(`profile[${i}].station`, `must be after ${said.given(a.station)}, not ${said.given(b.station)}`)
    }
  }
  const start = (profile[0] as ProfilePoint).station
  const end = (profile[profile.length - 1] as ProfilePoint).station
  const cell = input.unit.length / 2
  const cells = Math.max(1, Math.ceil((end - start) / cell - LENGTH_TOLERANCE))
  const edges = new Float64Array(cells + 1)
  for (let i = 0; i < cells; i++) edges[i] = start + i * cell
  edges[cells] = end
  const edge = (i: number) => edges[i] as number
  // A step that broke beside a corner would leave a sliver of a course there.
  const barred = new Uint8Array(cells + 1)
  for (const k of keepOff) {
    for (let i = Math.max(1, Math.floor((k.station - k.within - start) / cell)); i < cells && edge(i) < k.station + k.within; i++) {
      const away = Math.abs(edge(i) - k.station)
      if (away > LENGTH_TOLERANCE && away < k.within - LENGTH_TOLERANCE) barred[i] = 1
    }
  }

  const highest = new Int32Array(cells)
  // Points are walked once beside the cells, so that 1,000 m of half-metre points stays linear.
  let near = 0
  let low = Number.POSITIVE_INFINITY
  let high = Number.NEGATIVE_INFINITY
  for (let i = 0; i < cells; i++) {
    while (near + 2 < profile.length && (profile[near + 1] as ProfilePoint).station <= edge(i)) near++
    let far = near
    while (far < profile.length - 1 && (profile[far] as ProfilePoint).station < edge(i + 1)) far++
    // Lowest toe over the cell: at its ends, or at a point within.
    const from = edge(i)
    const to = edge(i + 1)
    let toe = Math.min(between(profile, near, from), between(profile, Math.max(near, far - 1), to))
    for (let p = near; p <= far; p++) {
      const point = profile[p] as ProfilePoint
      if (point.station > from && point.station < to && point.elevation < toe) toe = point.elevation
    }
    const room = toe - input.minEmbedment - input.datum
    const k = levels
      ? Math.max(
          0,
          levels.findLastIndex((l) => l <= room + LENGTH_TOLERANCE),
        )
      : Math.floor(room / input.unit.height + 1e-9)
    highest[i] = k
    low = Math.min(low, k)
    high = Math.max(high, k)
  }
  const count = high - low + 1
  /** How high the k-th level stands over the lowest, in levels or in metres: a step is worth its length times that. */
  const worth = Float64Array.from({ length: count }, (_, k) => (levels ? (levels[low + k] as number) - (levels[low] as number) : k))

  // best[i]: most level-metres up to edge i with a finished step there; from[i], level[i]: that last step.
  const best = new Float64Array(cells + 1).fill(Number.NEGATIVE_INFINITY)
  const from = new Int32Array(cells + 1)
  const levelOf = new Int32Array(cells + 1)
  best[0] = 0
  // running[k]: best with a long-enough step at level k that ends here; since[k]: where it began; clear[k]: first cell of the open run.
  const running = new Float64Array(count).fill(Number.NEGATIVE_INFINITY)
  const since = new Int32Array(count)
  const clear = new Int32Array(count)
  let first = 0
  for (let i = 1; i <= cells; i++) {
    // Latest start that leaves at least the minimum run.
    while (first + 1 < i && edge(i) - edge(first + 1) >= input.minRun - LENGTH_TOLERANCE) first++
    const longEnough = edge(i) - edge(first) >= input.minRun - LENGTH_TOLERANCE
    const run = edge(i) - edge(i - 1)
    const reach = edge(i) - edge(first)
    const start = best[first] as number
    const top = (highest[i - 1] as number) - low
    let most = Number.NEGATIVE_INFINITY
    let level = 0
    for (let k = 0; k <= top; k++) {
      let value = (running[k] as number) + (worth[k] as number) * run
      if (longEnough && (clear[k] as number) <= first) {
        const fresh = start + (worth[k] as number) * reach
        if (fresh > value + 1e-9) {
          value = fresh
          since[k] = first
        }
      }
      running[k] = value
      if (value > most + 1e-9) {
        most = value
        level = k
      }
    }
    for (let k = top + 1; k < count; k++) {
      running[k] = Number.NEGATIVE_INFINITY
      clear[k] = i
    }
    best[i] = barred[i] ? Number.NEGATIVE_INFINITY : most
    from[i] = since[level] as number
    levelOf[i] = level
  }

  const steps: PadStep[] = []
  const put = (a: number, b: number, k: number) => {
    const next = steps[0]
    const elevation = tidy(input.datum + (levels ? (levels[low + k] as number) : (low + k) * input.unit.height))
    if (next && Math.abs(next.elevation - elevation) < LENGTH_TOLERANCE) steps[0] = { ...next, start: tidy(edge(a)) }
    else steps.unshift({ start: tidy(edge(a)), end: tidy(edge(b)), elevation })
  }
  if (best[cells] === Number.NEGATIVE_INFINITY)
    put(0, cells, 0) // shorter than a minimum run: one step at the lowest level
  else for (let i = cells; i > 0; i = from[i] as number) put(from[i] as number, i, levelOf[i] as number)

  const buriedArea = steps.reduce((sum, s) => sum - s.elevation * (s.end - s.start), areaUnder(profile, start, end))
  return ok({ steps, buriedArea })
}
