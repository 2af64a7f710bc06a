import {
  type FoundGround,
  MOST_FOUND,
  type Plan,
  type Problem,
  parseAmount,
  parseFall,
  STAND_HOWS,
  STAND_SIZES,
  type StandKind,
  type Surrounding,
  type UnitSystem,
} from '@stone-tally/core'
import type { Draft, Line } from './draft-fields'
import { shownAs } from './part'

type Stands = Draft['stands']
const length = (m: number | undefined, units: UnitSystem) => shownAs('length', m, units)

/** A thing that stands around, nothing said of it yet. */
export const newStand = (kind: StandKind): Line & { kind: StandKind } => ({ kind, cells: { away: '', size: '', how: '', note: '' } })

/** What a plan knows of its surroundings, as texts of the form. */
export function aroundTexts(plan: Plan, units: UnitSystem): Pick<Draft, 'stands' | 'found' | 'foundBack' | 'padSteps'> {
  const size = (s: Surrounding) => (STAND_SIZES[s.kind]?.of === 'fall' ? (s.size === undefined ? '' : `${s.size}`) : length(s.size, units))
  return {
    stands: (plan.stands ?? []).map((s, was) => ({
      was,
      kind: s.kind,
      cells: { away: length(s.away, units), size: size(s), how: s.how ?? '', note: s.note ?? '' },
    })),
    found: plan.found?.points.map((p) => [p.station, p.behind, p.level].map((v) => length(v, units)).join('; ')).join('\n') ?? '',
    foundBack: length(plan.found?.back, units),
    padSteps: plan.padSteps === undefined ? '' : plan.padSteps.map((s) => length(s, units)).join('; ') || 'none',
  }
}

type Parse = (text: string, field: string) => number
const reader =
  (units: UnitSystem, problems: Problem[]): Parse =>
  (text, field) => {
    const read = parseAmount(text, 'length', units)
    if (read.ok) return read.value
    problems.push({ field, message: read.problems[0]?.message ?? 'is not a length' })
    return Number.NaN
  }

/** What stands around, as it was typed; a line nobody touched stays to the last digit. */
export function standsRead(typed: Stands, shown: Stands | undefined, own: Plan['stands'], units: UnitSystem, problems: Problem[]): Plan['stands'] {
  if (shown && JSON.stringify(typed) === JSON.stringify(shown)) return own
  if (typed.length === 0) return undefined
  const metres = reader(units, problems)
  return typed.map((line, i) => {
    const before = line.was === undefined ? undefined : own?.[line.was]
    const asShown = line.was === undefined ? undefined : shown?.[line.was]
    const cell = (name: 'away' | 'size', parse: Parse) => {
      const text = (line.cells[name] ?? '').trim()
      if (before?.kind === line.kind && asShown?.cells[name] === line.cells[name]) return before[name]
      return text === '' ? undefined : parse(text, `stands.${i}.cells.${name}`)
    }
    const fall: Parse = (text, field) => {
      const read = parseFall(text)
      if (read.ok) return read.value
      problems.push({ field, message: read.problems[0]?.message ?? 'is not a slope' })
      return Number.NaN
    }
    const of = STAND_SIZES[line.kind]
    const made: Surrounding = { kind: line.kind }
    const away = cell('away', metres)
    const size = of && cell('size', of.of === 'fall' ? fall : metres)
    const note = (line.cells.note ?? '').trim()
    const how = STAND_HOWS[line.kind]?.options.find(([id]) => id === line.cells.how)?.[0]
    return {
      ...made,
      ...(how ? { how } : {}),
      ...(away === undefined ? {} : { away }),
      ...(size === undefined ? {} : { size }),
      ...(note ? { note } : {}),
    }
  })
}

/** Parts of a line of a list of levels: by semicolons or tabs, or by blanks where a number has none in it. */
const parts = (line: string) => (/[;\t]/.test(line) ? line.split(/[;\t]/) : line.trim().split(/\s+/)).map((t) => t.trim()).filter(Boolean)

/** The ground as found, as it was typed or pasted; untouched it stays to the last digit. */
export function foundRead(draft: Draft, shown: Draft | undefined, own: Plan['found'], units: UnitSystem, problems: Problem[]): Plan['found'] {
  if (shown && draft.found === shown.found && draft.foundBack === shown.foundBack) return own
  const lines = draft.found.split('\n').filter((l) => l.trim() !== '')
  if (lines.length === 0) return undefined
  if (lines.length > MOST_FOUND) {
    problems.push({ field: 'found', message: `has ${lines.length} levels; at most ${MOST_FOUND} are taken. Thin them out` })
    return undefined
  }
  const metres = reader(units, problems)
  const points = shown && draft.found === shown.found && own ? own.points : lines.flatMap((line, i) => pointOf(line, i, metres, problems))
  const back = draft.foundBack.trim() === '' ? undefined : metres(draft.foundBack, 'foundBack')
  return { points, ...(back === undefined ? {} : { back }) }
}

function pointOf(line: string, i: number, metres: Parse, problems: Problem[]): FoundGround['points'] {
  const [station, second, third, ...more] = parts(line)
  if (station === undefined || second === undefined || more.length > 0) {
    problems.push({ field: 'found', message: `line ${i + 1}: "${line.trim().slice(0, 40)}" is not a station, how far behind the face, and a level` })
    return []
  }
  const before = problems.length
  const [s, b, l] = [metres(station, 'found'), third === undefined ? 0 : metres(second, 'found'), metres(third ?? second, 'found')]
  for (const p of problems.slice(before)) problems[problems.indexOf(p)] = { ...p, message: `line ${i + 1}: ${p.message}` }
  return problems.length > before ? [] : [{ station: s, behind: b, level: l }]
}

/** Pad steps where they were put. */
export function padStepsRead(
  draft: Draft,
  shown: Draft | undefined,
  own: Plan['padSteps'],
  units: UnitSystem,
  problems: Problem[],
): Plan['padSteps'] {
  if (shown && draft.padSteps === shown.padSteps) return own
  const text = draft.padSteps.trim()
  if (text === '') return undefined
  if (/^none$/i.test(text)) return []
  const metres = reader(units, problems)
  return parts(text).map((t) => metres(t, 'padSteps'))
}
