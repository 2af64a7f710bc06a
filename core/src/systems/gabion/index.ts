import type { Problem } from '../../base/result'
import { said } from '../../base/said'
import type { yup } from '../../base/schema'
import type { Plan } from '../../plan'
import { blockQuestions } from '../block-questions'
import { blocks } from '../block-system'
import { blockBuilding, blockStart, checkBlocks, compareBlocks, foundationEngineered, refitBlocks, settleBlocks } from '../blocks'
import { FOUNDATIONS } from '../foundations'
import type { Question } from '../question'
import { defineSystem, type PartChange, type Stage } from '../system'
import { basketsDeep, type GabionData, schema } from './data'
import { lay } from './lay'
import { quantities, ROCK } from './quantities'
import { stages } from './stages'
import { units } from './units'

/** A base that falls one in ten into the slope leans the wall by about six degrees. */
const TILT = 0.1
/** Stones are one to two meshes wide: smaller fall through, larger leave voids. */
const MESHES = [1, 2] as const

/** How far tickets may be off what the baskets hold, share: stone differs, and so does its packing. */
const PLAY = 0.15
const own = (id: string, at: string, label: string, options: readonly (readonly [string, string])[]): Question => ({
  id,
  at,
  chapter: 'own',
  label,
  of: 'choice',
  options,
})
const questions: readonly Question[] = [
  ...blockQuestions(FOUNDATIONS.map((f) => f.id)),
  own('face', 'face', 'Front', [
    ['hand', 'Laid stone by stone'],
    ['machine', 'Filled as it falls'],
  ]),
  own('joint', 'joint', 'Joined by', [
    ['spiral', 'Spirals'],
    ['ring', 'Rings'],
    ['lacing', 'Lacing wire'],
  ]),
  own('lean', 'lean', 'Leaning by', [
    ['step', 'Rows that step back'],
    ['tilt', 'A tilted base, 1 in 10'],
  ]),
  own('chains', 'chains', 'Put up', [
    ['no', 'One by one'],
    ['yes', 'In chains, laced on the ground'],
  ]),
  { id: 'mesh', at: 'mesh', chapter: 'own', label: 'Mesh, wide', of: 'small', optional: true, hint: 'stones are one to two of it' },
  {
    id: 'deep',
    at: 'deep',
    chapter: 'own',
    label: 'Baskets deep at the foot',
    one: 'Depth',
    of: 'list',
    columns: [
      { id: 'courses', label: 'Courses from the foot', of: 'number' },
      { id: 'baskets', label: 'Baskets deep', of: 'number' },
    ],
    least: 0,
    add: 'Deeper at the foot',
  },
  { id: 'mattressOut', at: 'mattress.out', chapter: 'own', label: 'Mattress in front, out', of: 'length', optional: true },
  { id: 'mattressThick', at: 'mattress.thickness', chapter: 'own', label: 'Mattress, thick', of: 'length', optional: true },
]

const mattressStage: Stage = {
  id: 'mattress',
  title: 'Mattress in front',
  scope: 'section',
  when: 'every',
  how: 'On fabric, level with the foot of the wall, laced to the front of the first row, filled by hand to its lid.',
  work: {
    type: 'check',
    items: [
      { id: 'fabric', text: 'Fabric below it, lapped' },
      { id: 'laced', text: 'Laced to the first row and to its neighbours' },
      { id: 'full', text: 'Filled tight, lid laced' },
    ],
  },
  requires: [{ stage: 'pad-level', of: 'same', force: 'hold', why: 'it lies beside a pad that is released' }],
}

/** Its stages for this part: more is asked only of what the plan says. */
function staged(data: GabionData): readonly Stage[] {
  const { face, joint, chains, mattress } = data
  return stages.flatMap((s) => {
    if (s.id === 'units')
      return [
        ...(mattress ? [mattressStage] : []),
        {
          ...s,
          how: `${chains === 'yes' ? 'Laced into chains on the ground, lifted in with a beam; ' : ''}${s.how}${joint === 'spiral' ? ' A spiral down every edge, its ends bent in.' : joint === 'ring' ? ' Rings closed with the tool, none left open.' : ''}`,
        },
      ]
    if (s.id === 'fill' && s.work.type === 'check')
      return [
        {
          ...s,
          work: {
            ...s.work,
            items: [
              ...s.work.items.map((i) =>
                i.id === 'hand-faced' && face === 'machine' ? { ...i, text: 'Front behind a stiff form, no void larger than the mesh' } : i,
              ),
              ...(chains ? [{ id: 'half', text: 'Neighbours half filled before one is full: none bulges' }] : []),
            ],
            // What came by lorry against what the baskets hold: less is voids, more is stone tipped elsewhere or baskets that bulge.
            measures: [
              ...(s.work.measures ?? []),
              ...(chains
                ? [{ id: 'tickets', text: 'Stone of this row by its tickets', of: 'mass' as const, least: 'own.rockLeast', most: 'own.rockMost' }]
                : []),
            ],
          },
        },
      ]
    return [s]
  })
}

/** Stones measured against the mesh of the plan. */
const meshed = (list: readonly Stage[], { mesh }: GabionData): readonly Stage[] =>
  mesh === undefined
    ? list
    : list.map((s) =>
        s.id === 'fill' && s.work.type === 'check'
          ? {
              ...s,
              work: {
                ...s.work,
                measures: (s.work.measures ?? []).map((m) =>
                  m.id === 'stone-least' ? { ...m, least: mesh * MESHES[0] } : m.id === 'stone-most' ? { ...m, most: mesh * MESHES[1] } : m,
                ),
              },
            }
          : s,
      )

