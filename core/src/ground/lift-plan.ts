import type { Result } from '../base/result'
import { said } from '../base/said'
import type { Plant } from '../rules'
import { lifts } from './rod'

/** A tool: the thickest loose lift it reaches through (m), in granular and in fine soil, and the passes it wants. */
export interface Tool {
  readonly plant: Plant
  readonly name: string
  readonly granular: number
  readonly fine: number
  readonly passes: number
  readonly note: string
}

/** Common practice; a rule of the site or the maker's sheet overrides. */
export const TOOLS: readonly Tool[] = [
  { plant: 'hand-tamper', name: 'Hand tamper', granular: 0.075, fine: 0.05, passes: 4, note: 'Corners, around pipes, against the units.' },
  {
    plant: 'light-plate',
    name: 'Light plate',
    granular: 0.125,
    fine: 0.075,
    passes: 3,
    note: `Within ${said.given(1)} of the face; up to about ${said.mass(100)}.`,
  },
  {
    plant: 'heavy-plate',
    name: 'Heavy plate',
    granular: 0.2,
    fine: 0.15,
    passes: 3,
    note: `Pads and fill more than ${said.given(1)} from the face.`,
  },
  {
    plant: 'roller',
    name: 'Trench roller',
    granular: 0.2,
    fine: 0.2,
    passes: 4,
    note: `Clay and long stretches; never within ${said.given(1)} of the face.`,
  },
]

/** Moisture of fill as a fist finds it. */
export const SQUEEZE = [
  { id: 'dust', name: 'Falls apart', judged: 'too dry', out: true, text: 'Too dry to lock: sprinkle, mix, squeeze again.' },
  { id: 'ball', name: 'Holds, breaks in two', judged: 'right', out: false, text: 'Near its best moisture.' },
  {
    id: 'print',
    name: 'Holds, wets the hand',
    judged: 'wet',
    out: true,
    text: 'Over its best moisture: spread it and let it dry before it is compacted.',
  },
  { id: 'drip', name: 'Water comes out', judged: 'too wet', out: true, text: 'Too wet: it pumps under the plate. Take it out or let it drain.' },
] as const
export type Squeeze = (typeof SQUEEZE)[number]['id']

export interface LiftPlan {
  readonly tool: Tool
  readonly count: number
  /** m */
  readonly compacted: number
  readonly loose: number
  readonly passes: number
}

/**
 * Lifts for a thickness with each tool: the plan's own limit (compacted, m) and what the tool reaches through (loose), whichever is less.
 *
 * @param fine - the fill is silt or clay
 * @example liftPlans({ thickness: 0.15, maxLift: 0.1, looseFactor: 1.25, fine: false })[2] // heavy plate: 2 lifts of 75 mm, 94 mm loose
 */
export function liftPlans(input: { thickness: number; maxLift: number; looseFactor: number; fine: boolean }): LiftPlan[] {
  return TOOLS.flatMap((tool) => {
    const reach = (input.fine ? tool.fine : tool.granular) / input.looseFactor
    const made: Result<{ count: number; compacted: number; loose: number }> = lifts({
      thickness: input.thickness,
      maxLift: Math.min(input.maxLift, reach),
      looseFactor: input.looseFactor,
    })
    return made.ok ? [{ tool, ...made.value, passes: tool.passes }] : []
  })
}

/** Fabric lap, m: the softer the soil, the wider. */
export const fabricLap = (soft: boolean) => (soft ? 0.6 : 0.3)

/**
 * Fabric below the pad with its laps, m².
 *
 * @param roll - length of a roll, m
 */
export const fabricArea = (length: number, width: number, roll: number, lap: number) =>
  (length + Math.max(0, Math.ceil(length / roll) - 1) * lap) * width

/**
 * Density tests owed for lifts placed on a stretch: one for each lift and so much of the wall, at least one for each lift.
 *
 * @param every - m of wall to a test
 *
 * @example testsOwed({ lifts: 2, length: 20, given: 3, every: 15 }) // { wanted: 4, owed: 1 }
 */
export function testsOwed({ lifts: placed, length, given, every }: { lifts: number; length: number; given: number; every: number }): {
  wanted: number
  owed: number
} {
  const wanted = placed * Math.max(1, Math.ceil(length / every - 1e-9))
  return { wanted, owed: Math.max(0, wanted - given) }
}
