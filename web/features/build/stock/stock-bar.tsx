import type { StockRow, UnitSystem } from '@stone-tally/core'
import { amountWords } from '@/ui/amounts'

/** How a material stands at a glance: of what is ordered by plan, how much came, how much of that is built in, what is spoiled. */
export function StockBar({ row, units, width = 220 }: { row: StockRow; units: UnitSystem; width?: number }) {
  const m = row.material
  const all = Math.max(m?.order ?? 0, row.delivered + row.in, row.left + row.placed * (m?.loose ?? 1), 1e-9)
  const at = (v: number) => Math.max(0, Math.min(1, v / all)) * (width - 2)
  const placed = row.placed * (m?.loose ?? 1)
  const say = (v: number) => amountWords(v, row.unit, units)
  const words = `${say(row.placed)} built in, ${say(row.left)} left, ${say(row.expected)} expected, of ${say(m?.order ?? 0)}`
  return (
    <svg width={width} height={22} viewBox={`0 0 ${width} 22`} role="img" aria-label={words} style={{ maxWidth: '100%' }}>
      <rect x={1} y={4} width={width - 2} height={14} fill="none" stroke="var(--line)" />
      <rect x={1} y={4} width={at(placed)} height={14} fill="var(--ink)" />
      <rect
        x={1 + at(placed)}
        y={4}
        width={at(Math.max(0, row.left))}
        height={14}
        fill="var(--set)"
        stroke="var(--ink)"
        strokeWidth={row.left > 0 ? 1 : 0}
      />
      <rect
        x={1 + at(placed) + at(Math.max(0, row.left))}
        y={4}
        width={at(row.expected)}
        height={14}
        fill="none"
        stroke="var(--ink)"
        strokeDasharray="3 2"
        strokeWidth={row.expected > 0 ? 1.5 : 0}
      />
      {m ? <line x1={1 + at(m.planned * m.loose)} x2={1 + at(m.planned * m.loose)} y1={0} y2={22} stroke="var(--now)" strokeWidth={2.5} /> : null}
    </svg>
  )
}
