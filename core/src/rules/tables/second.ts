import { said } from '../../base/said'
import { FIRST } from './first'
import type { Limits } from './names'
import { UNJUDGED } from './unjudged'

/** Shipped table 2. Cautious defaults, always behind the approved plan and local code; each with what it rests on (docs/engineering.md). */
export const SECOND: Limits = {
  ...FIRST,
  ...UNJUDGED,
  cutSlope: {
    value: 1.5,
    reason:
      'Soil nobody has classified is taken for the weakest: 1.5 across per 1 up. Only a named competent person may let a dry side stand steeper.',
  },
  levelClosure: { value: 0.002, reason: `A careful set-up adds about ±${said.small(0.002)}; n of them √n times as much. More is a blunder.` },
  plantEdge: { value: 1, reason: `Plant within ${said.given(1)} of the edge loads the side until it comes down.` },
  ladder: { value: 7.5, reason: `Whoever is in a cut is at a ladder or ramp within ${said.given(7.5)}.` },
  liftHand: { value: 0.075, reason: `A hand tamper reaches no deeper than ${said.small(0.1)} of loose fill, about ${said.small(0.075)} compacted.` },
  liftPlate: {
    value: 0.16,
    reason: `Plates and rollers reach no deeper than ${said.small(0.2)} of loose fill, about ${said.small(0.16)} compacted.`,
  },
  looseHand: { value: 0.1, reason: `A hand tamper reaches no deeper than ${said.small(0.1)} of loose fill.` },
  oversize: { value: 30, reason: 'Fill with at most 30 per cent of coarse stones can be tested; a method record serves only what cannot.' },
  pipeFallShare: { value: 0.5, reason: 'Between two points at least half of the planned fall must be there; against it water stands.' },
  slenderness: {
    value: 3,
    reason: 'A wall over three times as high as its units are deep stands by more than its weight alone: an engineer checks it.',
  },
}
