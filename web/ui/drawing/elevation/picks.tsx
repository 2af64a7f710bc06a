'use client'

import { type Course, formatMass, picksOf, type UnitSystem } from '@stone-tally/core'
import type { Sheet } from './sheet'

/** A unit narrower than this has no room for its number, px. */
const NAME_PIXELS = 24

/** What a machine sets, by number, mass and truck. */
export function Picks({
  of: { layout, perMetre, x, y, rect, inView },
  rows,
  units,
}: {
  of: Sheet
  rows: ReadonlyMap<number, Course>
  units: UnitSystem
}) {
  return picksOf(layout)
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
        tall >= 46 ? [p.name, mass, truck].filter(Boolean) : tall >= 27 && wide >= 52 ? [p.name, `${mass}${p.truck ? ` T${p.truck}` : ''}`] : [p.name]
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
    })
}
