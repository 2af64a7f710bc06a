'use client'

import { builtInDrawn, capHeight, formatLength, formatStation, type Layout, sectionAt, type UnitSystem } from '@stone-tally/core'
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { useId } from 'react'
import { counted } from '@/ui/sentence'
import { Hatches } from './hatches'

/** Bars along a footing as they lie in it, from its lower front corner; m. */
function barsOf({ building }: Layout): (readonly [number, number])[] {
  const { sizes, width } = building.foundation
  const { cover, bars = 0 } = sizes
  if (cover === undefined || bars < 1) return []
  const apart = bars > 1 ? (width - 2 * cover) / (bars - 1) : 0
  return Array.from({ length: bars }, (_, i) => [bars > 1 ? cover + i * apart : width / 2, cover] as const)
}

/** The wall cut at a station, to scale: cut lines heavy, seen light, hidden dashed. */
export function SectionDrawing({
  layout,
  station,
  width,
  height,
  units,
  set,
  placed,
}: {
  layout: Layout
  station: number
  width: number
  height: number
  units: UnitSystem
  set(course: number): boolean
  placed(course: number): boolean
}) {
  const id = useId()
  const s = sectionAt(layout, station)
  const first = layout.building.course(s.courses[0]?.course ?? 1)
  const cap = capHeight(layout.building)
  const reach = s.courses.flatMap((c) =>
    (layout.system.outline(layout.plan.system.data, c.course).lines ?? []).flatMap((l) => l.map(([px]) => c.x + px)),
  )
  const right = Math.max(...s.cut.map(([px]) => px), ...s.grid.map((g) => g.x + g.length), ...reach) + 0.2
  const left = s.pad.x - 0.7
  const low = s.pad.bottom - 0.25
  const high = Math.max(s.top, ...s.courses.map((c) => c.top + cap)) + 0.25
  const scale = Math.min((width - 8) / (right - left), (height - 34) / (high - low))
  const x = scaleLinear([left, left + 1], [4, 4 + scale])
  const y = scaleLinear([low, low + 1], [height - 30, height - 30 - scale])
  const poly = (points: readonly (readonly [number, number])[]) => `${line()(points.map(([a, b]) => [x(a), y(b)])) ?? ''}Z`
  const back = s.courses[0] ? s.courses[0].x + first.depth : 0
  const last = s.courses[s.courses.length - 1]
  const cutTop = s.cut[3] ?? [right, s.top]
  const stone = layout.building.stone?.width ?? 0
  const stoneShape: (readonly [number, number])[] = [
    [back, s.pad.top],
    [back + stone, s.pad.top],
    [(last?.x ?? 0) + first.depth + stone, last?.top ?? s.top],
    [(last?.x ?? 0) + first.depth, last?.top ?? s.top],
  ]
  const label = { fill: 'var(--ink)', fontFamily: 'Barlow Condensed', fontSize: 14, fontWeight: 500 }
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Section at ${formatStation(station, units)}: ${counted(s.courses.length, 'course')}, pad ${formatLength(s.pad.top, units)}`}
      style={{ maxWidth: '100%', display: 'block' }}
    >
      <Hatches id={id} />
      <path d={poly([[left, s.toe], ...s.cut, [right + 2, s.top], [right + 2, low - 1], [left, low - 1]])} fill={`url(#${id}-ground)`} />
      <path d={poly([[back + stone, s.pad.top], ...s.cut.slice(2), [(last?.x ?? 0) + first.depth + stone, s.top]])} fill={`url(#${id}-soil)`} />
      <path d={poly(stoneShape)} fill={`url(#${id}-stone)`} stroke="var(--line)" strokeWidth={0.8} />
      <path
        d={line()([[left, s.toe] as const, ...s.cut, [right + 2, s.top] as const].map(([a, b]) => [x(a), y(b)])) ?? ''}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.4}
      />
      <rect
        x={x(s.pad.x)}
        y={y(s.pad.top)}
        width={s.pad.width * scale}
        height={(s.pad.top - s.pad.bottom) * scale}
        fill={`url(#${id}-${layout.building.foundation.cast ? 'concrete' : 'pad'})`}
        stroke="var(--ink)"
        strokeWidth={2}
      />
      {barsOf(layout).map(([bx, by]) => (
        <circle key={bx} cx={x(s.pad.x + bx)} cy={y(s.pad.bottom + by)} r={2.6} fill="var(--ink)" />
      ))}
      {s.courses.map((c) => {
        const at = (points: readonly (readonly [number, number])[]) => poly(points.map(([px, py]) => [c.x + px, c.bottom + py]))
        const shape = layout.system.outline(layout.plan.system.data, c.course)
        const done = set(c.course)
        return (
          <g key={c.course}>
            <path
              d={at(shape.body)}
              fill={done ? 'var(--done)' : 'var(--unit)'}
              fillOpacity={done ? 0.35 : 1}
              stroke={done ? 'var(--ink)' : 'var(--soft)'}
              strokeWidth={done ? 2 : 1}
              strokeDasharray={done ? '' : '5 3'}
            />
            {shape.lines?.map((l) => (
              <path
                key={JSON.stringify(l)}
                d={line()(l.map(([px, py]) => [x(c.x + px), y(c.bottom + py)])) ?? ''}
                fill="none"
                stroke="var(--ink)"
                strokeWidth={done ? 2.2 : 1.2}
                strokeDasharray={done ? '' : '7 4'}
              />
            ))}
            {shape.core ? <path d={at(shape.core)} fill={`url(#${id}-stone)`} stroke="var(--soft)" strokeWidth={0.8} /> : null}
          </g>
        )
      })}
      {last && cap > 0 ? (
        <rect
          x={x(last.x)}
          y={y(last.top + cap)}
          width={layout.building.course(last.course).depth * scale}
          height={cap * scale}
          fill="var(--panel)"
          stroke="var(--ink)"
          strokeWidth={1.2}
        />
      ) : null}
      {s.grid.map((g) => (
        <g key={g.course}>
          <line
            x1={x(g.x + 0.04)}
            x2={x(g.x + g.length)}
            y1={y(g.elevation)}
            y2={y(g.elevation)}
            stroke="var(--ink)"
            strokeWidth={2.4}
            strokeDasharray={placed(g.course) ? '' : '7 4'}
          />
          <text x={x(g.x + g.length) + 4} y={y(g.elevation) + 4} {...label}>
            {formatLength(g.length, units, 2)}
          </text>
        </g>
      ))}
      {builtInDrawn(layout)
        .filter((d) => d.from <= station && d.to >= station && d.behind !== 0)
        .map((d) =>
          d.flat ? (
            <line
              key={d.item.name}
              x1={x(d.behind - Math.max(d.size, 0.2) / 2)}
              x2={x(d.behind + Math.max(d.size, 0.2) / 2)}
              y1={y(d.low)}
              y2={y(d.low)}
              stroke="var(--now)"
              strokeWidth={2.4}
              strokeDasharray="6 3"
            />
          ) : d.upright ? (
            <rect
              key={d.item.name}
              x={x(d.behind - d.size / 2)}
              y={y(d.high)}
              width={d.size * scale}
              height={(d.high - d.low) * scale}
              fill="var(--ground)"
              stroke="var(--ink)"
              strokeWidth={1.6}
            />
          ) : (
            <circle
              key={d.item.name}
              cx={x(d.behind)}
              cy={y((d.low + d.high) / 2)}
              r={Math.max(3, (d.size / 2) * scale)}
              fill="var(--now)"
              stroke="var(--ink)"
              strokeWidth={1.6}
            />
          ),
        )}
      {s.pipe ? (
        <circle cx={x(s.pipe.x)} cy={y(s.pipe.y)} r={Math.max(3, s.pipe.radius * scale)} fill="var(--ground)" stroke="var(--ink)" strokeWidth={1.8} />
      ) : null}
      <text x={x(left) + 2} y={y(s.toe) - 5} {...label}>
        {formatLength(s.toe, units, 2)}
      </text>
      <text x={Math.min(width - 4, x(cutTop[0]))} y={y(s.top) - 5} textAnchor="end" {...label}>
        {formatLength(s.top, units, 2)}
      </text>
      <text x={4} y={height - 8} {...label} fontSize={15}>
        {`Section at ${formatStation(station, units)} · pad ${formatLength(s.pad.top, units)}${s.pipe ? ` · pipe ${formatLength(s.pipe.y - s.pipe.radius, units)}` : ''}`}
      </text>
    </svg>
  )
}
