'use client'

import type { WallSystem } from '@stone-tally/core'
import { Button as AriaButton } from 'react-aria-components'
import styled from 'styled-components'
import { EVERY, isAsked } from './part'

/** What a wall is asked, one subject at a time, in the order of the trade. */
export const SUBJECTS = [
  ['line', 'Line'],
  ['unit', 'System and unit'],
  ['ground', 'Ground and heights'],
  ['holds', 'What it holds'],
  ['pad', 'Pad and dig'],
  ['own', 'Of this system'],
  ['water', 'Water'],
  ['grid', 'Layers'],
  ['sections', 'Sections'],
  ['built', 'Built in'],
  ['rules', 'Rules and order'],
] as const
export type SubjectId = (typeof SUBJECTS)[number][0]

/** Fields of the draft by their first word; those of the system stand in its own chapters. */
const OF: Readonly<Record<string, SubjectId>> = {
  name: 'line',
  site: 'line',
  drawing: 'holds',
  length: 'line',
  alignment: 'line',
  engineer: 'holds',
  engineerBy: 'holds',
  holds: 'holds',
  frontSlope: 'holds',
  frontErodible: 'holds',
  frost: 'holds',
  stands: 'holds',
  found: 'ground',
  foundBack: 'ground',
  padSteps: 'pad',
  drawn: 'built',
  references: 'built',
  obstacles: 'built',
  grades: 'ground',
  benchmark: 'ground',
  benchmarkName: 'ground',
  topStyle: 'ground',
  behind: 'pad',
  slope: 'pad',
  sections: 'sections',
  openCourses: 'sections',
  builtIn: 'built',
  limits: 'rules',
}
const CHAPTER: Readonly<Record<string, SubjectId>> = {
  wall: 'unit',
  ground: 'ground',
  built: 'built',
  rules: 'rules',
  pad: 'pad',
  own: 'own',
  water: 'water',
  grid: 'grid',
  order: 'rules',
}

/** The subject a field of the draft is asked in. @example subjectOf('grades.1.top', system) // 'ground' */
export function subjectOf(field: string, system: WallSystem | undefined): SubjectId {
  const [first = '', second = ''] = field.split('.')
  if (first === 'part' || first === 'lists') return CHAPTER[system?.questions.find((q) => q.id === second)?.chapter ?? ''] ?? 'unit'
  if (first === 'every' || first === 'everyLists') return CHAPTER[EVERY.questions.find((q) => q.id === second)?.chapter ?? ''] ?? 'rules'
  return OF[first] ?? 'line'
}

/** Subjects this system asks anything of. */
export const subjectsOf = (system: WallSystem | undefined, part: Record<string, string>) =>
  SUBJECTS.filter(
    ([id]) => (id !== 'own' && id !== 'grid' && id !== 'water') || system?.questions.some((q) => CHAPTER[q.chapter] === id && isAsked(q, part)),
  )

const Nav = styled.nav`
  display: flex; flex-wrap: wrap; gap: 6px;
  button { min-height: 48px; padding: 0 12px; background: none; border: 1.5px solid var(--line); color: var(--ink); font: 500 16px/1.2 'Archivo Variable', sans-serif; cursor: pointer; border-radius: 4px; }
  @media (max-width: 640px) { flex-wrap: nowrap; overflow-x: auto; button { flex: none; } }
  button[aria-current='step'] { background: var(--ink); color: var(--ground); border-color: var(--ink); }
`

/** The subjects in a row; ▲ where something is missing or impossible. */
export function SubjectNav({
  list,
  at,
  wrong,
  onGo,
}: {
  list: readonly (readonly [SubjectId, string])[]
  at: SubjectId | undefined
  wrong: ReadonlySet<SubjectId>
  onGo(to: SubjectId | undefined): void
}) {
  return (
    <Nav aria-label="Subjects">
      {list.map(([id, title]) => (
        <AriaButton key={id} aria-current={at === id ? 'step' : false} onPress={() => onGo(id)}>
          {wrong.has(id) ? '▲ ' : ''}
          {title}
        </AriaButton>
      ))}
      <AriaButton aria-current={at === undefined ? 'step' : false} onPress={() => onGo(undefined)}>
        Everything
      </AriaButton>
    </Nav>
  )
}
