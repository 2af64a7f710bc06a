// Pad steps and lines beside the wall against the plainest reckoning there is: every way of stepping tried, every point placed one by one.
import { alignmentOf, type BaseStepsInput, baseSteps, cornersOf, type KeepOff, lineBeside, pointAt } from '@stone-tally/core'
import fc from 'fast-check'
import { at } from './walls'

const NEAR = 1e-6
/** Toe grade at a station of a profile, m. */
const toeOf = (profile: BaseStepsInput['profile'], s: number) => {
  const i = Math.max(
    0,
    profile.findLastIndex((p) => p.station <= s + 1e-12),
  )
  const [a, b] = [profile[i], profile[i + 1]] as [{ station: number; toe: number }, { station: number; toe: number } | undefined]
  return b ? a.toe + ((b.toe - a.toe) * (s - a.station)) / (b.station - a.station) : a.toe
}

/** The least buried area of all ways of stepping, m²; every set of breaks is tried. */
function byHand(input: BaseStepsInput, keepOff: readonly KeepOff[], levels?: readonly number[]): number {
  const { profile, unit, minRun, minEmbedment, datum } = input
  const [start, end] = [profile[0]?.station ?? 0, profile.at(-1)?.station ?? 0]
  const cells = Math.max(1, Math.ceil((end - start) / (unit.length / 2) - NEAR))
  const edges = Array.from({ length: cells + 1 }, (_, i) => (i === cells ? end : start + (i * unit.length) / 2))
  const barred = (s: number) =>
    keepOff.some((k) => {
      const away = Math.abs(s - k.station)
      return away > NEAR && away < k.within - NEAR
    })
  const level = (a: number, b: number) => {
    const toe = Math.min(toeOf(profile, a), toeOf(profile, b), ...profile.filter((p) => p.station > a && p.station < b).map((p) => p.toe))
    const room = toe - minEmbedment - datum
    return levels
      ? (levels[
          Math.max(
            0,
            levels.findLastIndex((l) => l <= room + NEAR),
          )
        ] as number)
      : Math.floor(room / unit.height + 1e-9) * unit.height
  }
  const under = profile.slice(1).reduce((sum, p, i) => sum + ((p.toe + (profile[i]?.toe ?? 0)) / 2) * (p.station - (profile[i]?.station ?? 0)), 0)
  let least = Number.POSITIVE_INFINITY
  for (let set = 0; set < 2 ** (cells - 1); set++) {
    const breaks = [start, ...edges.slice(1, -1).filter((_, i) => set & (1 << i)), end]
    if (breaks.slice(1, -1).some(barred)) continue
    const steps = breaks.slice(1).map((b, i) => [breaks[i] as number, b] as const)
    if (steps.length > 1 && steps.some(([a, b]) => b - a < minRun - NEAR)) continue
    least = Math.min(
      least,
      steps.reduce((sum, [a, b]) => sum - (datum + level(a, b)) * (b - a), under),
    )
  }
  return least
}

const millimetres = (min: number, max: number) => fc.integer({ min: min * 1000, max: max * 1000 }).map((v) => v / 1000)
const profile = fc
  .tuple(
    fc.array(fc.tuple(millimetres(0.05, 1.2), millimetres(9.6, 10.9)), { minLength: 1, maxLength: 5 }),
    millimetres(0, 3),
    millimetres(9.6, 10.9),
  )
  .map(([points, from, toe]) => {
    let station = from
    return [{ station, toe }, ...points.map(([on, t]) => ({ station: (station = Math.round((station + on) * 1000) / 1000), toe: t }))]
  })

