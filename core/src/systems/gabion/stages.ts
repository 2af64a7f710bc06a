import { said } from '../../base/said'
import { groundStages } from '../ground-stages'
import { finishStages, gridStage, overGrid, pipeStages, topStage } from '../raising-stages'
import type { Stage } from '../system'

export const stages: readonly Stage[] = [
  ...groundStages,
  {
    id: 'units',
    title: 'Baskets set',
    scope: 'course',
    when: 'every',
    how: 'Unfold, stretch to the line, lace to the neighbours and to the row below before any stone goes in; seams off the seams below.',
    caution: 'Cut wire springs: eye protection and gloves. Empty baskets catch the wind; stake them down.',
    work: { type: 'units' },
    requires: [
      { stage: 'pad-level', of: 'same', force: 'hold', why: 'no basket is set on a pad that is not released' },
      ...overGrid,
      { stage: 'lids', of: 'below', force: 'hard', why: 'the baskets below are not lidded and laced' },
    ],
  },
  {
    id: 'line',
    title: 'Alignment',
    scope: 'course',
    when: 'first',
    hold: 'first-course',
    how: 'String along the front top wire from end to end; pull slack baskets straight before filling. Out is towards the front.',
    work: { type: 'readings', target: 'alignment', sense: 'line', limit: 'basketLine' },
    requires: [{ stage: 'units', of: 'same', force: 'soft', why: 'baskets are not all set' }],
  },
  {
    id: 'setback',
    title: 'Lean',
    witness: 'course',
    scope: 'course',
    when: 'above-first',
    how: 'Measure the step back from the row below; the deviation from the plan is what counts.',
    work: { type: 'readings', target: 'setback', sense: 'setback', limit: 'basketLine' },
    requires: [{ stage: 'units', of: 'same', force: 'soft', why: 'baskets are not all set' }],
  },
  {
    id: 'fill',
    title: 'Stone and bracing',
    witness: 'course',
    scope: 'course',
    when: 'every',
    how: 'Fill in thirds; bracing wires front to back at each third; face stones laid by hand, tight, no void larger than the mesh.',
    caution: `Stone tipped from a bucket: nobody at the face or in the basket. One person lifts stones up to ${said.mass(25)}, two up to ${said.mass(50)}; more is placed by machine.`,
    work: {
      type: 'check',
      items: [
        { id: 'hand-faced', text: 'Face laid by hand, no voids' },
        { id: 'braced', text: 'Bracing wires at every third' },
        { id: 'full', text: `Filled ${said.small(0.03)} to ${said.small(0.05)} over, level` },
      ],
      measures: [
        { id: 'stone-least', text: 'Smallest stone', least: 'gabionStoneMin', since: 2 },
        { id: 'stone-most', text: 'Largest stone', most: 'gabionStoneMax', since: 2 },
        { id: 'fill-step', text: 'Fill above the neighbour while filling, at most', most: 'fillStep', since: 2 },
      ],
    },
    requires: [{ stage: 'line', of: 'same', force: 'hold', why: 'filling locks the first row as it lies' }],
  },
  {
    id: 'lids',
    title: 'Lids laced',
    witness: 'course',
    scope: 'course',
    when: 'every',
    how: 'Pull the lid down with a bar, lace every edge, bend all ends inwards.',
    work: {
      type: 'check',
      items: [
        { id: 'lid', text: 'Every lid down on the stone' },
        { id: 'laced', text: 'All edges laced, ends bent in' },
      ],
    },
    requires: [{ stage: 'fill', of: 'same', force: 'soft', why: 'the baskets are not filled' }],
  },
  {
    id: 'level',
    title: 'Row level',
    witness: 'course',
    scope: 'course',
    when: 'every',
    how: 'Read the top of the lids at every point.',
    work: { type: 'readings', target: 'course-top', sense: 'level', limit: 'basketLevel' },
    requires: [{ stage: 'lids', of: 'same', force: 'soft', why: 'the lids are not laced' }],
  },
  ...pipeStages({ stage: 'lids', of: 'same', force: 'soft', why: 'the first row is not closed' }, 'Fabric and drain'),
  {
    id: 'backfill',
    title: 'Backfill',
    witness: 'backfill',
    scope: 'course',
    when: 'every',
    how: 'Fabric first, then even lifts to the top of the row, compacted from the baskets backwards.',
    caution: `Light plant only within ${said.given(1)} of the baskets. No frozen or wet fill.`,
    also: ['density'],
    work: { type: 'lifts', of: 'backfill' },
    requires: [
      { stage: 'lids', of: 'same', force: 'soft', why: 'the lids are not laced' },
      { stage: 'drain', of: 'same', force: 'hold', why: 'the pipe may not be covered before it' },
      { stage: 'cover', of: 'same', force: 'soft', why: 'the pipe has no stone over it yet' },
    ],
  },
  gridStage('Laid over the lids and laced to the front wire, strength direction across the wall, pulled tight and pinned.'),
  topStage('Top closed', [
    { stage: 'backfill', of: 'same', force: 'soft', why: 'the last row is not backfilled' },
    { stage: 'level', of: 'same', force: 'soft', why: 'the last row is not read level' },
  ]),
  ...finishStages({ stage: 'top', of: 'same', force: 'hard', why: 'the top is not closed everywhere' }),
]
