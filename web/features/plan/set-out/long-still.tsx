'use client'

import { capHeight, formatLength, invertAt, type Layout, type Plan, type UnitSystem } from '@stone-tally/core'
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { memo } from 'react'
import { HALO, StationAxis, ValueAxis } from '@/ui/drawing/axis'
import { Hatches } from '@/ui/drawing/hatches'

const [LEFT, RIGHT, TOP, BOTTOM] = [74, 16, 30, 26]

/** What a long section is drawn to: stations and elevations, m; its own size, px. */
export interface LongScale {
  readonly long: number
  readonly length: number
  readonly low: number
  readonly high: number
  readonly width: number
  readonly height: number
}
/** Stations and elevations to pixels. @example scalesOf(scale).x(12) */
export const scalesOf = ({ long, low, high, width, height }: LongScale) => ({
  x: scaleLinear([0, long], [LEFT, width - RIGHT]),
  y: scaleLinear([low, high], [height - BOTTOM, TOP]),
})

/** What stands still on a long section while something is moved on it: axes, pad, tops, drain, layers, openings, the wall of before. */
export const LongStill = memo(function LongStill({
  id,
  layout,
  openings,
  before,
  units,
  scale,
}: {
  id: string
  layout: Layout
  openings: Plan['openings']
  before: Layout | undefined
  units: UnitSystem
  scale: LongScale
}) {
  const { low, high, width, height, length } = scale
  const { x, y } = scalesOf(scale)
  const larger = (height - TOP - BOTTOM) / (high - low) / ((width - LEFT - RIGHT) / length)
  const invert =
    line()(
      x
        .ticks(60)
        .filter((s) => s <= layout.plan.length)
        .flatMap((s) => {
          const invert = invertAt(layout, s)
          return invert === undefined ? [] : [[x(s), y(invert)] as [number, number]]
        }),
    ) ?? ''
  return (
    <>
      <Hatches id={id} />
      <ValueAxis y={y} x={LEFT - 16} units={units} of="length" say={(e) => formatLength(e, units, 2)} grid={[LEFT, width - RIGHT]} />
      {layout.steps.map((s) => (
        <rect
          key={`p${s.start}`}
          x={x(s.start)}
          y={y(s.elevation)}
          width={x(s.end) - x(s.start)}
          height={y(s.elevation - layout.building.foundation.thickness) - y(s.elevation)}
          fill={`url(#${id}-pad)`}
          stroke="var(--ink)"
          strokeWidth={1}
        />
      ))}
      {layout.tops.map((s) => (
        <path
          key={`t${s.start}`}
          d={`M${x(s.start)} ${y(s.elevation + capHeight(layout.building))}H${x(s.end)}`}
          stroke="var(--ink)"
          strokeWidth={2.2}
        />
      ))}
      {layout.steps.map((s, i) => {
        const next = layout.steps[i + 1]
        return next ? (
          <path key={`r${s.end}`} d={`M${x(s.end)} ${y(s.elevation)}V${y(next.elevation)}`} stroke="var(--ink)" strokeWidth={1.4} />
        ) : null
      })}
      {before ? (
        <g fill="none" stroke="var(--soft)" strokeWidth={1.4} strokeDasharray="1 4">
          {(['toe', 'top'] as const).map((of) => (
            <path key={of} d={line()(before.plan.grades.map((g) => [x(g.station), y(g[of])])) ?? ''} />
          ))}
          {before.steps.map((s) => (
            <path key={s.start} d={`M${x(s.start)} ${y(s.elevation)}H${x(s.end)}`} />
          ))}
        </g>
      ) : null}
      <path d={invert} fill="none" stroke="var(--ink)" strokeWidth={1.2} strokeDasharray="3 3" />
      {openings?.map((o) => (
        <rect
          key={o.name}
          x={x(o.station - o.width / 2)}
          width={Math.max(3, x(o.width) - x(0))}
          y={y(o.bottom + o.height)}
          height={y(o.bottom) - y(o.bottom + o.height)}
          fill="var(--ground)"
          stroke="var(--ink)"
          strokeWidth={1.6}
        />
      ))}
      {layout.building.layers.map((l) => {
        const on = layout.courses.find((c) => c.course === l.course)
        return on ? (
          <path key={l.course} d={`M${LEFT} ${y(on.top)}H${width - RIGHT}`} stroke="var(--ink)" strokeWidth={1} strokeDasharray="2 5" />
        ) : null
      })}
      <StationAxis x={x} y={height - BOTTOM} units={units} />
      <text x={LEFT - 10} y={16} fontFamily="Barlow Condensed" fontSize={14} fill="var(--soft)" {...HALO}>
        elevations drawn {larger < 1.05 ? 'as long as lengths' : `${larger.toFixed(larger < 10 ? 1 : 0)} × larger`}
      </text>
    </>
  )
})
