import { said } from '../../base/said'
import { since } from '../../rules'
import { adapted, plainBlockStages, saying, withItems } from '../block-stages'
import type { Requirement, Stage } from '../stage'

/** Before the dig: what stands at the face of a wall that stays, and in the way of the pad. */
const cleared: Stage = {
  id: 'cleared',
  title: 'Face cleared',
  scope: 'section',
  when: 'every',
  how: 'Take away what stands at the face and where the pad goes: posts, steps, loose stones, roots. The wall that stays is looked at first.',
  caution: 'A wall that leans or is cracked may come down while its foot is dug free: nobody in front of it before a competent person has seen it.',
  work: {
    type: 'check',
    detail: 'What was taken away, and how the wall that stays looks',
    items: [
      { id: 'obstacles', text: 'Obstacles at the face gone' },
      { id: 'stays', text: 'Wall that stays looked at: no new cracks, no lean', maybe: true },
      { id: 'footing', text: 'Its footing found and measured', maybe: true },
    ],
  },
  requires: [{ stage: 'set-out', of: 'same', force: 'hold', why: 'nothing is moved before the line is verified' }],
}

/** Before the first pick: the lift plan against what is really there. */
const lifting: Stage = {
  id: 'lifting',
  title: 'Ready to lift',
  scope: 'section',
  when: 'every',
  how: `Machine on firm level ground at the reach of the plan, its table in the cab, slings and lifter with their tags, the zone of ${said.given(3)} marked, one person gives signs.`,
  caution: 'Nobody under a hanging block, and nobody between a block and a wall, at any time. No lift in a wind that swings it.',
  work: {
    type: 'check',
    detail: 'Who gives signs; tags of slings and lifter',
    items: [
      { id: 'ground', text: 'Machine on firm, level ground; no trench edge under it' },
      { id: 'table', text: 'Its table at hand, its counterweight and boom as the table says' },
      { id: 'gear', text: 'Slings and lifter tagged, in date, undamaged' },
      { id: 'zone', text: 'Zone marked and empty; one person gives signs' },
    ],
    measures: [{ id: 'zone', text: 'Nearest anyone may come to a hanging block', least: 'fallZone' }],
  },
  requires: [{ stage: 'pad-level', of: 'same', force: 'hold', why: 'no block is lifted to a pad that is not released' }],
}

const own = adapted(plainBlockStages, {
  subgrade: withItems((list) => [
    ...list,
    { id: 'even', text: 'Boulders broken out, so that the pad is evenly thick' },
    { id: 'fabric', text: 'Fabric pulled tight on a levelling layer where the floor is wavy', maybe: true },
  ]),
  'pad-level': (s) => ({
    ...s,
    how: 'A block cannot be tapped into place: the pad is right before it comes. Screed it to the marks, read it along both edges, shave and fill.',
  }),
  units: (s) => ({
    ...s,
    title: 'Blocks set',
    how: 'Pick by pick in the order of the trucks: sweep the bed, lower, engage the knobs, read the top. What is out comes off again; its bed is mended and read.',
    caution: `Nobody under a hanging block, nor between it and a wall. Hands off until it hangs still, ${said.small(0.1)} over its bed.`,
    work: { type: 'picks' },
    also: ['clearance'],
  }),
  // A block is read as it is set, not course by course.
  level: () => undefined,
  bedding: () => undefined,
  line: (s) => ({ ...s, requires: [{ stage: 'units', of: 'same', force: 'soft', why: 'blocks are not all set' }] }),
  joints: withItems(saying('engaged', 'Knobs in their grooves, every block bears whole'), {
    title: 'Knobs and joints',
    how: 'Look along the joints and under the edges: no light between a block and what it stands on.',
  }),
  fill: withItems(
    (list) => [
      ...list.filter((i) => i.id !== 'cores'),
      { id: 'between', text: 'Space to the wall that stays filled with clean stone, in lifts as the courses rise', maybe: true },
    ],
    {
      title: 'Stone behind',
      how: 'Clean stone behind to the top of the course, and into the space to a wall that stays; rod it, sweep the top clean.',
    },
  ),
  top: (s) => ({ ...s, title: 'Top closed' }),
  'cap-dry': () => undefined,
  cap: () => undefined,
  finish: (s) => ({ ...s, requires: [{ stage: 'top', of: 'same', force: 'hard', why: 'the top is not closed everywhere' }] }),
})

const after = (s: Stage, stage: string, force: Requirement['force'], why: string): Stage => ({
  ...s,
  requires: [{ stage, of: 'same', force, why }, ...s.requires],
})

/** The stages of big blocks: the face is cleared before the dig, and nothing is lifted before machine, gear and zone are ready. */
export const stages: readonly Stage[] = own.flatMap((s) =>
  s.id === 'dig'
    ? [cleared, after(s, 'cleared', 'soft', 'the face is not cleared')]
    : s.id === 'units'
      ? [lifting, after(s, 'lifting', 'hard', 'nobody has said that machine, gear and zone are ready')]
      : [s],
)

const OLD_WALL: ReadonlySet<string> = new Set(['stays', 'footing', 'between'])
/** Where no wall stays behind the blocks nothing of one is asked. */
const alone: readonly Stage[] = stages.map((s) => {
  if (s.work.type !== 'check') return s
  const work = { ...s.work, items: s.work.items.filter((i) => !OLD_WALL.has(i.id)) }
  if (s.id === 'cleared') {
    const { caution: _, ...rest } = s
    return {
      ...rest,
      title: 'Way of the pad cleared',
      how: 'Take away what stands where the pad and the blocks go: posts, steps, loose stones, roots.',
      work: {
        ...work,
        detail: 'What was taken away',
        items: work.items.map((i) => (i.id === 'obstacles' ? { ...i, text: 'Obstacles where it goes gone' } : i)),
      },
    }
  }
  return s.id === 'fill' ? { ...s, work, how: 'Clean stone behind to the top of the course; rod it, sweep the top clean.' } : { ...s, work }
})

/** Its stages for this part; since rule table 3 an old wall is asked about only where one stays. */
export const staged = (data: { readonly stays?: unknown }, plan: { readonly ruleTable?: number | undefined }): readonly Stage[] =>
  data.stays || !since(plan, 3) ? stages : alone
