'use client'

import { cellKey, cleared, formatLength, type Step, statusOf, stepKey, type WallState } from '@stone-tally/core'
import { Button as AriaButton } from 'react-aria-components'
import styled from 'styled-components'
import { usePreferences } from '@/ui/preferences'
import { Tally } from '@/ui/tally'

const CourseRow = styled.tr`&[data-now] td { box-shadow: inset 0 -3px 0 var(--now); } td { vertical-align: middle; }`
/** A name in a list that leads to its step. */
export const Pick = styled(
  AriaButton,
)`background: none; border: 0; min-height: 40px; min-width: 48px; @media (pointer: coarse), (max-width: 640px) { min-height: 48px; } color: var(--ink); font: 600 17px/1 'Archivo Variable', sans-serif; cursor: pointer; text-align: left; text-decoration: underline dotted; text-underline-offset: 4px;`
const State = styled.span`font: 500 14px/1.2 'Barlow Condensed', sans-serif; color: var(--soft); white-space: nowrap;`

/** The drawing's twin: courses of the section with their tally and what is next, for keyboards and screen readers too. */
export function CourseTable({
  cells,
  state,
  now,
  onStep,
}: {
  cells: readonly { section: string; course: number }[]
  state: WallState
  now: Step | undefined
  onStep(key: string): void
}) {
  const { units } = usePreferences()
  const { layout } = state
  return (
    <table aria-label="Courses">
      <thead>
        <tr>
          <th>Course</th>
          <th>Top, {units === 'metric' ? 'm' : 'ft'}</th>
          <th>Tally</th>
          <th>State</th>
        </tr>
      </thead>
      <tbody>
        {[...cells].reverse().map((c) => {
          const list = state.byCell.get(cellKey(c.section, c.course)) ?? []
          const next = list.find((s) => !cleared(statusOf(state, s)))
          const set = state.byKey.get(stepKey({ stage: layout.system.open.from, section: c.section, course: c.course }))
          const s = set ? statusOf(state, set) : undefined
          const open = list.some((x) => statusOf(state, x).open.length > 0)
          const row = layout.courses.find((r) => r.course === c.course)
          const started = list.some((x) => statusOf(state, x).done > 0)
          return (
            <CourseRow key={cellKey(c.section, c.course)} {...(now?.course === c.course && now.section === c.section ? { 'data-now': true } : {})}>
              <td>
                <Pick onPress={() => onStep((next ?? set)?.key ?? '')} aria-label={`Course ${c.course}`}>
                  {c.course}
                </Pick>
              </td>
              <td style={{ whiteSpace: 'nowrap' }}>{row ? formatLength(row.top, units).replace(' m', '') : ''}</td>
              <td>{s ? <Tally done={s.done} total={s.total} /> : null}</td>
              <td>
                <State>
                  {open ? '▲ ' : ''}
                  {!next ? '● done' : started ? `◐ ${next.stage.title.toLowerCase()}` : '○'}
                </State>
              </td>
            </CourseRow>
          )
        })}
      </tbody>
    </table>
  )
}
