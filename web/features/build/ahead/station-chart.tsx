'use client'

import {
  expectedAt,
  formatDeviation,
  formatSmall,
  formatStation,
  type GrowthColumn,
  type GrowthSense,
  smallUnit,
  type UnitSystem,
} from '@stone-tally/core'
import { scaleLinear } from 'd3-scale'
import { area, line } from 'd3-shape'
import { HALO, LABEL, ValueAxis } from '@/ui/drawing/axis'

/** One station: deviation course by course, the expected line with its band, the limit, and the course at which it is left. */
export function StationChart({
  column,
  sense,
  width,
  height,
  units,
}: {
  column: GrowthColumn
  sense: GrowthSense
  width: number
  height: number
  units: UnitSystem
}) {
  const { growth: g, rule } = column
  const [left, right, top, bottom] = [46, 14, 26, 40]
  const courses = Array.from({ length: Math.max(2, g.top) }, (_, i) => i + 1)
  const reach = Math.max(
    rule.limit * 1.8,
    ...column.readings.map((r) => Math.abs(r.deviation) * 1.15),
    Math.min(rule.limit * 5, Math.abs(column.expected.deviation) + column.expected.band) * 1.08,
  )
  const x = scaleLinear([0.5, Math.max(2, g.top) + 0.5], [left, width - right])
  const y = scaleLinear([reach, -reach], [top, height - bottom])
  const clip = (v: number) => Math.min(height - bottom, Math.max(top, v))
  const on = courses.filter((c) => c >= g.now)
  const mean = line<number>(
    (c) => x(c),
    (c) => clip(y(expectedAt(g, c).deviation)),
  )
  const band = area<number>(
    (c) => x(c),
    (c) => clip(y(expectedAt(g, c).deviation + expectedAt(g, c).band)),
    (c) => clip(y(expectedAt(g, c).deviation - expectedAt(g, c).band)),
  )
  const mm = (v: number) => `${v > 0 ? '+' : v < 0 ? '−' : ''}${formatSmall(v, units).replace(/ mm|"| ft/, '')}`
  const [up, down] = sense === 'level' ? ['high', 'low'] : ['out', 'in']
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Deviation by course at ${formatStation(column.station, units)}: ${column.readings.map((r) => `course ${r.course} ${formatDeviation(r.deviation, sense, units)}`).join(', ')}`}
      style={{ display: 'block', maxWidth: '100%', border: '1px solid var(--line)', background: 'var(--ground)' }}
    >
      <rect x={left} width={width - left - right} y={y(rule.limit)} height={y(-rule.limit) - y(rule.limit)} fill="var(--faint)" />
      <path d={band(on) ?? ''} fill="var(--soft)" fillOpacity={0.28} />
      <ValueAxis y={y} x={left - 6} units={units} of="small" say={mm} />
      <line x1={left} x2={width - right} y1={y(0)} y2={y(0)} stroke="var(--ink)" strokeWidth={1} />
      {[1, -1].map((s) => (
        <line key={s} x1={left} x2={width - right} y1={y(s * rule.limit)} y2={y(s * rule.limit)} stroke="var(--ink)" strokeDasharray="2 4" />
      ))}
      <path d={mean(on) ?? ''} fill="none" stroke="var(--now)" strokeWidth={3} strokeDasharray="9 5" />
      {column.readings.map((r) => (
        <circle key={r.course} cx={x(r.course)} cy={clip(y(r.deviation))} r={5} fill="var(--ink)" />
      ))}
      {g.leaves !== undefined ? (
        <g>
          <line x1={x(g.leaves)} x2={x(g.leaves)} y1={top} y2={height - bottom} stroke="var(--ink)" strokeWidth={1.6} />
          <text x={x(g.leaves) - 5} y={height - bottom - 8} textAnchor="end" {...LABEL} {...HALO} fontWeight={650}>
            ▲ leaves at course {g.leaves}
          </text>
        </g>
      ) : null}
      {courses
        .filter((c) => courses.length <= 20 || c % 5 === 0)
        .map((c) => (
          <text key={c} x={x(c)} y={height - bottom + 18} textAnchor="middle" {...LABEL}>
            {c}
          </text>
        ))}
      <text x={width - right} y={height - 6} textAnchor="end" {...LABEL}>
        course
      </text>
      <text x={6} y={16} {...LABEL}>
        {smallUnit(units)}, + {up}, − {down} · station {formatStation(column.station, units)}
      </text>
    </svg>
  )
}
