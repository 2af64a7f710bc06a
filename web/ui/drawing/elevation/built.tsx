'use client'

import { builtInDrawn, invertAt, stepAt, toeAt, topAt } from '@stone-tally/core'
import type { Sheet } from './sheet'

/** Joints, what is built in, and pipes through the wall. */
export function BuiltIn({ of: { layout, plain, x, y, rect, inView } }: { of: Sheet }) {
  const { plan } = layout
  return (
    <>
      {(layout.building.joints ?? [])
        .filter((s) => inView(s, s))
        .map((s) => (
          <line
            key={s}
            x1={x(s)}
            x2={x(s)}
            y1={y(stepAt(layout.tops, s))}
            y2={y(stepAt(layout.steps, s))}
            stroke="var(--now)"
            strokeWidth={plain ? 1 : 2.2}
          >
            <title>Control joint</title>
          </line>
        ))}
      {builtInDrawn(layout)
        .filter((d) => inView(d.from, d.to))
        .map((d) => (
          <path
            key={`${d.item.name} ${d.from}`}
            d={rect(d.from, d.to, d.low, d.high)}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={plain ? 0.8 : 1.4}
            strokeDasharray="5 3"
          >
            <title>{d.item.name}</title>
          </path>
        ))}
      {plan.openings?.map((o) => (
        <path
          key={`${o.station} ${o.bottom}`}
          d={rect(o.station - o.width / 2, o.station + o.width / 2, o.bottom, o.bottom + o.height)}
          fill="var(--ground)"
          stroke="var(--ink)"
          strokeWidth={2}
        />
      ))}
    </>
  )
}

/** Top and toe as they are planned, the pipe and where it runs out, where sections meet. */
export function Grades({ of: { layout, plain, width, height, x, y, inView, profile } }: { of: Sheet }) {
  const { plan } = layout
  return (
    <>
      <path d={profile((s) => topAt(plan, s))} fill="none" stroke="var(--ink)" strokeWidth={plain ? 1 : 1.4} strokeDasharray="12 3 2 3" />
      <path d={profile((s) => toeAt(plan, s))} fill="none" stroke="var(--ink)" strokeWidth={plain ? 1.6 : 2.4} />
      {plain || !layout.building.drain ? null : (
        <path d={profile((s) => invertAt(layout, s) ?? Number.NaN)} fill="none" stroke="var(--ink)" strokeWidth={1.3} strokeDasharray="3 3" />
      )}
      {plain
        ? null
        : layout.building.drain?.outlets
            .filter((o) => inView(o.station, o.station))
            .map((o) => (
              <circle
                key={o.station}
                cx={Math.min(width - 7, Math.max(7, x(o.station)))}
                cy={y(o.invert)}
                r={6}
                fill="var(--ground)"
                stroke="var(--ink)"
                strokeWidth={2}
              />
            ))}
      {plain
        ? null
        : plan.sections
            .slice(1)
            .map((s) => (
              <line key={s.id} x1={x(s.from)} x2={x(s.from)} y1={0} y2={height - 22} stroke="var(--ink)" strokeWidth={1} strokeDasharray="2 6" />
            ))}
    </>
  )
}
