import { cellKey, formatStation, parseAmount, say, settled, statusOf, type UnitSystem, type WallState } from '@stone-tally/core'
import { entryHref, hrefOf, PLACES } from './places'

/** Something of a wall that can be gone to. */
export interface Found {
  readonly id: string
  readonly title: string
  /** What kind of thing it is, and where. */
  readonly about: string
  readonly href: string
  /** Something that is done where one is instead of gone to. */
  readonly does?: Does
}
/** What Find does besides going. */
export type Does = UnitSystem | 'day' | 'night' | 'keep'

/** So many at most: more is not read. */
const MOST = 8

const words = (text: string) =>
  text
    .toLowerCase()
    .split(/[\s,]+/)
    .filter(Boolean)
/** Each word that was typed begins a word of it. */
const matches = (typed: readonly string[], text: string) => {
  const own = words(text)
  return typed.every((t) => own.some((w) => w.startsWith(t)))
}

/**
 * What is meant by what was typed: a place, a course, a station, a step of the work. Where nothing is typed, the places.
 *
 * @example find(state, 'w1', 'course 3 b', 'metric')[0] // { title: 'Course 3, section B', href: '/walls/w1?step=…', … }
 */
export function find(state: WallState, wall: string, text: string, units: UnitSystem): Found[] {
  const typed = words(text)
  const { plan } = state.layout
  const places = [{ id: '' as const, title: 'Board', also: 'elevation section now next step' }, ...PLACES]
    .filter((p) => matches(typed, `${p.title} ${p.also}`))
    // What is called so comes before what is only about it.
    .sort((a, b) => Number(matches(typed, b.title)) - Number(matches(typed, a.title)))
    .map((p) => ({ id: `place ${p.id}`, title: p.title, about: 'place', href: hrefOf(wall, p.id) }))
  if (typed.length === 0) return places
  return [
    ...entries(state, wall, text),
    ...courses(state, wall, typed),
    ...stations(state, wall, text, units, plan.length),
    ...places,
    ...actions(wall, typed),
    ...steps(state, wall, typed, units),
  ].slice(0, MOST)
}

/** An entry of the record by its number: no. 812, #812. */
function entries(state: WallState, wall: string, text: string): Found[] {
  const seq = Number(/^\s*(?:no\.?|#|entry)\s*(\d{1,9})\s*$/i.exec(text)?.[1] ?? 0)
  return seq > 0 && seq <= state.seq ? [{ id: `entry ${seq}`, title: `Entry ${seq}`, about: 'of the record', href: entryHref(wall, seq) }] : []
}

/** What can be done from anywhere. */
const ACTIONS: readonly { readonly title: string; readonly also: string; readonly does?: Does; readonly href?: (wall: string) => string }[] = [
  { title: 'Write a note for the diary', also: 'weather visitor delivery add', href: (w) => `${hrefOf(w, 'record')}#note` },
  { title: 'Save the record as a file', also: 'export download', href: (w) => `/api/walls/${w}/export` },
  { title: 'Keep this wall on this device', also: 'offline flight signal', does: 'keep' },
  { title: 'Show metres', also: 'units metric millimetres', does: 'metric' },
  { title: 'Show feet and inches', also: 'units imperial', does: 'imperial' },
  { title: 'Show feet and hundredths', also: 'units decimal surveyor', does: 'decimal-feet' },
  { title: 'Light for the day', also: 'theme sun bright', does: 'day' },
  { title: 'Dark for the night', also: 'theme cab', does: 'night' },
  { title: 'Yard', also: 'all walls home', href: () => '/' },
  { title: 'Bench', also: 'calculators rod', href: () => '/bench/rod' },
  { title: 'This device', also: 'storage pin install waiting', href: () => '/device' },
]
const actions = (wall: string, typed: readonly string[]): Found[] =>
  ACTIONS.filter((a) => matches(typed, `${a.title} ${a.also}`)).map((a) => ({
    id: `do ${a.title}`,
    title: a.title,
    about: a.does ? 'done here' : 'action',
    href: a.href?.(wall) ?? '',
    ...(a.does ? { does: a.does } : {}),
  }))

/** Courses by their number, with or without the section's letter: the first thing still to be done there. */
function courses(state: WallState, wall: string, typed: readonly string[]): Found[] {
  const number = typed.map((t) => /^c?(\d{1,3})$/.exec(t)?.[1]).find(Boolean)
  if (!number || typed.some((t) => !/^c?\d{1,3}$/.test(t) && !'course'.startsWith(t) && !'section'.startsWith(t) && !sectionNamed(state, t)))
    return []
  const section = typed.map((t) => sectionNamed(state, t)).find(Boolean)
  return state.layout.plan.sections.flatMap((s) => {
    if (section && s.id !== section) return []
    const own = state.byCell.get(cellKey(s.id, Number(number)))
    const step = own?.find((x) => !settled(statusOf(state, x))) ?? own?.[0]
    if (!step) return []
    return [
      {
        id: `course ${s.id} ${number}`,
        title: `Course ${Number(number)}, section ${s.id}`,
        about: step.stage.title,
        href: hrefOf(wall, '', step.key),
      },
    ]
  })
}
const sectionNamed = (state: WallState, word: string) => state.layout.plan.sections.find((s) => s.id.toLowerCase() === word)?.id

/** A length by itself is a station: the section that it lies in, on the Board. */
function stations(state: WallState, wall: string, text: string, units: UnitSystem, length: number): Found[] {
  const read = parseAmount(text.replace(/^\s*(station|st|at)\s*/i, ''), 'length', units)
  if (!read.ok || read.value < 0 || read.value > length + 1e-9) return []
  const own = state.layout.plan.sections.find((s) => read.value <= s.to) ?? state.layout.plan.sections[0]
  if (!own) return []
  return [
    {
      id: 'station',
      title: `Station ${formatStation(read.value, units)}`,
      about: `section ${own.id}, on the Board`,
      href: `/walls/${wall}?station=${read.value}`,
    },
  ]
}

/** Steps of the work by their words, those that are not done before those that are. */
function steps(state: WallState, wall: string, typed: readonly string[], units: UnitSystem): Found[] {
  const [left, done]: [Found[], Found[]] = [[], []]
  for (const s of state.steps) {
    const at = [s.course === undefined ? '' : `course ${s.course}`, s.section ? `section ${s.section}` : ''].filter(Boolean).join(', ')
    const title = say(s.stage.title, units)
    if (!matches(typed, `${title} ${at}`)) continue
    const list = settled(statusOf(state, s)) ? done : left
    if (list.length < MOST) list.push({ id: `step ${s.key}`, title, about: at || 'whole wall', href: hrefOf(wall, '', s.key) })
    if (left.length === MOST) break
  }
  return [...left, ...done]
}
