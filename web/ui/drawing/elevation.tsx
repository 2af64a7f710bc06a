'use client'

import {
  builtInDrawn,
  capHeight,
  formatMass,
  formatStation,
  gridOn,
  invertAt,
  type Layout,
  picksOf,
  stepAt,
  toeAt,
  topAt,
  type UnitSystem,
} from '@stone-tally/core'
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { useCallback, useId, useMemo, useRef } from 'react'
import { roundTicks } from './axis'
import { Canvas } from './canvas'
import { Hatches } from './hatches'
import { type CellLook, type Ink, type Painted, repaintUnits, UNIT_PIXELS } from './paint-units'

export type { CellLook } from './paint-units'

export interface ElevationProps {
  layout: Layout
  width: number
  height: number
  /** Stations shown, m. */
  from: number
  to: number
  units: UnitSystem
  look?(section: string, course: number): CellLook
  gridPlaced?(section: string, course: number): boolean
  now?: { section: string; course?: number | undefined } | undefined
  station?: number | undefined
  readings?: readonly { station: number; done: boolean; out: boolean }[] | undefined
  plain?: boolean
  /** One unit outlined: stations and elevations, m. */
  mark?: { from: number; to: number; bottom: number; top: number } | undefined
  /** Moved down by this, px. */
  down?: number
  label: string
}

/** A unit narrower than this has no room for its number, px. */
const NAME_PIXELS = 24

/**
 * The wall seen from the front, to scale: units, pad steps, grades, grid, pipe. Stations run left to right.
 */
