'use client'

import { hiresOf, live, type Programme, plantTitle, stockBook, trucksOf, type WallState } from '@stone-tally/core'
import styled from 'styled-components'
import { dayAfter, daysBetween, daysFrom, dayWords } from '@/ui/day-words'

const Grid = styled.ol`
  list-style: none; margin: 0; padding: 0; display: grid; grid-template-columns: repeat(7, minmax(0, 1fr)); border-top: 2px solid var(--ink); border-left: 1px solid var(--line);
  li { border-right: 1px solid var(--line); border-bottom: 1px solid var(--line); min-height: 84px; padding: 4px 6px; font-size: 14px; display: grid; gap: 2px; align-content: start; }
  li[data-off] { background: var(--faint); color: var(--soft); } li[data-today] { box-shadow: inset 0 0 0 3px var(--now); }
  b { font: 600 14px/1.2 'Barlow Condensed', sans-serif; }
  @media (max-width: 640px) { grid-template-columns: minmax(0, 1fr); li { min-height: 0; } li[data-off]:not([data-some]) { display: none; } }
`
/** Whatever a day has: work, a delivery, a release, weather. */
interface Mark {
  readonly day: string
  readonly text: string
}

function marksOf(state: WallState, programme: Programme): Mark[] {
  const marks: Mark[] = []
  const work = new Map<string, Set<string>>()
  for (const t of programme.tasks) {
    if (t.kind === 'release' && t.hours > 0) marks.push({ day: t.to, text: `⬣ ${t.step?.stage.title ?? t.title}${t.section ? ` ${t.section}` : ''}` })
    if (t.kind !== 'work') continue
    for (const d of daysFrom(t.from, t.to)) {
      if (!programme.calendar.works(d)) continue
      const set = work.get(d) ?? new Set<string>()
      set.add(t.step ? (t.section ? `${t.section}${t.step.course ? ` c${t.step.course}` : ''}` : t.step.stage.title) : t.title)
      work.set(d, set)
    }
  }
  const book = stockBook(state)
  for (const t of trucksOf(state.layout, programme, (cell) => book.set.get(cell) ?? 0))
    marks.push({ day: t.day ?? '', text: `▸ truck ${t.truck}: ${t.units} units` })
  for (const l of programme.lost) marks.push({ day: l.day, text: '☂ lost by what is expected' })
  for (const { data: d } of hiresOf(state)) {
    marks.push({ day: d.from, text: `▸ ${d.name ?? plantTitle(d.plant)} comes` })
    if (d.to !== undefined) marks.push({ day: d.to, text: `◂ ${d.name ?? plantTitle(d.plant)} goes back` })
  }
  for (const e of state.entries) {
    if (!live(state, e.entry.id)) continue
    const d = e.entry.data as { expected?: unknown; name?: string; rain?: number; low?: number }
    if (e.entry.kind === 'ordered' && typeof d.expected === 'string') marks.push({ day: d.expected, text: `▸ ${d.name} expected` })
    if (e.entry.kind === 'delivery') marks.push({ day: e.entry.at.slice(0, 10), text: `▪ ${d.name} came` })
    if (e.entry.kind === 'weather' && (d.rain ?? 0) > 5) marks.push({ day: e.entry.at.slice(0, 10), text: '☂ rain' })
  }
  return [
    ...[...work].map(([day, what]) => ({ day, text: [...what].slice(0, 4).join(', ') + (what.size > 4 ? ` +${what.size - 4}` : '') })),
    ...marks,
  ]
}

/** Weeks, Monday to Sunday, from this one to the last: work by section and course, releases, deliveries, weather. */
export function Month({ state, programme, today }: { state: WallState; programme: Programme; today: string }) {
  const monday = dayAfter(today, -((new Date(`${today}T00:00:00Z`).getUTCDay() + 6) % 7))
  const weeks = Math.min(26, Math.ceil((daysBetween(monday, programme.finish) + 1) / 7))
  const days = daysFrom(monday, dayAfter(monday, weeks * 7 - 1))
  const marks = marksOf(state, programme)
  return (
    <Grid aria-label="Calendar">
      {days.map((d) => {
        const own = marks.filter((m, i) => m.day === d && marks.findIndex((o) => o.day === d && o.text === m.text) === i)
        return (
          <li
            key={d}
            data-off={programme.calendar.works(d) ? undefined : true}
            data-today={d === today || undefined}
            data-some={own.length > 0 || undefined}
          >
            <b>
              {dayWords(d)}
              {d === programme.finish ? ' · done' : ''}
            </b>
            {own.slice(0, 5).map((m) => (
              <span key={m.text}>{m.text}</span>
            ))}
          </li>
        )
      })}
    </Grid>
  )
}
