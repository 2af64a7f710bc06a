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
  ['rules', 'Rules'],
] as const
export type SubjectId = (typeof SUBJECTS)[number][0]

/** What a subject is about, in the words of the trade. */
export const ABOUT: Readonly<Partial<Record<SubjectId, string>>> = {
  unit: 'The system is what the wall is built of; every course is a row of its units.',
  ground: 'The toe grade is the finished ground in front, the top grade the ground above. Everything is measured from the benchmark.',
  holds: 'Most walls need nobody but you. What stands here may make one an engineer’s; until it is said the dig stays closed.',
  pad: 'The pad carries the wall. How deep its foot is buried is its embedment; the subgrade under it is looked at before anything is laid.',
  water: 'Water that stays behind a wall pushes it over. Drainage stone leads it down, the toe drain along, the outlet away.',
  grid: 'Geogrid ties the wall to the fill where units alone would be too slender. Never proposed for an engineer’s wall.',
  sections: 'A section is built and released by itself: one can be filled while another waits at a hold point.',
  built: 'What is cleared first, laid through or behind the wall, and put on top, so that nobody digs it up again.',
  rules: 'The rule book holds for every wall; here is what this drawing asks for otherwise.',
}

/** Fields of the draft by their first word; those of the system stand in its own chapters. */
const OF: Readonly<Record<string, SubjectId>> = {
  name: 'line',
  site: 'line',
  drawing: 'holds',
  length: 'line',
  alignment: 'line',
  engineer: 'holds',
  engineerBy: 'holds',
  engineerLicence: 'holds',
  engineerOn: 'holds',
  coversHeight: 'holds',
  coversFrom: 'holds',
  coversTo: 'holds',
  coversFacts: 'holds',
  asked: 'holds',
  soilBehind: 'holds',
  soilBelow: 'holds',
  soilBy: 'holds',
  edge: 'holds',
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
  display: flex; flex-wrap: wrap; gap: 4px;
  button { min-height: 48px; min-width: 48px; padding: 0 8px; background: none; border: 1.5px solid var(--line); color: var(--ink); font: 500 15px/1.2 'Archivo Variable', sans-serif; cursor: pointer; border-radius: 4px; }
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
