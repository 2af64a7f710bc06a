import { fail, ok, type Result } from '../base/result'
import { type InferType, list, optionalList, quantity, record } from '../base/schema'

const day = () => quantity({ min: -100_000, max: 100_000 })
const amount = (min: number) => quantity({ min, max: 1e9 })

export const stockPlanInput = record({
  onHand: quantity({ min: -1e9, max: 1e9 }),
  /** Never less than this is left. */
  reserve: amount(0),
  needs: list(record({ day: day(), amount: amount(0) }), 0, 20_000),
  expected: optionalList(record({ day: day(), amount: amount(0) }), 20_000),
  /** From ordering to coming, days. */
  lead: quantity({ min: 0, max: 1000 }),
  /** What it is sold in. */
  pack: quantity({ min: 1e-6, max: 1e9 }),
  today: day(),
})
export type StockPlanInput = InferType<typeof stockPlanInput>

/** What is ordered when, when it comes, and whether that is after it is needed. */
export interface Order {
  readonly order: number
  readonly arrive: number
  readonly amount: number
  readonly late: boolean
}
const NOTHING = 1e-9

/**
 * What must be ordered by when, so that no need meets less than the reserve; as late as the lead allows, in whole packs.
 *
 * @param input - days as numbers; amounts in the unit of the item
 * @returns orders in the order of the needs, and what is left after all; a need out of its order is named
 * @example stockPlan({ onHand: 40, reserve: 10, needs: [{ day: 2, amount: 35 }], lead: 3, pack: 60, today: 0 }).value.orders // [{ order: 0, arrive: 3, amount: 60, late: true }]
 */
export function stockPlan({ onHand, reserve, needs, expected, lead, pack, today }: StockPlanInput): Result<{ orders: Order[]; end: number }> {
  const late = needs.findIndex((n, i) => i > 0 && n.day < (needs[i - 1]?.day ?? 0))
  if (late >= 0)
    return fail(
      `needs[${late}].day`,
      `is day ${needs[late]?.day}, before the need above it on day ${needs[late - 1]?.day}; list them in order of day`,
    )
  const coming = [...(expected ?? [])].sort((a, b) => a.day - b.day)
  const orders: Order[] = []
  let at = onHand
  let came = 0
  for (const need of needs) {
    for (let next = coming[came]; next && next.day <= need.day; next = coming[++came]) at += next.amount
    at -= need.amount
    const short = reserve - at
    if (short <= NOTHING) continue
    const bought = Math.ceil(short / pack - NOTHING) * pack
    const order = Math.max(today, need.day - lead)
    const arrive = Math.max(need.day, order + lead)
    orders.push({ order, arrive, amount: bought, late: arrive > need.day })
    at += bought
  }
  for (; came < coming.length; came++) at += coming[came]?.amount ?? 0
  return ok({ orders, end: at })
}
