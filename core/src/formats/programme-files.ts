import { live, type WallState } from '../record'
import { dayAfter, hiresOf, type Programme, plantTitle } from '../schedule'

/** A text of an iCalendar file: what would end it early is marked. */
const escaped = (text: string) =>
  text
    .replace(/\\/g, '\\\\')
    .replace(/[,;]/g, (c) => `\\${c}`)
    .replace(/\r?\n/g, '\\n')
/** Lines of at most 75 bytes, as the format has it. */
function folded(line: string): string {
  const out: string[] = []
  let now = ''
  let bytes = 0
  for (const c of line) {
    const size = new TextEncoder().encode(c).length
    if (bytes + size > (out.length === 0 ? 75 : 74)) {
      out.push(now)
      now = ''
      bytes = 0
    }
    now += c
    bytes += size
  }
  return [...out, now].join('\r\n ')
}

/**
 * Releases, expected deliveries, plant that comes and goes, and the last day, as an iCalendar file (RFC 5545): whole days, so that no time zone moves them.
 *
 * @example programmeIcs(state, programme, 'Kiosk terrace')
 */
export function programmeIcs(state: WallState, p: Programme, name: string): string {
  const day = (d: string) => d.replace(/-/g, '')
  const next = (d: string) => day(dayAfter(d, 1))
  const stamp = `${day((state.entries[state.entries.length - 1]?.entry.at ?? `${p.calendar.from}T00:00:00Z`).slice(0, 10))}T000000Z`
  const events: { id: string; on: string; title: string }[] = [
    ...p.tasks.flatMap((t) => (t.kind === 'release' ? [{ id: t.id, on: t.to, title: `${name}: ${t.title}` }] : [])),
    ...state.entries.flatMap((e) => {
      if (e.entry.kind !== 'ordered' || !live(state, e.entry.id)) return []
      const d = e.entry.data as { expected: string; name: string; supplier?: string }
      return [{ id: e.entry.id, on: d.expected, title: `${name}: ${d.name}${d.supplier ? ` from ${d.supplier}` : ''} expected` }]
    }),
    ...hiresOf(state).flatMap(({ entry, data: d }) => {
      const what = `${name}: ${d.count > 1 ? `${d.count} × ` : ''}${d.name ?? plantTitle(d.plant)}`
      const back = d.to === undefined ? [] : [{ id: `${entry.entry.id}-back`, on: d.to, title: `${what} goes back` }]
      return [{ id: entry.entry.id, on: d.from, title: `${what} comes` }, ...back]
    }),
    { id: 'done', on: p.finish, title: `${name}: done, if nothing is lost` },
  ]
  const wall = state.entries[0]?.entry.wall ?? name
  const lines = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Stone Tally//Days//EN',
    ...events.flatMap((e) => [
      'BEGIN:VEVENT',
      `UID:${escaped(`${e.id}@${wall}`)}`,
      `DTSTAMP:${stamp}`,
      `DTSTART;VALUE=DATE:${day(e.on)}`,
      `DTEND;VALUE=DATE:${next(e.on)}`,
      `SUMMARY:${escaped(e.title)}`,
      'TRANSP:TRANSPARENT',
      'END:VEVENT',
    ]),
    'END:VCALENDAR',
  ]
  return `${lines.map(folded).join('\r\n')}\r\n`
}
