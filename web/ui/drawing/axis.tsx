'use client'

import { FOOT, formatStation, INCH, type Measure, parseAmount, type UnitSystem } from '@stone-tally/core'
import { type ScaleLinear, scaleLinear } from 'd3-scale'

export const LABEL = { fill: 'var(--ink)', fontFamily: 'Barlow Condensed', fontSize: 14, fontWeight: 500 } as const
/** A rim of ground colour round words that lie on lines. */
export const HALO = { paintOrder: 'stroke', stroke: 'var(--ground)', strokeWidth: 4, strokeLinejoin: 'round' } as const

/** What a rule is divided by. */
const OF_A_RULE = [FOOT, FOOT / 2, FOOT / 4, INCH, INCH / 2, INCH / 4, INCH / 8, INCH / 16]

/**
 * Values of an axis that are round in the reader's own unit: feet, half and quarter feet, inches and their parts as a rule has them; so that what
 * stands at a tick is exactly where it is drawn.
 *
 * @param domain - in SI
 * @param count - about so many
 * @example roundTicks([0, 0.05], 5, 'small', 'imperial') // 0, 1/2", 1" … in m
 */
export function roundTicks(domain: readonly number[], count: number, measure: Measure, units: UnitSystem): number[] {
  const [from = 0, to = 1] = domain
  const one = parseAmount('1', measure, units)
  const inches = units === 'imperial' && (measure === 'length' || measure === 'small')
  const sizes = inches ? OF_A_RULE : [one.ok ? one.value : 1]
  for (const [i, size] of sizes.entries()) {
    const ticks = scaleLinear([from / size, to / size], [0, 1]).ticks(count)
    if (i === sizes.length - 1 || Math.abs((ticks[1] ?? Number.NaN) - (ticks[0] ?? 0)) >= 1) return ticks.map((t) => t * size)
  }
  return []
}

/** Round stations in the crew's own unit along the bottom of a drawing. */
export function StationAxis({ x, y, units }: { x: ScaleLinear<number, number>; y: number; units: UnitSystem }) {
  const [a = 0, b = 1] = x.range()
  return (
    <g>
      {roundTicks(x.domain(), Math.max(2, Math.floor((b - a) / 100)), 'length', units).map((t) => {
        const at = x(t)
        return (
          <g key={t} transform={`translate(${at} ${y})`}>
            <line y2={6} stroke="var(--ink)" />
            <text y={20} textAnchor={at < a + 20 ? 'start' : at > b - 30 ? 'end' : 'middle'} {...LABEL}>
              {formatStation(t, units)}
            </text>
          </g>
        )
      })}
    </g>
  )
}

/** Round values in the reader's own unit up the side of a drawing. */
export function ValueAxis({
  y,
  x,
  units,
  of,
  say,
  count = 5,
  grid,
}: {
  y: ScaleLinear<number, number>
  /** Where the words end. */
  x: number
  units: UnitSystem
  of: Measure
  say: (value: number) => string
  count?: number
  /** Faint lines across, from and to. */
  grid?: readonly [from: number, to: number]
}) {
  return (
    <g>
      {roundTicks(y.domain(), count, of, units).map((v) => (
        <g key={v}>
          {grid ? <line x1={grid[0]} x2={grid[1]} y1={y(v)} y2={y(v)} stroke="var(--faint)" /> : null}
          <text x={x} y={y(v) + 5} textAnchor="end" {...LABEL}>
            {say(v)}
          </text>
        </g>
      ))}
    </g>
  )
}
