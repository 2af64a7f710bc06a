import { limitsOf, type Ruled, setByPlan, since, tableOf } from './limits'
import type { LimitName, Limits } from './shipped'

/** What a crew compacts with. */
export type Plant = 'hand-tamper' | 'light-plate' | 'heavy-plate' | 'roller'
/** What is compacted: stone, gravel and sand, or fill with silt or clay in it. */
export type FillKind = 'granular' | 'fine'

/** Where the book holds the passes of a plant in a material. */
const PASSES: Readonly<Record<Plant, Readonly<Record<FillKind, LimitName>>>> = {
  'hand-tamper': { granular: 'passesTamper', fine: 'passesTamperFine' },
  'light-plate': { granular: 'passesLight', fine: 'passesLightFine' },
  'heavy-plate': { granular: 'passesHeavy', fine: 'passesHeavyFine' },
  roller: { granular: 'passesRoller', fine: 'passesRollerFine' },
}
/** How much less a tool reaches in silt and clay than in granular fill. */
const FINE_SHARE: Readonly<Record<Plant, number>> = { 'hand-tamper': 0.75, 'light-plate': 0.6, 'heavy-plate': 0.75, roller: 1 }

/** What no wall is filled with; judged as fine by its plant, and out whatever its plant. */
export type Unfit = 'swelling' | 'organic' | 'frozen' | 'made'
/** Since rule table 3 a roller reaches no deeper in silt and clay than a heavy plate does. */
const ROLLED = FINE_SHARE['heavy-plate']

/** What a lift may be with a plant in a material: m loose and compacted, passes at least. */
export interface PlantRule {
  readonly loose: number
  readonly compacted: number
  readonly passes: number
}

/**
 * The thickest lift a plant reaches through and the passes it wants, by the rules of a plan.
 *
 * @param fill - `undefined` where nobody said what it is: taken as granular, as fine since rule table 3
 * @example plantRule(plan, 'hand-tamper', 'granular') // { loose: 0.1, compacted: 0.075, passes: 4 }
 */
export function plantRule(plan: Ruled, plant: Plant, placed: FillKind | Unfit | undefined): PlantRule {
  const limits: Limits = limitsOf(plan)
  const three = since(plan, 3)
  const fill: FillKind | undefined = placed === undefined ? (three ? 'fine' : undefined) : placed === 'granular' ? placed : 'fine'
  if (tableOf(plan) === 1) {
    return { loose: limits.backfillLift.value, compacted: limits.backfillLift.value / limits.backfillLoose.value, passes: limits.passes.value }
  }
  const hand = plant === 'hand-tamper'
  const share = fill === 'fine' ? (three ? Math.min(FINE_SHARE[plant], ROLLED) : FINE_SHARE[plant]) : 1
  return {
    loose: (hand ? limits.looseHand.value : limits.backfillLift.value) * share,
    compacted: (hand ? limits.liftHand.value : limits.liftPlate.value) * share,
    passes: setByPlan(plan, 'passes')?.value ?? Math.max(limits.passes.value, limits[PASSES[plant][fill ?? 'granular']].value),
  }
}
