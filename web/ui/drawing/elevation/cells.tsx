'use client'

import type { Course } from '@stone-tally/core'
import type { CellLook } from '../paint-units'
import type { Sheet } from './sheet'

/** The course that is next, and findings that are open. */
export function Cells({
  of: { layout, plain, x, y, rect },
  rows,
  now,
  look,
}: {
  of: Sheet
  rows: ReadonlyMap<number, Course>
  now: { section: string; course?: number | undefined } | undefined
  look: ((section: string, course: number) => CellLook) | undefined
}) {
  return [...layout.cells.values()].map((cell) => {
    const row = rows.get(cell.course)
    const isNow = now && now.section === cell.section && now.course === cell.course
    const seen = plain ? undefined : look?.(cell.section, cell.course)
    if (!row || (!isNow && !seen?.open)) return null
    return (
      <g key={`${cell.section}${cell.course}`}>
        {isNow
          ? cell.stretches.map((s) => (
              <path key={s.from} d={rect(s.from, s.to, row.bottom, row.top)} fill="none" stroke="var(--now)" strokeWidth={3} />
            ))
          : null}
        {seen?.open
          ? cell.stretches.slice(0, 1).map((s) => (
              <g key={s.from} transform={`translate(${Math.max(14, x(s.from) + 12)} ${y((row.bottom + row.top) / 2)})`}>
                <path d="M0 -9L9 7H-9Z" fill="var(--stop)" stroke="var(--ink)" strokeWidth={1.5} />
              </g>
            ))
          : null}
      </g>
    )
  })
}
