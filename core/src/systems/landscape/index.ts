import { capAdhesive } from '../block-shape'
import { adapted, plainBlockStages, saying, withItems } from '../block-stages'
import { blocks } from '../block-system'
import { blockStart, foundationEngineered, refitBlocks } from '../blocks'
import { checkSmall, type SmallData, settleSmall, smallQuestions, smallSchema, smallStages } from '../small'
import { defineSystem } from '../system'
import { units } from './units'

/** More courses of small stone than this are another system's. */
export const MOST_COURSES = 7

export const landscapeStages = adapted(plainBlockStages, {
  units: (s) => ({
    ...s,
    title: 'Stones set',
    how: 'Lift the string by the marks of the story pole; set each stone to it, halves by the groove, joints broken.',
    caution: 'Split with guillotine or chisel: eye, hand and foot protection. Cut wet or with extraction.',
  }),
  bedding: withItems(saying('lugs', 'Lip off, or flat side down'), { how: 'Lowest end first, on the screeded bed; tap each stone level both ways.' }),
  joints: withItems(saying('engaged', 'Every stone bears on the ones below, none rocks')),
  fill: withItems((list) => list.filter((i) => i.id !== 'cores'), {
    title: 'Stone behind',
    how: 'Clean stone behind to the top of the course, rodded by hand; sweep the top clean.',
  }),
  backfill: (s) => ({
    ...s,
    how: 'Thin lifts by hand tamper up to the top of the course, from the face backwards.',
    caution: 'No plate on small stone: a foot or a plate pushes it out.',
  }),
  top: withItems(saying('fabric', 'Fabric laid over the second course from the top, so that the last ones hold it')),
})

/** Small solid stones, lipped or flat: partly buried up to three courses, a rigid pad from four on, not more than seven. */
export const landscape = defineSystem<SmallData>({
  ...blocks,
  schema: smallSchema,
  questions: smallQuestions,
  start: (unit, starts) => ({ ...blockStart(unit, starts), small: 'no' }),
  settle: settleSmall,
  refit: (data, length) => ({ ...data, ...refitBlocks(data, length) }),
  check: checkSmall,
  staged: ({ small }) => (small === 'yes' ? smallStages : landscapeStages),
  id: 'landscape',
  name: 'Small landscape stone',
  summary: 'Low walls, rings and free curves of small solid stone; hand tamper, thin lifts, not more than seven courses.',
  noun: { one: 'stone', many: 'stones' },
  units,
  stages: landscapeStages,
  engineered: (_plan, data, rows) => [
    ...foundationEngineered(data),
    ...(rows > MOST_COURSES
      ? [`it is ${rows} courses of small stone high; over ${MOST_COURSES} take a larger unit, or an engineer’s plan for this one`]
      : []),
  ],
  quantities: (basis, { unit }) => capAdhesive(basis, unit),
})
