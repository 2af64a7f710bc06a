import type { Problem } from '../../base/result'
import { said } from '../../base/said'
import { choice, list, optionalText, quantity, record, text, type yup } from '../../base/schema'
import { below } from '../../geometry'
import type { Plan } from '../../plan'
import { limitsOf } from '../../rules'
import { blockQuestions } from '../block-questions'
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
import { FOUNDATIONS, foundationSchema } from '../foundations'
import type { Question } from '../question'
import { standBlocks, standingHeight } from '../stand'
import { type CountBasis, defineSystem, type PartChange, type Quantity } from '../system'
import { lay } from './lay'
import { stages } from './stages'
import { units } from './units'

const metres = (min: number, max: number) => quantity({ min, max, unit: 'm' })
const schema = record({
  ...blockFields,
  foundation: foundationSchema(FOUNDATIONS.map((f) => f.id)),
  /** Mats from a course on, in one section or all: their type, how far they reach into the fill, how thick their wires are; m. */
  mats: list(
    record({
      from: quantity({ min: 1, max: 200, whole: true }),
      section: optionalText(8),
      type: text(60),
      length: metres(0.8, 30),
      wire: metres(0.003, 0.02),
    }),
    1,
    60,
  ),
  /** Gap between two mats; wires into the fill apart; m. */
  gap: metres(0, 1),
  mesh: metres(0.05, 0.4),
  facing: choice(['slope', 'stone'] as const),
  /** Level ground filled in front of the toe, wide, m. */
  berm: metres(0, 20),
  /** Where the engineer's figures for the inside of the mass are. */
  figures: optionalText(160),
})

interface Mat {
  readonly from: number
  readonly section?: string
  readonly type: string
  readonly length: number
  readonly wire: number
}
/** Mats, what stands before them, and the ground in front of them. */
export type WireData = BlockData & {
  readonly mats: readonly Mat[]
  readonly gap: number
  readonly mesh: number
  readonly facing: 'slope' | 'stone'
  readonly berm: number
  readonly figures?: string
}

/** The mat of a course: the one that begins nearest below it, one of its own section before one of all. */
export function matAt({ mats }: Pick<WireData, 'mats'>, course: number, section?: string): Mat | undefined {
  const of = (list: readonly Mat[]) =>
    list.filter((m) => m.from <= course).reduce<Mat | undefined>((a, b) => (a && a.from > b.from ? a : b), undefined)
  return of(mats.filter((m) => m.section !== undefined && m.section === section)) ?? of(mats.filter((m) => m.section === undefined))
}

const own = (id: string, label: string, of: 'length' | 'small' | 'text', hint?: string): Question => ({
  id,
  at: id,
  chapter: 'own',
  label,
  of,
  ...(hint ? { hint } : {}),
  ...(of === 'text' ? { optional: true as const } : {}),
})
const NOT_OF_WIRE: ReadonlySet<string> = new Set(['grid', 'rolls', 'wasteGrid', 'stone'])
const questions: readonly Question[] = [
  ...blockQuestions(FOUNDATIONS.map((f) => f.id)).filter((q) => !NOT_OF_WIRE.has(q.id)),
  {
    id: 'mats',
    at: 'mats',
    chapter: 'own',
    label: 'Mats',
    one: 'Mat',
    of: 'list',
    columns: [
      { id: 'from', label: 'From course', of: 'number', begin: '1' },
      { id: 'section', label: 'Section, if one', of: 'text', optional: true },
      { id: 'type', label: 'Type', of: 'text', again: true },
      { id: 'length', label: 'Into the fill', of: 'length', again: true },
      { id: 'wire', label: 'Wire', of: 'small', again: true },
    ],
    least: 1,
    stands: 'as long as the share of the height that holds a mass together; an engineer’s plan rules',
    add: 'Add a mat',
  },
  own('gap', 'Gap between mats', 'small'),
  own('mesh', 'Wires into the fill apart', 'small'),
  {
    id: 'facing',
    at: 'facing',
    chapter: 'own',
    label: 'Behind the face',
    of: 'choice',
    options: [
      ['slope', 'Soil behind fine mesh, to be planted'],
      ['stone', 'Stone behind larger mesh, fabric behind it'],
    ],
  },
  own('berm', 'Toe berm, wide', 'length', 'level ground filled in front'),
  own('figures', 'Engineer’s figures of the inside', 'text', 'reference; without them the inside has no verdict'),
]

/** The mat a wall begins with. */
const MAT: Mat = { from: 1, type: 'standard', length: 1.2, wire: 0.006 }

/** Laps of the mesh, and how high it is hung above a course, as a share of the face. */
const MESH_LAPS = 1.15

