import type { Problem } from '../../base/result'
import { said } from '../../base/said'
import { optionalRecord, quantity, record, type yup } from '../../base/schema'
import type { Plan } from '../../plan'
import { blockQuestions } from '../block-questions'
import { blockOutline } from '../block-shape'
import { blocks } from '../block-system'
import {
  type BlockData,
  blockBuilding,
  blockFields,
  blockStart,
  checkBlocks,
  compareBlocks,
  foundationEngineered,
  refitBlocks,
  settleBlocks,
} from '../blocks'
import { type Lifting, liftingSchema, PLACEHOLDER } from '../lifting'
import type { Question } from '../question'
import { defineSystem, type PartChange } from '../system'
import { staged, stages } from './stages'
import { units } from './units'

const metres = (min: number, max: number) => quantity({ min, max, unit: 'm' })
const schema = record({
  ...blockFields,
  lifting: liftingSchema,
  /** A wall that stays behind: the space to it, and its footing, if it has one that reaches out: elevation of its top, how far it reaches. */
  stays: optionalRecord({ gap: metres(0, 3), footing: optionalRecord({ top: metres(-500, 9000), out: metres(0, 3) }) }),
})

interface Stays {
  readonly gap: number
  readonly footing?: { readonly top: number; readonly out: number }
}
/** Blocks, the machine that sets them, and what stays behind them. */
export type BigBlockData = BlockData & { readonly lifting: Lifting; readonly stays?: Stays }

/** How far the pad reaches past the face, so that no block stands on its edge, m. */
const BEFORE_FACE = 0.2

/** A machine nobody has chosen yet: a usual one, to be replaced by the table of the one that comes. */
const USUAL: Lifting = {
  machine: PLACEHOLDER,
  stands: 4,
  table: [
    { reach: 3, capacity: 4200 },
    { reach: 4.5, capacity: 2900 },
    { reach: 6, capacity: 2000 },
    { reach: 7.5, capacity: 1500 },
  ],
  gear: { points: 2, tested: 1250, mass: 60, angle: 60, length: 1.2 },
  truck: { mass: 18_000, count: 16 },
}

const own = (
  id: string,
  at: string,
  label: string,
  of: 'length' | 'mass' | 'number' | 'text' | 'day',
  more: { hint?: string; optional?: true } = {},
): Question => ({
  id,
  at,
  chapter: 'own',
  label,
  of,
  ...more,
})

const questions: readonly Question[] = [
  ...blockQuestions(),
  own('machine', 'lifting.machine', 'Machine', 'text'),
  own('machineSource', 'lifting.source', 'Load table from', 'text', { optional: true, hint: 'maker, sheet; no pick is judged without' }),
  own('machineOn', 'lifting.on', 'Load table of the day', 'day', { optional: true }),
  own('stands', 'lifting.stands', 'Stands in front of the face', 'length', { hint: 'to the middle of the machine' }),
  {
    id: 'reachTable',
    at: 'lifting.table',
    chapter: 'own',
    label: 'What it lifts',
    one: 'Reach',
    of: 'list',
    columns: [
      { id: 'reach', label: 'Reach', of: 'length' },
      { id: 'height', label: 'Hook up to', of: 'length', optional: true },
      { id: 'capacity', label: 'Lifts', of: 'mass' },
    ],
    least: 1,
    add: 'Add a reach',
  },
  own('inserts', 'lifting.gear.points', 'Inserts a block hangs on', 'number'),
  own('tested', 'lifting.gear.tested', 'Each insert tested to', 'mass'),
  own('slings', 'lifting.gear.mass', 'Slings and lifter', 'mass'),
  own('angle', 'lifting.gear.angle', 'Slings over the level, °', 'number'),
  own('hook', 'lifting.gear.length', 'Block top to hook', 'length'),
  own('gearSource', 'lifting.gear.source', 'Inserts and gear tested by', 'text', { optional: true, hint: 'paper or tag; no pick is judged without' }),
  own('gearOn', 'lifting.gear.on', 'Tested on the day', 'day', { optional: true }),
  own('gearWind', 'lifting.gear.wind', 'Wind its maker allows, km/h', 'number', { optional: true }),
  own('truckMass', 'lifting.truck.mass', 'A truck carries', 'mass', { optional: true, hint: 'left empty: they come one by one' }),
  own('truckCount', 'lifting.truck.count', 'Blocks on a truck, at most', 'number', { optional: true }),
  own('gap', 'stays.gap', 'Space to a wall that stays', 'length', { optional: true, hint: 'only in front of one' }),
  own('oldTop', 'stays.footing.top', 'Top of its footing', 'length', { optional: true }),
  own('oldOut', 'stays.footing.out', 'Its footing reaches out', 'length', { optional: true }),
]

function settle(data: BigBlockData): BigBlockData {
  const { truck, ...rest } = data.lifting
  const { stays, ...base } = data
  const footing = stays?.footing && stays.footing.top != null && stays.footing.out != null ? stays.footing : undefined
  return {
    ...(settleBlocks(base) as BigBlockData),
    lifting: {
      ...rest,
      ...(truck && (truck.mass != null || truck.count != null) ? { truck: { ...USUAL.truck, ...truck } as Lifting['truck'] } : {}),
    } as Lifting,
    ...(stays && (stays.gap != null || stays.footing) ? { stays: { gap: stays.gap ?? 0, ...(footing ? { footing } : {}) } } : {}),
  }
}

