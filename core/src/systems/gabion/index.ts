import { said } from '../../base/said'
import { record, type yup } from '../../base/schema'
import { blockQuestions } from '../block-questions'
import { blocks } from '../block-system'
import { type BlockData, blockFields, foundationEngineered } from '../blocks'
import { FOUNDATIONS, foundationSchema } from '../foundations'
import { type CountBasis, defineSystem, type Quantity } from '../system'
import type { Unit } from '../unit'
import { lay } from './lay'
import { stages } from './stages'
import { units } from './units'

/** Firm undisturbed floor may carry baskets without a pad, as the soil allows. */
const schema = record({ ...blockFields, foundation: foundationSchema(FOUNDATIONS.map((f) => f.id)) })

/** Solid rock, kg/m³: common for granite and limestone; a supplier's own figure goes before it. */
const ROCK = 2600

function count({ pieces, face, topRun }: CountBasis, unit: Unit): Quantity[] {
  const own = pieces.filter((p) => p.kind !== 'return')
  const run = own.reduce((sum, p) => sum + p.length, 0)
  const volume = run * unit.height * unit.depth
  const porosity = unit.porosity ?? 0.35
  const ends = own.length * unit.depth * unit.height
  // Two wires each way in every metre of a cell's length and third of its height, front to back.
  const rows = Math.max(1, Math.round(unit.height / 0.33) - 1)
  const braces = own.reduce((sum, p) => sum + Math.max(1, Math.round(p.length)) * rows * 2, 0)
  const lacing = run * 4 + own.length * 2 * (unit.height + unit.depth)
  return [
    {
      id: 'rock',
      name: 'Stone in the baskets, as placed',
      value: volume,
      unit: 'm³',
      working: `${said.length(run, 2)} of basket × ${said.given(unit.height)} × ${said.given(unit.depth)}`,
    },
    {
      id: 'rock-mass',
      name: 'Mass of stone',
      value: volume * (1 - porosity) * ROCK,
      unit: 'kg',
      working: `${said.volume(volume)} × (1 − ${porosity} air) × ${said.density(ROCK)}`,
    },
    { id: 'hand-faced', name: 'Front laid by hand', value: face * 0.25, unit: 'm³', working: `${said.area(face)} of face, ${said.small(0.25)} deep` },
    { id: 'lids', name: 'Lids', value: own.length, unit: 'pieces', working: 'one a basket, closed before the next course' },
    {
      id: 'bracing',
      name: 'Bracing wires',
      value: braces,
      unit: 'pieces',
      working: `front to back, two in every metre, ${rows} ${rows === 1 ? 'row' : 'rows'} up`,
    },
    { id: 'lacing', name: 'Lacing', value: lacing, unit: 'm', working: 'four long edges of every basket and the edges of its ends' },
    {
      id: 'panels',
      name: 'End panels',
      value: ends,
      unit: 'm²',
      working: `${own.length} baskets × ${said.given(unit.depth)} × ${said.given(unit.height)}`,
    },
    {
      id: 'fabric',
      name: 'Back fabric',
      value: face * 1.1 + topRun * 0.5,
      unit: 'm²',
      working: `${said.area(face)} behind the baskets with a tenth of laps, ${said.given(0.5)} folded over the top`,
    },
  ]
}

/** Baskets of wire mesh filled with stone, row on row, leaning into the slope. */
export const gabion = defineSystem<BlockData>({
  ...blocks,
  schema: schema as unknown as yup.ISchema<BlockData>,
  questions: blockQuestions(FOUNDATIONS.map((f) => f.id)),
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
  engineered: (_plan, data, rows) => [...foundationEngineered(data), ...(rows > 1 ? [`${rows} rows of baskets stand on the depth of one`] : [])],
  quantities: (basis, { unit }) => count(basis, unit),
  outline: ({ unit: u }) => ({
    body: [
      [0, 0],
      [u.depth, 0],
      [u.depth, u.height],
      [0, u.height],
    ],
    core: [
      [0, 0],
      [u.depth, 0],
      [u.depth, u.height],
      [0, u.height],
    ],
    fill: 'stone',
  }),
})