function check(plan: Plan, data: GabionData): Problem[] {
  const problems = checkBlocks(plan, data)
  data.deep?.forEach((d, i) => {
    const before = data.deep?.[i - 1]
    if (before && (d.courses <= before.courses || d.baskets >= before.baskets))
      problems.push({ field: `deep[${i}].courses`, message: 'list the deepest first: each further up the foot and fewer baskets deep' })
  })
  const deepest = Math.max(1, ...(data.deep ?? []).map((d) => d.baskets)) * data.unit.depth
  if (data.foundation.width < deepest - 1e-9)
    problems.push({
      field: 'foundation.width',
      message: `${said.given(data.foundation.width)} is narrower than the foot, ${said.length(deepest, 2)} deep`,
    })
  if (data.mattress && (data.mattress.out == null || data.mattress.thickness == null))
    problems.push({ field: `mattress.${data.mattress.out == null ? 'out' : 'thickness'}`, message: 'is missing; a mattress has both' })
  return problems
}

const compare = (before: GabionData, after: GabionData): PartChange[] => {
  const words = (d: GabionData) =>
    [
      d.face,
      d.joint,
      d.lean,
      d.chains === 'yes' ? 'chains' : '',
      d.mesh === undefined ? '' : said.small(d.mesh),
      ...(d.deep ?? []).map((x) => `${x.courses} courses ${x.baskets} deep`),
      d.mattress ? `mattress ${said.given(d.mattress.out)}` : '',
    ]
      .filter(Boolean)
      .join(', ') || 'as common'
  const [was, is] = [words(before), words(after)]
  return [...compareBlocks(before, after), ...(was === is ? [] : [['baskets', 'Baskets', was, is] as const])]
}

/** Baskets of wire mesh filled with stone, row on row, leaning into the slope. */
export const gabion = defineSystem<GabionData>({
  ...blocks,
  schema: schema as unknown as yup.ISchema<GabionData>,
  questions,
  start: (unit, starts) => ({ ...blockStart(unit, starts), face: 'hand', joint: 'spiral', lean: 'step', chains: 'no', mesh: 0.1, deep: [] }),
  settle: (data) => {
    const { mattress, deep, ...rest } = data
    return {
      ...rest,
      ...settleBlocks(rest),
      ...(deep ? { deep } : {}),
      ...(mattress && (mattress.out != null || mattress.thickness != null) ? { mattress } : {}),
    }
  },
  refit: (data, length) => ({ ...data, ...refitBlocks(data, length) }),
  check,
  compare,
  staged,
  onFoundation: meshed,
  size: (data, name, { section, course = 1 }, plan) => {
    const own = plan?.sections?.find((s) => s.id === section)
    if (name !== 'rockLeast' && name !== 'rockMost') return undefined
    const volume = (own ? own.to - own.from : 0) * data.unit.height * data.unit.depth * basketsDeep(data, course)
    return volume * (1 - (data.unit.porosity ?? 0.35)) * ROCK * (name === 'rockLeast' ? 1 - PLAY : 1 + PLAY)
  },
  building: (plan, data) => {
    const base = blockBuilding(plan, data)
    const first = base.course(1)
    return {
      ...base,
      ...(data.lean === 'tilt' ? { tilt: TILT } : {}),
      course: (n) => {
        const deep = basketsDeep(data, n)
        return deep === 1 ? first : { ...first, depth: first.depth * deep, mass: first.mass * deep }
      },
    }
  },
  id: 'gabion',
  name: 'Gabion baskets',
  summary: 'Rows of mesh baskets, braced, filled with hand-faced stone, lidded and laced; fabric behind; the rows step back into the slope.',
  noun: { one: 'basket', many: 'baskets' },
  units,
  stages,
  // Baskets have no cores, lugs, caps or beds to glue.
  schools: [
    ...['embedment', 'floor', 'pad-material', 'pad-test', 'level-interval', 'drain-seat', 'pipe-sock', 'fabric'],
    ...['face-compactor', 'lift-thickness', 'grid-start', 'grid-length', 'top-grade', 'open-courses'],
  ],
  open: { from: 'units', until: ['lids', 'backfill'] },
  traits: { flexible: true, carried: false, face: 'stone' },
  lay: (run, { unit }) => lay(run, unit),
  cautions: (_plan, { unit }) => {
    const lean = (Math.atan(unit.setback / unit.height) * 180) / Math.PI
    return lean < 5.5
      ? [{ id: 'lean', message: `The baskets lean ${lean.toFixed(1)}° into the slope; 6° is usual. A steeper face needs the engineer's word.` }]
      : []
  },
  engineered: (_plan, data, rows) => {
    const deep = basketsDeep(data, 1)
    return [...foundationEngineered(data), ...(rows > 1 ? [`${rows} rows of baskets stand on the depth of ${deep === 1 ? 'one' : deep}`] : [])]
  },
  quantities,
  outline: (data, course) => {
    const { unit: u } = data
    const deep = basketsDeep(data, course)
    const box = [
      [0, 0],
      [u.depth * deep, 0],
      [u.depth * deep, u.height],
      [0, u.height],
    ] as const
    return {
      body: box,
      core: box,
      fill: 'stone',
      // Sides of the baskets behind the front ones.
      lines: Array.from({ length: deep - 1 }, (_, i) => [
        [u.depth * (i + 1), 0],
        [u.depth * (i + 1), u.height],
      ]),
    }
  },
})