/** Mats by their type: a type may begin again further up. */
function matsByType({ runs }: CountBasis, data: WireData): Quantity[] {
  const types = new Map<string, number>()
  for (const r of runs) {
    const mat = matAt(data, r.course)
    if (mat) types.set(mat.type, (types.get(mat.type) ?? 0) + r.pieces)
  }
  return [...types].map(([type, count]) => ({
    id: `mat-${type}`,
    name: `Mats: ${type}`,
    value: count,
    unit: 'pieces' as const,
    working: 'by the table of the plan, course by course',
  }))
}

function count(basis: CountBasis, data: WireData): Quantity[] {
  const { runs, face, pieces, topSteps } = basis
  // Two mats beside each other leave a gap; at both ends of a run half a backing mat stands.
  const gaps = runs.reduce((n, r) => n + Math.max(0, r.pieces - 1), 0)
  const caps = runs.filter((r) => r.last).reduce((n, r) => n + r.pieces, 0)
  const mesh = face * MESH_LAPS
  const narrow = pieces.filter((p) => p.kind === 'cut')
  const rows = Math.max(1, Math.ceil(data.unit.height / CLIPS - 1e-9))
  const clips = Math.ceil(runs.reduce((n, r) => n + (r.length / CLIPS) * rows, 0))
  return [
    ...matsByType(basis, data),
    { id: 'backing', name: 'Backing mats', value: gaps, unit: 'pieces', working: 'one over every gap between two mats' },
    { id: 'backing-half', name: 'Backing mats, half', value: runs.length * 2, unit: 'pieces', working: 'one at each end of every run of a course' },
    {
      id: 'cap-mats',
      name: 'Cap mats',
      value: caps,
      unit: 'pieces',
      working: 'over the topmost course, whose own mats are prongless',
    },
    {
      id: 'narrow',
      name: 'Mats to narrow',
      value: narrow.length,
      unit: 'pieces',
      working: 'cut between wires that lie into the fill; only wires along the wall are cut',
    },
    ...(topSteps > 0
      ? [{ id: 'corner-mats', name: 'Corner mats', value: topSteps, unit: 'pieces' as const, working: 'one wherever the top steps' }]
      : []),
    {
      id: 'face-mesh',
      name: data.facing === 'stone' ? 'Mesh and fabric behind the stone' : 'Fine mesh behind the face',
      value: mesh,
      unit: 'm²',
      working: `${said.area(face)} of face with laps`,
    },
    {
      id: 'clips',
      name: 'Clips',
      value: clips,
      unit: 'pieces',
      working: `every ${said.small(CLIPS)} along the mesh, ${rows} ${rows === 1 ? 'row' : 'rows'} a course`,
    },
    ...(data.facing === 'stone'
      ? [
          {
            id: 'face-stone',
            name: 'Stone behind the face',
            value: face * data.unit.depth,
            unit: 'm³' as const,
            working: `${said.area(face)} × ${said.given(data.unit.depth)}`,
          },
        ]
      : []),
  ]
}
/** Clips apart when they are counted, m; how far they may be is the rule book's. */
const CLIPS = 0.45

function check(plan: Plan, data: WireData): Problem[] {
  const problems = checkBlocks(plan, data)
  const say = (field: string, message: string) => problems.push({ field, message })
  if (!data.mats.some((m) => m.from === 1 && m.section === undefined)) say('mats', 'no mat begins at course 1 for the whole wall')
  const seen = new Set<string>()
  data.mats.forEach((m, i) => {
    const key = `${m.section ?? ''} ${m.from}`
    if (seen.has(key)) say(`mats[${i}].from`, `a mat from course ${m.from}${m.section ? ` of section ${m.section}` : ''} is there already`)
    seen.add(key)
    if (m.section !== undefined && !plan.sections.some((s) => s.id === m.section)) say(`mats[${i}].section`, `there is no section ${m.section}`)
    const room = data.unit.depth + plan.excavation.behind + plan.excavation.slope * (m.from - 1) * data.unit.height
    if (below(room, m.length))
      say(
        `mats[${i}].length`,
        `${said.given(m.length)} of mat does not fit: the excavation gives ${said.length(room, 2)} at course ${m.from}; dig deeper behind, a mat is never shortened`,
      )
  })
  for (const o of plan.openings ?? []) {
    const own = plan.sections.find((s) => o.station >= s.from && o.station <= s.to)
    if (own && o.width > own.to - own.from) say('openings', `${o.name} is ${said.given(o.width)} wide, wider than section ${own.id}`)
  }
  return problems
}

