import { type Adopted, answerIn, formatLength, type Plan, systemOf, type UnitSystem, withAnswer } from '@stone-tally/core'
import type { Draft } from './draft-fields'

/** What is typed, with the length and grades of a line taken from a drawing or survey. */
export function draftAlong(draft: Draft, line: Adopted, units: UnitSystem): Draft {
  const l = (m: number) => (units === 'metric' ? `${m}` : formatLength(m, units))
  const last = draft.grades.length - 1
  const { alignment: _, ...drawn } = draft.drawn
  return {
    ...draft,
    drawn: { ...drawn, line },
    length: l(line.length),
    grades:
      line.grades?.map((g) => ({ station: l(g.station), toe: l(g.toe), top: l(g.top) })) ??
      draft.grades.map((g, i) => (i === last ? { ...g, station: l(line.length) } : g)),
    sections: draft.sections.map((s, i) => (i === draft.sections.length - 1 ? { ...s, to: l(line.length) } : s)),
  }
}

/**
 * The plan of a draft on the very line of the drawing: its alignment, and its length, stations and grades to the last digit wherever a field
 * still reads as the drawing was shown.
 *
 * @param plan - what {@link planOf} made of the draft
 */
export function planAlong(plan: Plan, line: Adopted, draft: Draft, units: UnitSystem): Plan {
  const l = (m: number) => (units === 'metric' ? `${m}` : formatLength(m, units))
  const own = (value: number, text: string | undefined, exact: number | undefined) => (exact !== undefined && text === l(exact) ? exact : value)
  return {
    ...plan,
    length: line.length,
    // Moved since it was taken from the file.
    alignment: draft.drawn.alignment ?? line.alignment,
    grades: plan.grades.map((g, i) => {
      const text = draft.grades[i]
      const of = line.grades?.find((x) => l(x.station) === text?.station)
      return {
        ...g,
        station: own(g.station, text?.station, of?.station ?? line.length),
        toe: own(g.toe, text?.toe, of?.toe),
        top: own(g.top, text?.top, of?.top),
      }
    }),
    sections: plan.sections.map((s, i) => ({
      ...s,
      to: draft.sections[i]?.to.trim() === '' ? line.length : own(s.to, draft.sections[i]?.to, line.length),
    })),
    system: { ...plan.system, data: endsAlong(plan, line, draft, l) },
  }
}

/** The system's part with what ends at the end of the line there to the last digit. */
function endsAlong(plan: Plan, line: Adopted, draft: Draft, l: (m: number) => string): unknown {
  const system = systemOf(plan.system.id)
  return (system?.questions ?? []).reduce((part: unknown, q) => {
    if (q.of !== 'list' || !q.columns.some((c) => c.id === 'station')) return part
    const rows = (answerIn(part, q.at) ?? []) as { station: number }[]
    const ends = (i: number) => draft.lists[q.id]?.[i]?.cells.station === l(line.length)
    return withAnswer(
      part,
      q.at,
      rows.map((r, i) => (ends(i) ? { ...r, station: line.length } : r)),
    )
  }, plan.system.data)
}
