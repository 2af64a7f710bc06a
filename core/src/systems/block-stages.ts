import { said } from '../base/said'
import { groundStages } from './ground-stages'
import { finishStages, gridStage, overGrid, pipeStages, topStage } from './raising-stages'
import type { CheckItem, Stage } from './system'

/**
 * The stages of a wall of blocks from the first mark to the handover: those of hollow block with a lug. What another block does otherwise
 * its own folder says, with `adapted`.
 */
export const blockStages: readonly Stage[] = [
  ...groundStages,
  {
    id: 'units',
    title: 'Units set',
    scope: 'course',
    when: 'every',
    how: 'Sweep, set, pull forward until the lug holds; running bond, no slivers at the ends.',
    caution: `Cut wet or with extraction; respirator, eye, ear, hand and foot protection. One person lifts up to ${said.mass(25)}, two up to ${said.mass(50)}; more takes lifting gear, and nobody below it.`,
    work: { type: 'units' },
    requires: [
      { stage: 'pad-level', of: 'same', force: 'hold', why: 'no unit is set on a pad that is not released' },
      { stage: 'units', of: 'below', force: 'hard', why: 'the course below is not set through' },
      ...overGrid,
      { stage: 'joints', of: 'below', force: 'soft', why: 'nobody has looked at its lugs and joints' },
    ],
  },
  {
    id: 'bedding',
    title: 'Units bedded',
    scope: 'course',
    when: 'first',
    how: 'Lowest end and corner first. Knock lugs or lips off the underside, bed each unit full, tap the high end down.',
    caution: 'Fingers clear when a unit is lowered. Knocking lugs off: eye protection, and dust kept down with water.',
    work: {
      type: 'check',
      detail: 'String at the back or the front of the units',
      items: [
        { id: 'lowest', text: 'Started at the lowest end, corner first' },
        { id: 'lugs', text: 'Lugs or lips off the underside', maybe: true },
        { id: 'contact', text: 'Full contact under every unit, none rocks' },
        { id: 'string', text: 'Set to a string' },
      ],
      measures: [{ id: 'tilt', text: 'Tilt across, front against back, the worst unit', most: 'tilt', either: true, since: 2 }],
    },
    requires: [{ stage: 'units', of: 'same', force: 'soft', why: 'units are not all set' }],
  },
  {
    id: 'level',
    title: 'Course level',
    witness: 'course',
    also: ['unit-level'],
    scope: 'course',
    when: 'every',
    how: 'Read the top of the course at every point, level across and along.',
    work: { type: 'readings', target: 'course-top', sense: 'level', limit: 'courseLevel', firstLimit: 'firstLevel' },
    requires: [{ stage: 'units', of: 'same', force: 'soft', why: 'units are not all set' }],
  },
  {
    id: 'line',
    title: 'Alignment',
    scope: 'course',
    when: 'first',
    hold: 'first-course',
    how: 'String along the back of the units from end to end; measure each point to it. Out is towards the front.',
    work: { type: 'readings', target: 'alignment', sense: 'line', limit: 'firstLine' },
    requires: [
      { stage: 'level', of: 'same', force: 'soft', why: 'the course is not read level through' },
      { stage: 'bedding', of: 'same', force: 'soft', why: 'nobody has said how the units are bedded' },
    ],
  },
  {
    id: 'setback',
    title: 'Setback',
    witness: 'course',
    scope: 'course',
    when: 'above-first',
    how: 'Measure the step back from the course below; the deviation from the unit’s own setback is what counts.',
    work: { type: 'readings', target: 'setback', sense: 'setback', limit: 'courseLine' },
    requires: [{ stage: 'units', of: 'same', force: 'soft', why: 'units are not all set' }],
  },
  {
    id: 'joints',
    title: 'Engagement and joints',
    witness: 'course',
    scope: 'course',
    when: 'above-first',
    how: 'Spot check: rock a unit in ten, look along the joints, count what is thrown out.',
    work: {
      type: 'check',
      items: [
        { id: 'engaged', text: 'Every lug engaged, pulled forward' },
        { id: 'joints', text: 'Joints broken by a quarter unit, none lined up' },
        { id: 'damaged', text: 'Damaged units out and counted' },
      ],
    },
    requires: [{ stage: 'units', of: 'same', force: 'soft', why: 'units are not all set' }],
  },
  {
    id: 'fill',
    title: 'Cores and stone',
    places: 'stone',
    witness: 'course',
    scope: 'course',
    when: 'every',
    how: 'Fill cores and the stone behind to the top of the course, rod it, sweep the top clean.',
    work: {
      type: 'check',
      items: [
        { id: 'cores', text: 'Cores filled and rodded, no voids', maybe: true },
        { id: 'stone', text: 'Stone behind to the top of the course' },
        { id: 'swept', text: 'Top swept clean' },
      ],
    },
    requires: [
      { stage: 'level', of: 'same', force: 'soft', why: 'the course is not read level through' },
      { stage: 'line', of: 'same', force: 'hold', why: 'filling locks the first course as it lies' },
    ],
  },
  ...pipeStages({ stage: 'fill', of: 'same', force: 'soft', why: 'the first course is not filled and locked' }),
  {
    id: 'backfill',
    title: 'Backfill',
    witness: 'backfill',
    scope: 'course',
    when: 'every',
    how: 'Place in even lifts up to the top of the course, compact from the face backwards.',
    caution: `Light plant only within ${said.given(1)} of the face; a roller there pushes the wall out. No frozen or wet fill.`,
    also: ['density'],
    work: { type: 'lifts', of: 'backfill' },
    requires: [
      { stage: 'fill', of: 'same', force: 'soft', why: 'cores and stone are not filled' },
      { stage: 'drain', of: 'same', force: 'hold', why: 'the pipe may not be covered before it' },
      { stage: 'cover', of: 'same', force: 'soft', why: 'the pipe has no stone over it yet' },
    ],
  },
  gridStage('Strength direction across the wall, close to the face, pulled tight and pinned; no traffic on bare grid.'),
  topStage('Top under the cap', [
    { stage: 'backfill', of: 'same', force: 'soft', why: 'the last course is not backfilled' },
    { stage: 'level', of: 'same', force: 'soft', why: 'the last course is not read level' },
  ]),
  {
    id: 'cap-dry',
    title: 'Cap laid dry',
    witness: 'cap',
    scope: 'course',
    when: 'last',
    how: 'Lay the whole cap loose to a string at the back, cut and finish the ends, look along it, then lift and glue.',
    caution: 'Cut wet or with extraction; respirator, eye, ear, hand and foot protection.',
    work: {
      type: 'check',
      items: [
        { id: 'string', text: 'Laid to a string at the back, joints tight' },
        { id: 'ends', text: 'Finished ends at every top step' },
      ],
      measures: [{ id: 'overhang', text: 'Overhang in front', least: 'overhangMin', most: 'overhangMax' }],
    },
    requires: [{ stage: 'top', of: 'same', force: 'soft', why: 'the top under it is not closed' }],
  },
  {
    id: 'cap',
    title: 'Cap bonded',
    places: 'caps',
    witness: 'cap',
    scope: 'course',
    when: 'last',
    dry: 'Adhesive holds on clean dry units only.',
    heat: 'Adhesive skins over in the heat before it is pressed; bond in the cool of the morning.',
    how: 'Brush the dust off, bond on dry units only, press down, leave it a day.',
    caution: 'A fall from the top is a fall from the full height: edge protection before anyone works on it.',
    work: {
      type: 'check',
      items: [
        { id: 'clean', text: 'Units brushed clean and dry' },
        { id: 'bonded', text: 'Bonded to the string' },
      ],
    },
    requires: [{ stage: 'cap-dry', of: 'same', force: 'soft', why: 'it was not laid dry and looked at first' }],
  },
  ...finishStages({ stage: 'cap', of: 'same', force: 'hard', why: 'caps are not on everywhere' }),
]

