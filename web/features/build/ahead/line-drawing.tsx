'use client'

import {
  formatDeviation,
  formatStation,
  type GrowthColumn,
  type GrowthReport,
  type GrowthSense,
  type Layout,
  type UnitSystem,
} from '@stone-tally/core'
import { scaleLinear } from 'd3-scale'
import { area, line } from 'd3-shape'
import { HALO, LABEL, StationAxis } from '@/ui/drawing/axis'

/**
 * The wall with its deviations exaggerated: from the front for level, from above for the line (straightened along the face). Solid
 * are courses as read, dashed is the top as it is expected, grey the band in which it lies in nineteen cases of twenty.
 */
export function LineDrawing({
  report,
  layout,
  sense,
  from,
  to,
  width,
  height,
  units,
  station,
  onStation,
}: {
  report: GrowthReport
  layout: Layout
  sense: GrowthSense
  from: number
  to: number
  width: number
  height: number
  units: UnitSystem
  station: number | undefined
  onStation(station: number): void
}) {
  const { columns } = report
  const narrow = width < 700
  const [left, right, top, bottom] = [8, 8, narrow ? 44 : 26, 34]
  const x = scaleLinear([from, to], [left, width - right])
  const unit = layout.building.course(1).height
  const tops = columns.map((c) => c.growth.top)
  const high = Math.max(1, ...tops)
  const limit = columns[0]?.rule.limit ?? 0.006
  // Level: a course is as high as it is, and twice the limit fills most of one. Line: everything is deviation.
  const reach = Math.max(limit * 2.4, ...columns.map((c) => Math.abs(c.expected.deviation) + Math.min(c.expected.band, limit * 3)))
  const times = sense === 'level' ? Math.max(1, Math.round(((unit * 0.9) / (2 * limit)) * (high > 14 ? 1.6 : 1))) : 1
  const span = sense === 'level' ? [unit * (high + 1.1), -unit * 0.4] : [reach * 1.15, -reach * 1.15]
  const y = scaleLinear(span, [top, height - bottom])
  const across = Math.round((y(0) - y(1)) / (x(from + 1) - x(from)))
  const at = (course: number, deviation: number) => y(sense === 'level' ? unit * course + deviation * times : -deviation)
  const stroke = line<{ s: number; course: number; d: number }>(
    (p) => x(p.s),
    (p) => at(p.course, p.d),
  )
  const courses = [...new Set(columns.flatMap((c) => c.readings.map((r) => r.course)))].sort((a, b) => a - b)
  const newest = courses[courses.length - 1]
  const topLine = (pick: (c: GrowthColumn) => number) => columns.map((c) => ({ s: c.station, course: c.growth.top, d: pick(c) }))
  const band = area<GrowthColumn>(
    (c) => x(c.station),
    (c) => at(c.growth.top, c.expected.deviation + c.expected.band),
    (c) => at(c.growth.top, c.expected.deviation - c.expected.band),
  )
  const shade = (course: number) =>
    newest === undefined || newest === courses[0] ? 1 : 0.25 + (0.75 * (course - (courses[0] ?? 0))) / (newest - (courses[0] ?? 0))
  const worst = report.worst
  const words = worst
    ? `top at ${formatStation(worst.station, units)} expected ${formatDeviation(worst.expected.deviation, sense, units)}`
    : 'nothing read yet'
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`${sense === 'level' ? 'Elevation' : 'Plan'} with deviations exaggerated: ${words}`}
      style={{ display: 'block', maxWidth: '100%', border: '1px solid var(--line)', background: 'var(--ground)' }}
    >
      {/* What is allowed round the design of the top. */}
      <path
        d={
          area<GrowthColumn>(
            (c) => x(c.station),
            (c) => at(c.growth.top, c.rule.limit),
            (c) => at(c.growth.top, -c.rule.limit),
          )(columns as GrowthColumn[]) ?? ''
        }
        fill="var(--faint)"
      />
      <path d={band(columns as GrowthColumn[]) ?? ''} fill="var(--soft)" fillOpacity={0.25} />
      {sense === 'level'
        ? layout.courses
            .filter((c) => c.course <= high)
            .map((c) => (
              <path
                key={c.course}
                d={c.stretches.map((s) => `M${x(Math.max(from, s.from))} ${y(unit * c.course)}H${x(Math.min(to, s.to))}`).join('')}
                stroke="var(--line)"
                strokeWidth={0.8}
              />
            ))
        : null}
      {sense === 'line' ? (
        <line x1={left} x2={width - right} y1={y(0)} y2={y(0)} stroke="var(--ink)" strokeWidth={1} strokeDasharray="12 3 2 3" />
      ) : null}
      {[1, -1].map((side) => (
        <path
          key={side}
          d={stroke(topLine((c) => side * c.rule.limit)) ?? ''}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1}
          strokeDasharray="2 4"
        />
      ))}
      {courses.map((course) => (
        <path
          key={course}
          d={
            stroke(
              columns.flatMap((c) => {
                const r = c.readings.find((q) => q.course === course)
                return r ? [{ s: c.station, course, d: r.deviation }] : []
              }),
            ) ?? ''
          }
          fill="none"
          stroke="var(--ink)"
          strokeOpacity={sense === 'line' ? shade(course) : 1}
          strokeWidth={course === newest ? 2.6 : 1.3}
        />
      ))}
      <path d={stroke(topLine((c) => c.expected.deviation)) ?? ''} fill="none" stroke="var(--now)" strokeWidth={3} strokeDasharray="9 5" />
      {columns.map((c) => {
        const out = Math.abs(c.expected.deviation) > c.rule.limit
        const py = at(c.growth.top, c.expected.deviation)
        return out ? (
          <path
            key={c.station}
            transform={`translate(${x(c.station)} ${py})`}
            d="M0 -9L9 7H-9Z"
            fill="var(--stop)"
            stroke="var(--ink)"
            strokeWidth={1.5}
          />
        ) : (
          <circle key={c.station} cx={x(c.station)} cy={py} r={4.5} fill="var(--ground)" stroke="var(--now)" strokeWidth={2.4} />
        )
      })}
      {station !== undefined ? <line x1={x(station)} x2={x(station)} y1={top} y2={height - bottom} stroke="var(--now)" strokeWidth={2} /> : null}
      {columns.map((c) => (
        // biome-ignore lint/a11y/noStaticElementInteractions: the table below is the way by keyboard
        <rect
          key={`t${c.station}`}
          x={x(c.station) - 14}
          width={28}
          y={top}
          height={height - top - bottom}
          fill="transparent"
          style={{ cursor: 'pointer' }}
          onClick={() => onStation(c.station)}
        />
      ))}
      <text x={left + 2} y={16} {...LABEL} {...HALO}>
        {sense === 'level'
          ? `Seen from the front · deviations drawn ${times} times larger`
          : `Seen from above, straightened, front below · across drawn ${across} times larger`}
      </text>
      <text x={narrow ? left + 2 : width - right - 2} y={narrow ? 33 : 16} textAnchor={narrow ? 'start' : 'end'} {...LABEL} {...HALO}>
        dashed: expected top · grey: its band · dotted: limit
      </text>
      <StationAxis x={x} y={height - bottom + 4} units={units} />
    </svg>
  )
}
