import { said } from '../../base/said'
import { choice, type InferType, quantity, record, text, type yup } from '../../base/schema'
import { type Around, defineBuiltIn } from './kind'

const metres = (min: number, max: number) => quantity({ min, max, unit: 'm' })
const named = (around: Around, name: string) => around.openings.find((o) => o.name === name)
const noOpening = (around: Around, opening: string) =>
  named(around, opening)
    ? []
    : [
        {
          field: 'opening',
          message: `there is no opening ${opening}; ${around.openings.length > 0 ? `there are ${around.openings.map((o) => o.name).join(', ')}` : 'plan it on Set-out first'}`,
        },
      ]

const sealingSchema = record({ kind: choice(['sealing'] as const), name: text(60), opening: text(60) })
type Sealing = InferType<typeof sealingSchema>

/** Sleeve and collar of a pipe or culvert that goes through the wall. */
export const sealing = defineBuiltIn<Sealing>({
  id: 'sealing',
  name: 'Collar of an opening',
  when: 'with',
  schema: sealingSchema as unknown as yup.ISchema<Sealing>,
  fields: [
    { id: 'name', label: 'Called', of: 'text' },
    { id: 'opening', label: 'Opening, by its name', of: 'text' },
  ],
  lies: (d, around) => {
    const o = named(around, d.opening)
    return o
      ? [{ from: o.station - o.width / 2, to: o.station + o.width / 2, low: o.bottom, high: o.bottom + o.height, behind: 0, size: o.width }]
      : []
  },
  work: (d) => ({
    title: `Collar: ${d.name}`,
    how: 'Units, layers and fabric fitted round the pipe; sleeve and collar wrapped or concreted so that no stone gets out; water-tight to the stone behind. A photo.',
    items: [
      { id: 'round', text: 'Courses and layers fitted round it, nothing resting on the pipe' },
      { id: 'collar', text: 'Sleeve and collar closed: no stone can get out' },
      { id: 'tight', text: 'Water-tight to the stone behind' },
      { id: 'below', text: 'Ground below its mouth protected' },
    ],
    caution: 'A pipe in use is never opened by a crew; what runs in it belongs to somebody.',
  }),
  takes: (d, around) => {
    const o = named(around, d.opening)
    const round = o ? 2 * (o.width + o.height) : 0
    return [{ id: 'collars', name: `Collar: ${d.name}`, value: round, unit: 'm', working: `once round ${d.opening}` }]
  },
  check: (d, around) => noOpening(around, d.opening),
})

const basinSchema = record({
  kind: choice(['basin'] as const),
  name: text(60),
  station: metres(0, 2000),
  behind: metres(0.2, 30),
  size: metres(0.2, 3),
  grate: metres(-500, 9000),
  bottom: metres(-500, 9000),
  opening: text(60),
})
type Basin = InferType<typeof basinSchema>

/** A catch basin behind the wall, its pipe through the face: its run is kept apart from the wall's own water. */
export const basin = defineBuiltIn<Basin>({
  id: 'basin',
  name: 'Catch basin',
  when: 'with',
  schema: basinSchema as unknown as yup.ISchema<Basin>,
  fields: [
    { id: 'name', label: 'Called', of: 'text' },
    { id: 'station', label: 'Station', of: 'length' },
    { id: 'behind', label: 'Behind the face', of: 'length' },
    { id: 'size', label: 'Wide', of: 'length' },
    { id: 'grate', label: 'Grate at', of: 'length' },
    { id: 'bottom', label: 'Bottom at', of: 'length' },
    { id: 'opening', label: 'Pipe through, by its name', of: 'text' },
  ],
  lies: (d) => [
    { from: d.station - d.size / 2, to: d.station + d.size / 2, low: d.bottom, high: d.grate, behind: d.behind, size: d.size, upright: true },
  ],
  work: (d) => ({
    title: `Catch basin: ${d.name}`,
    how: 'On compacted stone, its pipe falling to the face and joined to nothing of the wall’s own drain; grate at the low point of the ground. A photo before it is filled round.',
    items: [
      { id: 'bed', text: 'On compacted stone, level' },
      { id: 'pipe', text: 'Pipe falls to the face, joints tight' },
      { id: 'apart', text: 'Kept apart from the drain of the wall: surface water never runs into it' },
      { id: 'grate', text: 'Grate at the low point, sump clean' },
    ],
  }),
  takes: (d, around) => [
    { id: 'basins', name: `Catch basin: ${d.name}`, value: 1, unit: 'pieces', working: `${said.length(d.grate - d.bottom, 2)} deep` },
    {
      id: 'basin-pipe',
      name: `Pipe of ${d.name}, tight`,
      value: Math.hypot(d.behind, (named(around, d.opening)?.station ?? d.station) - d.station),
      unit: 'm',
      working: `from the basin to ${d.opening}`,
    },
  ],
  check: (d, around) => {
    const o = named(around, d.opening)
    return [
      ...noOpening(around, d.opening),
      ...(d.station > around.length
        ? [{ field: 'station', message: `${said.given(d.station)} is beyond the wall, which ends at ${said.given(around.length)}` }]
        : []),
      ...(d.bottom >= d.grate ? [{ field: 'bottom', message: `must be below its grate, ${said.given(d.grate)}` }] : []),
      ...(o && o.bottom >= d.grate
        ? [
            {
              field: 'opening',
              message: `${o.name} lies at ${said.given(o.bottom)}, not below the grate at ${said.given(d.grate)}: nothing would run out`,
            },
          ]
        : []),
      ...(d.grate > around.topAt(d.station) + 0.3
        ? [{ field: 'grate', message: `${said.given(d.grate)} stands over the ground there, ${said.length(around.topAt(d.station), 2)}` }]
        : []),
    ]
  },
})
