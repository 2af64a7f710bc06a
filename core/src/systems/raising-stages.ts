import { said } from '../base/said'
import type { Requirement, Stage } from './system'

/** The pipe behind the first course: read, laid stretch by stretch, seen, then covered. The same behind every kind of unit. */
export const pipeStages = (first: Requirement, title = 'Drain pipe laid'): readonly Stage[] => [
  {
    id: 'invert',
    title: 'Drain pipe fall',
    scope: 'course',
    when: 'lowest',
    how: 'Bed the pipe on clean stone and read its invert at every point; it must run out by itself.',
    work: { type: 'readings', target: 'invert', sense: 'level', limit: 'invert' },
    requires: [first],
  },
  {
    id: 'drain',
    title,
    scope: 'course',
    when: 'lowest',
    hold: 'drain',
    how: 'Record each stretch as it lies, with a photo: nobody sees it again. Outlets open, ends closed, laps with the flow.',
    work: {
      type: 'pipe',
      items: [
        { id: 'bed', text: 'On its bed of clean stone, holes down' },
        { id: 'apart', text: 'Surface water led apart, not into this pipe' },
        { id: 'outlet', text: 'Outlet free, screened, ground below it protected' },
      ],
    },
    requires: [{ stage: 'invert', of: 'same', force: 'soft', why: 'the fall of the pipe is not read through' }],
  },
  {
    id: 'cover',
    title: 'Pipe covered',
    scope: 'course',
    when: 'lowest',
    how: 'Clean stone over the pipe by hand, fabric lapped with the flow; no plant on it before the cover is on.',
    work: {
      type: 'check',
      items: [
        { id: 'stone', text: 'Clean stone over and round the pipe' },
        { id: 'fabric', text: 'Fabric lapped with the flow, or none by the filter check' },
      ],
      measures: [{ id: 'cover', text: 'Stone over the pipe', least: 'pipeCover' }],
    },
    requires: [{ stage: 'drain', of: 'same', force: 'hold', why: 'a pipe nobody has seen may not be covered' }],
  },
]

export const gridStage = (how: string): Stage => ({
  id: 'grid',
  title: 'Geogrid',
  scope: 'course',
  when: 'with-grid',
  hold: 'geogrid',
  how,
  caution: `Tracked plant turns a layer to shreds: at least ${said.small(0.15)} of fill on it before anything drives there.`,
  work: { type: 'grid' },
  requires: [{ stage: 'backfill', of: 'same', force: 'soft', why: 'the fill is not up to the layer' }],
})

/** Nothing is built over a layer that is not there, or that nobody has looked at. */
export const overGrid: readonly Requirement[] = [
  { stage: 'grid', of: 'below', force: 'hard', why: 'its geogrid layer is missing and cannot be put in later' },
  { stage: 'grid', of: 'below', force: 'hold', why: 'a covered layer cannot be looked at' },
]

/** From the shaped ground to the handover, for the wall as a whole. */
export const finishStages = (top: Requirement): readonly Stage[] => [
  {
    id: 'finish',
    title: 'Grades and cleaning',
    scope: 'wall',
    when: 'every',
    witness: 'top',
    how: 'Shape the ground above and below as planned, water led round the ends; wash the face, take photos.',
    work: {
      type: 'check',
      items: [
        { id: 'above', text: 'Final grade above falls away from the wall' },
        { id: 'swale', text: 'Swale runs past both ends', maybe: true },
        { id: 'below', text: 'Final grade in front covers the embedment' },
        { id: 'clean', text: 'Face clean, site clear' },
      ],
    },
    requires: [top],
  },
  {
    id: 'pour',
    title: 'Water poured',
    scope: 'wall',
    when: 'every',
    witness: 'pour',
    how: 'Pour water into the stone at the point furthest from each outlet, wait, and see it leave.',
    work: {
      type: 'check',
      detail: 'Where it was poured, and after how long it left',
      items: [
        { id: 'poured', text: 'Poured at the furthest point of each outlet' },
        { id: 'leaves', text: 'It leaves by every outlet' },
        { id: 'clear', text: 'It runs clear: no soil comes with it' },
      ],
    },
    requires: [{ stage: 'finish', of: 'same', force: 'soft', why: 'the ground is not shaped' }],
  },
  {
    id: 'final',
    title: 'Final',
    scope: 'wall',
    when: 'every',
    hold: 'final',
    how: 'Walk the wall with the record: as-built against plan, nothing open, notice of completion in writing.',
    work: {
      type: 'check',
      detail: 'Notice of completion given to',
      items: [
        { id: 'as-built', text: 'As-built agrees with the plan' },
        { id: 'photos', text: 'Photos of face, ends, top and outlets' },
        { id: 'notice', text: 'Written notice that the wall is ready' },
      ],
    },
    requires: [{ stage: 'pour', of: 'same', force: 'hard', why: 'nobody has seen water leave' }],
  },
]

/** Under the cap, or under the planting: stone kept clean, water kept out. */
export const topStage = (title: string, before: readonly Requirement[]): Stage => ({
  id: 'top',
  title,
  scope: 'course',
  when: 'last',
  witness: 'top',
  how: 'Fabric over the stone, then a layer that holds water off; soil instead of stone only under planting.',
  caution: 'A fall from the top is a fall from the full height: edge protection before anyone works on it.',
  work: {
    type: 'check',
    items: [
      { id: 'fabric', text: 'Fabric folded over the stone', maybe: true },
      { id: 'layer', text: 'Low-permeability layer placed and plated' },
      { id: 'shaped', text: 'Shaped to lead water away' },
    ],
    measures: [
      { id: 'layer', text: 'Thickness of the layer', least: 'topLayer' },
      { id: 'batter', text: 'Face off its batter in a metre, by plumb or level', most: 'batter', either: true, since: 2 },
    ],
  },
  requires: before,
})
