'use client'

import { formatStation, type Layout, type Programme, type ProgrammeTask, type UnitSystem, type WallState } from '@stone-tally/core'
import { scaleLinear } from 'd3-scale'
import { dayAfter, daysBetween, daysFrom, dayWords } from '@/ui/day-words'

/** How a kind of work is drawn: weight and dash, never colour alone. */
const LINES: Readonly<Record<string, { width: number; dash?: string; name: string }>> = {
  dig: { width: 5, dash: '2 3', name: 'dig' },
  lifts: { width: 3, dash: '7 3', name: 'pad and fill' },
  first: { width: 6, name: 'first course' },
  units: { width: 3, name: 'courses' },
  picks: { width: 3, name: 'courses by machine' },
  stone: { width: 2, dash: '2 2', name: 'stone' },
  caps: { width: 6, dash: '8 2', name: 'caps' },
}
const TOP = 34
const LEFT = 78
const PAST = 7
/** Further ahead than this nobody reads days one by one; the last one shown says so. */
const MOST = 260

/** Stations across, days down: what was set in the days behind, and what comes where on which day. */
export function DistanceChart({
  programme,
  state,
  today,
  width,
  units,
  label,
}: {
  programme: Programme
  state: WallState
  today: string
  width: number
  units: UnitSystem
  label: string
}) {
  const { layout } = state
  const begin = dayAfter(today, -PAST)
  const last = daysBetween(begin, programme.finish) > MOST ? dayAfter(begin, MOST) : programme.finish
  const days = daysFrom(begin, last)
  const row = Math.max(9, Math.min(24, 620 / days.length))
  const height = TOP + days.length * row + 8
  const x = scaleLinear([0, layout.plan.length], [LEFT, width - 10])
  const y = (day: string, share = 0) => TOP + (daysBetween(begin, day) + share) * row
  const shown = programme.tasks.filter((t) => t.kind === 'work' && t.rate !== undefined && LINES[t.rate] && t.section !== undefined && t.to <= last)
  const every = Math.max(1, Math.ceil(16 / row))
  const lost = new Set(programme.lost.map((l) => l.day))
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={label}
      style={{ maxWidth: '100%', display: 'block' }}
    >
      {days.map((d, i) =>
        programme.calendar.works(d) || d < today ? null : (
          <rect key={d} x={LEFT} width={width - LEFT - 10} y={TOP + i * row} height={row} fill="var(--faint)" />
        ),
      )}
      {days.map((d, i) =>
        lost.has(d) ? (
          <g key={`lost ${d}`}>
            <rect x={LEFT} width={width - LEFT - 10} y={TOP + i * row} height={row} fill="var(--stop)" opacity={0.35} />
            <text x={width - 14} y={TOP + i * row + row * 0.75} textAnchor="end" fontSize={13} fontFamily="Barlow Condensed" fill="var(--ink)">
              ☂ lost
            </text>
          </g>
        ) : null,
      )}
      {days.map((d, i) =>
        i % every === 0 ? (
          <text
            key={d}
            x={LEFT - 8}
            y={TOP + i * row + row * 0.8}
            textAnchor="end"
            fontSize={13}
            fontFamily="Barlow Condensed"
            fill={d === today ? 'var(--now)' : 'var(--soft)'}
            fontWeight={d === today ? 700 : 500}
          >
            {d === today ? 'today' : dayWords(d)}
          </text>
        ) : null,
      )}
      {layout.plan.sections.map((s) => (
        <g key={s.id}>
          <line x1={x(s.from)} x2={x(s.from)} y1={TOP} y2={height} stroke="var(--line)" />
          <text x={(x(s.from) + x(s.to)) / 2} y={14} textAnchor="middle" fontSize={15} fontWeight={650} fill="var(--ink)">
            {s.id}
          </text>
          <text x={x(s.from)} y={29} fontSize={12} fontFamily="Barlow Condensed" fill="var(--soft)">
            {formatStation(s.from, units)}
          </text>
        </g>
      ))}
      <line x1={LEFT} x2={width - 10} y1={y(today)} y2={y(today)} stroke="var(--now)" strokeWidth={2} />
      <Past state={state} begin={begin} today={today} x={x} y={y} />
      {shown.map((t) => (
        <Leg key={t.id} t={t} layout={layout} programme={programme} x={x} y={y} />
      ))}
      {programme.tasks.flatMap((t) => (t.kind === 'release' && t.section ? [<Release key={t.id} t={t} layout={layout} x={x} y={y} />] : []))}
    </svg>
  )
}
type Across = (station: number) => number
type Down = (day: string, share?: number) => number

