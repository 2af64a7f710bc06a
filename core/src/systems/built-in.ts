import { aroundOf, type BuiltInData, builtInKindOf, type Plan, slugOf } from '../plan'
import type { Requirement, Stage } from './stage'

/** A row of courses as far as it is needed to find the one beside something. */
interface Row {
  readonly course: number
  readonly bottom: number
  readonly top: number
  readonly stretches: readonly { readonly from: number; readonly to: number }[]
}

/** One of the things built in, where it is to be done: in a section, and beside which course of it. */
export interface BuiltInPlace {
  readonly item: BuiltInData
  readonly section: string
  readonly course?: number
}

/** The course of a section beside an elevation: the lowest or highest where none is. */
function courseBeside(rows: readonly Row[], section: { readonly from: number; readonly to: number }, elevation: number): number | undefined {
  const own = rows.filter((r) => r.stretches.some((s) => Math.min(s.to, section.to) - Math.max(s.from, section.from) > 0.05))
  const beside = own.find((r) => elevation >= r.bottom - 1e-6 && elevation < r.top - 1e-6)
  const [first, last] = [own[0], own[own.length - 1]]
  return (beside ?? (first && elevation < first.bottom ? first : last))?.course
}

/**
 * Where each of the things built in with a wall is to be done.
 *
 * @param rows - its courses, lowest first
 * @example placesBuiltIn(plan, courses) // [{ item, section: 'A', course: 2 }]
 */
export function placesBuiltIn(plan: Plan, rows: readonly Row[]): BuiltInPlace[] {
  const around = aroundOf(plan)
  return (plan.builtIn ?? []).flatMap((item) => {
    const kind = builtInKindOf(item.kind)
    if (!kind) return []
    const lies = kind.lies(item, around)
    // A task without a place of its own is done from its first station to its last, or for the whole wall.
    const span = item as { from?: number; to?: number }
    return plan.sections.flatMap((section): BuiltInPlace[] => {
      const here = lies.filter((l) => l.to > section.from - 1e-6 && l.from < section.to - 1e-6)
      if (kind.when !== 'with') {
        const [from, to] = [span.from ?? 0, span.to ?? plan.length]
        return to > section.from + 1e-6 && from < section.to - 1e-6 ? [{ item, section: section.id }] : []
      }
      if (here.length === 0) return []
      const course = courseBeside(rows, section, Math.min(...here.map((l) => l.low)))
      return course === undefined ? [] : [{ item, section: section.id, course }]
    })
  })
}

/** The stage of one of them in its section. @example builtInStage(place) // 'in-light-cable-A' */
export const builtInStage = ({ item, section }: BuiltInPlace): string => `in-${slugOf(item.name)}-${section}`

/**
 * Stages with those of what is built in: cleared before the dig, under the pad before it, with its course before the fill beside it, and on
 * top before the wall is finished. What comes after each waits for it.
 *
 * @example withBuiltIn(stages, placesBuiltIn(plan, courses)).some((s) => s.id === 'in-light-cable-A')
 */
export function withBuiltIn(stages: readonly Stage[], places: readonly BuiltInPlace[]): readonly Stage[] {
  return places.reduce((made, place) => {
    const kind = builtInKindOf(place.item.kind)
    if (!kind) return made
    const { title, how, items, measures, caution } = kind.work(place.item)
    const id = builtInStage(place)
    const where = { section: place.section, ...(place.course === undefined ? {} : { course: place.course }) }
    const base = {
      id,
      title,
      how,
      ...(caution ? { caution } : {}),
      when: 'every' as const,
      only: where,
      work: {
        type: 'check' as const,
        detail: 'What was seen',
        items,
        ...(measures ? { measures } : {}),
        ...(kind.when === 'with' || kind.when === 'under' ? { photo: true as const } : {}),
      },
    }
    const has = (stage: string) => made.some((s) => s.id === stage)
    const put = (before: string, own: Stage, asks: Omit<Requirement, 'stage'>, who: readonly string[]): readonly Stage[] =>
      made.flatMap((s) => {
        const asking = who.includes(s.id) ? { ...s, requires: [...s.requires, { stage: id, ...asks }] } : s
        return s.id === before ? [own, asking] : [asking]
      })
    const covered = { of: 'same' as const, force: 'hard' as const, why: `${place.item.name} is not recorded; it cannot be seen again` }
    if (kind.when === 'before') {
      const own: Stage = {
        ...base,
        scope: 'section',
        requires: [{ stage: 'set-out', of: 'same', force: 'hold', why: 'nothing is moved before the line is verified' }],
      }
      return put('dig', own, { ...covered, force: 'soft', why: `${place.item.name} comes before the dig` }, ['dig'])
    }
    if (kind.when === 'under') {
      const next = ['bars', 'pad', 'pad-level'].find(has) ?? 'pad-level'
      const own: Stage = {
        ...base,
        scope: 'section',
        requires: [{ stage: 'subgrade', of: 'same', force: 'hold', why: 'it lies on ground that was released' }],
      }
      return put(next, own, covered, [next])
    }
    if (kind.when === 'after') {
      const top = made.find((s) => s.id === 'top')
      const own: Stage = {
        ...base,
        scope: 'course',
        when: 'last',
        only: { section: place.section },
        ...(top?.round ? { round: top.round } : {}),
        requires: [{ stage: 'top', of: 'same', force: 'soft', why: 'the top is not closed' }],
      }
      const closed = made.findIndex((s) => s.id === 'top')
      const asking = made.map((s) =>
        s.id === 'finish'
          ? { ...s, requires: [...s.requires, { stage: id, ...covered, force: 'soft' as const, why: `${place.item.name} is not done` }] }
          : s,
      )
      return [...asking.slice(0, closed + 1), own, ...asking.slice(closed + 1)]
    }
    const fill = made.find((s) => s.work.type === 'lifts' && s.work.of === 'backfill')
    const own: Stage = {
      ...base,
      scope: 'course',
      ...(fill?.round ? { round: fill.round } : {}),
      requires: [{ stage: 'units', of: 'same', force: 'soft', why: 'the course beside it is not set' }],
    }
    // The layer over it waits as the fill does.
    return put(fill?.id ?? 'backfill', own, covered, [fill?.id ?? 'backfill'])
  }, stages)
}
