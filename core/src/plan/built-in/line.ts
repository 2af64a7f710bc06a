import { said } from '../../base/said'
import { choice, type InferType, quantity, record, text, type yup } from '../../base/schema'
import { type BuiltInField, type BuiltInKind, defineBuiltIn } from './kind'

const metres = (min: number, max: number) => quantity({ min, max, unit: 'm' })
const schemaOf = <const K extends string>(kind: K) =>
  record({
    kind: choice([kind] as const),
    name: text(60),
    from: metres(0, 2000),
    to: metres(0, 2000),
    elevation: metres(-500, 9000),
    behind: metres(0, 30),
    diameter: metres(0.01, 1),
  })
type Data = InferType<ReturnType<typeof schemaOf>>
const fields: readonly BuiltInField[] = [
  { id: 'name', label: 'Called', of: 'text' },
  { id: 'from', label: 'From', of: 'length' },
  { id: 'to', label: 'To', of: 'length' },
  { id: 'elevation', label: 'Elevation', of: 'length' },
  { id: 'behind', label: 'Behind the face', of: 'length' },
  { id: 'diameter', label: 'Diameter', of: 'small' },
]
/** Sand round a line, m each way. */
const SAND = 0.1

const line = (id: string, name: string, more: Pick<BuiltInKind<Data>, 'work'>): BuiltInKind =>
  defineBuiltIn<Data>({
    id,
    name,
    when: 'with',
    schema: schemaOf(id) as unknown as yup.ISchema<Data>,
    fields,
    lies: (d) => [
      { from: d.from, to: d.to, low: d.elevation - d.diameter / 2, high: d.elevation + d.diameter / 2, behind: d.behind, size: d.diameter },
    ],
    ...more,
    takes: (d) => {
      const run = d.to - d.from
      const side = d.diameter + 2 * SAND
      return [
        { id: `${id}-run`, name: `${name}: ${d.name}`, value: run, unit: 'm', working: `${said.given(d.from)} to ${said.given(d.to)}` },
        {
          id: `${id}-sand`,
          name: `Sand round ${d.name}`,
          value: run * (side * side - (Math.PI * d.diameter * d.diameter) / 4),
          unit: 'm³',
          working: `${said.small(SAND)} all round`,
        },
      ]
    },
    check: (d, { length }) => [
      ...(d.to <= d.from ? [{ field: 'to', message: `must be beyond ${said.given(d.from)}, not ${said.given(d.to)}` }] : []),
      ...(d.to > length + 1e-6 ? [{ field: 'to', message: `${said.given(d.to)} is beyond the wall, which ends at ${said.given(length)}` }] : []),
    ],
  })

/** Conduit for lights and their cable. */
export const conduit = line('conduit', 'Conduit', {
  work: (d) => ({
    title: `Conduit: ${d.name}`,
    how: 'Bedded in sand, joints glued, a draw cord in it, warning tape over it; both ends capped and marked. A photo before it is covered.',
    items: [
      { id: 'sand', text: 'Bedded and covered in sand' },
      { id: 'joints', text: 'Joints tight, draw cord through' },
      { id: 'ends', text: 'Both ends capped, marked on the wall and on the plan' },
      { id: 'tape', text: 'Warning tape over it' },
    ],
    caution: 'No cable is drawn or connected by a crew: that is an electrician’s.',
  }),
})

/** Water line for planting. */
export const waterLine = line('water-line', 'Water line', {
  work: (d) => ({
    title: `Water line: ${d.name}`,
    how: 'Bedded in sand, falling to where it is drained for the winter; held under pressure and looked at before it is covered. A photo.',
    items: [
      { id: 'sand', text: 'Bedded and covered in sand' },
      { id: 'pressure', text: 'Held under pressure, no joint weeps' },
      { id: 'winter', text: 'Can be emptied before frost' },
      { id: 'ends', text: 'Ends closed and marked' },
    ],
    caution: 'A line that leaks behind a wall pushes it over: nothing covers it before it held its pressure.',
  }),
})
