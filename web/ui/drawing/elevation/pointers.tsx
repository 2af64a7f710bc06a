'use client'

import { formatStation, type UnitSystem } from '@stone-tally/core'
import { roundTicks } from '../axis'
import type { Sheet } from './sheet'

/** A place that is read along a step. */
export interface ReadingMark {
  readonly station: number
  readonly done: boolean
  readonly out: boolean
}

/** Places that are read: done, to do, out of tolerance. */
export const Readings = ({ of: { width, x }, list }: { of: Sheet; list: readonly ReadingMark[] | undefined }) =>
  list?.map((r) => {
    const at = Math.min(width - 5, Math.max(5, x(r.station)))
    return r.out ? (
      <path key={r.station} transform={`translate(${at} 14)`} d="M0 -8L8 6H-8Z" fill="var(--stop)" stroke="var(--ink)" strokeWidth={1.5} />
    ) : (
      <circle key={r.station} cx={at} cy={14} r={5.5} fill={r.done ? 'var(--ink)' : 'var(--ground)'} stroke="var(--ink)" strokeWidth={1.6} />
    )
  })

/** The station one looks at. */
export const Pointer = ({ of: { height, x, inView }, station }: { of: Sheet; station: number | undefined }) =>
  station !== undefined && inView(station, station) ? (
    <g>
      <line x1={x(station)} x2={x(station)} y1={22} y2={height - 20} stroke="var(--now)" strokeWidth={2} />
      <path d={`M${x(station)} 24l-6 -9h12z`} fill="var(--now)" />
    </g>
  ) : null

/** Stations along the foot of the drawing, in round numbers of the crew's own unit. */
export function Stations({ of: { width, height, from, to, x }, units }: { of: Sheet; units: UnitSystem }) {
  const ticks = roundTicks([from, to], Math.max(2, Math.floor(width / 110)), 'length', units)
  return (
    <>
      <rect y={height - 22} width={width} height={22} fill="var(--ground)" fillOpacity={0.88} />
      {ticks.map((t) => (
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
    </>
  )
}
