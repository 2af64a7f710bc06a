import { formatLength, parseAmount, type UnitSystem } from '@stone-tally/core'
import type { Draft } from './draft-fields'

/** Metres as a text of the form. @example textOf(1.2, 'metric') // '1.2' */
export const textOf = (metres: number, units: UnitSystem): string => (units === 'metric' ? `${+metres.toFixed(4)}` : formatLength(metres, units))

const metresOf = (text: string | undefined, units: UnitSystem): number | undefined => {
  const read = parseAmount(text ?? '', 'length', units)
  return read.ok ? read.value : undefined
}

/** Of a new wall's plan: what stands in fields that follow from it. */
type Made = { readonly excavation: { readonly behind: number } } | undefined

/**
 * What stands in a field that nobody filled in, by field of the draft. It follows from what is typed elsewhere and is never written into the draft:
 * so it is the same in whatever order the rest was typed, and goes as soon as somebody types another. Lists of a system do the same in the core
 * (`WallSystem.stands`).
 *
 * - toe and top of a station: those of the one before it;
 * - the benchmark of a wall whose grades are counted from the ground in front: that ground;
 * - the room behind the units: the rule book's, or what layers and mats want (the plan that is made says how much).
 *
 * @returns texts in the crew's units, each with where it comes from
 * @example standing({ ...draft, grades: [{ station: '0', toe: '0', top: '1' }, …] }, 'metric').benchmark?.text // '0'
 */
export function standing(
  draft: Pick<Draft, 'grades' | 'benchmark' | 'behind' | 'length'>,
  units: UnitSystem,
  made?: Made,
): Readonly<Record<string, { text: string; from: string }>> {
  const stands: Record<string, { text: string; from: string }> = {}
  for (const side of ['toe', 'top'] as const) {
    let last = draft.grades[0]?.[side] ?? ''
    for (const [i, g] of draft.grades.entries()) {
      if (i > 0 && g[side].trim() === '' && last.trim() !== '') stands[`grades.${i}.${side}`] = { text: last, from: 'as at the station before' }
      else last = g[side]
    }
  }
  const end = draft.grades.length - 1
  if (end > 0 && draft.grades[end]?.station.trim() === '' && draft.length.trim() !== '')
    stands[`grades.${end}.station`] = { text: draft.length, from: 'the end of the wall' }
  if (draft.benchmark.trim() === '' && metresOf(draft.grades[0]?.toe, units) === 0)
    stands.benchmark = { text: '0', from: 'the ground in front at the start, which the grades are counted from' }
  if (draft.behind.trim() === '' && made)
    stands.behind = { text: textOf(made.excavation.behind, units), from: 'by the rule book, and what lies into the fill fits in it' }
  return stands
}

/** The draft with what stands in its empty fields. */
export function withStanding(draft: Draft, units: UnitSystem): Draft {
  const stands = standing(draft, units)
  return {
    ...draft,
    benchmark: stands.benchmark?.text ?? draft.benchmark,
    grades: draft.grades.map((g, i) => ({ ...g, toe: stands[`grades.${i}.toe`]?.text ?? g.toe, top: stands[`grades.${i}.top`]?.text ?? g.top })),
  }
}

/** How high it shows above the ground in front, m: one height where it is the same all along, else the least and the most; undefined while it cannot be read. */
export function heightsOf(typed: Draft, units: UnitSystem): readonly [number, number] | undefined {
  const all = withStanding(typed, units).grades.map((g) => {
    const [toe, top] = [metresOf(g.toe, units), metresOf(g.top, units)]
    return toe === undefined || top === undefined ? undefined : top - toe
  })
  const known = all.filter((h) => h !== undefined)
  return known.length === 0 || known.length < all.length ? undefined : [Math.min(...known), Math.max(...known)]
}

/** The draft standing that high all along: tops above the toes that are typed, which are nought where none is. */
export function withHeight(draft: Draft, text: string, units: UnitSystem): Draft {
  const height = metresOf(text, units)
  return {
    ...draft,
    grades: draft.grades.map((g) => {
      const toe = g.toe.trim() === '' ? '0' : g.toe
      const at = metresOf(toe, units)
      // A number that is not one yet stays as it is typed, where it is named.
      return { ...g, toe, top: height === undefined || !at ? text : textOf(at + height, units) }
    }),
  }
}
