'use client'

import { FOOT, formatStation, type UnitSystem } from '@stone-tally/core'
import type { ScaleLinear } from 'd3-scale'

export const LABEL = { fill: 'var(--ink)', fontFamily: 'Barlow Condensed', fontSize: 14, fontWeight: 500 } as const
/** A rim of ground colour round words that lie on lines. */
export const HALO = { paintOrder: 'stroke', stroke: 'var(--ground)', strokeWidth: 4, strokeLinejoin: 'round' } as const

/** Round stations in the crew's own unit along the bottom of a drawing. */
export function StationAxis({ x, y, units }: { x: ScaleLinear<number, number>; y: number; units: UnitSystem }) {
  const [from = 0, to = 1] = x.domain()
  const [a = 0, b = 1] = x.range()
  const foot = units === 'metric' ? 1 : FOOT
  const ticks = x
    .copy()
    .domain([from / foot, to / foot])
    .ticks(Math.max(2, Math.floor((b - a) / 100)))
  return (
    <g>
      {ticks.map((t) => {
        const at = x(t * foot)
        return (
          <g key={t} transform={`translate(${at} ${y})`}>
            <line y2={6} stroke="var(--ink)" />
            <text y={20} textAnchor={at < a + 20 ? 'start' : at > b - 30 ? 'end' : 'middle'} {...LABEL}>
              {formatStation(t * foot, units)}
            </text>
          </g>
        )
      })}
    </g>
  )
}
