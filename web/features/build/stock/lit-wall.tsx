'use client'

import { cellKey, type Layout, type Lit, type StockBook } from '@stone-tally/core'
import { scaleLinear } from 'd3-scale'
import { useId } from 'react'
import styled from 'styled-components'

const Key = styled.p`display: flex; flex-wrap: wrap; gap: 4px 18px; font: 500 15px/1.3 'Barlow Condensed', sans-serif; color: var(--soft); svg { vertical-align: -2px; margin-right: 6px; }`

/** The wall by what is here: built, what can be built with what is on site, and where it stops. */
export function LitWall({ layout, book, lit, width, label }: { layout: Layout; book: StockBook; lit: readonly Lit[]; width: number; label: string }) {
  const id = useId()
  const low = Math.min(...layout.steps.map((s) => s.elevation))
  const high = Math.max(...layout.tops.map((s) => s.elevation))
  const height = Math.max(90, Math.min(240, ((high - low) / layout.plan.length) * width * 1.6))
  const x = scaleLinear([0, layout.plan.length], [1, width - 1])
  const y = scaleLinear([low, high], [height - 1, 1])
  const rows = new Map(layout.courses.map((c) => [c.course, c]))
  const open = new Map(lit.map((l) => [cellKey(l.section, l.course), l]))
  const first = lit.find((l) => !l.lit)
  const shown = [...layout.cells.values()]
  // Set through it stands, whatever of it is still to be filled.
  const built = (key: string) => open.get(key) === undefined || (book.set.get(key) ?? 0) >= (layout.cells.get(key)?.pieces.length ?? 0)
  const fillOf = (key: string) => (built(key) ? 'var(--set)' : open.get(key)?.lit ? `url(#${id}lit)` : 'var(--ground)')
  return (
    <figure style={{ margin: 0 }}>
      <svg
        width={width}
        height={height}
        viewBox={`0 0 ${width} ${height}`}
        role="img"
        aria-label={label}
        style={{ maxWidth: '100%', display: 'block' }}
      >
        <Hatch id={id} />
        {shown.flatMap((c) => {
          const row = rows.get(c.course)
          const key = cellKey(c.section, c.course)
          return row
            ? c.stretches.map((s) => (
                <rect
                  key={`${key} ${s.from}`}
                  x={x(s.from)}
                  width={Math.max(0, x(s.to) - x(s.from))}
                  y={y(row.top)}
                  height={Math.max(0, y(row.bottom) - y(row.top))}
                  fill={fillOf(key)}
                  stroke={first && cellKey(first.section, first.course) === key ? 'var(--now)' : 'var(--ink)'}
                  strokeWidth={first && cellKey(first.section, first.course) === key ? 3 : 0.75}
                  strokeDasharray={!built(key) && open.get(key)?.lit === false ? '3 3' : undefined}
                />
              ))
            : []
        })}
        {layout.plan.sections.slice(1).map((s) => (
          <line key={s.id} x1={x(s.from)} x2={x(s.from)} y1={0} y2={height} stroke="var(--ink)" strokeWidth={2} />
        ))}
      </svg>
      <Key aria-hidden>
        <Swatch id={id} fill="var(--set)" words="built" />
        <Swatch id={id} fill={`url(#${id}lit)`} words="can be built with what is here" />
        <Swatch id={id} fill="var(--ground)" dashed words="not with what is here" />
      </Key>
      <p className="unseen" style={{ position: 'absolute', clipPath: 'inset(50%)', width: 1, height: 1, overflow: 'hidden' }}>
        {[...book.set.values()].reduce((a, b) => a + b, 0)} pieces are set; {lit.filter((l) => l.lit).length} more courses can be built with what is
        here.
      </p>
    </figure>
  )
}
const Hatch = ({ id }: { id: string }) => (
  <defs>
    <pattern id={`${id}lit`} width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <rect width="6" height="6" fill="var(--panel)" />
      <line x1="0" y1="0" x2="0" y2="6" stroke="var(--now)" strokeWidth="2.5" />
    </pattern>
  </defs>
)
const Swatch = ({ id, fill, dashed, words }: { id: string; fill: string; dashed?: boolean; words: string }) => (
  <span>
    <svg width="22" height="14">
      <Hatch id={`${id}k`} />
      <rect x="1" y="1" width="20" height="12" fill={fill} stroke="var(--ink)" {...(dashed ? { strokeDasharray: '3 3' } : {})} />
    </svg>
    {words}
  </span>
)
