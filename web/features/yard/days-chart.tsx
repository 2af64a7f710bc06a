'use client'

import { scaleLinear } from 'd3-scale'
import type { WallDays } from '@/server/programmes'
import { dayAfter, daysBetween, daysFrom, dayWords } from '@/ui/day-words'

const TOP = 30
const LEFT = 150
const ROW = 46
/** Further ahead than this nobody reads days one by one; the last one shown says so. */
const MOST = 150
/** A mark of a day: what it looks like, and what it is. */
const MARKS = { release: '◆', delivery: '▸', 'not-ordered': '▲' } as const
export const DAYS_KEY: readonly (readonly [string, string])[] = [
  ['▭ 1', 'a crew by its number'],
  ['╌', 'where it goes next'],
  ['▽', 'promised'],
  ['◆', 'release'],
  ['▸', 'delivery'],
  ['▲', 'not ordered yet'],
]

/**
 * Walls down, days across: when which crew is on which wall and where it goes next, promises, releases and deliveries. Every mark says itself to
 * a pointer; the table beside it says all of it in words.
 */
export function DaysChart({ walls, today, width }: { walls: readonly WallDays[]; today: string; width: number }) {
  const end = [today, ...walls.flatMap((w) => [w.finish, w.promised ?? ''])].sort().at(-1) ?? today
  const last = daysBetween(today, end) > MOST ? dayAfter(today, MOST) : end
  const days = daysFrom(today, last)
  const wide = Math.max(width, LEFT + days.length * 9)
  const x = scaleLinear([0, days.length], [LEFT, wide - 12])
  const at = (day: string, share = 0) => x(Math.max(0, Math.min(days.length, daysBetween(today, day) + share)))
  const y = (i: number) => TOP + i * ROW
  const height = TOP + walls.length * ROW + 10
  const dayWide = x(1) - x(0)
  const stays = walls
    .flatMap((w, row) => w.stays.map((s) => ({ ...s, row })))
    .filter((s) => s.from <= last)
    .sort((a, b) => (a.from < b.from ? -1 : a.from > b.from ? 1 : 0))
  const crews = Math.max(1, ...stays.map((s) => s.crew))
  const lane = Math.min(14, (ROW - 20) / crews)
  const mid = (s: { row: number; crew: number }) => y(s.row) + 5 + (s.crew - 0.5) * lane
  // Where each crew goes when it leaves the wall it is on: further moves are read from the bars.
  const moves = [...new Set(stays.map((s) => s.crew))].flatMap((crew) => {
    const own = stays.filter((s) => s.crew === crew)
    const i = own.findIndex((s, k) => own[k + 1] !== undefined && own[k + 1]?.row !== s.row)
    const [from, to] = [own[i], own[i + 1]]
    return from && to ? [{ from, to }] : []
  })
  const every = dayWide < 26 ? 7 : dayWide < 60 ? 2 : 1
  return (
    // Wider than a phone it is moved by keys as well.
    // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls
    <section aria-label="Days of all walls, drawn" tabIndex={0} style={{ overflowX: 'auto', minWidth: 0 }}>
      <svg
        width={wide}
        height={height}
        viewBox={`0 0 ${wide} ${height}`}
        role="img"
        aria-label="Walls down, days across"
        style={{ display: 'block' }}
      >
        {days.map((d, i) => {
          const weekday = new Date(`${d}T00:00:00Z`).getUTCDay()
          return (
            <g key={d}>
              {weekday === 0 || weekday === 6 ? <rect x={x(i)} y={TOP} width={dayWide} height={height - TOP - 10} fill="var(--faint)" /> : null}
              {(every === 7 ? weekday === 1 : i % every === 0) ? (
                <text x={x(i) + 2} y={TOP - 10} fontSize={14} fontFamily="Barlow Condensed" fill="var(--soft)">
                  {dayWords(d)}
                </text>
              ) : null}
            </g>
          )
        })}
        {walls.map((w, i) => (
          <g key={w.id}>
            <line x1={0} x2={wide} y1={y(i)} y2={y(i)} stroke="var(--line)" />
            <text x={2} y={y(i) + ROW / 2 + 5} fontSize={16} fontWeight={600} fontFamily="Barlow Condensed" fill="var(--ink)">
              {w.name.length > 20 ? `${w.name.slice(0, 19)}…` : w.name}
            </text>
            {w.promised && w.promised <= last ? (
              <text x={at(w.promised, 1)} y={y(i) + 16} textAnchor="middle" fontSize={17} fill="var(--ink)">
                ▽<title>{`${w.name}: promised for ${dayWords(w.promised)}${w.finish > w.promised ? `, done on ${dayWords(w.finish)}` : ''}`}</title>
              </text>
            ) : null}
            {w.next.map((n) => (
              <text key={`${n.day} ${n.text}`} x={at(n.day, 0.5)} y={y(i) + ROW - 4} textAnchor="middle" fontSize={13} fill="var(--ink)">
                {MARKS[n.is]}
                <title>{`${dayWords(n.day)}: ${n.text}`}</title>
              </text>
            ))}
          </g>
        ))}
        {moves.map(({ from, to }) => (
          <path
            key={`${from.crew} ${from.to} ${to.row} ${to.from}`}
            d={`M${at(from.to, 1)} ${mid(from)} C${at(from.to, 1) + 14} ${mid(from)} ${at(to.from) - 14} ${mid(to)} ${at(to.from)} ${mid(to)}`}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={2}
            strokeDasharray="4 3"
          />
        ))}
        {stays.map((s) => (
          <g key={`${s.row} ${s.crew} ${s.from}`}>
            <rect
              x={at(s.from)}
              y={mid(s) - lane / 2 + 1}
              width={Math.max(5, at(s.to, 1) - at(s.from))}
              height={lane - 2}
              fill="var(--panel)"
              stroke="var(--ink)"
              strokeWidth={1.5}
            >
              <title>{`Crew ${s.crew} on ${walls[s.row]?.name}: ${dayWords(s.from)} to ${dayWords(s.to)}`}</title>
            </rect>
            {lane >= 9 ? (
              <text
                x={at(s.from) + 4}
                y={mid(s) + 4}
                fontSize={13}
                fontWeight={600}
                fontFamily="Barlow Condensed"
                fill="var(--ink)"
                pointerEvents="none"
              >
                {s.crew}
              </text>
            ) : null}
          </g>
        ))}
        <line x1={at(today)} x2={at(today)} y1={TOP - 6} y2={height - 8} stroke="var(--now)" strokeWidth={2.5} />
      </svg>
      {last < end ? (
        <p>
          Drawn up to {dayWords(last)}; the last is done on {dayWords(end)}.
        </p>
      ) : null}
    </section>
  )
}