function check(plan: Plan, data: BigBlockData): Problem[] {
  const problems = checkBlocks(plan, data)
  const seen = new Set<string>()
  data.lifting.table.forEach((r, i) => {
    const key = `${r.reach} ${r.height ?? ''}`
    if (seen.has(key)) problems.push({ field: `lifting.table[${i}].reach`, message: `${said.given(r.reach)} stands in the table twice` })
    seen.add(key)
    const nearer = data.lifting.table.find((x) => x.reach < r.reach - 1e-9 && x.height === r.height && x.capacity < r.capacity)
    if (nearer)
      problems.push({
        field: `lifting.table[${i}].capacity`,
        message: `${said.mass(r.capacity)} at ${said.given(r.reach)} is more than ${said.mass(nearer.capacity)} nearer by; a machine lifts less further out`,
      })
  })
  if (data.stays?.footing && data.stays.footing.out > data.stays.gap + data.unit.depth)
    problems.push({
      field: 'stays.footing.out',
      message: `${said.given(data.stays.footing.out)} reaches past the face of the new wall; set the line further out`,
    })
  return problems
}

/** What of the old wall's footing lies in the way of the new courses, in words. */
function footingCautions(plan: Plan, { stays, unit }: BigBlockData): { id: string; message: string }[] {
  if (!stays) return []
  const words = [
    {
      id: 'stays',
      message: `A wall stays ${said.given(stays.gap)} behind the blocks: its load on them is the engineer's word, its foot is never dug under, and nobody stands between it and a hanging block.`,
    },
  ]
  const { footing } = stays
  if (!footing || footing.out <= stays.gap) return words
  const low = Math.min(...plan.grades.map((g) => g.toe))
  const up = footing.top - low
  const courses = Math.ceil(up / unit.height - 1e-9)
  words.push({
    id: 'old-footing',
    message: `Its footing reaches ${said.small(footing.out - stays.gap)} under the blocks. Courses that lie lower than its top stand in front of it; the first that may sit on it has its underside at ${said.length(footing.top, 3)}, about course ${Math.max(1, courses + 1)} over the lowest toe. Where a course does not meet that height, the footing is cut back or bedded up by the engineer's word, never shimmed.`,
  })
  return words
}

const compare = (before: BigBlockData, after: BigBlockData): PartChange[] => {
  const words = ({ lifting: l }: BigBlockData) =>
    `${l.machine} ${said.given(l.stands)} in front, ${l.table.map((r) => `${said.mass(r.capacity)} at ${said.given(r.reach)}`).join(', ')}`
  const behind = ({ stays: s }: BigBlockData) => (s ? `${said.given(s.gap)}${s.footing ? `, footing to ${said.given(s.footing.top)}` : ''}` : 'none')
  return [
    ...compareBlocks(before, after),
    ...(words(before) === words(after) ? [] : [['machine', 'Machine', words(before), words(after)] as const]),
    ...(behind(before) === behind(after) ? [] : [['stays', 'Wall that stays behind', behind(before), behind(after)] as const]),
  ]
}

/** Blocks of half a tonne to two, set by a machine, often in front of a wall that stays. */
export const bigBlock = defineSystem<BigBlockData>({
  ...blocks,
  id: 'big-block',
  name: 'Big precast gravity blocks',
  summary: 'Blocks too heavy for any hand, set by a machine in the order of the trucks, on a pad that is exact; each pick checked against its table.',
  noun: { one: 'block', many: 'blocks' },
  schema: schema as unknown as yup.ISchema<BigBlockData>,
  units,
  stages,
  staged,
  traits: { flexible: false, carried: false, face: 'plain' },
  // They hang on a hook: nothing is glued, capped or turned.
  schools: [
    ...['embedment', 'floor', 'pad-material', 'pad-test', 'open-courses', 'corner', 'drain-seat', 'pipe-sock', 'fabric', 'stone'],
    ...['face-compactor', 'lift-thickness', 'grid-start', 'grid-length', 'top-grade'],
  ],
  questions,
  start: (unit, starts) => {
    const data = blockStart(unit, starts)
    const width = Math.max(data.foundation.width, unit.depth + 2 * BEFORE_FACE)
    return { ...data, foundation: { ...data.foundation, width: Math.ceil(width * 100 - 1e-6) / 100 }, lifting: USUAL }
  },
  settle,
  refit: (data, length) => ({ ...data, ...refitBlocks(data, length) }),
  check,
  compare,
  building: (plan, data) => ({ ...blockBuilding(plan, data), lifting: data.lifting }),
  // The face of a wall that stays behind them.
  outline: ({ unit, stays }) => ({
    ...blockOutline(unit),
    ...(stays
      ? {
          lines: [
            [
              [unit.depth + stays.gap, 0],
              [unit.depth + stays.gap, unit.height],
            ],
          ],
        }
      : {}),
  }),
  cautions: (plan, data) => [
    ...(data.foundation && (data.foundation.width - data.unit.depth) / 2 < BEFORE_FACE - 1e-6
      ? [
          {
            id: 'pad-front',
            message: `The pad reaches ${said.small((data.foundation.width - data.unit.depth) / 2)} past the face, less than ${said.small(BEFORE_FACE)}: a block set on its edge breaks it.`,
          },
        ]
      : []),
    ...(data.lifting?.machine === USUAL.machine
      ? [{ id: 'table', message: 'The table of the machine is a usual one: enter that of the machine that comes before the first pick.' }]
      : []),
    ...footingCautions(plan, data),
  ],
  engineered: (_plan, data, rows) => [
    ...foundationEngineered(data),
    ...(data.stays ? ['a wall that stays leans on it'] : []),
    ...(rows > 3 ? [`${rows} rows of big blocks stand on one another`] : []),
  ],
  quantities: ({ face }, { stays }) =>
    stays && stays.gap > 0
      ? [
          {
            id: 'infill',
            name: 'Clean stone to the wall that stays',
            value: face * stays.gap,
            unit: 'm³',
            working: `${said.area(face)} × ${said.given(stays.gap)}`,
          },
        ]
      : [],
})
