import { said } from '../../base/said'
import { choice, type InferType, optionalText, quantity, record, text, type yup } from '../../base/schema'
import { type Around, defineBuiltIn } from './kind'

const metres = (min: number, max: number) => quantity({ min, max, unit: 'm' })
const along = { from: metres(0, 2000), to: metres(0, 2000) }
const beyond = (d: { from: number; to: number }, { length }: Around) => [
  ...(d.to <= d.from ? [{ field: 'to', message: `must be beyond ${said.given(d.from)}, not ${said.given(d.to)}` }] : []),
  ...(d.to > length + 1e-6 ? [{ field: 'to', message: `${said.given(d.to)} is beyond the wall, which ends at ${said.given(length)}` }] : []),
]
const FROM_TO = [
  { id: 'from', label: 'From', of: 'length' },
  { id: 'to', label: 'To', of: 'length' },
] as const

const underlaySchema = record({
  kind: choice(['underlay'] as const),
  name: text(60),
  ...along,
  type: text(60),
  width: metres(0.3, 10),
  lap: metres(0.1, 3),
  roll: metres(0.5, 10),
})
type Underlay = InferType<typeof underlaySchema>

/** A layer of geogrid under the pad, on ground that settles unevenly or was filled before. */
export const underlay = defineBuiltIn<Underlay>({
  id: 'underlay',
  name: 'Geogrid under the pad',
  when: 'under',
  along: 'pad',
  schema: underlaySchema as unknown as yup.ISchema<Underlay>,
  fields: [
    { id: 'name', label: 'Called', of: 'text' },
    ...FROM_TO,
    { id: 'type', label: 'Type', of: 'text' },
    { id: 'width', label: 'Across the wall', of: 'length' },
    { id: 'roll', label: 'Roll, wide', of: 'length' },
    { id: 'lap', label: 'Lap', of: 'length' },
  ],
  lies: () => [],
  work: (d) => ({
    title: `Under the pad: ${d.name}`,
    how: `${d.type} on the released subgrade, flat, strength across the wall, lapped; covered before anything drives there.`,
    items: [
      { id: 'type', text: `${d.type}, tag kept` },
      { id: 'flat', text: 'Flat, no wrinkle, strength across the wall' },
      { id: 'covered', text: 'Covered before anything drove on it' },
    ],
    measures: [{ id: 'lap', text: 'Narrowest lap', least: d.lap }],
  }),
  takes: (d) => {
    const strips = Math.max(1, Math.ceil((d.to - d.from - d.lap) / (d.roll - d.lap) - 1e-9))
    return [
      {
        id: 'underlay',
        name: `Geogrid under the pad: ${d.type}`,
        value: strips * d.roll * d.width,
        unit: 'm²',
        working: `${strips} strips ${said.given(d.roll)} wide across ${said.given(d.width)}, lapped ${said.given(d.lap)}`,
      },
    ]
  },
  check: (d, around) => [
    ...beyond(d, around),
    ...(d.roll <= d.lap ? [{ field: 'lap', message: `${said.given(d.lap)} is as wide as the roll, ${said.given(d.roll)}` }] : []),
  ],
})

const clearSchema = record({
  kind: choice(['clear'] as const),
  name: text(60),
  ...along,
  what: choice(['plant', 'tree', 'structure'] as const),
  how: choice(['keep', 'move', 'remove'] as const),
  note: optionalText(160),
})
type Clear = InferType<typeof clearSchema>
const DOING = { keep: 'kept', move: 'moved', remove: 'removed' } as const

/** A plant, tree or structure to keep, move or remove before the dig. */
export const clear = defineBuiltIn<Clear>({
  id: 'clear',
  name: 'Keep, move or remove first',
  when: 'before',
  along: 'toe',
  schema: clearSchema as unknown as yup.ISchema<Clear>,
  fields: [
    { id: 'name', label: 'Called', of: 'text' },
    ...FROM_TO,
    {
      id: 'what',
      label: 'It is',
      of: 'choice',
      options: [
        ['plant', 'Plants'],
        ['tree', 'A tree'],
        ['structure', 'A structure'],
      ],
    },
    {
      id: 'how',
      label: 'It is to be',
      of: 'choice',
      options: [
        ['keep', 'Kept'],
        ['move', 'Moved'],
        ['remove', 'Removed'],
      ],
    },
    { id: 'note', label: 'How', of: 'text', optional: true },
  ],
  lies: () => [],
  work: (d) => ({
    title: `${d.name}: ${DOING[d.how]}`,
    how: `${d.note ? `${d.note} ` : ''}${
      d.how === 'keep'
        ? 'Fenced off with its roots before plant comes near.'
        : d.what === 'plant'
          ? 'Lifted with their soil, heeled in, shaded and watered until they go back.'
          : 'Taken out by whoever may; what it stood on is looked at and filled.'
    }`,
    items:
      d.how === 'keep'
        ? [{ id: 'fenced', text: 'Fenced off, nothing stored inside' }]
        : [
            { id: 'done', text: d.how === 'move' ? 'Lifted and set down where it is kept' : 'Taken out, with its roots or footing' },
            { id: 'hole', text: 'Hole looked at: no service, no soft ground left', maybe: true },
          ],
    caution:
      d.what === 'tree'
        ? 'Trees are felled or root-cut by somebody who may; one that lost roots on one side may fall.'
        : 'Services run to lights, taps and gates: looked for before it is pulled out.',
  }),
  takes: () => [],
  check: beyond,
})

