// How courses are made up, stock is cut and pads are stepped, by numbers alone.
import { type BondInput, baseSteps, bond, cutting, cuttingBound, gridCut, quickBond, searchBond, truckLoads } from '@stone-tally/core'
import { type Draw, maybe, on, type Pinned, pick, several } from './drawn'

function stretch(draw: Draw): BondInput {
  const length = pick(draw, [0.2, 0.4, 0.5])
  const from = pick(draw, [0, 0, 3, -1.5])
  const to = Math.round((from + on(draw, 0.1, 3, 0.05)) * 100) / 100
  return {
    from,
    to,
    unit: { length },
    half: maybe(draw),
    minPiece: pick(draw, [0, 0.1, 0.1, 0.1, 0.15, 0.15, 0.2, 0.6]),
    minOverlap: pick(draw, [0, 0.05, 0.1, 0.1]),
    below: several(draw, 0, 8, () => Math.round((from + on(draw, 0, 3, 0.05)) * 100) / 100),
    endCuts: maybe(draw),
  }
}
const stretchToBond = (draw: Draw) => {
  const s = stretch(draw)
  return {
    length: s.to - s.from,
    full: s.unit.length,
    half: s.half,
    minPiece: s.minPiece,
    minOverlap: s.minOverlap,
    below: s.below.map((b) => b - s.from).sort((a, b) => a - b),
    cutStart: maybe(draw),
    cutEnd: maybe(draw),
  }
}
const sizes = (draw: Draw) => several(draw, 1, 6, () => ({ length: on(draw, 0.5, 5, 0.25), count: on(draw, 1, 5, 1) }))
/** Pieces, cuts, loads and steps of the pad. */
export const BOND: Readonly<Record<string, Pinned>> = {
  'pad steps': [
    500,
    (d) => {
      let at = pick(d, [0, 0, 2])
      const profile = several(d, 2, 6, () => {
        const p = { station: at, toe: on(d, 10, 11, 0.1) }
        at += on(d, 0.2, 2, 0.2) * (maybe(d, 0.02) ? 0 : 1)
        return p
      })
      const keepOff = several(d, 0, 2, () => ({ station: on(d, 0, 5, 0.1), within: pick(d, [0.1, 0.2, 0.3]) }))
      const levels = maybe(d, 0.3) ? [0, 0.2, 0.5, 0.6, 1] : undefined
      const input = {
        datum: 9.8,
        minEmbedment: pick(d, [0, 0.1, 0.2]),
        minRun: pick(d, [0, 0.4, 0.8, 1, 30]),
        unit: { height: 0.2, length: 0.4 },
        profile,
      }
      return [baseSteps(input, keepOff, levels), baseSteps(input)]
    },
  ],
  bond: [1500, (d) => bond(stretch(d))],
  'bond of a stretch': [1200, (d) => [searchBond(stretchToBond(d)), searchBond(stretchToBond(d), false), quickBond(stretchToBond(d))]],
  cutting: [
    500,
    (d) => {
      const stock = pick(d, [5, 6, 10])
      return [cutting(stock, sizes(d)), cuttingBound(stock, sizes(d)), cutting(stock, sizes(d), 3)]
    },
  ],
  rolls: [150, (d) => gridCut({ rollLength: pick(d, [4, 5, 10]), strips: sizes(d) })],
  trucks: [
    300,
    (d) =>
      truckLoads({
        units: several(d, 0, 12, () => ({ mass: on(d, 0, 600, 50) })),
        capacity: { mass: pick(d, [500, 550, 1000]), count: on(d, 1, 4, 1) },
      }),
  ],
}
