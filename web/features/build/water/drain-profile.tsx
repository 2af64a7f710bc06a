'use client'

import { type DrainPlan, formatLength, type LaidPipe, type Layout, type UnitSystem } from '@stone-tally/core'
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { useId } from 'react'
import { HALO, LABEL, StationAxis, ValueAxis } from '@/ui/drawing/axis'
import { Hatches } from '@/ui/drawing/hatches'

const NO_PIPE = { fall: 0, outlets: [], diameter: 0 } as const

/** Long section of the drain: ground in front, pad, pipe with its fall, outlets, and what of it lies, is seen and is covered. Heights are drawn larger. */
export function DrainProfile({
  drain,
  layout,
  laid,
  proposed,
  width,
  height,
  units,
}: {
  drain: DrainPlan
  layout: Layout
  laid: readonly LaidPipe[]
  proposed: readonly { station: number; invert: number }[]
  width: number
  height: number
  units: UnitSystem
}) {
  const id = useId()
  const { points } = drain
  const { plan, building } = layout
  const { fall, outlets, diameter: d } = building.drain ?? NO_PIPE
  const [left, right, top, bottom] = [58, 16, 30, 34]
  const lows = points.map((p) => Math.min(p.padBottom, p.invert))
  const highs = points.map((p) => Math.max(p.toe, p.heel ?? p.toe))
  const [low, high] = [Math.min(...lows), Math.max(...highs)]
  const x = scaleLinear([0, plan.length], [left, width - right])
  const y = scaleLinear([low - 0.12, high + 0.18], [height - bottom, top])
  const times = Math.round(((y(low) - y(low + 1)) / (x(1) - x(0))) * 10) / 10
  const path = (pick: (p: (typeof points)[number]) => number) =>
    line<(typeof points)[number]>(
      (p) => x(p.station),
      (p) => y(pick(p)),
    )(points) ?? ''
  const over = drain.profile.ok ? drain.profile.value.violations : []
  const invert = (s: number) => Math.min(...outlets.map((o) => o.invert + fall * Math.abs(s - o.station)))
  const stretch = (from: number, to: number) => {
    const inside = points.filter((p) => p.station > from && p.station < to).map((p) => [x(p.station), y(p.invert + d / 2)] as const)
    return line()([[x(from), y(invert(from) + d / 2)], ...inside, [x(to), y(invert(to) + d / 2)]].map(([a, b]) => [a as number, b as number])) ?? ''
  }
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Drain profile: ${outlets.length} outlets, ${laid.length} stretches laid`}
      style={{ display: 'block', maxWidth: '100%', border: '1px solid var(--line)', background: 'var(--ground)' }}
    >
      <Hatches id={id} />
      <path d={`${path((p) => p.toe)}L${x(plan.length)} ${height - bottom}L${x(0)} ${height - bottom}Z`} fill={`url(#${id}-ground)`} opacity={0.6} />
      {layout.steps.map((s) => (
        <rect
          key={s.start}
          x={x(s.start)}
          width={x(s.end) - x(s.start)}
          y={y(s.elevation)}
          height={y(s.elevation - building.foundation.thickness) - y(s.elevation)}
          fill={`url(#${id}-pad)`}
          stroke="var(--ink)"
        />
      ))}
      <path d={path((p) => p.toe)} fill="none" stroke="var(--ink)" strokeWidth={2.4} />
      {drain.points[0]?.heel === undefined ? null : (
        <>
          <path d={path((p) => p.heel ?? 0)} fill="none" stroke="var(--ink)" strokeWidth={1.6} strokeDasharray="10 5" />
          <text
            x={x(points[Math.floor(points.length * 0.72)]?.station ?? 0)}
            y={y(points[Math.floor(points.length * 0.72)]?.heel ?? 0) - 8}
            {...LABEL}
            {...HALO}
          >
            heel drain
          </text>
        </>
      )}
      <path
        d={`${path((p) => p.invert)}${
          line<(typeof points)[number]>(
            (p) => x(p.station),
            (p) => y(p.invert + d),
          )([...points].reverse())?.replace('M', 'L') ?? ''
        }Z`}
        fill="var(--panel)"
        stroke="var(--ink)"
        strokeWidth={1.6}
      />
      {laid.map((l) => (
        <path
          key={l.entry.entry.id}
          d={stretch(l.data.from, l.data.to)}
          fill="none"
          stroke={l.open ? 'var(--stop)' : 'var(--ink)'}
          strokeOpacity={l.covered || l.open ? 1 : 0.55}
          strokeWidth={Math.max(4, (y(0) - y(d)) * 0.7)}
          strokeDasharray={l.seen || l.open ? '' : '3 3'}
        />
      ))}
      {over.length > 0 ? (
        <g>
          {over
            .filter((_, i) => i % Math.ceil(over.length / 12) === 0)
            .map((v) => (
              <path
                key={v.station}
                transform={`translate(${x(v.station)} ${y(invert(v.station)) - 12})`}
                d="M0 -9L9 7H-9Z"
                fill="var(--stop)"
                stroke="var(--ink)"
                strokeWidth={1.5}
              />
            ))}
        </g>
      ) : null}
      {(plan.water?.possible ?? []).map((o) => (
        <circle
          key={`p${o.station}`}
          cx={x(o.station)}
          cy={y(o.invert)}
          r={5}
          fill="var(--ground)"
          stroke="var(--soft)"
          strokeWidth={1.6}
          strokeDasharray="3 2"
        />
      ))}
      {proposed.map((o) => (
        <circle key={`n${o.station}`} cx={x(o.station)} cy={y(o.invert)} r={11} fill="none" stroke="var(--now)" strokeWidth={3} />
      ))}
      {outlets.map((o) => {
        const at = x(o.station)
        return (
          <g key={o.station}>
            <circle cx={at} cy={y(o.invert)} r={7} fill="var(--ground)" stroke="var(--ink)" strokeWidth={2.6} />
            <path d={`M${at} ${y(o.invert) + 7}v14m-4 -5l4 6l4 -6`} fill="none" stroke="var(--ink)" strokeWidth={1.8} />
            <text
              x={at}
              y={y(o.invert) + 36}
              textAnchor={at > width - 90 ? 'end' : at < left + 40 ? 'start' : 'middle'}
              {...LABEL}
              {...HALO}
              fontWeight={650}
            >
              outlet {formatLength(o.invert, units, 2)}
            </text>
          </g>
        )
      })}
      <ValueAxis y={y} x={left - 8} units={units} of="length" say={(t) => formatLength(t, units, 2)} />
      <text x={left + 4} y={18} {...LABEL} {...HALO}>
        Seen from the front · heights drawn {times} times larger · white: to lay, dashed: laid, grey: seen, black: covered
      </text>
      <StationAxis x={x} y={height - bottom + 4} units={units} />
    </svg>
  )
}