/** A task runs across its section while its days go by. */
function Leg({ t, layout, programme, x, y }: { t: ProgrammeTask; layout: Layout; programme: Programme; x: Across; y: Down }) {
  const own = layout.plan.sections.find((s) => s.id === t.section)
  const style = LINES[t.rate ?? '']
  if (!own || !style) return null
  const share = (hours: number) => programme.calendar.shareOf(hours)
  return (
    <line
      x1={x(own.from) + 2}
      x2={x(own.to) - 2}
      y1={y(t.from, programme.calendar.dayOf(t.start) === t.from ? share(t.start) : 0)}
      y2={y(t.to, share(t.finish))}
      stroke={t.critical ? 'var(--now)' : 'var(--ink)'}
      strokeWidth={style.width * (t.critical ? 1 : 0.8)}
      {...(style.dash ? { strokeDasharray: style.dash } : {})}
    >
      <title>{`${t.title}: ${dayWords(t.from)} to ${dayWords(t.to)}`}</title>
    </line>
  )
}
function Release({ t, layout, x, y }: { t: ProgrammeTask; layout: Layout; x: Across; y: Down }) {
  const own = layout.plan.sections.find((s) => s.id === t.section)
  if (!own) return null
  const [cx, cy] = [x(own.to) - 8, y(t.to, 0.5)]
  return (
    <path d={`M${cx - 5} ${cy}L${cx} ${cy - 5}L${cx + 5} ${cy}L${cx} ${cy + 5}Z`} fill="var(--stop)" stroke="var(--ink)">
      <title>{`${t.title}: by ${dayWords(t.to)}`}</title>
    </path>
  )
}

/** What was set in the last days, by the record. */
function Past({ state, begin, today, x, y }: { state: WallState; begin: string; today: string; x: Across; y: Down }) {
  const seen = new Map<string, { day: string; section: string; set: number }>()
  for (let i = state.entries.length - 1; i >= 0; i--) {
    const e = state.entries[i]?.entry
    if (!e || e.at.slice(0, 10) < begin) break
    if (e.kind !== 'units' && e.kind !== 'pick') continue
    const key = `${e.at.slice(0, 10)} ${e.where.section}`
    const known = seen.get(key)
    const set = e.kind === 'pick' ? 1 : ((e.data as { set: number }).set ?? 0)
    seen.set(key, { day: e.at.slice(0, 10), section: e.where.section ?? '', set: (known?.set ?? 0) + set })
  }
  return (
    <>
      {[...seen.values()].flatMap(({ day, section, set }) => {
        const own = state.layout.plan.sections.find((s) => s.id === section)
        if (!own || day > today) return []
        return [
          <g key={`${day} ${section}`}>
            <line x1={x(own.from) + 2} x2={x(own.to) - 2} y1={y(day, 0.5)} y2={y(day, 0.5)} stroke="var(--done)" strokeWidth={5} />
            <text
              x={(x(own.from) + x(own.to)) / 2}
              y={y(day, 0.5) - 4}
              textAnchor="middle"
              fontSize={12}
              fontFamily="Barlow Condensed"
              fill="var(--ink)"
            >
              {set} set
            </text>
          </g>,
        ]
      })}
    </>
  )
}
export const KEY_LINES = Object.values(LINES)
