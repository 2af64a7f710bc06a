import { said } from '../../base/said'
import { adapted, blockStages } from '../block-stages'
import { pipeStages } from '../raising-stages'
import type { CheckMeasure, Stage } from '../stage'

const of = Object.fromEntries(blockStages.map((s) => [s.id, s])) as Record<string, Stage>
const taken = (id: string): Stage => {
  const s = of[id]
  if (!s) throw new RangeError(`no stage ${id}`)
  return s
}
const second = (s: Stage): Stage => ({ ...s, round: 2 })

/** Laid, barred and grouted to the top first; what comes behind it waits until it stands and has cured. */
const up: readonly Stage[] = [
  {
    id: 'units',
    title: 'Units laid',
    scope: 'course',
    when: 'every',
    how: 'First course set out dry on the footing from the corners, then in mortar: bed and head joints full, faces struck as they stiffen; clean-outs left where grout comes.',
    caution: `Mortar burns: gloves and eye protection. Cut wet or with extraction. One person lifts up to ${said.mass(25)}. Walls without grout are propped against wind.`,
    work: { type: 'units' },
    requires: [
      { stage: 'pad-level', of: 'same', force: 'hold', why: 'no unit is laid on a footing that is not released' },
      { stage: 'pad', of: 'same', force: 'soft', days: 'cureUnits', why: 'the footing cures before it is loaded' },
      { stage: 'units', of: 'below', force: 'hard', why: 'the course below is not laid through' },
      { stage: 'joints', of: 'below', force: 'soft', why: 'nobody has looked at its joints and bars' },
      { stage: 'grout', of: 'below', force: 'hard', why: 'the cells below are to be grouted first: from higher up the grout falls too far' },
    ],
  },
  {
    id: 'joints',
    title: 'Joints and cells',
    witness: 'course',
    scope: 'course',
    when: 'every',
    how: 'Look into every cell that takes a bar: open from top to bottom, its starter in it, no mortar hanging in.',
    work: {
      type: 'check',
      items: [
        { id: 'joints', text: 'Bed and head joints full, bonded by half a unit' },
        { id: 'cells', text: 'Cells in line and clear of mortar' },
        { id: 'starters', text: 'Every starter stands in its cell, none bent over to reach it' },
        { id: 'control', text: 'Control joints where the plan has them', maybe: true },
      ],
    },
    requires: [{ stage: 'units', of: 'same', force: 'soft', why: 'units are not all laid' }],
  },
  { ...taken('level'), how: 'Read the top of the course at every point, level across and along.' },
  {
    ...taken('line'),
    how: 'String along the face of the units from end to end; measure each point to it. Out is towards the front.',
    requires: [{ stage: 'level', of: 'same', force: 'soft', why: 'the course is not read level through' }],
  },
  { ...taken('setback'), title: 'Plumb', how: 'Level and rule against the face over the courses below: it stands upright, the deviation counts.' },
  {
    id: 'steel',
    title: 'Bars and clean-outs',
    scope: 'course',
    when: 'every',
    hold: 'steel',
    how: 'Bars tied to their starters with the lap of the plan, beam bars in their trough; look up every cell from its clean-out before it is closed.',
    caution: 'Bar ends are capped or bent over.',
    work: {
      type: 'check',
      detail: 'Bars and laps as measured',
      items: [
        { id: 'bars', text: 'A bar in every cell that the plan bars, size as planned' },
        { id: 'beam', text: 'Beam bars in, lapped round corners', maybe: true },
        { id: 'clean', text: 'Cells clean to the bottom, clean-outs closed after' },
      ],
      measures: [{ id: 'lap', text: 'Shortest lap on a starter or bar below', least: 'own.lap' }],
    },
    requires: [
      { stage: 'joints', of: 'same', force: 'soft', why: 'nobody has looked at joints and cells' },
      { stage: 'line', of: 'same', force: 'hold', why: 'grout holds the first course as it lies' },
    ],
  },
  {
    id: 'grout',
    title: 'Grout placed',
    witness: 'course',
    scope: 'course',
    when: 'every',
    how: 'In one lift, rodded or vibrated while it is wet and once more when its water has gone; stopped a thumb below the top so that the next lift keys in.',
    caution: 'Wet grout burns: gloves and eye protection. A cell that bursts throws grout: nobody in front of the face being filled.',
    dry: 'Grout is not placed into frozen or flooded cells.',
    heat: 'Grout stiffens in hot cells before it has run; wet them and place in the cool of the morning.',
    work: {
      type: 'check',
      detail: 'Mix, ticket, time',
      items: [
        { id: 'filled', text: 'Cells filled as the plan has them' },
        { id: 'rodded', text: 'Rodded, and again when the water has gone' },
      ],
      measures: [
        { id: 'high', text: 'Grout placed in one go, high', most: 'groutLift' },
        { id: 'slump', text: 'Slump of the grout', least: 'groutSlumpMin' },
        { id: 'warm', text: 'Temperature of the grout', of: 'temperature', least: 'concreteCold', most: 'concreteHot' },
      ],
    },
    requires: [{ stage: 'steel', of: 'same', force: 'hold', why: 'bars are covered for good once it is grouted' }],
  },
]

