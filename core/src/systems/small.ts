import type { Problem } from '../base/result'
import { said } from '../base/said'
import { choice, record, type yup } from '../base/schema'
import { below } from '../geometry'
import { exposedHeight, type Plan } from '../plan'
import { limitsOf } from '../rules'
import { blockQuestions } from './block-questions'
import { type BlockData, blockFields, checkBlocks, settleBlocks } from './blocks'
import type { FoundationData } from './foundation'
import { groundStages } from './ground-stages'
import type { Question } from './question'
import { finishStages } from './raising-stages'
import type { Stage } from './stage'

/** A wall of small stone: one of a few courses is planned and built with what such a wall needs, and no more. */
export type SmallData = BlockData & { readonly small?: 'yes' | 'no' }

const schema = record({
  ...blockFields,
  small: choice(['yes', 'no'] as const)
    .optional()
    .default(undefined),
})
export const smallSchema = schema as unknown as yup.ISchema<SmallData>

const ASKED: ReadonlySet<string> = new Set(['unit', 'small'])
/** What the planner asks: of a small wall its stone alone. */
export const smallQuestions: readonly Question[] = [
  {
    id: 'small',
    at: 'small',
    chapter: 'wall',
    label: 'How high',
    of: 'choice',
    options: [
      ['no', 'As high as it comes'],
      ['yes', 'Up to three courses, on sand'],
    ],
  },
  ...blockQuestions().map((q): Question => (ASKED.has(q.id) ? q : { ...q, unless: { question: 'small', is: ['yes'] } })),
]

/** Sand under it, m, and past it on either side. */
const SAND = { thickness: 0.025, beside: 0.1 }

/** A part of a small wall keeps nothing of what such a wall has none of. */
export function settleSmall(data: SmallData): SmallData {
  if (data.small !== 'yes') return { ...data, ...settleBlocks(data) }
  const { drain: _drain, stone: _stone, rolls: _rolls, ...rest } = data
  const { unit } = rest
  const foundation = {
    kind: 'sand',
    thickness: SAND.thickness,
    width: Math.round((unit.depth + 2 * SAND.beside) * 1000) / 1000,
    minRun: unit.length * 2,
    lifts: { max: 0.03, loose: 1.25 },
  } as FoundationData
  // Part of a course is buried; the ground holds its foot.
  return { ...rest, foundation, embedment: [{ kind: 'fixed', depth: Math.round(unit.height * 500) / 1000 }], layers: [] }
}

export function checkSmall(plan: Plan, data: SmallData): Problem[] {
  const problems = checkBlocks(plan, data)
  const most = limitsOf(plan).courseWithoutPipe.value
  const high = exposedHeight(plan) + data.unit.height / 2
  if (data.small === 'yes' && below(most * data.unit.height, high))
    problems.push({
      field: 'small',
      message: `${said.length(exposedHeight(plan), 2)} to be seen and half a course buried are over ${most} courses of ${said.given(data.unit.height)}: not a small wall any more, it needs a pad and a pipe`,
    })
  return problems
}

const of = (list: readonly Stage[], id: string): Stage => {
  const s = list.find((x) => x.id === id)
  if (!s) throw new RangeError(`no stage ${id}`)
  return s
}

/** From the first mark to the handover in as few steps as such a wall needs: one for each course, and one look at all of them. */
export const smallStages: readonly Stage[] = [
  of(groundStages, 'services'),
  of(groundStages, 'set-out'),
  {
    id: 'base',
    title: 'Trench and sand',
    scope: 'section',
    when: 'every',
    how: `Topsoil out to firm ground, the floor flat; ${said.small(SAND.thickness)} of coarse sand screeded level to the string.`,
    work: {
      type: 'check',
      items: [
        { id: 'firm', text: 'Topsoil out, floor firm under a heel' },
        { id: 'sand', text: 'Sand screeded to the string, level along and across' },
      ],
    },
    requires: [{ stage: 'set-out', of: 'same', force: 'hold', why: 'digging may not start before it' }],
  },
  {
    id: 'units',
    title: 'Stones set',
    scope: 'course',
    when: 'every',
    how: 'To the string, the first half in the ground; joints broken, none rocks; backed by hand before the next course goes on.',
    caution: 'Split with guillotine or chisel: eye, hand and foot protection. Cut wet or with extraction.',
    work: { type: 'units' },
    requires: [
      { stage: 'base', of: 'same', force: 'hard', why: 'there is nothing yet to set them on' },
      { stage: 'units', of: 'below', force: 'hard', why: 'the course below is not set through' },
    ],
  },
  {
    id: 'fill',
    title: 'Level and backed',
    scope: 'course',
    when: 'last',
    how: 'Straight edge along and across, course by course; soil behind in thin lifts by hand tamper, from the stones backwards.',
    caution: 'No plate on small stone: a foot or a plate pushes it out.',
    work: {
      type: 'check',
      items: [
        { id: 'bond', text: 'Joints broken, every stone bears' },
        { id: 'backed', text: 'Backed in thin lifts, tamped by hand' },
      ],
      measures: [{ id: 'level', text: 'Off level, the worst', most: 'courseLevel', either: true }],
    },
    requires: [{ stage: 'units', of: 'same', force: 'soft', why: 'stones are not all set' }],
  },
  ...finishStages({ stage: 'fill', of: 'all', force: 'hard', why: 'the top course is not backed' })
    .filter((s) => s.id !== 'pour')
    .map((s) =>
      s.id === 'final' ? { ...s, requires: [{ stage: 'finish', of: 'same', force: 'hard', why: 'the ground is not shaped' } as const] } : s,
    ),
]
