import type { Stage } from './system'

/** From the first mark to a released pad: the same under every kind of unit. */
export const groundStages: readonly Stage[] = [
  {
    id: 'services',
    title: 'Services located',
    scope: 'wall',
    when: 'every',
    requires: [],
    how: 'Walk the line with the locate marks and the plan in hand before a bucket touches the ground.',
    caution: 'Struck power and gas lines kill. No locate, no digging: wait for the marks, and hand-dig within their margin.',
    work: {
      type: 'check',
      detail: 'Locate ticket or permit number',
      items: [
        { id: 'located', text: 'All services located by their owners' },
        { id: 'marked', text: 'Marked on the ground and on the plan' },
        { id: 'revision', text: 'This plan revision is the one in force' },
      ],
    },
  },
  {
    id: 'set-out',
    title: 'Set-out verified',
    scope: 'wall',
    when: 'every',
    hold: 'before-digging',
    how: 'Measure the face line from the benchmark or building line, then have it measured a second time.',
    work: {
      type: 'check',
      detail: 'Measured from',
      items: [
        { id: 'line', text: 'Face line and ends staked' },
        { id: 'second', text: 'A second reading agrees' },
        { id: 'benchmark', text: 'Benchmark protected from the plant' },
      ],
    },
    requires: [{ stage: 'services', of: 'same', force: 'hard', why: 'services are not located and marked yet' }],
  },
  {
    id: 'dig',
    title: 'Excavation depth',
    scope: 'section',
    when: 'every',
    how: 'Start at the lowest step. Read the bottom of the trench at every point; fill over-dig with compacted pad material, never loose soil.',
    caution: 'Trench sides, spoil set-back, access and shoring are for a competent person to judge. Nobody in the trench under a swinging bucket.',
    also: ['cut', 'obstruction', 'soil', 'undercut'],
    work: { type: 'readings', target: 'dig', sense: 'level', limit: 'excavation' },
    requires: [{ stage: 'set-out', of: 'same', force: 'hold', why: 'digging may not start before it' }],
  },
  {
    id: 'subgrade',
    title: 'Subgrade',
    scope: 'section',
    when: 'every',
    hold: 'subgrade',
    also: ['soil', 'undercut', 'density'],
    how: 'Take out organic, soft and wet soil, then compact what the pad will sit on.',
    work: {
      type: 'check',
      detail: 'Soil found, and what was done',
      items: [
        { id: 'unsuitable', text: 'Organic, soft or wet soil removed' },
        { id: 'undercut', text: 'Undercut replaced and compacted' },
        { id: 'compacted', text: 'Compacted; no movement under foot' },
      ],
    },
    requires: [{ stage: 'dig', of: 'same', force: 'soft', why: 'the trench is not read through and within limits' }],
  },
  {
    id: 'pad',
    title: 'Pad lifts',
    scope: 'section',
    when: 'every',
    how: 'Place equal lifts, level each, at least two passes each way.',
    caution: 'Plate and roller: hearing protection, feet clear, no riders. Wet the stone: its dust is silica.',
    also: ['density', 'pad-choice'],
    work: { type: 'lifts', of: 'pad' },
    requires: [{ stage: 'subgrade', of: 'same', force: 'hold', why: 'the soil may not be covered before it' }],
  },
  {
    id: 'pad-level',
    title: 'Pad level',
    scope: 'section',
    when: 'every',
    hold: 'pad-level',
    how: 'Read the top of the pad at every point; shave high spots, add and compact at low ones.',
    work: { type: 'readings', target: 'pad', sense: 'level', limit: 'padLevel' },
    requires: [{ stage: 'pad', of: 'same', force: 'soft', why: 'pad lifts are not all in' }],
  },
]

export const finalStage: Stage = {
  id: 'final',
  title: 'Final',
  scope: 'wall',
  when: 'every',
  hold: 'final',
  how: 'Walk the wall with the record: as-built against plan, outlets running, site clean.',
  work: {
    type: 'check',
    detail: 'Notice of completion given to',
    items: [
      { id: 'as-built', text: 'As-built agrees with the plan' },
      { id: 'outlet', text: 'Water poured in leaves by the outlets' },
      { id: 'grades', text: 'Final grades and swale shaped' },
    ],
  },
  requires: [{ stage: 'cap', of: 'same', force: 'hard', why: 'caps are not on everywhere' }],
}