const behind: readonly Stage[] = [
  {
    id: 'membrane',
    title: 'Waterproofing',
    scope: 'section',
    when: 'every',
    hold: 'membrane',
    dry: 'A membrane holds on a dry, clean, primed face only.',
    how: 'Joints struck flush, dust off, primer dry to the touch; membrane from the footing up, turned over its edge, rolled down, laps sealed.',
    caution: 'Primer fumes burn and stun: no flame, open air, gloves.',
    work: {
      type: 'check',
      detail: 'What was laid, lot, and how dry the face was',
      items: [
        { id: 'clean', text: 'Face clean and dry, joints flush, primed' },
        { id: 'laid', text: 'Laid without bubbles, rolled, from the footing to the top of the fill' },
        { id: 'edges', text: 'Turned over the edge of the footing; edges, corners and pipes sealed' },
      ],
      measures: [{ id: 'lap', text: 'Narrowest lap', least: 'membraneLap' }],
    },
    requires: [{ stage: 'grout', of: 'all', force: 'hard', why: 'the wall behind it is not grouted to its top' }],
  },
  {
    id: 'board',
    title: 'Protection board',
    scope: 'section',
    when: 'every',
    how: 'Boards over all of the membrane, butted and held until the fill holds them: the first stone that hits a bare membrane goes through it.',
    work: { type: 'check', items: [{ id: 'whole', text: 'Whole membrane covered, nothing nailed through it' }] },
    requires: [{ stage: 'membrane', of: 'same', force: 'hold', why: 'what is covered cannot be looked at' }],
  },
  ...pipeStages({ stage: 'board', of: 'same', force: 'soft', why: 'the membrane is not protected' }),
  {
    id: 'fill',
    title: 'Drainage stone',
    places: 'stone',
    witness: 'course',
    scope: 'course',
    when: 'every',
    how: 'Clean stone behind the board, by hand, up with the fill; none thrown against it.',
    work: {
      type: 'check',
      items: [
        { id: 'stone', text: 'Stone behind to the top of the course' },
        { id: 'weep', text: 'Weep holes open, screened behind', maybe: true },
      ],
    },
    requires: [{ stage: 'board', of: 'same', force: 'soft', why: 'the membrane is not protected' }],
  },
  {
    ...taken('backfill'),
    how: 'Thin lifts by hand tamper near the wall, from the wall backwards; no plant leans on a wall that has not cured.',
    requires: [
      { stage: 'grout', of: 'all', force: 'soft', days: 'cureBackfill', why: 'grout cures before soil leans on it' },
      { stage: 'membrane', of: 'same', force: 'hold', why: 'what is covered cannot be looked at' },
      { stage: 'fill', of: 'same', force: 'soft', why: 'the stone behind is not in' },
    ],
  },
]
const tail = new Set(['top', 'cap-dry', 'cap', 'finish', 'pour', 'final'])
const head = new Set(['services', 'set-out', 'dig', 'subgrade', 'pad', 'pad-level'])

const rest = adapted(
  blockStages.filter((s) => head.has(s.id) || tail.has(s.id)),
  {
    subgrade: (s) => ({
      ...s,
      how: 'Trench cut square and flat; rock broken out, soft soil out, what was disturbed compacted. Steps a whole unit high.',
    }),
    'cap-dry': (s) => ({ ...s, title: 'Coping laid dry' }),
    cap: (s) => ({ ...s, title: 'Coping bedded', how: 'Wet the top, bed the coping full, joints struck, levelled to the string.' }),
  },
)

/** Stages of masonry on a footing: laid, barred and grouted to its top; then waterproofed, protected, drained and filled behind. */
export const stages: readonly Stage[] = [
  ...rest.filter((s) => head.has(s.id)),
  ...up,
  ...behind.map(second),
  // Its top is closed when the fill behind is up to it.
  ...rest
    .filter((s) => tail.has(s.id))
    .map((s) =>
      s.scope === 'course'
        ? second(
            s.id === 'top'
              ? { ...s, requires: [{ stage: 'backfill', of: 'same', force: 'soft', why: 'the last course is not backfilled' } as const] }
              : s,
          )
        : s,
    ),
]

/** What is measured when a footing is barred and poured, besides what every footing asks. */
export const FOOTING_MEASURES: Readonly<Record<string, readonly CheckMeasure[]>> = {
  bars: [
    { id: 'cover', text: 'Cover, the least found', least: 'foundation.cover' },
    { id: 'lap', text: 'Lap, the shortest found', least: 'foundation.lap' },
    { id: 'starters', text: 'Starters tied in', of: 'count', least: 'own.starters' },
  ],
  pad: [
    { id: 'slump', text: 'Slump of the concrete', least: 'slumpMin', most: 'slumpMax' },
    { id: 'warm', text: 'Temperature of the concrete', of: 'temperature', least: 'concreteCold', most: 'concreteHot' },
  ],
}
