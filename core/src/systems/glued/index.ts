import { said } from '../../base/said'
import { bedAdhesive, capAdhesive } from '../block-shape'
import { adapted, plainBlockStages, saying, withItems } from '../block-stages'
import { blocks } from '../block-system'
import { blockStart, foundationEngineered, refitBlocks } from '../blocks'
import { schooled } from '../schools'
import { checkSmall, type SmallData, settleSmall, smallQuestions, smallSchema, smallStages } from '../small'
import { defineSystem } from '../system'
import { units } from './units'

/** More courses of small flat stone than this are another system's. */
const MOST_COURSES = 7

const stages = schooled(
  adapted(plainBlockStages, {
    units: (s) => ({
      ...s,
      title: 'Stones set',
      how: 'Two beads, set straight down and never slid; back to the string by the chosen setback. Gaps take two equal cuts, not one sliver.',
      caution: 'All cuts of the courses ahead on one saw day: cut wet or with extraction; respirator, eye, ear, hand and foot protection.',
    }),
    bedding: withItems(saying('lugs', 'Flat side down, smooth faces scored')),
    joints: withItems(
      (list) => [
        ...saying('engaged', 'Bonded: none moves by hand')(list),
        { id: 'mitres', text: 'At bends both stones cut at half the angle, no gap between them', maybe: true },
      ],
      { title: 'Bond and mitres' },
    ),
    fill: withItems((list) => list.filter((i) => i.id !== 'cores'), {
      title: 'Stone behind',
      how: 'Clean stone behind to the top of the course, rodded by hand; sweep the top clean.',
    }),
    backfill: (s) => ({ ...s, how: 'Thin lifts by hand tamper up to the top of the course, from the face backwards, when the adhesive holds.' }),
    top: withItems(saying('fabric', 'Fabric laid over the second course from the top, so that the last ones hold it')),
  }),
  [{ choice: 'adhesive', option: 'each' }],
)

/** Two beads before each stone goes down; the rest as any small wall. */
const smallGlued = smallStages.map((s) =>
  s.id === 'units'
    ? {
        ...s,
        how: 'Two beads on clean dry stone, set straight down to the string and never slid; joints broken, gaps by two equal cuts; backed by hand before the next course goes on.',
      }
    : s,
)

/** Small flat stones, glued course by course, mitred at bends. */
export const glued = defineSystem<SmallData>({
  ...blocks,
  schema: smallSchema,
  questions: smallQuestions,
  start: (unit, starts) => ({ ...blockStart(unit, starts), small: 'no' }),
  settle: settleSmall,
  refit: (data, length) => ({ ...data, ...refitBlocks(data, length) }),
  check: checkSmall,
  staged: ({ small }) => (small === 'yes' ? smallGlued : stages),
  id: 'glued',
  name: 'Glued flat stone with mitres',
  summary: 'Flat stones glued course by course and set back as chosen; bends are mitred, cuts are gathered into one saw day.',
  noun: { one: 'stone', many: 'stones' },
  units,
  stages,
  // It is glued always: that is what it is.
  schools: [
    ...['embedment', 'floor', 'pad-material', 'pad-test', 'level-interval', 'open-courses', 'setback', 'corner', 'drain-seat', 'pipe-sock', 'fabric'],
    ...['stone', 'face-compactor', 'lift-thickness', 'cap', 'top-grade'],
  ],
  cautions: () => [
    { id: 'adhesive', message: 'Adhesive holds stones together, not the ground back: stone, pipe and fabric behind as for any other wall.' },
  ],
  engineered: (_plan, data, rows) => [
    ...foundationEngineered(data),
    ...(rows > MOST_COURSES
      ? [`it is ${rows} courses of flat stone high; over ${MOST_COURSES} take a larger unit, or an engineer’s plan for this one`]
      : []),
  ],
  quantities: (basis, { unit }) => {
    const cuts = basis.pieces.filter((p) => p.kind === 'cut' || p.kind === 'mitre')
    return [
      bedAdhesive(basis),
      ...capAdhesive(basis, unit),
      {
        id: 'saw-day',
        name: 'Cuts for the saw day',
        value: cuts.length,
        unit: 'pieces',
        working: `${cuts.filter((p) => p.kind === 'mitre').length} of them mitres; ${said.given(unit.height)} deep each`,
        bought: false,
      },
    ]
  },
})