/**
 * Stages of a system made from those of another: each named one changed as said, or left out where nothing comes back.
 *
 * @example adapted(blockStages, { joints: (s) => ({ ...s, title: 'Lips and joints' }) })
 */
export function adapted(stages: readonly Stage[], by: Readonly<Record<string, (s: Stage) => Stage | undefined>>): readonly Stage[] {
  for (const id of Object.keys(by)) if (!stages.some((s) => s.id === id)) throw new RangeError(`no stage ${id} to adapt`)
  const made = stages.flatMap((s) => (Object.hasOwn(by, s.id) ? (by[s.id]?.(s) ?? []) : s))
  const there = new Set(made.map((s) => s.id))
  return made.map((s) => ({ ...s, requires: s.requires.filter((r) => there.has(r.stage)) }))
}

/** The items of a checked stage changed. @example withItems((list) => [...list, { id: 'lip', text: 'Lip off' }]) */
export const withItems =
  (by: (list: readonly CheckItem[]) => readonly CheckItem[], more: Partial<Stage> = {}) =>
  (s: Stage): Stage => ({ ...s, ...more, work: s.work.type === 'check' || s.work.type === 'pipe' ? { ...s.work, items: by(s.work.items) } : s.work })

/** A list of items with one said otherwise. @example saying('engaged', 'Every lip bears') */
export const saying = (id: string, text: string) => (list: readonly CheckItem[]) => list.map((i) => (i.id === id ? { ...i, text } : i))

/** The same for units without a lug: nothing to knock off, nothing to engage but the unit itself. */
export const plainBlockStages: readonly Stage[] = adapted(blockStages, {
  units: (s) => ({
    ...s,
    requires: s.requires.map((r) => (r.stage === 'joints' ? { ...r, why: 'nobody has looked at how it bears and at its joints' } : r)),
  }),
  bedding: withItems(saying('lugs', 'Underside clean and flat'), {
    how: 'Lowest end and corner first. Bed each unit full, tap the high end down.',
    caution: 'Fingers clear when a unit is lowered.',
  }),
  joints: withItems(saying('engaged', 'Every unit bears, none rocks')),
})
