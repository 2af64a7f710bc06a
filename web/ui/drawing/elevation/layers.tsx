'use client'

import { gridOn } from '@stone-tally/core'
import { useMemo } from 'react'
import type { Sheet } from './sheet'

/** Layers of geogrid: full where they lie, dashed where they will. */
export function Layers({
  of: { layout, plain, x, y, inView },
  placed: gridPlaced,
}: {
  of: Sheet
  placed: ((section: string, course: number) => boolean) | undefined
}) {
  const { plan } = layout
  // Where each layer lies follows from the plan alone.
  const layers = useMemo(
    () =>
      layout.courses.flatMap((row) => {
        const { over = [] } = gridOn(layout, row.course) ?? {}
        return over.length > 0
          ? [
              {
                course: row.course,
                top: row.top,
                parts: plan.sections.flatMap((sec) =>
                  over.flatMap((s) => {
                    const [a, b] = [Math.max(s.from, sec.from), Math.min(s.to, sec.to)]
                    return b > a ? [{ section: sec.id, from: a, to: b }] : []
                  }),
                ),
              },
            ]
          : []
      }),
    [layout, plan],
  )
  return layers.flatMap((l) =>
    [true, false].map((placed) => {
      const d = l.parts
        .filter((p) => inView(p.from, p.to) && (gridPlaced?.(p.section, l.course) ?? false) === placed)
        .map((p) => `M${x(p.from)} ${y(l.top)}H${x(p.to)}`)
        .join('')
      return d ? (
        <path
          key={`${l.course} ${placed}`}
          d={d}
          stroke="var(--ink)"
          strokeWidth={plain ? 1 : 2.6}
          strokeDasharray={placed ? '' : plain ? '3 3' : '7 5'}
        />
      ) : null
    }),
  )
}
