import { said } from '../../base/said'
import type { Limits } from './names'
import { SECOND } from './second'

/**
 * Shipped table 3: what is known reaches the verdict, and a low garden wall is not sent to an engineer for nothing. Each with the kind of
 * text it stands in (docs/engineering.md).
 */
export const THIRD: Limits = {
  ...SECOND,
  loadReach: {
    value: 2,
    reason:
      'What stands or drives behind a wall pushes on it about as far back as it is high; as much again is kept. Where the cut or the 1 : 1 line from its bottom reaches further, that counts.',
  },
  lowShowing: {
    value: 0.6,
    reason: `A wall that shows ${said.given(0.6)} falls on nobody; residential codes leave such walls to the builder where nothing stands behind.`,
  },
  steepBehind: {
    value: 0.25,
    reason: 'Ground that rises steeper than 4H:1V nearly doubles what pushes; earth-pressure tables of design texts.',
  },
  steepFront: {
    value: 1 / 3,
    reason: 'Ground in front that falls steeper than 3H:1V carries the toe on its edge: bearing and the slope itself are an engineer’s question.',
  },
  frontNoFigure: {
    value: 2 / 3,
    reason: 'On ground that falls steeper than 1.5H:1V no depth of embedment answers: such a slope is near the angle at which soil stands at all.',
  },
  fenceOpen: {
    value: 1.2,
    reason: `An open fence up to ${said.given(1.2)} catches little wind; a closed or higher one turns the top courses over.`,
  },
  guardAbove: {
    value: 0.75,
    reason: `Who falls over an edge of more than ${said.given(0.75)} is hurt; building codes ask for a guard from about there where people can come to it.`,
  },
  footingLine: {
    value: 1,
    reason: 'Soil under a footing spreads its load at about 1 : 1; what is cut away within that line takes the ground from under it.',
  },
  slenderness: {
    value: 3,
    reason:
      'Clean sand or gravel behind and below: a dry wall three times as high as deep just keeps 1.5 against sliding and turning (Coulomb, φ 30°).',
  },
  slendernessSilty: {
    value: 2.2,
    reason: 'Silty or clayey sand behind or below: 1.5 against sliding and turning ends at 2.2 times the depth (Coulomb, φ 26°).',
  },
  slendernessFine: {
    value: 1.8,
    reason: 'Silt, clay, or soil nobody has named: 1.5 against sliding and turning ends at 1.8 times the depth (Coulomb, φ 24°).',
  },
  cutEvery: {
    value: 10,
    reason: `A cut changes within a few strides: one look speaks for ${said.given(10)} at most, and for one soil.`,
  },
  matShare: { value: 0.7, reason: 'Mats shorter than seven tenths of the height do not hold the mass together; design guides for reinforced soil.' },
  matSpacing: { value: 0.6, reason: `A face between mats further apart than ${said.given(0.6)} bulges.` },
  courseWithoutStone: {
    value: 3,
    reason: 'Without clean stone behind the units water stands against them; only walls of a few courses are built so.',
  },
  heightWithoutPipe: {
    value: 1.2,
    reason: `Where the ground lets water through and the pad has an open way out, walls up to ${said.given(1.2)} are built without a pipe.`,
  },
  windLift: { value: 35, reason: `Units on a hook swing in more than ${said.speed(35)}; the maker of machine or gear may say less.` },
  cureLean: { value: 1, reason: 'Lean concrete that is stood on the same day cracks; a day carries light units.' },
  cureLeanHeavy: { value: 3, reason: 'Under units that a machine sets lean concrete wants the strength of three mild days.' },
  cureMean: {
    value: 5,
    reason: `Concrete hardly gains strength under a mean of ${said.temperature(5)}: such days do not count; practice for concrete in the cold.`,
  },
  frostWatch: { value: 48, reason: 'Concrete that freezes in its first two days never gets its strength.' },
  secondLook: { value: 1, reason: 'Who looks again at once sees what they believe; after a pause they see what is there.' },
}
