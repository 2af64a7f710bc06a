import type { Limit } from './limit'

const NOT_YET = 'It was not asked before rule table 3.'
const most = { value: Number.POSITIVE_INFINITY, reason: NOT_YET }
const none = { value: 0, reason: NOT_YET }

/** Limits that tables 1 and 2 did not know, at values nothing fails; what they did judge in code stands at what the code had. */
export const UNJUDGED = {
  lowShowing: none,
  steepBehind: most,
  steepFront: most,
  frontNoFigure: most,
  fenceOpen: most,
  guardAbove: most,
  footingLine: none,
  slendernessSilty: most,
  slendernessFine: most,
  cutEvery: most,
  matShare: none,
  matSpacing: most,
  courseWithoutStone: most,
  heightWithoutPipe: none,
  windLift: { value: 35, reason: 'Units on a hook swing in more wind than this.' },
  rainDamp: { value: 1, reason: 'More than a millimetre in a day, and beds and units are damp.' },
  rainWet: { value: 5, reason: 'Rain of this much in a day goes into open fill and loosens the sides of a cut.' },
  rainSoaked: { value: 20, reason: 'Fill and subgrade are soaked by it.' },
  frostAt: { value: 0, reason: 'Water in soil freezes.' },
  frostNear: { value: 3, reason: 'Over night the ground is colder than the air that was read.' },
  heatAt: { value: 32, reason: 'Mortar, grout and adhesive set before they are placed.' },
  cureLean: none,
  cureLeanHeavy: none,
  cureMean: { value: Number.NEGATIVE_INFINITY, reason: NOT_YET },
  frostWatch: none,
  secondLook: none,
} as const satisfies Record<string, Limit>
