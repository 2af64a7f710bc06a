'use client'

import { formatLength, parseAmount, type UnitSystem } from '@stone-tally/core'
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { HALO, LABEL } from '@/ui/drawing/axis'
import type { Draft } from './draft-fields'

/**
 * Grades as far as they can be read, for a wall that cannot be laid out yet: the places where it cannot be built carry a mark and its words.
 * Nothing where not even two stations can be read.
 */
export function RoughSection({ grades, units, width }: { grades: Draft['grades']; units: UnitSystem; width: number }) {
  const read = (t: string) => {
    const made = parseAmount(t, 'length', units)
    return made.ok ? made.value : undefined
  }
  const all = grades.map((g) => ({ station: read(g.station), toe: read(g.toe), top: read(g.top) }))
  const points = all.flatMap(({ station, toe, top }) =>
    station !== undefined && toe !== undefined && top !== undefined ? [{ station, toe, top }] : [],
  )
  if (points.length < 2) return null
  const height = 200
  const levels = points.flatMap((p) => [p.toe, p.top])
  const x = scaleLinear([Math.min(...points.map((p) => p.station)), Math.max(...points.map((p) => p.station))], [54, width - 24])
  const y = scaleLinear([Math.min(...levels) - 0.2, Math.max(...levels) + 0.2], [height - 24, 24])
  const path = (of: 'toe' | 'top') =>
    line<(typeof points)[number]>(
      (p) => x(p.station),
      (p) => y(p[of]),
    )(points) ?? ''
  const wrong = points.flatMap((p, i) => {
    const before = points[i - 1]
    if (p.top <= p.toe) return [{ ...p, why: 'top not above toe' }]
    return before && p.station <= before.station ? [{ ...p, why: 'out of order' }] : []
  })
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label="Grades as far as they can be read"
      style={{ maxWidth: '100%', border: '1px solid var(--line)' }}
    >
      <path d={path('top')} fill="none" stroke="var(--ink)" strokeWidth={1.4} strokeDasharray="12 3 2 3" />
      <path d={path('toe')} fill="none" stroke="var(--ink)" strokeWidth={2.4} />
      {wrong.map((p) => (
        <g key={`${p.station} ${p.why}`}>
          <path d={`M${x(p.station)} ${y(p.toe)}V${y(p.top)}`} stroke="var(--stop)" strokeWidth={3} />
          <text {...LABEL} {...HALO} x={x(p.station)} y={y(Math.max(p.top, p.toe)) - 8} textAnchor="middle" fontWeight={600}>
            ▲ {formatLength(p.station, units, 2)}: {p.why}
          </text>
        </g>
      ))}
    </svg>
  )
}