const erosionSchema = record({
  kind: choice(['erosion'] as const),
  name: text(60),
  ...along,
  measure: choice(['silt-fence', 'inlet', 'sheets'] as const),
})
type Erosion = InferType<typeof erosionSchema>
const MEASURE = { 'silt-fence': 'Silt fence', inlet: 'Inlets guarded', sheets: 'Sheets over cut and slopes' } as const

/** What holds sediment back while the site is open, and sheets over open cuts before rain. */
export const erosion = defineBuiltIn<Erosion>({
  id: 'erosion',
  name: 'Sediment and sheets',
  when: 'before',
  along: 'toe',
  schema: erosionSchema as unknown as yup.ISchema<Erosion>,
  fields: [
    { id: 'name', label: 'Called', of: 'text' },
    ...FROM_TO,
    {
      id: 'measure',
      label: 'By',
      of: 'choice',
      options: [
        ['silt-fence', 'Silt fence'],
        ['inlet', 'Guarded inlets'],
        ['sheets', 'Sheets at hand'],
      ],
    },
  ],
  lies: () => [],
  work: (d) => ({
    title: `${MEASURE[d.measure]}: ${d.name}`,
    how:
      d.measure === 'sheets'
        ? 'Sheets, weights and pegs on site before the cut is opened: over cut and fill every evening that rain may come.'
        : 'Up before soil is moved, looked at after every rain, emptied when it is half full; it stays until the ground is green.',
    items: [
      { id: 'up', text: d.measure === 'sheets' ? 'Sheets and weights at hand for the whole cut' : 'Up along the whole of it, dug in' },
      { id: 'care', text: 'Somebody named who looks at it after rain' },
    ],
  }),
  takes: (d) => [
    {
      id: `erosion-${d.measure}`,
      name: `${MEASURE[d.measure]}: ${d.name}`,
      value: d.to - d.from,
      unit: 'm',
      working: `${said.given(d.from)} to ${said.given(d.to)}`,
    },
  ],
  check: beyond,
})

const plantingSchema = record({
  kind: choice(['planting'] as const),
  name: text(60),
  ...along,
  thickness: metres(0.05, 2),
  width: metres(0.1, 50),
  tight: choice(['yes', 'no'] as const),
})
type Planting = InferType<typeof plantingSchema>

/** Planting soil and finished ground behind the top, over a layer that keeps water out. */
export const planting = defineBuiltIn<Planting>({
  id: 'planting',
  name: 'Planting soil and finished ground',
  when: 'after',
  along: 'top',
  schema: plantingSchema as unknown as yup.ISchema<Planting>,
  fields: [
    { id: 'name', label: 'Called', of: 'text' },
    ...FROM_TO,
    { id: 'thickness', label: 'Soil, thick', of: 'length' },
    { id: 'width', label: 'Behind the wall, wide', of: 'length' },
    {
      id: 'tight',
      label: 'Under it',
      of: 'choice',
      options: [
        ['yes', 'A water-tight layer'],
        ['no', 'The fill'],
      ],
    },
  ],
  lies: () => [],
  work: (d) => ({
    title: `Finished ground: ${d.name}`,
    how: 'Fabric over the stone, soil on it without plant near the top, falling away from the wall; nothing planted whose roots reach the drain.',
    items: [
      ...(d.tight === 'yes' ? [{ id: 'tight', text: 'Water-tight layer under it, falling away from the wall' }] : []),
      { id: 'apart', text: 'Soil kept out of the stone by fabric' },
      { id: 'falls', text: 'Finished ground falls away from the wall' },
    ],
    measures: [{ id: 'thick', text: 'Soil, thinnest', least: d.thickness }],
  }),
  takes: (d) => [
    {
      id: 'planting-soil',
      name: `Planting soil: ${d.name}`,
      value: (d.to - d.from) * d.width * d.thickness,
      unit: 'm³',
      working: `${said.length(d.to - d.from, 2)} × ${said.given(d.width)} × ${said.given(d.thickness)}`,
    },
  ],
  check: beyond,
})
