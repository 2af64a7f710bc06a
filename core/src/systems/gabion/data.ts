import { optionalChoice, optionalList, optionalQuantity, optionalRecord, quantity, record } from '../../base/schema'
import { type BlockData, blockFields } from '../blocks'
import { FOUNDATIONS, foundationSchema } from '../foundations'

const count = (min: number, max: number) => quantity({ min, max, whole: true })
const metres = (min: number, max: number) => quantity({ min, max, unit: 'm' })
/** Firm undisturbed floor may carry baskets without a pad, as the soil allows. What a plan of before does not say stays as it was built then. */
export const schema = record({
  ...blockFields,
  foundation: foundationSchema(FOUNDATIONS.map((f) => f.id)),
  /** Front laid stone by stone, or filled as it falls behind a stiff front. */
  face: optionalChoice(['hand', 'machine'] as const),
  /** How baskets are joined. */
  joint: optionalChoice(['spiral', 'ring', 'lacing'] as const),
  /** Leaning by rows that step back, or by a base that is tilted. */
  lean: optionalChoice(['step', 'tilt'] as const),
  /** Mesh, wide, m: stones are one to two of it. */
  mesh: optionalQuantity({ min: 0.04, max: 0.15, unit: 'm' }),
  /** Laced into chains on the ground and lifted into place. */
  chains: optionalChoice(['yes', 'no'] as const),
  /** From the foot so many courses are so many baskets deep; the deepest first. */
  deep: optionalList(record({ courses: count(1, 20), baskets: count(2, 6) }), 6),
  /** A mattress in front of the foot: thick, and how far out, m. */
  mattress: optionalRecord({ thickness: metres(0.15, 0.6), out: metres(0.5, 10) }),
})
interface Deep {
  readonly courses: number
  readonly baskets: number
}
/** Baskets, how they are filled, joined and leaned, and what lies behind and before them. */
export type GabionData = BlockData & {
  readonly face?: 'hand' | 'machine'
  readonly joint?: 'spiral' | 'ring' | 'lacing'
  readonly lean?: 'step' | 'tilt'
  readonly mesh?: number
  readonly chains?: 'yes' | 'no'
  readonly deep?: readonly Deep[]
  readonly mattress?: { readonly thickness: number; readonly out: number }
}

/** How many baskets deep a course is. @example basketsDeep({ deep: [{ courses: 2, baskets: 2 }] }, 2) // 2 */
export const basketsDeep = ({ deep = [] }: Pick<GabionData, 'deep'>, course: number): number =>
  deep.reduce((most, d) => (course <= d.courses ? Math.max(most, d.baskets) : most), 1)
