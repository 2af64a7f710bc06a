import { type CatalogueUnit, type Plan, type Problem, parseAmount, type Result, type UnitSystem, type WallSystem } from '@stone-tally/core'
import type { Draft } from './draft-fields'
import { isAsked, partTexts, shownAs } from './part'
import type { SubjectId } from './subjects'

/** Another way of building the same wall: what it is called, where it is offered, and the draft it would be. */
export interface Variant {
  readonly id: string
  readonly title: string
  readonly group: string
  readonly subject: SubjectId
  draft(): Draft
}
/** What is compared: the plan as issued of a draft, or why there is none. */
export type PlanOf = (draft: Draft) => Result<Plan>

export const TOPS = [
  ['stepped', 'Steps up with its grade'],
  ['level', 'One level'],
  ['cap-following', 'Cap lies on the grade'],
] as const

/** Depths buried, by the schools of practice; what each puts into the questions of embedment. */
const BURIED: readonly (readonly [id: string, title: string, part: Readonly<Record<string, string>>])[] = [
  ['tenth', 'A tenth of the height', { embedFixed: '', embedShare: '10', embedBase: '', embedPerMetre: '', embedCourses: '' }],
  ['eighth', 'An eighth of the height', { embedFixed: '', embedShare: '12.5', embedBase: '', embedPerMetre: '', embedCourses: '' }],
  ['course', 'One whole course', { embedFixed: '', embedShare: '', embedBase: '', embedPerMetre: '', embedCourses: '1' }],
]
const CHAPTERS: Readonly<Partial<Record<string, SubjectId>>> = { pad: 'pad', own: 'own', water: 'water' }

function twice(text: string, units: UnitSystem): string | undefined {
  const read = parseAmount(text, 'length', units)
  if (!read.ok || !(read.value > 0)) return undefined
  return shownAs('length', read.value * 2, units)
}

/**
 * Other ways of building the wall that is typed: another unit, another top, every other answer to a choice of its system, more or less buried,
 * thicker, fewer and longer steps, other outlets. Each changes one thing.
 *
 * @example variantsOf(draft, system, 'metric', catalogue, withUnit).map((v) => v.title)
 */
export function variantsOf(
  draft: Draft,
  system: WallSystem | undefined,
  units: UnitSystem,
  offered: readonly CatalogueUnit[],
  withUnit: (id: string) => Draft,
  /** The plan that is typed: what stands in it where nobody typed anything. */
  plan?: Plan,
): Variant[] {
  const list: Variant[] = []
  for (const { unit } of offered)
    if (unit.id !== draft.part.unit)
      list.push({ id: `unit ${unit.id}`, title: unit.name, group: 'Another unit', subject: 'unit', draft: () => withUnit(unit.id) })
  for (const [id, title] of TOPS)
    if (id !== draft.topStyle) list.push({ id: `top ${id}`, title, group: 'The top', subject: 'ground', draft: () => ({ ...draft, topStyle: id }) })
  const part = (change: Readonly<Record<string, string>>) => () => ({ ...draft, part: { ...draft.part, ...change } })
  for (const q of system?.questions ?? []) {
    const subject = CHAPTERS[q.chapter]
    if (q.of !== 'choice' || !subject || !isAsked(q, draft.part)) continue
    for (const [option, title] of q.options)
      if (option !== draft.part[q.id]) list.push({ id: `${q.id} ${option}`, title, group: q.label, subject, draft: part({ [q.id]: option }) })
  }
  const asks = (id: string) => system?.questions.some((q) => q.id === id && isAsked(q, draft.part)) ?? false
  if (asks('embedCourses'))
    for (const [id, title, change] of BURIED)
      if (Object.entries(change).some(([k, v]) => (draft.part[k] ?? '') !== v))
        list.push({ id: `buried ${id}`, title, group: 'Buried', subject: 'pad', draft: part(change) })
  const doubled = (id: string, title: string, group: string) => {
    const text = asks(id) ? twice(draft.part[id] ?? '', units) : undefined
    if (text !== undefined) list.push({ id: `${id} twice`, title, group, subject: 'pad', draft: part({ [id]: text }) })
  }
  doubled('padThickness', 'Twice as thick', 'Pad')
  doubled('minRun', 'Steps at least twice as long', 'Where steps fall')
  if (draft.padSteps !== 'none')
    list.push({ id: 'steps none', title: 'One level pad', group: 'Where steps fall', subject: 'pad', draft: () => ({ ...draft, padSteps: 'none' }) })
  if (draft.padSteps !== '')
    list.push({
      id: 'steps own',
      title: 'Where they fall by themselves',
      group: 'Where steps fall',
      subject: 'pad',
      draft: () => ({ ...draft, padSteps: '' }),
    })
  const typed = draft.lists.outlets ?? []
  const outlets =
    typed.length > 0 || !system || !plan ? typed : (partTexts(system, plan.system.data, units).lists.outlets ?? []).map(({ cells }) => ({ cells }))
  const first = outlets[0]
  if (first && outlets.length > 1)
    list.push({
      id: 'outlets one',
      title: 'The first outlet alone',
      group: 'Outlets',
      subject: 'water',
      draft: () => ({ ...draft, lists: { ...draft.lists, outlets: [first] } }),
    })
  const ends = (['0', draft.length] as const).filter((s) => s !== '' && !outlets.some((o) => o.cells.station === s))
  if (first && ends.length > 0)
    list.push({
      id: 'outlets ends',
      title: ends.length > 1 ? 'An outlet at either end' : 'An outlet at the other end too',
      group: 'Outlets',
      subject: 'water',
      draft: () => ({
        ...draft,
        lists: { ...draft.lists, outlets: [...outlets, ...ends.map((station) => ({ cells: { ...first.cells, station } }))] },
      }),
    })
  return list
}

/** A way that was not kept, to be taken up again: its title and its draft. */
export interface Sketch {
  readonly title: string
  readonly draft: Omit<Draft, 'sketches'>
}
/** Sketches that are kept beside a plan. */
export const MOST_SKETCHES = 6

/** The draft with another in its place, and itself among the sketches. */
export function keeping(draft: Draft, next: Draft, title: string): Draft {
  const { sketches, ...own } = draft
  return { ...next, sketches: [{ title, draft: own }, ...sketches].slice(0, MOST_SKETCHES) }
}

/** First problem of a way, in words. */
export const whyNot = (problems: readonly Problem[]) => `${problems[0]?.field ?? ''} ${problems[0]?.message ?? ''}`.trim()
