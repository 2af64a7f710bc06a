'use client'

import type { Sheet } from './sheet'

/** Corners of the line, by name. */
export function Corners({ of: { layout, width, height, x, inView } }: { of: Sheet }) {
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
  return corners.map((c) => (
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
  ))
}
