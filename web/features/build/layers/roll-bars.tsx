'use client'

import { formatLength, type RollCutting, type UnitSystem } from '@stone-tally/core'
import { scaleLinear } from 'd3-scale'
import { LABEL } from '@/ui/drawing/axis'
import { counted } from '@/ui/sentence'

/** Rolls as bars with the strips cut from each; rolls cut alike stand once with their number. */
export function RollBars({ cutting, width, units }: { cutting: RollCutting; width: number; units: UnitSystem }) {
  const { roll } = cutting
  const alike = new Map<string, { strips: readonly number[]; count: number }>()
  for (const strips of cutting.cutting.rolls) {
    const key = strips.join(' ')
    const known = alike.get(key)
    if (known) known.count++
    else alike.set(key, { strips, count: 1 })
  }
  const rows = [...alike.values()].slice(0, 12)
  const x = scaleLinear([0, roll.length], [44, width - 92])
  const height = rows.length * 34 + 4
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`${counted(cutting.cutting.rolls.length, 'roll')} of ${roll.type}, ${formatLength(cutting.cutting.waste, units, 1)} left over`}
      style={{ display: 'block', maxWidth: '100%' }}
    >
      {rows.map((row, i) => {
        const used = row.strips.reduce((s, l) => s + l, 0)
        let at = 0
        return (
          <g key={`${row.strips.join(' ')} ${row.count}`} transform={`translate(0 ${i * 34 + 2})`}>
            <text x={38} y={19} textAnchor="end" {...LABEL} fontWeight={650}>
              {row.count} ×
            </text>
            <rect x={x(0)} width={x(roll.length) - x(0)} height={26} fill="none" stroke="var(--line)" />
            {row.strips.map((length, k) => {
              const from = at
              at += length
              return (
                // biome-ignore lint/suspicious/noArrayIndexKey: strips have no identity but their place on the roll
                <g key={k}>
                  <rect x={x(from)} width={x(at) - x(from)} height={26} fill="var(--unit)" stroke="var(--ink)" strokeWidth={1.2} />
                  {x(at) - x(from) > 30 ? (
                    <text x={(x(from) + x(at)) / 2} y={18} textAnchor="middle" {...LABEL}>
                      {formatLength(length, units, 1).replace(' m', '')}
                    </text>
                  ) : null}
                </g>
              )
            })}
            <text x={x(roll.length) + 6} y={18} {...LABEL}>
              {formatLength(roll.length - used, units, 1)} left
            </text>
          </g>
        )
      })}
    </svg>
  )
}