export function Elevation({
  layout,
  width,
  height,
  from,
  to,
  units,
  look,
  gridPlaced,
  now,
  station,
  readings,
  plain,
  mark,
  down = 0,
  label,
}: ElevationProps) {
  const id = useId()
  const { plan } = layout
  const perMetre = width / (to - from)
  const low = Math.min(...layout.steps.map((s) => s.elevation)) - layout.building.foundation.thickness
  const high = Math.max(...layout.tops.map((s) => s.elevation)) + capHeight(layout.building)
  const x = scaleLinear([from, to], [0, width])
  const middle = (low + high) / 2
  const y = scaleLinear([middle - 1, middle + 1], [height / 2 + down + perMetre, height / 2 + down - perMetre])
  const inView = (a: number, b: number) => b >= from && a <= to
  const profile = (at: (s: number) => number) =>
    line()([from, ...plan.grades.map((g) => g.station).filter((s) => s > from && s < to), to].map((s) => [x(s), y(at(s))])) ?? ''
  const rect = (a: number, b: number, bottom: number, top: number) => `M${x(a)} ${y(bottom)}H${x(b)}V${y(top)}H${x(a)}Z`
  const rows = useMemo(() => new Map(layout.courses.map((c) => [c.course, c])), [layout])
  const view = { from, to, width, height, high: middle + (height / 2 + down) / perMetre, perMetre }
  const { high: edge } = view
  const shown = useRef<Painted>(undefined)
  const paint = useCallback(
    (g: CanvasRenderingContext2D, ink: Ink, fresh: boolean) => {
      const at = { from, to, width, height, high: edge, perMetre }
      shown.current = repaintUnits(g, layout, rows, at, ink, look, fresh ? undefined : shown.current).painted
    },
    [layout, rows, from, to, width, height, edge, perMetre, look],
  )
  // Where each layer lies follows from the plan alone.
  const layers = useMemo(
    () =>
      layout.courses.flatMap((row) => {
        const { over = [] } = gridOn(layout, row.course) ?? {}
        return over.length > 0
          ? [
              {
                course: row.course,
                top: row.top,
                parts: plan.sections.flatMap((sec) =>
                  over.flatMap((s) => {
                    const [a, b] = [Math.max(s.from, sec.from), Math.min(s.to, sec.to)]
                    return b > a ? [{ section: sec.id, from: a, to: b }] : []
                  }),
                ),
              },
            ]
          : []
      }),
    [layout, plan],
  )
  const close = layout.building.course(1).length * perMetre >= UNIT_PIXELS
  // On a long wall far away the courses are one surface; their outlines would only be noise.
  const outlines = layout.cells.size < 600 || close
  const following = plan.top?.style === 'cap-following'
  const capped = layout.caps.length > 0 && (following || ((layout.building.cap?.length ?? 0) * perMetre > 9 && layout.caps.length < 400))
  const capPath = (c: { start: number; to: number; elevation: number }) => {
    const under = (s: number) => (following ? topAt(plan, s) - capHeight(layout.building) : c.elevation)
    const t = capHeight(layout.building)
    return `M${x(c.start)} ${y(under(c.start))}L${x(c.to)} ${y(under(c.to))}V${y(under(c.to) + t)}L${x(c.start)} ${y(under(c.start) + t)}Z`
  }
  // Names of corners go left of their line at the edge of the drawing, and a row lower where one would lie on another.
  const taken: [number, number, number][] = []
  const corners = layout.legs
    .slice(1)
    .filter((leg) => inView(leg.from, leg.from))
    .map((leg) => {
      const words = `${leg.start === 'inside-corner' ? 'inside' : 'outside'} corner ${Math.round((leg.startTurn * 180) / Math.PI)}°`
      const at = x(leg.from)
      const wide = words.length * 6.4
      const left = at + wide > width
      const [a, b] = left ? [at - wide - 8, at] : [at, at + wide + 8]
      let row = 0
      while (taken.some((t) => t[2] === row && t[0] < b && t[1] > a)) row++
      taken.push([a, b, row])
      return { station: leg.from, at, left, row, words }
    })
  // Round numbers in the crew's own unit.
  const ticks = roundTicks([from, to], Math.max(2, Math.floor(width / 110)), 'length', units)
  return (
    <div style={{ position: 'relative', width, height, maxWidth: '100%', overflow: 'hidden' }}>
      <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} aria-hidden style={{ display: 'block', maxWidth: '100%' }}>
        <Hatches id={id} />
        <path d={`${profile((s) => toeAt(plan, s))}L${width} ${height}L0 ${height}Z`} fill={`url(#${id}-ground)`} opacity={0.6} />
        {layout.steps
          .filter((s) => inView(s.start, s.end))
          .map((s) => (
            <path
              key={s.start}
              d={rect(s.start, s.end, s.elevation - layout.building.foundation.thickness, s.elevation)}
              fill={`url(#${id}-${layout.building.foundation.cast ? 'concrete' : 'pad'})`}
              stroke="var(--ink)"
              strokeWidth={1}
            />
          ))}
        {layout.courses.flatMap((row) =>
          row.stretches
            .filter((s) => inView(s.from, s.to))
            .map((s) => (
              <path
                key={`${row.course} ${s.from}`}
                d={rect(s.from, s.to, row.bottom, row.top)}
                fill="var(--unit)"
                stroke="var(--line)"
                strokeWidth={0.7}
              />
            )),
        )}
      </svg>
      <Canvas width={width} height={height} draw={paint} />
      <svg
        width={width}
        height={height}
        viewBox={`0 0 ${width} ${height}`}
        role="img"
        aria-label={label}
        style={{ display: 'block', maxWidth: '100%', position: 'absolute', inset: 0 }}
      >
        {outlines
          ? [...layout.cells.values()].map((cell) => {
              const row = rows.get(cell.course)
              const isNow = now && now.section === cell.section && now.course === cell.course
              const seen = plain ? undefined : look?.(cell.section, cell.course)
              if (!row || (!isNow && !seen?.open)) return null
              return (
                <g key={`${cell.section}${cell.course}`}>
                  {isNow
                    ? cell.stretches.map((s) => (
                        <path key={s.from} d={rect(s.from, s.to, row.bottom, row.top)} fill="none" stroke="var(--now)" strokeWidth={3} />
                      ))
                    : null}
                  {seen?.open
                    ? cell.stretches.slice(0, 1).map((s) => (
                        <g key={s.from} transform={`translate(${Math.max(14, x(s.from) + 12)} ${y((row.bottom + row.top) / 2)})`}>
                          <path d="M0 -9L9 7H-9Z" fill="var(--stop)" stroke="var(--ink)" strokeWidth={1.5} />
                        </g>
                      ))
                    : null}
                </g>
              )
            })
          : null}
        {capped
          ? layout.caps
              .filter((c) => inView(c.start, c.to))
              .map((c) => (
                <path
                  key={`${c.start} ${c.elevation}`}
                  d={capPath(c)}
                  fill={c.kind === 'end' || c.kind === 'corner' ? 'var(--faint)' : 'var(--panel)'}
                  stroke="var(--ink)"
                  strokeWidth={plain ? 0.8 : 1.2}
                />
              ))
          : layout.tops
              .filter((s) => inView(s.start, s.end) && capHeight(layout.building) > 0)
              .map((s) => (
                <path
                  key={s.start}
                  d={rect(s.start, s.end, s.elevation, s.elevation + capHeight(layout.building))}
                  fill="var(--panel)"
                  stroke="var(--ink)"
                  strokeWidth={plain ? 0.8 : 1.2}
                />
              ))}
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
        {plain
          ? null
          : corners.map((c) => (
              <g key={c.station}>
                <line x1={c.at} x2={c.at} y1={18} y2={height - 22} stroke="var(--ink)" strokeWidth={1} strokeDasharray="10 3 2 3" />
                {c.row < 3 ? (
                  <text
                    x={c.left ? c.at - 4 : c.at + 4}
                    y={28 + c.row * 16}
                    textAnchor={c.left ? 'end' : 'start'}
                    fontFamily="Barlow Condensed"
                    fontSize={14}
                    fill="var(--ink)"
                  >
                    {c.words}
                  </text>
                ) : null}
              </g>
            ))}
        {layers.flatMap((l) =>
          [true, false].map((placed) => {
            const d = l.parts
              .filter((p) => inView(p.from, p.to) && (gridPlaced?.(p.section, l.course) ?? false) === placed)
              .map((p) => `M${x(p.from)} ${y(l.top)}H${x(p.to)}`)
              .join('')
            return d ? (
              <path
                key={`${l.course} ${placed}`}
                d={d}
                stroke="var(--ink)"
                strokeWidth={plain ? 1 : 2.6}
                strokeDasharray={placed ? '' : plain ? '3 3' : '7 5'}
              />
            ) : null
          }),
        )}
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
        {plain
          ? null
          : picksOf(layout)
              .filter((p) => inView(p.piece.start, p.piece.to) && (p.piece.to - p.piece.start) * perMetre > NAME_PIXELS)
              .map((p) => {
                const row = rows.get(p.course)
                if (!row) return null
                const tall = (row.top - row.bottom) * perMetre
                const mass = formatMass(p.mass, units)
                const truck = p.truck === undefined ? '' : `truck ${p.truck}`
                const wide = (p.piece.to - p.piece.start) * perMetre
                // Number alone where there is no room for more; mass and truck on one line before they take two.
                const lines =
                  tall >= 46
                    ? [p.name, mass, truck].filter(Boolean)
                    : tall >= 27 && wide >= 52
                      ? [p.name, `${mass}${p.truck ? ` T${p.truck}` : ''}`]
                      : [p.name]
                const pitch = tall >= 46 ? 14 : 12
                const at = y((row.top + row.bottom) / 2) - ((lines.length - 1) * pitch) / 2 + 4.5
                return (
                  <g key={p.name}>
                    {p.wrong.length > 0 ? (
                      <path d={rect(p.piece.start, p.piece.to, row.bottom, row.top)} fill="none" stroke="var(--stop)" strokeWidth={2.4} />
                    ) : null}
                    {lines.map((words, i) => (
                      <text
                        key={words}
                        x={x(p.station)}
                        y={at + i * pitch}
                        textAnchor="middle"
                        fontFamily="Barlow Condensed"
                        fontSize={tall >= 46 ? (i === 0 ? 15 : 13) : i === 0 ? 13 : 11}
                        fontWeight={i === 0 ? 600 : 500}
                        fill="var(--ink)"
                        stroke="var(--ground)"
                        strokeWidth={2.6}
                        paintOrder="stroke"
                      >
                        {words}
                      </text>
                    ))}
                  </g>
                )
              })}
        {mark ? (
          <path d={rect(mark.from, mark.to, mark.bottom, mark.top)} fill="var(--now)" fillOpacity={0.25} stroke="var(--now)" strokeWidth={3} />
        ) : null}
        {readings?.map((r) => {
          const at = Math.min(width - 5, Math.max(5, x(r.station)))
          return r.out ? (
            <path key={r.station} transform={`translate(${at} 14)`} d="M0 -8L8 6H-8Z" fill="var(--stop)" stroke="var(--ink)" strokeWidth={1.5} />
          ) : (
            <circle key={r.station} cx={at} cy={14} r={5.5} fill={r.done ? 'var(--ink)' : 'var(--ground)'} stroke="var(--ink)" strokeWidth={1.6} />
          )
        })}
        {station !== undefined && inView(station, station) ? (
          <g>
            <line x1={x(station)} x2={x(station)} y1={22} y2={height - 20} stroke="var(--now)" strokeWidth={2} />
            <path d={`M${x(station)} 24l-6 -9h12z`} fill="var(--now)" />
          </g>
        ) : null}
        {plain ? null : <rect y={height - 22} width={width} height={22} fill="var(--ground)" fillOpacity={0.88} />}
        {plain
          ? null
          : ticks.map((t) => (
              <g key={t} transform={`translate(${x(t)} ${height})`}>
                <line y1={-20} y2={-14} stroke="var(--ink)" />
                <text
                  y={-2}
                  textAnchor={x(t) < 20 ? 'start' : x(t) > width - 30 ? 'end' : 'middle'}
                  fill="var(--ink)"
                  fontFamily="Barlow Condensed"
                  fontSize={14}
                  fontWeight={500}
                >
                  {formatStation(t, units)}
                </text>
              </g>
            ))}
      </svg>
    </div>
  )
}
