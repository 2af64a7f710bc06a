import { said } from '../../base/said'
import { choice, type InferType, optionalText, quantity, record, text, type yup } from '../../base/schema'
import { defineBuiltIn } from './kind'

const metres = (min: number, max: number) => quantity({ min, max, unit: 'm' })
const beyond = (d: { station: number }, { length }: { length: number }) =>
  d.station > length + 1e-6 ? [{ field: 'station', message: `${said.given(d.station)} is beyond the wall, which ends at ${said.given(length)}` }] : []

const shaftSchema = record({
  kind: choice(['shaft'] as const),
  name: text(60),
  station: metres(0, 2000),
  behind: metres(0.1, 30),
  diameter: metres(0.05, 1.2),
  bottom: metres(-500, 9000),
})
type Shaft = InferType<typeof shaftSchema>

/** A shaft to look into the pipe and flush it. */
export const shaft = defineBuiltIn<Shaft>({
  id: 'shaft',
  name: 'Shaft to flush the pipe',
  when: 'with',
  schema: shaftSchema as unknown as yup.ISchema<Shaft>,
  fields: [
    { id: 'name', label: 'Called', of: 'text' },
    { id: 'station', label: 'Station', of: 'length' },
    { id: 'behind', label: 'Behind the face', of: 'length' },
    { id: 'diameter', label: 'Diameter', of: 'small' },
    { id: 'bottom', label: 'Bottom at', of: 'length' },
  ],
  lies: (d, { topAt }) => [
    {
      from: d.station - d.diameter / 2,
      to: d.station + d.diameter / 2,
      low: d.bottom,
      high: topAt(d.station),
      behind: d.behind,
      size: d.diameter,
      upright: true,
    },
  ],
  work: (d) => ({
    title: `Shaft: ${d.name}`,
    how: 'Over the pipe, joined so that a hose and a light go in both ways, brought up with the fill, its lid where it can be found. A photo down it.',
    items: [
      { id: 'joined', text: 'Joined to the pipe, open both ways' },
      { id: 'plumb', text: 'Plumb, held by fill all round' },
      { id: 'lid', text: 'Lid on, where it can be found and lifted' },
    ],
    caution: 'Nobody climbs into a shaft: the air in it may be bad.',
  }),
  takes: (d, { topAt }) => [
    {
      id: 'shafts',
      name: `Shaft: ${d.name}`,
      value: topAt(d.station) - d.bottom,
      unit: 'm',
      working: `from ${said.length(d.bottom, 2)} to the ground`,
    },
  ],
  check: (d, around) => [
    ...beyond(d, around),
    ...(d.bottom >= around.topAt(d.station)
      ? [{ field: 'bottom', message: `must be below the ground there, ${said.length(around.topAt(d.station), 2)}` }]
      : []),
  ],
})

const padOutletSchema = record({
  kind: choice(['pad-outlet'] as const),
  name: text(60),
  station: metres(0, 2000),
  towards: choice(['front', 'side'] as const),
  length: metres(0.3, 100),
  fall: quantity({ min: 0.002, max: 0.3 }),
})
type PadOutlet = InferType<typeof padOutletSchema>

/** Where an open pad runs out: dug away from the wall, or to a side; without it the pad is a bath. */
export const padOutlet = defineBuiltIn<PadOutlet>({
  id: 'pad-outlet',
  name: 'Outlet of an open pad',
  when: 'under',
  along: 'pad',
  schema: padOutletSchema as unknown as yup.ISchema<PadOutlet>,
  fields: [
    { id: 'name', label: 'Called', of: 'text' },
    { id: 'station', label: 'Station', of: 'length' },
    {
      id: 'towards',
      label: 'Dug',
      of: 'choice',
      options: [
        ['front', 'Away from the wall'],
        ['side', 'To a side'],
      ],
    },
    { id: 'length', label: 'Long', of: 'length' },
    { id: 'fall', label: 'Fall, m per m', of: 'number' },
  ],
  lies: () => [],
  work: (d) => ({
    title: `Outlet of the pad: ${d.name}`,
    how: `At ${said.station(d.station)}, ${d.towards === 'front' ? 'away from the wall' : 'to the side'}, ${said.given(d.length)} long, falling ${+(d.fall * 100).toFixed(1)} % from the bottom of the pad to open ground; the same clean stone in fabric, its end free and screened. A photo.`,
    items: [
      { id: 'falls', text: 'Falls from the bottom of the pad all the way' },
      { id: 'stone', text: 'Clean stone in fabric, no soil in it' },
      { id: 'free', text: 'Its end free, screened, ground below it protected' },
    ],
  }),
  takes: (d) => [
    { id: 'pad-outlet', name: `Outlet of the pad: ${d.name}`, value: d.length, unit: 'm', working: `dropping ${said.small(d.length * d.fall)}` },
  ],
  check: beyond,
})

const foundSchema = record({
  kind: choice(['found-pipe'] as const),
  name: text(60),
  station: metres(0, 2000),
  elevation: metres(-500, 9000),
  behind: metres(0, 30),
  diameter: metres(0.02, 1),
  into: choice(['toe', 'heel', 'own'] as const),
  note: optionalText(160),
})
type Found = InferType<typeof foundSchema>
const INTO = { toe: 'the toe drain', heel: 'the heel drain', own: 'an outlet of its own' } as const

/** A pipe found in the ground that carries water, and where it is led. */
export const foundPipe = defineBuiltIn<Found>({
  id: 'found-pipe',
  name: 'Pipe found in the ground',
  when: 'with',
  schema: foundSchema as unknown as yup.ISchema<Found>,
  fields: [
    { id: 'name', label: 'Called', of: 'text' },
    { id: 'station', label: 'Station', of: 'length' },
    { id: 'elevation', label: 'Elevation', of: 'length' },
    { id: 'behind', label: 'Behind the face', of: 'length' },
    { id: 'diameter', label: 'Diameter', of: 'small' },
    {
      id: 'into',
      label: 'Led into',
      of: 'choice',
      options: [
        ['own', 'An outlet of its own'],
        ['toe', 'The toe drain'],
        ['heel', 'The heel drain'],
      ],
    },
    { id: 'note', label: 'Whose it is', of: 'text', optional: true },
  ],
  lies: (d) => [
    {
      from: d.station - d.diameter / 2,
      to: d.station + d.diameter / 2,
      low: d.elevation - d.diameter / 2,
      high: d.elevation + d.diameter / 2,
      behind: d.behind,
      size: d.diameter,
    },
  ],
  work: (d) => ({
    title: `Found pipe: ${d.name}`,
    how: `${d.note ? `${d.note}. ` : ''}Never plugged: whoever it drains is asked first, then it is led into ${INTO[d.into]} with a joint that holds. A photo before it is covered.`,
    items: [
      { id: 'whose', text: 'Known what it drains, its owner asked' },
      { id: 'joined', text: `Joined into ${INTO[d.into]}, tight` },
      { id: 'runs', text: 'Seen to run through' },
    ],
    caution: 'A smell of sewage, fuel or gas stops the work: nobody opens it.',
  }),
  takes: () => [],
  check: (d, around) => [
    ...beyond(d, around),
    ...(d.elevation < around.toeAt(d.station) - 5 || d.elevation > around.topAt(d.station)
      ? [{ field: 'elevation', message: `${said.given(d.elevation)} is not in the ground behind the wall there` }]
      : []),
  ],
})
