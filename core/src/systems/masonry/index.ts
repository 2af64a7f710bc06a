import type { Problem } from '../../base/result'
import { said } from '../../base/said'
import { choice, optionalList, optionalQuantity, optionalText, quantity, record, type yup } from '../../base/schema'
import type { Plan } from '../../plan'
import { limitsOf } from '../../rules'
import { blockQuestions } from '../block-questions'
import { coreStone } from '../block-shape'
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
import { foundationSchema } from '../foundations'
import type { Question } from '../question'
import { type CountBasis, defineSystem, type PartChange, type Quantity, type Stage } from '../system'
import type { Unit } from '../unit'
import { FOOTING_MEASURES, stages } from './stages'
import { type Bars, barsOver, steelQuantities } from './steel'
import { units } from './units'

const metres = (min: number, max: number) => quantity({ min, max, unit: 'm' })
const count = (min: number, max: number) => quantity({ min, max, whole: true })
const schema = record({
  ...blockFields,
  foundation: foundationSchema(['footing']),
  /** Elevation of the finished slab that top of footing and first joint are measured from, m. */
  slab: optionalQuantity({ min: -500, max: 9000, unit: 'm' }),
  /** Bars up the cells: apart, thick, how far they lap on their starters, how long those are; m. */
  vertical: record({ spacing: metres(0.1, 2.4), diameter: metres(0.006, 0.04), lap: metres(0.1, 3), starter: metres(0.2, 6) }),
  /** Courses of beam units with bars along. */
  beams: optionalList(record({ course: count(1, 60), bars: count(1, 6), diameter: metres(0.006, 0.04) }), 20),
  /** Courses that are grouted in one lift. */
  groutEvery: count(1, 20),
  grout: choice(['all', 'barred'] as const),
  /** Control joints apart, m. */
  joints: optionalQuantity({ min: 1, max: 30, unit: 'm' }),
  /** How its face is finished. */
  finish: optionalText(80),
})

interface Beam {
  readonly course: number
  readonly bars: number
  readonly diameter: number
}
/** The footing and its bars. */
interface Footing {
  readonly cover: number
  readonly bars: { readonly count: number; readonly diameter: number; readonly lap: number }
  readonly stock: number
}
/** Hollow units on a footing, their bars, beams and grout. */
export type MasonryData = BlockData & {
  readonly slab?: number
  readonly vertical: Bars
  readonly beams?: readonly Beam[]
  readonly groutEvery: number
  readonly grout: 'all' | 'barred'
  readonly joints?: number
  readonly finish?: string
}
const footingOf = (d: MasonryData) => d.foundation as unknown as Footing

/** Cells of a unit: two, each half its length. */
const cellOf = (unit: Unit) => unit.length / 2

const own = (
  id: string,
  at: string,
  label: string,
  of: 'length' | 'small' | 'number' | 'text',
  more: { hint?: string; optional?: true } = {},
): Question => ({
  id,
  at,
  chapter: 'own',
  label,
  of,
  ...more,
})
const NOT_OF_MASONRY: ReadonlySet<string> = new Set([
  'grid',
  'rolls',
  'wasteGrid',
  'padLift',
  'padLoose',
  'embedShare',
  'embedBase',
  'embedPerMetre',
  'embedCourses',
])
const questions: readonly Question[] = [
  ...blockQuestions(['footing']).filter((q) => !NOT_OF_MASONRY.has(q.id)),
  own('slab', 'slab', 'Finished slab at', 'length', { optional: true, hint: 'top of footing and first joint are measured from it' }),
  own('barsUp', 'vertical.spacing', 'Bars up the cells, apart', 'length', { hint: 'whole cells: half a unit each' }),
  own('barUpDiameter', 'vertical.diameter', 'Their diameter', 'small'),
  own('barUpLap', 'vertical.lap', 'Lap on the starters', 'length'),
  own('starter', 'vertical.starter', 'Starters, long', 'length'),
  {
    id: 'beams',
    at: 'beams',
    chapter: 'own',
    label: 'Beam courses',
    one: 'Beam',
    of: 'list',
    columns: [
      { id: 'course', label: 'Course', of: 'number' },
      { id: 'bars', label: 'Bars along', of: 'number' },
      { id: 'diameter', label: 'Diameter', of: 'small' },
    ],
    least: 0,
    add: 'Add a beam course',
  },
  own('groutEvery', 'groutEvery', 'Courses grouted in one lift', 'number'),
  {
    id: 'grout',
    at: 'grout',
    chapter: 'own',
    label: 'Cells grouted',
    of: 'choice',
    options: [
      ['all', 'All: soil stands behind'],
      ['barred', 'Only those with a bar'],
    ],
  },
  own('controlJoints', 'joints', 'Control joints apart', 'length', { optional: true }),
  own('finish', 'finish', 'Face finished', 'text', { optional: true, hint: 'struck joints, render, paint' }),
]

