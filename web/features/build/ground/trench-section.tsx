'use client'

import {
  type DigReport,
  digWords,
  formatLength,
  formatSide,
  formatSmall,
  formatStation,
  limitsOf,
  OBSTRUCTIONS,
  type ObstructionData,
  type Plan,
  toeAt,
  type UndercutData,
  type UnitSystem,
} from '@stone-tally/core'
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { useId } from 'react'
import { HALO, LABEL, StationAxis, ValueAxis } from '@/ui/drawing/axis'
import { Hatches } from '@/ui/drawing/hatches'

/**
 * The trench along the wall, elevations drawn larger than lengths: ground in front, bottom to dig to, pad to come, what was
 * read, what was in the way and where water gathers. Deviations are drawn twenty times larger again, or nobody would see them.
 */
export function TrenchSection({
  report,
  plan,
  from,
  to,
  station,
  onStation,
  undercuts,
  obstructions,
  wet,
  units,
  width,
  height,
}: {
  report: DigReport
  plan: Plan
  from: number
  to: number
  station: number
  onStation(s: number): void
  undercuts: readonly UndercutData[]
  obstructions: readonly ObstructionData[]
  /** Stations at which water was seen in the cut, m. */
  wet: readonly number[]
  units: UnitSystem
  width: number
  height: number
}) {
  const id = useId()
  const [left, right, top, bottom] = [66, 14, 36, 30]
  const steps = report.steps.filter((s) => s.step.end > from && s.step.start < to)
  const stations = [from, ...plan.grades.map((g) => g.station).filter((s) => s > from && s < to), to]
  const deep = Math.max(0, ...undercuts.map((u) => u.depth))
  const low = Math.min(...steps.map((s) => s.target)) - 0.12 - deep
  const high = Math.max(...stations.map((s) => toeAt(plan, s)), ...steps.map((s) => s.step.elevation)) + 0.1
  const x = scaleLinear([from, to], [left, width - right])
  const y = scaleLinear([low, high], [height - bottom, top])
  const clamp = (s: number) => Math.min(to, Math.max(from, s))
  const ground = stations.map((s) => [x(s), y(toeAt(plan, s))] as [number, number])
  const bottomLine = steps.flatMap((s) => [
    [x(clamp(s.step.start)), y(s.target)] as [number, number],
    [x(clamp(s.step.end)), y(s.target)] as [number, number],
  ])
  const EXAGGERATED = 20
  const perMetre = y(low) - y(low + 1)
  const reach = Math.min(26, height / 9)
  const lift = (d: number) => Math.max(-reach, Math.min(reach, d * perMetre * EXAGGERATED * 0.1))
  const limit = limitsOf(plan).excavation.value
  // On a phone a word for each thing, or they lie on one another.
  const narrow = width < 600
  // A short step has room for its number only; what stands in the way keeps the middle for itself.
  const label = (s: DigReport['steps'][number]) => {
    const [a, b] = [x(clamp(s.step.start)), x(clamp(s.step.end))]
    const words = `${s.order} · dig to ${formatLength(s.target, units)}`
    const room = b - a > words.length * 6.6
    const taken = obstructions.some((o) => o.from < s.step.end && o.to > s.step.start)
    return (
      <text
        x={room && !taken ? (a + b) / 2 : a + 5}
        y={y(s.step.elevation) - 7}
        textAnchor={room && !taken ? 'middle' : 'start'}
        {...LABEL}
        {...HALO}
      >
        {room ? words : s.order}
      </text>
    )
  }
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="group"
      aria-label={`Trench from ${formatStation(from, units)} to ${formatStation(to, units)}: ${steps.length} steps`}
      style={{
        display: 'block',
        maxWidth: '100%',
        border: '1px solid var(--line)',
        background: 'var(--ground)',
        cursor: 'crosshair',
        touchAction: 'pan-y',
      }}
      onPointerDown={(e) => {
        const box = e.currentTarget.getBoundingClientRect()
        onStation(clamp(x.invert(((e.clientX - box.left) / box.width) * width)))
      }}
    >
      <Hatches id={id} />
      <path d={`${line()([...ground, [x(to), height], [x(from), height]])}Z`} fill={`url(#${id}-ground)`} />
      <path d={`${line()([...ground, ...[...bottomLine].reverse()])}Z`} fill="var(--ground)" />
      {undercuts.map((u) => {
        const at = steps.find((s) => u.from < s.step.end && u.to > s.step.start)
        if (!at || u.to <= from || u.from >= to) return null
        return (
          <g key={`u${u.from} ${u.to} ${u.depth}`}>
            <rect
              x={x(clamp(u.from))}
              width={Math.max(2, x(clamp(u.to)) - x(clamp(u.from)))}
              y={y(at.target)}
              height={y(at.target - u.depth) - y(at.target)}
              fill={`url(#${id}-stone)`}
              stroke="var(--ink)"
              strokeDasharray="4 3"
            />
            <text x={(x(clamp(u.from)) + x(clamp(u.to))) / 2} y={y(at.target - u.depth) - 6} textAnchor="middle" {...LABEL} {...HALO}>
              {narrow ? '' : 'undercut '}
              {formatSmall(u.depth, units)}
            </text>
          </g>
        )
      })}
      {steps.map((s) => (
        <g key={s.step.start}>
          <rect
            x={x(clamp(s.step.start))}
            width={x(clamp(s.step.end)) - x(clamp(s.step.start))}
            y={y(s.step.elevation)}
            height={y(s.target) - y(s.step.elevation)}
            fill={`url(#${id}-pad)`}
            opacity={0.45}
          />
          {label(s)}
        </g>
      ))}
      <path d={line()(ground) ?? ''} fill="none" stroke="var(--ink)" strokeWidth={1.4} />
      <path d={line()(bottomLine) ?? ''} fill="none" stroke="var(--ink)" strokeWidth={2.6} />
      {obstructions
        .filter((o) => o.to >= from && o.from <= to)
        .map((o) => {
          const at = steps.find((s) => o.from <= s.step.end && o.to >= s.step.start)
          if (!at) return null
          const [a, b] = [x(clamp(o.from)), Math.max(x(clamp(o.to)), x(clamp(o.from)) + 16)]
          const [f, c] = [y(at.target), y(at.target + Math.max(0.04, o.above))]
          const w = b - a
          return (
            <g key={`o${o.what}${o.from}`}>
              <path
                d={`M${a} ${f}L${a + w * 0.12} ${c + (f - c) * 0.4}L${a + w * 0.4} ${c}L${a + w * 0.75} ${c + (f - c) * 0.15}L${b} ${f}Z`}
                fill="var(--set)"
                stroke="var(--ink)"
                strokeWidth={1.8}
              />
              <text x={(a + b) / 2} y={c - 7} textAnchor="middle" {...LABEL} {...HALO}>
                {OBSTRUCTIONS[o.what].toLowerCase()} {formatSide(o.above, ['above', 'below'], units)}
              </text>
            </g>
          )
        })}
      {steps.flatMap((s) =>
        s.points
          .filter((p) => p.station >= from - 0.01 && p.station <= to + 0.01)
          .map((p) => {
            const px = x(p.station)
            const py = y(s.target)
            if (p.deviation === undefined)
              return <circle key={`p${s.step.start} ${p.station}`} cx={px} cy={py} r={5} fill="var(--ground)" stroke="var(--ink)" strokeWidth={1.8} />
            const out = Math.abs(p.deviation) > limit + 1e-4
            const at = py - lift(p.deviation)
            return (
              <g key={`p${s.step.start} ${p.station}`}>
                <title>{`${formatStation(p.station, units)}: ${digWords(p.deviation, units, plan)}`}</title>
                <line x1={px} x2={px} y1={py} y2={at} stroke="var(--ink)" strokeWidth={2} />
                {out ? (
                  <path
                    d={
                      p.deviation > 0
                        ? `M${px - 8} ${at + 5}L${px} ${at - 9}L${px + 8} ${at + 5}Z`
                        : `M${px - 8} ${at - 5}L${px} ${at + 9}L${px + 8} ${at - 5}Z`
                    }
                    fill="var(--stop)"
                    stroke="var(--ink)"
                    strokeWidth={1.8}
                  />
                ) : (
                  <circle cx={px} cy={at} r={5} fill="var(--ink)" />
                )}
                {out ? (
                  <text x={px} y={p.deviation > 0 ? at - 13 : at + 24} textAnchor="middle" {...LABEL} fontWeight={600} {...HALO}>
                    {formatSmall(p.deviation, units)} {p.deviation > 0 ? 'high' : 'deep'}
                  </text>
                ) : null}
              </g>
            )
          }),
      )}
      {report.lowest.station >= from && report.lowest.station <= to ? (
        <g>
          <path d={`M${x(report.lowest.station) - 9} ${y(low) - 12}h18l-9 10Z`} fill="none" stroke="var(--ink)" strokeWidth={1.6} />
          <text
            x={x(report.lowest.station) + (x(report.lowest.station) > width - 200 ? -14 : 14)}
            y={y(low) - 3}
            textAnchor={x(report.lowest.station) > width - 200 ? 'end' : 'start'}
            {...LABEL}
            {...HALO}
          >
            {narrow ? 'water' : 'lowest: water gathers here'}
          </text>
        </g>
      ) : null}
      {wet
        .filter((s) => s >= from && s <= to)
        .map((s) => {
          const at = steps.find((k) => s >= k.step.start && s <= k.step.end)
          return at ? (
            <g key={`w${s}`}>
              <path d={`M${x(s) - 9} ${y(at.target) - 14}h18l-9 10Z`} fill="var(--ink)" />
              <text x={x(s) + 13} y={y(at.target) - 5} {...LABEL} {...HALO}>
                water
              </text>
            </g>
          ) : null
        })}
      <line x1={x(clamp(station))} x2={x(clamp(station))} y1={top - 14} y2={height - bottom} stroke="var(--now)" strokeWidth={2} />
      <path d={`M${x(clamp(station)) - 7} ${top - 22}h14l-7 10Z`} fill="var(--now)" />
      <ValueAxis y={y} x={left - 8} units={units} of="length" count={4} say={(e) => formatLength(e, units, 2)} />
      <StationAxis x={x} y={height - bottom + 4} units={units} />
    </svg>
  )
}
