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
    // A small wall has one stage for trench and bed, and one for all that is behind its courses.
    const dig = ['dig', 'base'].find(has) ?? ''
    if (kind.when === 'before') {
      const own: Stage = {
        ...base,
        scope: 'section',
        requires: [{ stage: 'set-out', of: 'same', force: 'hold', why: 'nothing is moved before the line is verified' }],
      }
      return put(dig, own, { ...covered, force: 'soft', why: `${place.item.name} comes before the dig` }, [dig])
    }
    if (kind.when === 'under') {
      const next = ['bars', 'pad', 'pad-level', 'base'].find(has) ?? ''
      const ground: Requirement = has('subgrade')
        ? { stage: 'subgrade', of: 'same', force: 'hold', why: 'it lies on ground that was released' }
        : { stage: 'set-out', of: 'same', force: 'hold', why: 'digging may not start before it' }
      const own: Stage = {
        ...base,
        scope: 'section',
        requires: [ground],
      }
      return put(next, own, covered, [next])
    }
    if (kind.when === 'after') {
      const last = made.find((s) => s.id === 'top') ?? made.find((s) => s.id === 'fill')
      const own: Stage = {
        ...base,
        scope: 'course',
        when: 'last',
        only: { section: place.section },
        ...(last?.round ? { round: last.round } : {}),
        requires: [{ stage: last?.id ?? 'units', of: 'same', force: 'soft', why: 'the top is not closed' }],
      }
      return put('finish', own, { ...covered, force: 'soft', why: `${place.item.name} is not done` }, ['finish'])
    }
    const fill = made.find((s) => s.work.type === 'lifts' && s.work.of === 'backfill')
    const own: Stage = {
      ...base,
      scope: 'course',
      ...(fill?.round ? { round: fill.round } : {}),
      requires: [{ stage: 'units', of: 'same', force: 'soft', why: 'the course beside it is not set' }],
    }
    // The layer over it waits as the fill does.
    if (fill || !has('fill')) return put(fill?.id ?? 'backfill', own, covered, [fill?.id ?? 'backfill'])
    // A small wall is filled at its last course: all that is built in stands by then, and the course above it waits.
    const above: Requirement = { stage: id, ...covered, of: 'below' }
    return put('fill', own, { ...covered, of: 'all' }, ['fill']).map((s) => (s.id === 'units' ? { ...s, requires: [...s.requires, above] } : s))
  }, stages)
}