/** Stations of the control joints: evenly, none further from the next than the plan lets them be; none where it says nothing. */
export function jointsAt(length: number, apart: number | undefined): number[] {
  if (!apart) return []
  const parts = Math.ceil(length / apart - 1e-9)
  return Array.from({ length: parts - 1 }, (_, i) => ((i + 1) * length) / parts)
}

/** Mortar of a square metre of face of units 0.2 m deep, m³; common practice. */
const MORTAR = 0.025
const MEMBRANE_LAPS = 1.12

function quantities(basis: CountBasis, data: MasonryData): Quantity[] {
  const { unit, vertical, beams = [], grout } = data
  const { face, runs, pieces } = basis
  const cores = coreStone(basis, unit).value
  const beamRun = runs.filter((r) => beams.some((b) => b.course === r.course)).reduce((sum, r) => sum + r.length, 0)
  const share = grout === 'all' ? 1 : Math.min(1, cellOf(unit) / vertical.spacing)
  const footing = footingOf(data)
  return [
    ...steelQuantities(basis, { vertical, beams, footing: footing.bars, stock: footing.stock, height: unit.height }),
    {
      id: 'beam-units',
      name: 'Beam units',
      value: Math.ceil(beamRun / unit.length - 1e-9),
      unit: 'pieces',
      working: `${said.length(beamRun, 2)} of beam course; instead of plain ones`,
    },
    {
      id: 'grout',
      name: 'Grout in the cells',
      value: cores * share,
      unit: 'm³',
      working:
        grout === 'all'
          ? `all of ${said.volume(cores)} of cells`
          : `${said.volume(cores)} of cells × ${+share.toFixed(3)}, one cell every ${said.given(vertical.spacing)}`,
    },
    { id: 'mortar', name: 'Mortar', value: face * MORTAR * (unit.depth / 0.2), unit: 'm³', working: `${said.area(face)} of face` },
    { id: 'membrane', name: 'Waterproofing', value: face * MEMBRANE_LAPS, unit: 'm²', working: `${said.area(face)} behind with laps` },
    { id: 'board', name: 'Protection board', value: face, unit: 'm²', working: 'over all of the membrane' },
    {
      id: 'end-units',
      name: 'End units',
      value: runs.length * 2,
      unit: 'pieces',
      working: `both ends of every run of a course; ${pieces.filter((p) => p.kind === 'half').length} of the pieces are halves`,
    },
  ]
}

function check(plan: Plan, data: MasonryData): Problem[] {
  const problems = checkBlocks(plan, data)
  const say = (field: string, message: string) => problems.push({ field, message })
  const cell = cellOf(data.unit)
  const cells = data.vertical.spacing / cell
  if (Math.abs(cells - Math.round(cells)) > 0.02 || cells < 0.99)
    say(
      'vertical.spacing',
      `${said.given(data.vertical.spacing)} is no whole number of cells of ${said.length(cell, 3)}: bars would miss them. ${said.length(Math.max(1, Math.floor(cells)) * cell, 3)} or ${said.length((Math.floor(cells) + 1) * cell, 3)} falls in every cell`,
    )
  const lift = data.groutEvery * data.unit.height
  const most = limitsOf(plan).groutLift.value
  if (lift > most + 1e-6)
    say(
      'groutEvery',
      `${data.groutEvery} courses are ${said.length(lift, 2)} of grout in one lift, at most ${said.given(most)}: it falls too far and leaves voids`,
    )
  if (data.vertical.starter < data.vertical.lap + footingOf(data).cover)
    say('vertical.starter', `${said.given(data.vertical.starter)} is shorter than its lap and the cover below it`)
  const footing = footingOf(data)
  for (const [field, lap] of [
    ['foundation.bars.lap', footing.bars.lap],
    ['vertical.lap', data.vertical.lap],
  ] as const)
    if (lap > footing.stock / 2)
      say(
        field,
        `a lap of ${said.given(lap)} is over half of a bar of ${said.given(footing.stock)}: bars delivered longer, or laps as the engineer has them`,
      )
  const seen = new Set<number>()
  data.beams?.forEach((b, i) => {
    if (seen.has(b.course)) say(`beams[${i}].course`, `course ${b.course} is a beam already`)
    seen.add(b.course)
  })
  return problems
}

