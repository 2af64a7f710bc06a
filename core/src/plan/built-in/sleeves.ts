import { said } from '../../base/said'
import { choice, type InferType, optionalText, quantity, record, text, type yup } from '../../base/schema'
import { defineBuiltIn } from './kind'

const metres = (min: number, max: number) => quantity({ min, max, unit: 'm' })
const schema = record({
  kind: choice(['sleeves'] as const),
  name: text(60),
  from: metres(0, 2000),
  to: metres(0, 2000),
  spacing: metres(0.3, 20),
  behind: metres(0, 30),
  diameter: metres(0.03, 1),
  /** Into the ground from the top grade. */
  deep: metres(0.1, 5),
  /** Who says that a fence or rail may stand there, and through layers or stone where it does. */
  word: optionalText(160),
})
type Data = InferType<typeof schema>

/** Stations of its posts. @example postsOf({ from: 0, to: 4, spacing: 2 }) // [0, 2, 4] */
export function postsOf({ from, to, spacing }: Pick<Data, 'from' | 'to' | 'spacing'>): number[] {
  const count = Math.max(0, Math.floor((to - from) / spacing + 1e-9))
  const posts = Array.from({ length: count + 1 }, (_, i) => from + i * spacing)
  return to - (posts[posts.length - 1] ?? from) > 0.05 ? [...posts, to] : posts
}

/** Sleeves for the posts of a fence or rail, set behind the units as the fill comes up. */
export const sleeves = defineBuiltIn<Data>({
  id: 'sleeves',
  name: 'Post sleeves',
  when: 'with',
  schema: schema as unknown as yup.ISchema<Data>,
  fields: [
    { id: 'name', label: 'Called', of: 'text' },
    { id: 'from', label: 'First post', of: 'length' },
    { id: 'to', label: 'Last post', of: 'length' },
    { id: 'spacing', label: 'Apart', of: 'length' },
    { id: 'behind', label: 'Behind the face', of: 'length' },
    { id: 'diameter', label: 'Diameter', of: 'small' },
    { id: 'deep', label: 'Deep below the top', of: 'length' },
    { id: 'word', label: 'Engineer’s word', of: 'text', optional: true },
  ],
  lies: (d, { topAt }) =>
    postsOf(d).map((s) => ({
      from: s - d.diameter / 2,
      to: s + d.diameter / 2,
      low: topAt(s) - d.deep,
      high: topAt(s),
      behind: d.behind,
      size: d.diameter,
      upright: true,
    })),
  work: (d) => ({
    title: `Post sleeves: ${d.name}`,
    how: 'Set plumb on their stations as the fill comes up, capped against soil, propped until the fill holds them; never driven in afterwards. A photo of each row.',
    items: [
      { id: 'place', text: 'On their stations, behind the units, never through them' },
      { id: 'plumb', text: 'Plumb and propped' },
      { id: 'capped', text: 'Capped against soil and stone' },
      { id: 'clear', text: 'No layer cut and no drain stone displaced without the engineer’s word', maybe: true },
    ],
    caution: 'Wind on a fence pulls at the wall: its posts, their depth and what they may lean on are the engineer’s.',
  }),
  takes: (d) => [
    {
      id: 'sleeves',
      name: `Post sleeves: ${d.name}`,
      value: postsOf(d).length,
      unit: 'pieces',
      working: `${said.small(d.diameter)} wide, ${said.given(d.deep)} deep, every ${said.given(d.spacing)}`,
    },
  ],
  check: (d, { length }) => [
    ...(d.to < d.from ? [{ field: 'to', message: `must not be before ${said.given(d.from)}` }] : []),
    ...(d.to > length + 1e-6 ? [{ field: 'to', message: `${said.given(d.to)} is beyond the wall, which ends at ${said.given(length)}` }] : []),
  ],
})
