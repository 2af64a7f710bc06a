import { said } from '../../base/said'
import { groundStages } from '../ground-stages'
import { finishStages, pipeStages, topStage } from '../raising-stages'
import type { CheckItem, Stage } from '../stage'

const ground: readonly Stage[] = groundStages.map((s) =>
  s.id === 'subgrade' && s.work.type === 'check'
    ? {
        ...s,
        work: {
          ...s.work,
          items: [
            ...s.work.items,
            { id: 'benched', text: 'Ends benched into solid ground, no loose fill under them', maybe: true } satisfies CheckItem,
          ],
        },
      }
    : s,
)

/** The stages of a wall of welded mats, course by course: mats, mesh, the void below, fill up to the face, batter. */
export const stages: readonly Stage[] = [
  ...ground,
  {
    id: 'units',
    title: 'Mats placed',
    scope: 'course',
    when: 'every',
    how: 'Mats to the string with their gaps, backing mats over every gap, halves at both ends. Only wires along the wall are ever cut; no mat is shortened.',
    caution: 'Cut wire springs: eye protection and gloves. Prongs stand up at knee height: caps on them where people pass.',
    work: { type: 'units' },
    requires: [
      { stage: 'pad-level', of: 'same', force: 'hold', why: 'no mat is laid on a floor that is not released' },
      { stage: 'backfill', of: 'below', force: 'hard', why: 'the course below is not filled up to its face' },
      { stage: 'batter', of: 'below', force: 'soft', why: 'nobody has measured whether the course below stands at its batter' },
      { stage: 'berm', of: 'below', force: 'hard', why: 'the toe berm in front is not filled: the toe is held by nothing' },
    ],
  },
  {
    id: 'mats',
    title: 'Mats and mesh',
    scope: 'course',
    when: 'every',
    hold: 'mats',
    how: 'Measure a mat from its face to its end, and a wire with the gauge; look along the mesh for clips, and at every cut.',
    caution: 'Nobody walks the wires with a load: a foot goes through. Boards where people go.',
    work: {
      type: 'check',
      detail: 'Type and count of the mats, bundle tags',
      items: [
        { id: 'type', text: 'Mats of the type of this course, tag kept' },
        { id: 'backing', text: 'Backing mats over every gap, halves at both ends' },
        { id: 'mesh', text: 'Mesh or fabric hung behind the face, lapped and clipped' },
        { id: 'transverse', text: 'Cut only across the wall’s own line: wires along it', maybe: true },
        { id: 'angle', text: 'At angles and curves: wires along the wall cut, face bent, backs spread or overlapped', maybe: true },
        { id: 'through', text: 'Round pipes and culverts: opening framed by cut mats, none shortened', maybe: true },
      ],
      measures: [
        { id: 'length', text: 'Shortest mat, from the face into the fill', least: 'own.length' },
        { id: 'wire', text: 'Thinnest wire found', least: 'own.wire' },
        { id: 'clips', text: 'Clips apart, at most', most: 'clipSpacing' },
        { id: 'into', text: 'Wires into the fill that were cut', of: 'count', most: 0 },
      ],
    },
    requires: [{ stage: 'units', of: 'same', force: 'soft', why: 'mats are not all placed' }],
  },
  {
    id: 'void',
    title: 'Void of the course below',
    scope: 'course',
    when: 'above-first',
    how: `Look down behind the face below: fill what is hollow by hand from this course, ${said.small(0.05)} to ${said.small(0.075)} over the wires first, then tamp.`,
    work: {
      type: 'check',
      detail: 'Where it was hollow',
      items: [
        { id: 'seen', text: 'Looked at from end to end' },
        { id: 'filled', text: 'Hollows filled and tamped by hand', maybe: true },
      ],
      measures: [{ id: 'cover', text: 'Fill over the wires before the tamper', least: 'wireCover' }],
    },
    requires: [{ stage: 'units', of: 'same', force: 'soft', why: 'mats are not all placed' }],
  },
  ...pipeStages({ stage: 'mats', of: 'same', force: 'soft', why: 'nobody has looked at the mats' }, 'Fabric and drain'),
  {
    id: 'backfill',
    title: 'Fill up to the face',
    witness: 'backfill',
    scope: 'course',
    when: 'every',
    how: 'Even lifts up to the face, compacted until it stands at its batter; along the face with a hand tamper, from the face backwards. Never over best moisture.',
    caution: `Light plant only within ${said.given(1)} of the face. Tracks never turn on a mat: ${said.small(0.15)} of fill on it first. A soaked lift comes out.`,
    also: ['density'],
    work: { type: 'lifts', of: 'backfill' },
    requires: [
      { stage: 'mats', of: 'same', force: 'hold', why: 'mats under fill cannot be looked at' },
      { stage: 'void', of: 'same', force: 'soft', why: 'the void below is not filled: later it is a bulge' },
      { stage: 'drain', of: 'same', force: 'hold', why: 'the pipe may not be covered before it' },
      { stage: 'cover', of: 'same', force: 'soft', why: 'the pipe has no stone over it yet' },
    ],
  },
  {
    id: 'line',
    title: 'Alignment',
    scope: 'course',
    when: 'first',
    hold: 'first-course',
    how: 'String along the front of the mats from end to end, measured when the fill is in. Out is towards the front.',
    work: { type: 'readings', target: 'alignment', sense: 'line', limit: 'basketLine' },
    requires: [{ stage: 'backfill', of: 'same', force: 'soft', why: 'it stands at its batter only when it is filled' }],
  },
  {
    id: 'batter',
    title: 'Batter',
    witness: 'course',
    scope: 'course',
    when: 'above-first',
    how: 'Level and rule against the face, or the offset from the string of the course below: the deviation from the plan counts. Out after filling: take the fill out, pull it back.',
    work: { type: 'readings', target: 'setback', sense: 'setback', limit: 'basketLine' },
    requires: [{ stage: 'backfill', of: 'same', force: 'soft', why: 'it stands at its batter only when it is filled' }],
  },
  {
    id: 'level',
    title: 'Course level',
    witness: 'course',
    scope: 'course',
    when: 'third',
    how: 'Read the top of the mats at every point; a course that runs off is brought back by the fill of the next.',
    work: { type: 'readings', target: 'course-top', sense: 'level', limit: 'basketLevel' },
    requires: [{ stage: 'units', of: 'same', force: 'soft', why: 'mats are not all placed' }],
  },
  {
    id: 'berm',
    title: 'Toe berm filled',
    scope: 'course',
    when: 'every',
    nth: 3,
    how: 'Fill in front of the toe, compacted, as wide as the plan has it: from now on it holds the foot of the wall.',
    work: {
      type: 'check',
      items: [
        { id: 'filled', text: 'Filled to its height, compacted' },
        { id: 'apart', text: 'Water led off it, not along the toe' },
      ],
      measures: [{ id: 'width', text: 'Its width in front of the face, the narrowest', least: 'own.berm' }],
    },
    requires: [{ stage: 'backfill', of: 'same', force: 'soft', why: 'the course is not filled' }],
  },
  {
    id: 'caps',
    title: 'Cap mats',
    scope: 'course',
    when: 'last',
    how: 'Topmost course with prongless mats, cap mats over it clipped to the face, corner mats where the top steps; holes for rail posts through wires along the wall only.',
    caution: 'A fall from the top is a fall from the full height: edge protection before anyone works on it.',
    work: {
      type: 'check',
      items: [
        { id: 'prongless', text: 'Topmost mats without prongs' },
        { id: 'caps', text: 'Cap mats clipped along the face' },
        { id: 'corners', text: 'Corner mats where the top steps', maybe: true },
        { id: 'posts', text: 'Holes for rail posts through wires along the wall only', maybe: true },
        { id: 'covered', text: 'No bare wire left: never plant on it' },
      ],
    },
    requires: [{ stage: 'backfill', of: 'same', force: 'hard', why: 'the topmost course is not filled' }],
  },
  topStage('Top closed', [
    { stage: 'caps', of: 'same', force: 'soft', why: 'the cap mats are not on' },
    { stage: 'level', of: 'same', force: 'soft', why: 'the last course is not read level' },
  ]),
  ...finishStages({ stage: 'top', of: 'same', force: 'hard', why: 'the top is not closed everywhere' }),
]
