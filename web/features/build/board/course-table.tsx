'use client'

import { cellKey, cleared, formatLength, type Step, statusOf, stepKey, type WallState } from '@stone-tally/core'
import { Button as AriaButton } from 'react-aria-components'
import styled from 'styled-components'
import { usePreferences } from '@/ui/preferences'
import { Table } from '@/ui/table'
import { Tally } from '@/ui/tally'

const Rows = styled.div`tr[data-now] td { box-shadow: inset 0 -3px 0 var(--now); }`
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
  const rows = [...cells].reverse().map((c) => {
    const list = state.byCell.get(cellKey(c.section, c.course)) ?? []
    const set = state.byKey.get(stepKey({ stage: layout.system.open.from, section: c.section, course: c.course }))
    return {
      ...c,
      next: list.find((s) => !cleared(statusOf(state, s))),
      set,
      status: set ? statusOf(state, set) : undefined,
      open: list.some((x) => statusOf(state, x).open.length > 0),
      top: layout.courses.find((r) => r.course === c.course)?.top,
      started: list.some((x) => statusOf(state, x).done > 0),
    }
  })
  return (
    <Rows>
      <Table
        label="Courses"
        middle
        rows={rows}
        id={(c) => cellKey(c.section, c.course)}
        marks={(c) => (now?.course === c.course && now.section === c.section ? { 'data-now': true } : {})}
        columns={[
          {
            head: 'Course',
            cell: (c) => (
              <Pick onPress={() => onStep((c.next ?? c.set)?.key ?? '')} aria-label={`Course ${c.course}`}>
                {c.course}
              </Pick>
            ),
          },
          {
            head: `Top, ${units === 'metric' ? 'm' : 'ft'}`,
            cell: (c) => (c.top === undefined ? '' : formatLength(c.top, units).replace(' m', '')),
          },
          { head: 'Tally', cell: ({ status: s }) => (s ? <Tally done={s.done} total={s.total} /> : null) },
          {
            head: 'State',
            cell: (c) => (
              <State>
                {c.open ? '▲ ' : ''}
                {!c.next ? '● done' : c.started ? `◐ ${c.next.stage.title.toLowerCase()}` : '○'}
              </State>
            ),
          },
        ]}
      />
    </Rows>
  )
}