const compare = (before: MasonryData, after: MasonryData): PartChange[] => {
  const steel = (d: MasonryData) => `${said.small(d.vertical.diameter)} every ${said.given(d.vertical.spacing)}, lap ${said.given(d.vertical.lap)}`
  const beams = (d: MasonryData) => (d.beams ?? []).map((b) => `${b.bars} × ${said.small(b.diameter)} in course ${b.course}`).join(', ') || 'none'
  const pour = (d: MasonryData) => `${d.grout} cells, ${d.groutEvery} ${d.groutEvery === 1 ? 'course' : 'courses'} in one lift`
  const slab = (d: MasonryData) => (d.slab === undefined ? 'none' : said.length(d.slab, 3))
  const one = (id: string, title: string, of: (d: MasonryData) => string): PartChange[] =>
    of(before) === of(after) ? [] : [[id, title, of(before), of(after)]]
  return [
    ...compareBlocks(before, after),
    ...one('bars', 'Bars up the cells', steel),
    ...one('beams', 'Beam courses', beams),
    ...one('grout', 'Grout', pour),
    ...one('slab', 'Finished slab', slab),
  ]
}

/** Hollow units on a cast footing, barred, grouted and waterproofed before anything leans on them. */
export const masonry = defineSystem<MasonryData>({
  ...blocks,
  id: 'masonry',
  name: 'Reinforced masonry on a footing',
  summary: 'Hollow units in mortar on a cast footing with starters; bars and grout in the cells; cured, waterproofed and drained before the fill.',
  noun: { one: 'unit', many: 'units' },
  schema: schema as unknown as yup.ISchema<MasonryData>,
  units,
  stages,
  traits: { flexible: false, carried: true, face: 'plain' },
  open: { from: 'units', until: ['joints'] },
  schools: [
    'embedment',
    'floor',
    'level-interval',
    'open-courses',
    'drain-seat',
    'pipe-sock',
    'fabric',
    'face-compactor',
    'lift-thickness',
    'waterproofing',
    'cap',
    'top-grade',
  ],
  questions,
  start: (unit, starts) => {
    const data = blockStart(unit, starts)
    return {
      ...data,
      unit,
      foundation: {
        kind: 'footing',
        thickness: 0.3,
        width: 0.6,
        minRun: unit.length * 2,
        cover: 0.075,
        bars: { count: 3, diameter: 0.012, lap: 0.6 },
        stock: 6,
      } as BlockData['foundation'],
      embedment: [{ kind: 'fixed', depth: Math.max(unit.height / 2, limitsOf({}).buriedLeast.value) }],
      vertical: { spacing: cellOf(unit) * 3, diameter: 0.012, lap: 0.6, starter: 0.9 },
      beams: [],
      groutEvery: Math.max(1, Math.floor(limitsOf({}).groutLift.value / unit.height / 2 + 1e-6)),
      grout: 'all',
    }
  },
  settle: (data) => ({ ...data, ...settleBlocks(data) }),
  refit: (data, length) => ({ ...data, ...refitBlocks(data, length) }),
  check,
  compare,
  building: (plan, data) => ({
    ...blockBuilding(plan, data),
    ...(data.slab === undefined ? {} : { slab: data.slab }),
    joints: jointsAt(plan.length, data.joints),
    tied: true,
  }),
  staged: ({ groutEvery, finish }) =>
    stages.map((s) => {
      if (s.id === 'steel' || s.id === 'grout') return { ...s, each: groutEvery }
      return s.id === 'finish' && finish && s.work.type === 'check'
        ? { ...s, work: { ...s.work, items: [...s.work.items, { id: 'face', text: `Face finished: ${finish}` }] } }
        : s
    }),
  onFoundation: (list) =>
    list.map((s): Stage => {
      const more = FOOTING_MEASURES[s.id]
      return more && s.work.type === 'check' ? { ...s, work: { ...s.work, measures: [...(s.work.measures ?? []), ...more] } } : s
    }),
  size: (data, name, { section }, plan) => {
    if (name === 'lap') return data.vertical.lap
    const own = plan?.sections?.find((s) => s.id === section)
    return name === 'starters' ? (own ? barsOver(own.to - own.from, data.vertical.spacing) : 0) : undefined
  },
  cautions: () => [
    { id: 'bars', message: 'Size and spacing of bars, beams and footing are the engineer’s: nothing of their strength is worked out here.' },
    { id: 'green', message: 'A wall without grout, or green, falls over in wind: propped until it has cured, and nobody in its fall.' },
  ],
  engineered: (_plan, data) => foundationEngineered(data),
  quantities,
  outline: ({ unit: u, beams = [] }, course) => ({
    body: [
      [0, 0],
      [u.depth, 0],
      [u.depth, u.height],
      [0, u.height],
    ],
    ...(beams.some((b) => b.course === course)
      ? {}
      : {
          core: [
            [u.depth / 5, 0],
            [(u.depth * 4) / 5, 0],
            [(u.depth * 4) / 5, u.height],
            [u.depth / 5, u.height],
          ] as const,
        }),
    lines: [
      [
        [u.depth / 2, course === 1 ? -0.2 : 0],
        [u.depth / 2, u.height],
      ],
      [
        [u.depth + 0.015, 0],
        [u.depth + 0.015, u.height],
      ],
    ],
  }),
})