const compare = (before: WireData, after: WireData): PartChange[] => {
  const words = ({ mats }: WireData) =>
    mats.map((m) => `${m.type} ${said.given(m.length)} from course ${m.from}${m.section ? ` of ${m.section}` : ''}`).join(', ')
  const front = (d: WireData) => `${d.facing}, berm ${said.given(d.berm)}, gap ${said.small(d.gap)}`
  return [
    ...compareBlocks(before, after),
    ...(words(before) === words(after) ? [] : [['mats', 'Mats', words(before), words(after)] as const]),
    ...(front(before) === front(after) ? [] : [['front', 'Face and toe', front(before), front(after)] as const]),
  ]
}

/** Rows of L-shaped welded mats that lie into the fill, filled up to their face. */
export const wire = defineSystem<WireData>({
  ...blocks,
  id: 'wire',
  name: 'Welded-wire reinforced soil',
  summary: 'L-shaped welded mats, course on course, lying into the fill; mesh behind the face, filled up to it until it stands at its batter.',
  noun: { one: 'mat', many: 'mats', cut: { cut: 'narrowed', mitre: 'wires along cut, face bent' } },
  schema: schema as unknown as yup.ISchema<WireData>,
  units,
  stages,
  traits: { flexible: true, carried: true, face: 'mesh' },
  open: { from: 'units', until: ['backfill'] },
  schools: [
    ...['embedment', 'floor', 'pad-material', 'pad-test', 'open-courses', 'drain-seat', 'pipe-sock', 'fabric'],
    ...['face-compactor', 'lift-thickness', 'top-grade'],
  ],
  questions,
  start: (unit, starts) => {
    const { stone: _, ...data } = blockStart(unit, starts)
    return {
      ...data,
      foundation: { kind: 'floor', thickness: 0, width: Math.max(data.foundation.width, unit.depth + 0.4), minRun: data.foundation.minRun },
      mats: [MAT],
      gap: 0.2,
      mesh: 0.15,
      facing: 'slope',
      berm: limitsOf({}).bermWidth.value,
    }
  },
  stands: (plan, data) => {
    const made = standBlocks(plan, data)
    const share = limitsOf(plan).matShare.value * standingHeight(plan, data)
    return made.mats.length > 0 ? made : { ...made, mats: [{ ...MAT, length: Math.max(MAT.length, Math.ceil(share * 10 - 1e-6) / 10) }] }
  },
  room: ({ mats, unit }, slope) => Math.max(0, ...mats.map((m) => m.length - unit.depth - slope * (m.from - 1) * unit.height)),
  settle: (data) => ({ ...data, ...settleBlocks(data) }),
  refit: (data, length) => ({ ...data, ...refitBlocks(data, length) }),
  check,
  compare,
  building: (plan, data) => ({
    ...blockBuilding(plan, data),
    reach: (course) => Math.max(0, ...[undefined, ...new Set(data.mats.map((m) => m.section))].map((s) => matAt(data, course, s)?.length ?? 0)),
  }),
  wires: ({ mesh }) => mesh,
  laidBy: ({ unit, mesh }) => ({ unit, mesh }),
  lay: (run, { unit, mesh }) => lay(run, unit, mesh),
  size: (data, name, { course = 1, section }) => {
    const mat = matAt(data, course, section)
    return name === 'berm' ? data.berm : name === 'length' ? mat?.length : name === 'wire' ? mat?.wire : undefined
  },
  cautions: (_plan, data) => [
    {
      id: 'inside',
      message: data.figures
        ? `The inside of the mass (tension, pull-out, corrosion) is by the engineer's figures: ${data.figures}. Nothing of it is worked out here.`
        : 'The inside of the mass (tension, pull-out, corrosion of the wires) has no verdict here: it needs the engineer’s figures by layer, with their reference.',
    },
    { id: 'cut', message: 'Only wires along the wall are ever cut, and no mat is ever shortened: what lies into the fill is what holds.' },
  ],
  engineered: (_plan, data, rows) => [
    ...foundationEngineered(data),
    ...(rows > 1 ? [`${rows} mat courses hold the soil behind by their wires`] : []),
  ],
  quantities: count,
  outline: (data, course) => {
    const { unit: u } = data
    const length = data.mats ? (matAt(data, course)?.length ?? u.depth) : u.depth
    return {
      body: [
        [0, 0],
        [u.depth, 0],
        [u.depth, u.height],
        [0, u.height],
      ],
      ...(data.facing === 'stone'
        ? {
            core: [
              [0, 0],
              [u.depth, 0],
              [u.depth, u.height],
              [0, u.height],
            ] as const,
            fill: 'stone' as const,
          }
        : {}),
      lines: [
        [
          [length, 0],
          [0, 0],
          [0, u.height],
        ],
      ],
    }
  },
})
