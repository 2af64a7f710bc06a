import { said } from '../../base/said'
import { cutting } from '../../bond'
import type { CountBasis, Quantity } from '../system'

/** Bars by their thickness; m. */
export interface Bars {
  readonly spacing: number
  readonly diameter: number
  readonly lap: number
  readonly starter: number
}

/** Bars over a length at a spacing: one at each end and between. @example barsOver(9.6, 0.6) // 17 */
export const barsOver = (length: number, spacing: number): number => Math.floor(length / spacing + 1e-9) + 1

/**
 * Heights of the vertical bars, in courses: where a bar begins, and where it ends, from how many each course takes. What begins first ends
 * first, which is the same length altogether however they are paired.
 *
 * @example heights([5, 5, 3]) // [2, 2, 3, 3, 3]
 */
export function heights(bars: readonly number[]): number[] {
  const open: number[] = []
  const done: number[] = []
  for (let n = 0; n <= bars.length; n++) {
    const wanted = bars[n] ?? 0
    while (open.length > wanted) done.push(n - (open.shift() as number))
    while (open.length < wanted) open.push(n)
  }
  return done
}

/** Lengths out of stock bars, each cut by the same solver that cuts geogrid. A bar longer than the stock is spliced with a lap. */
export function fromStock(
  stock: number,
  lap: number,
  lengths: readonly { readonly length: number; readonly count: number }[],
): { readonly bars: number; readonly cut: number } {
  // A bar that is all lap reaches nowhere; the plan is refused for it, and nothing is counted for ever.
  const reach = stock - lap
  let whole = 0
  const rest = new Map<number, number>()
  for (const { length, count } of lengths) {
    let left = length
    while (reach > 0 && left > stock + 1e-9) {
      whole += count
      left -= reach
    }
    left = Math.min(left, stock)
    const key = Math.round(left * 1e6) / 1e6
    rest.set(key, (rest.get(key) ?? 0) + count)
  }
  const sizes = [...rest].map(([length, count]) => ({ length, count }))
  const cut = sizes.length > 0 ? cutting(stock, sizes).rolls.length : 0
  return { bars: whole + cut, cut: sizes.reduce((n, s) => n + s.count, 0) }
}

interface Steel {
  readonly vertical: Bars
  readonly beams: readonly { readonly course: number; readonly bars: number; readonly diameter: number }[]
  readonly footing: { readonly count: number; readonly diameter: number; readonly lap: number }
  readonly stock: number
  readonly height: number
}

/** Bars of a masonry wall: along the footing, starters, verticals, beams, and how many stock bars they are cut from, by thickness. */
export function steelQuantities({ runs, steps }: CountBasis, { vertical, beams, footing, stock, height }: Steel): Quantity[] {
  const courses = Math.max(0, ...runs.map((r) => r.course))
  const perCourse = Array.from({ length: courses }, (_, i) =>
    runs.filter((r) => r.course === i + 1).reduce((n, r) => n + barsOver(r.length, vertical.spacing), 0),
  )
  const verticals = heights(perCourse).map((n) => ({ length: Math.round((n * height + vertical.lap) * 1000) / 1000, count: 1 }))
  const starters = steps.reduce((n, s) => n + barsOver(s.length, vertical.spacing), 0)
  const along = steps.map((s) => ({ length: s.length, count: footing.count }))
  const beam = beams.flatMap((b) => runs.filter((r) => r.course === b.course).map((r) => ({ length: r.length, count: b.bars, diameter: b.diameter })))
  const total = (list: readonly { length: number; count: number }[]) => list.reduce((sum, l) => sum + l.length * l.count, 0)
  const byThickness = new Map<number, { length: number; count: number }[]>()
  const put = (diameter: number, list: readonly { length: number; count: number }[]) =>
    byThickness.set(diameter, [...(byThickness.get(diameter) ?? []), ...list])
  put(footing.diameter, along)
  put(vertical.diameter, [...verticals, { length: vertical.starter, count: starters }])
  for (const b of beam) put(b.diameter, [b])
  return [
    {
      id: 'starters',
      name: 'Starters',
      value: starters,
      unit: 'pieces',
      working: `one every ${said.given(vertical.spacing)} along each step, one at its end; ${said.given(vertical.starter)} long`,
    },
    {
      id: 'verticals',
      name: 'Vertical bars',
      value: total(verticals),
      unit: 'm',
      working: `${verticals.length} bars, each with its lap of ${said.given(vertical.lap)}`,
    },
    ...(beam.length > 0
      ? [
          {
            id: 'beam-bars',
            name: 'Beam bars',
            value: total(beam),
            unit: 'm' as const,
            working: `${beams.length} ${beams.length === 1 ? 'course' : 'courses'} of beam units`,
          },
        ]
      : []),
    ...[...byThickness].map(([diameter, list]): Quantity => {
      const lap = diameter === footing.diameter ? footing.lap : vertical.lap
      const { bars, cut } = fromStock(stock, lap, list)
      return {
        id: `bars-${Math.round(diameter * 1000)}`,
        name: `Order: bars ${said.small(diameter)} thick`,
        value: bars,
        unit: 'pieces',
        working: `of ${said.given(stock)}; ${cut} lengths cut from them with the least left over`,
      }
    }),
  ]
}
