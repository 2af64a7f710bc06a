'use client'

import { systemOf, type Unit } from '@stone-tally/core'

/** The face of a unit, all to one scale: a metre is a hundred pixels at most, larger ones are fitted. */
export function UnitFace({ unit, system }: { unit: Unit; system: string }) {
  const stone = systemOf(system)?.traits.face === 'stone'
  const length = unit.pattern?.length ?? unit.length
  const k = Math.min(110, 84 / length)
  const [w, h] = [length * k, unit.height * k]
  const cap = unit.capHeight * k
  return (
    <svg width={w + 4} height={h + cap + 4} aria-hidden style={{ display: 'block' }}>
      {unit.capHeight > 0 ? <rect x={2} y={2} width={w} height={cap} fill="var(--panel)" stroke="var(--ink)" strokeWidth={1} /> : null}
      {unit.pattern ? (
        unit.pattern.pieces.map((p) => (
          <rect
            key={`${p.x} ${p.y}`}
            x={2 + p.x * k}
            y={2 + cap + h - (p.y + p.height) * k}
            width={p.length * k}
            height={p.height * k}
            fill="var(--unit)"
            stroke="var(--ink)"
            strokeWidth={1}
          />
        ))
      ) : (
        <rect x={2} y={2 + cap} width={w} height={h} fill="var(--unit)" stroke="var(--ink)" strokeWidth={1.4} strokeDasharray={stone ? '3 2' : ''} />
      )}
      {stone
        ? Array.from({ length: Math.floor(w / 8) }, (_, i) => 7 + i * 8).map((x) => (
            <circle key={x} cx={x} cy={2 + cap + h / 2 + (x % 16 < 8 ? 5 : -5)} r={3} fill="none" stroke="var(--soft)" />
          ))
        : null}
    </svg>
  )
}
