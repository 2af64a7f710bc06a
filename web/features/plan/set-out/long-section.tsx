'use client'

import { capHeight, FOOT, formatLength, formatStation, invertAt, type UnitSystem } from '@stone-tally/core'
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { useId, useRef } from 'react'
import { HALO } from '@/ui/drawing/axis'
import { Hatches } from '@/ui/drawing/hatches'
import { setGrade } from './plan-view'
import type { Draft } from './use-draft'

/**
 * The wall along its length with elevations drawn larger than lengths: toe and top grade as points that are dragged up and
 * down, or focused and moved with the arrow keys.
 */
export function LongSection({
  draft,
  width,
  height,
  units,
  readOnly,
}: {
  draft: Draft
  width: number
  height: number
  units: UnitSystem
  readOnly: boolean
}) {
  const id = useId()
  const svg = useRef<SVGSVGElement>(null)
  const { layout, plan } = draft
  const [left, right, top, bottom] = [74, 16, 30, 26]
  const low = Math.min(...layout.steps.map((s) => s.elevation), ...plan.grades.map((g) => g.toe)) - layout.building.foundation.thickness - 0.1
  const high = Math.max(...layout.tops.map((s) => s.elevation + capHeight(layout.building)), ...plan.grades.map((g) => g.top)) + 0.1
  const x = scaleLinear([0, Math.max(plan.length, layout.plan.length)], [left, width - right])
  const y = scaleLinear([low, high], [height - bottom, top])
  const larger = (height - top - bottom) / (high - low) / ((width - left - right) / plan.length)
  const foot = units === 'metric' ? 1 : FOOT
  const grade = (which: 'toe' | 'top') => line()(plan.grades.map((g) => [x(g.station), y(g[which])])) ?? ''
  const drag = (i: number, which: 'toe' | 'top') => (down: React.PointerEvent<SVGCircleElement>) => {
    if (readOnly) return
    const circle = down.currentTarget
    const box = svg.current?.getBoundingClientRect()
    if (!box) return
    circle.setPointerCapture(down.pointerId)
    const move = (e: PointerEvent) => {
      const value = Math.round(y.invert(e.clientY - box.top) * 100) / 100
      draft.edit((p) => setGrade(p, i, { [which]: value }), `grade ${which} ${i}`)
    }
    const up = () => {
      circle.removeEventListener('pointermove', move)
      circle.removeEventListener('pointerup', up)
      circle.removeEventListener('pointercancel', up)
      draft.settle()
    }
    circle.addEventListener('pointermove', move)
    circle.addEventListener('pointerup', up)
    circle.addEventListener('pointercancel', up)
  }
  const onKey = (i: number, which: 'toe' | 'top') => (e: React.KeyboardEvent) => {
    const g = plan.grades[i]
    if (!g || readOnly) return
    const by = e.shiftKey ? 0.1 : e.altKey ? 0.001 : 0.01
    const inner = i > 0 && i < plan.grades.length - 1
    const to = (v: number) => Math.round(v * 1e4) / 1e4
    const change =
      e.key === 'ArrowUp'
        ? { [which]: to(g[which] + by) }
        : e.key === 'ArrowDown'
          ? { [which]: to(g[which] - by) }
          : inner && e.key === 'ArrowLeft'
            ? { station: to(g.station - by * 10) }
            : inner && e.key === 'ArrowRight'
              ? { station: to(g.station + by * 10) }
              : undefined
    if (!change) return
    e.preventDefault()
    draft.edit((p) => setGrade(p, i, change), `key ${which} ${i}`)
  }
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
    <svg
      ref={svg}
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="group"
      aria-label="Long section: grades, pad and top steps, drain"
      style={{ display: 'block', maxWidth: '100%', border: '1px solid var(--line)', background: 'var(--ground)', touchAction: 'none' }}
    >
      <Hatches id={id} />
      {scaleLinear([low / foot, high / foot], [0, 1])
        .ticks(5)
        .map((e) => e * foot)
        .map((e) => (
          <g key={e}>
            <line x1={left} x2={width - right} y1={y(e)} y2={y(e)} stroke="var(--faint)" />
            <text x={left - 16} y={y(e) + 4} textAnchor="end" fontFamily="Barlow Condensed" fontSize={14} fill="var(--ink)">
              {formatLength(e, units, 2)}
            </text>
          </g>
        ))}
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
      <path d={invert} fill="none" stroke="var(--ink)" strokeWidth={1.2} strokeDasharray="3 3" />
      {plan.openings?.map((o) => (
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
      <path d={grade('top')} fill="none" stroke="var(--ink)" strokeWidth={1.4} strokeDasharray="12 3 2 3" />
      <path d={grade('toe')} fill="none" stroke="var(--ink)" strokeWidth={2.4} />
      {plan.grades.flatMap((g, i) =>
        (['toe', 'top'] as const).map((which) => (
          <circle
            // biome-ignore lint/suspicious/noArrayIndexKey: a grade point is its place in the list
            key={`${which}${i}`}
            className="handle"
            cx={x(g.station)}
            cy={y(g[which])}
            r={8}
            fill="var(--ground)"
            stroke="var(--ink)"
            strokeWidth={2.2}
            tabIndex={0}
            role="button"
            aria-label={`${which === 'toe' ? 'Toe' : 'Top'} grade at ${formatLength(g.station, units, 2)}: ${formatLength(g[which], units)}`}
            onPointerDown={drag(i, which)}
            onKeyDown={onKey(i, which)}
          />
        )),
      )}
      {scaleLinear([0, plan.length / foot], [0, 1])
        .ticks(Math.max(2, Math.floor(width / 110)))
        .map((s) => s * foot)
        .map((s) => (
          <text key={s} x={x(s)} y={height - 8} textAnchor="middle" fontFamily="Barlow Condensed" fontSize={14} fill="var(--ink)">
            {formatStation(s, units)}
          </text>
        ))}
      <text x={left - 10} y={16} fontFamily="Barlow Condensed" fontSize={14} fill="var(--soft)" {...HALO}>
        elevations drawn {larger < 1.05 ? 'as long as lengths' : `${larger.toFixed(larger < 10 ? 1 : 0)} × larger`}
      </text>
    </svg>
  )
}
