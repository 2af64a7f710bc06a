import { fail, ok, type Result } from '../base/result'
import { said } from '../base/said'
import { type InferType, list, quantity, record, yesNo } from '../base/schema'
import { gridBond, gridReach, twoCuts } from './grid'
import { NEAR } from './spans'
import type { BondPiece, StretchToBond } from './stretch'
import { searchBond } from './sweep'

const metres = (min: number, max: number) => quantity({ min, max, unit: 'm' })

export const bondInput = record({
  from: metres(-100_000, 100_000),
  to: metres(-100_000, 100_000),
  unit: record({ length: metres(0.01, 20) }),
  half: yesNo(),
  minPiece: metres(0, 20),
  minOverlap: metres(0, 20),
  below: list(metres(-100_000, 100_000), 0, 100_000),
  endCuts: yesNo(),
})
export type BondInput = InferType<typeof bondInput>

/**
 * Units of one course stretch: fewest cuts, then fewest halves; every joint at least the overlap from every joint below.
 *
 * @returns the joints of the pieces from left to right, or undefined when the rules leave no way
 */
export function bondOf(s: StretchToBond): BondPiece[] | undefined {
  return gridBond(s) ?? searchBond(s)
}

/**
 * As `bondOf`, but among bonds with as few cuts the first found is good enough, whatever its halves: what a long curved
 * wall is laid with, where the exact search for fewest halves would take most of the time.
 */
export function quickBond(s: StretchToBond): BondPiece[] | undefined {
  const from = gridReach(s)
  return gridBond(s, from) ?? twoCuts(s, from) ?? searchBond(s, false)
}

/**
 * Units of one course stretch in running bond: full, half where halves exist, or cut between `minPiece` and a full unit;
 * no cut at an end unless allowed; every joint at least `minOverlap` from every joint below. Fewest cuts, then fewest halves.
 *
 * @returns pieces from left to right (m) and the number of cuts, or the rule in the way
 * @example bond({ from: 0, to: 2, unit: { length: 0.45 }, half: true, minPiece: 0.15, minOverlap: 0.1, below: [], endCuts: false })
 */
export function bond(input: BondInput): Result<{ pieces: BondPiece[]; cuts: number }> {
  const { from, to, unit } = input
  if (!(to > from + NEAR)) return fail('to', `must be beyond ${said.given(from)}, where the stretch starts; it is ${to}`)
  if (input.minPiece > unit.length) return fail('minPiece', `${said.given(input.minPiece)} is longer than the unit of ${said.given(unit.length)}`)
  if (to - from > 20_000 * unit.length) return fail('to', `the stretch takes over 20,000 units of ${said.given(unit.length)}; give it in parts`)
  const below = [...input.below].sort((a, b) => a - b).map((x) => x - from)
  const wanted: StretchToBond = {
    length: to - from,
    full: unit.length,
    half: input.half,
    minPiece: input.minPiece,
    minOverlap: input.minOverlap,
    below,
    cutStart: input.endCuts,
    cutEnd: input.endCuts,
  }
  const pieces = bondOf(wanted)
  if (pieces) return ok({ pieces, cuts: pieces.filter((p) => p.kind === 'cut').length })
  const length = Number((to - from).toFixed(4))
  const free = { cutStart: true, cutEnd: true }
  const solves = (change: Partial<StretchToBond>) => bondOf({ ...wanted, ...change }) !== undefined
  if (solves({ minOverlap: 0 }))
    return fail(
      'minOverlap',
      `no bond over ${said.given(length)} keeps every joint ${said.given(input.minOverlap)} from the joints below; allow less overlap or move the joints below`,
    )
  if (solves(free)) return fail('endCuts', `${said.given(length)} cannot be made without a cut piece at an end; allow it or move an end`)
  if (solves({ minPiece: 0 })) return fail('minPiece', `${said.given(length)} needs a piece shorter than ${said.given(input.minPiece)}; move an end`)
  if (solves({ ...free, minOverlap: 0 }))
    return fail(
      'endCuts',
      `${said.given(length)} cannot be made without a cut piece at an end, nor with the overlap of ${said.given(input.minOverlap)}`,
    )
  return fail('minPiece', `${said.given(length)} cannot be made of pieces of ${said.given(input.minPiece)} and more; move an end`)
}