describe('pad steps are the least that can be buried', () => {
  const input = fc.record({
    profile,
    datum: fc.constantFrom(9, 9.137),
    minEmbedment: fc.constantFrom(0, 0.15, 0.2),
    minRun: fc.constantFrom(0, 0.45, 0.7, 1.2, 9),
    unit: fc.constantFrom({ height: 0.2, length: 0.9 }, { height: 0.15, length: 1.1 }),
  })
  const keepOff = fc.array(fc.record({ station: millimetres(0, 6), within: fc.constantFrom(0.05, 0.1125, 0.45) }), { maxLength: 3 })
  const onEdge = (i: BaseStepsInput, k: number): KeepOff => ({ station: (i.profile[0]?.station ?? 0) + (k * i.unit.length) / 2, within: 0.2 })
  test('of courses alike', () =>
    fc.assert(
      fc.property(input, keepOff, fc.integer({ min: 0, max: 4 }), (i, off, k) => {
        const kept = [...off, onEdge(i, k)]
        const made = baseSteps(i, kept)
        if (!made.ok) throw new Error(made.problems[0]?.message)
        expect(made.value.buriedArea).toBeCloseTo(byHand(i, kept), 6)
        // What is said of the area is that of the steps.
        const { steps } = made.value
        expect([steps[0]?.start, steps.at(-1)?.end]).toEqual([i.profile[0]?.station, i.profile.at(-1)?.station])
        for (const [n, s] of steps.entries()) {
          if (steps.length > 1) expect(s.end - s.start).toBeGreaterThanOrEqual(i.minRun - 2e-6)
          if (n > 0) expect([s.start, s.elevation === steps[n - 1]?.elevation]).toEqual([steps[n - 1]?.end, false])
        }
      }),
      { numRuns: 400, seed: 11 },
    ))
  test('of courses of several heights', () =>
    fc.assert(
      fc.property(input, keepOff, fc.constantFrom([0, 0.1, 0.3, 0.5, 0.8], [0, 0.15, 0.65, 1.3]), (i, off, levels) => {
        const made = baseSteps(i, off, levels)
        if (!made.ok) throw new Error(made.problems[0]?.message)
        expect(made.value.buriedArea).toBeCloseTo(byHand(i, off, levels), 6)
      }),
      { numRuns: 300, seed: 12 },
    ))
})

describe('a line beside the wall', () => {
  const line = alignmentOf([at(0, 0), at(8, 0, 0.3), at(14, 4), at(20, 4)], false)
  if (!line.ok) throw new Error('no line')
  const wall = line.value
  test('of a part begins and ends where the part does, at every half metre and wherever an element begins', () => {
    for (const [from, to] of [
      [0, 5],
      [3, wall.length],
      [2, 15],
      [0, wall.length - 0.4],
    ] as const) {
      const points = lineBeside(wall, 0.6, from, to)
      const wanted = [from, to, ...wall.segments.map((s) => s.station).filter((s) => s > from && s < to)]
      for (let s = from; s < to; s += 0.5) wanted.push(s)
      expect(points).toEqual(wanted.sort((a, b) => a - b).map((s) => pointAt(wall, s, 0.6)))
    }
  })
  test('of all of it keeps its distance, follows bends in steps nobody sees, and meets at corners', () => {
    const points = lineBeside(wall, 0.6)
    const begin = pointAt(wall, 0, 0.6)
    expect(points[0]?.easting).toBeCloseTo(begin.easting, 9)
    expect(points[0]?.northing).toBeCloseTo(begin.northing, 9)
    const face = Array.from({ length: 4001 }, (_, i) => pointAt(wall, (wall.length * i) / 4000, 0))
    const corners = cornersOf(wall).map((c) => pointAt(wall, c.station, 0))
    const from = (p: { easting: number; northing: number }, all: readonly { easting: number; northing: number }[]) =>
      Math.min(...all.map((q) => Math.hypot(q.easting - p.easting, q.northing - p.northing)))
    for (const p of points) if (corners.length === 0 || from(p, corners) > 1) expect(from(p, face)).toBeCloseTo(0.6, 2)
    // Along the bend no chord is further from it than a hand is wide.
    const turns = points.slice(1).map((p, i) => Math.hypot(p.easting - (points[i]?.easting ?? 0), p.northing - (points[i]?.northing ?? 0)))
    expect(turns.filter((t) => t < 1).length).toBeGreaterThan(8)
  })
})
