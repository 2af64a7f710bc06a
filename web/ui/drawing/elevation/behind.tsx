'use client'

import { toeAt } from '@stone-tally/core'
import { Hatches } from '../hatches'
import type { Sheet } from './sheet'

/** What lies under the units: the ground in front, the pad by steps, the courses as surfaces. */
export function Behind({ of, id }: { of: Sheet; id: string }) {
  const { layout, width, height, rect, inView } = of
  const { thickness, cast } = layout.building.foundation
  const courses = layout.courses.flatMap((row) =>
    row.stretches.filter((s) => inView(s.from, s.to)).map((s) => rect(s.from, s.to, row.bottom, row.top)),
  )
  return (
    <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} aria-hidden style={{ display: 'block', maxWidth: '100%' }}>
      <Hatches id={id} />
      <path d={`${of.profile((s) => toeAt(layout.plan, s))}L${width} ${height}L0 ${height}Z`} fill={`url(#${id}-ground)`} opacity={0.6} />
      {layout.steps
        .filter((s) => inView(s.start, s.end))
        .map((s) => (
          <path
            key={s.start}
            d={rect(s.start, s.end, s.elevation - thickness, s.elevation)}
            fill={`url(#${id}-${cast ? 'concrete' : 'pad'})`}
            stroke="var(--ink)"
            strokeWidth={1}
          />
        ))}
      <path d={courses.join('')} fill="var(--unit)" stroke="var(--line)" strokeWidth={0.7} />
    </svg>
  )
}
