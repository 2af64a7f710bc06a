import { daysOff, fold, orderList, orderSheet, programmeIcs, programmeOf, sheetCsv, stockBook, taskSheet } from '@stone-tally/core'
import Papa from 'papaparse'
import { entry, layoutOf, recorded, smallPlan } from './plans'

const TODAY = '2026-05-18'
const stone = { item: 'stone', name: 'Drainage stone', unit: 'm³' }
const state = fold(
  [layoutOf(smallPlan)],
  recorded([
    entry('supply', {}, { ...stone, supplier: '=cmd|quarry', lead: 2, pack: 2, packName: 'lorry', reserve: 0, price: 40 }, { role: 'foreman' }),
    entry('ordered', {}, { ...stone, amount: 2, supplier: 'Pit; Sand, and\nGravel', expected: '2026-05-20' }),
  ]),
)
const programme = programmeOf(state, TODAY)
const rows = (csv: string) => Papa.parse<Record<string, string>>(csv, { header: true }).data

test('tasks as a table: what each waits for is named, by ids that are there, and hours add up', () => {
  const list = rows(sheetCsv(taskSheet(state, programme)))
  expect(list).toHaveLength(programme.tasks.length)
  const ids = new Set(list.map((r) => r.id))
  for (const r of list) {
    for (const a of (r.after ?? '').split(' ; ').filter(Boolean)) expect(ids).toContain(a.replace(/\+[\d.]+h$/, ''))
    expect(Number(r.finish_hour)).toBeCloseTo(Number(r.start_hour) + Number(r.hours), 2)
    expect(r.from && r.to && r.from <= r.to).toBe(true)
  }
  expect(list.some((r) => r.critical === 'yes')).toBe(true)
})

test('orders as a table: nothing in it is a formula, packs and prices stand by themselves', () => {
  const list = rows(sheetCsv(orderSheet(orderList(stockBook(state), programme, TODAY))))
  const own = list.filter((r) => r.material === 'Drainage stone')
  expect(own.length).toBeGreaterThan(0)
  for (const r of own) expect(r).toMatchObject({ supplier: "'=cmd|quarry", pack: '2', price: '40', unit: 'm³' })
})

describe('a calendar file', () => {
  const ics = programmeIcs(state, programme, 'Wall, the "long" one; 日本語の石垣の名前はとても長いので折り返されます')
  const lines = ics.split('\r\n')
  test('ends its lines as the format wants and keeps them short, in whole characters', () => {
    expect(ics).not.toMatch(/[^\r]\n/)
    expect(lines[lines.length - 1]).toBe('')
    for (const l of lines) expect(new TextEncoder().encode(l).length).toBeLessThanOrEqual(75)
    expect(ics).not.toContain('\ufffd')
  })
  test('unfolded, a text is what it was: commas, semicolons and new lines are marked', () => {
    const whole = ics.replace(/\r\n /g, '')
    expect(whole).toContain('Drainage stone from Pit\\; Sand\\, and\\nGravel expected')
    expect(whole).toContain('SUMMARY:Wall\\, the "long" one\\;')
  })
  test('releases, the delivery and the last day, each a whole day, the next one its end', () => {
    const whole = ics.replace(/\r\n /g, '')
    expect(whole.match(/BEGIN:VEVENT/g)).toHaveLength(programme.tasks.filter((t) => t.kind === 'release').length + 2)
    expect(whole).toContain('DTSTART;VALUE=DATE:20260520\r\nDTEND;VALUE=DATE:20260521')
    expect(whole).toContain(`DTSTART;VALUE=DATE:${programme.finish.replace(/-/g, '')}`)
    const ids = whole.match(/UID:.*/g) ?? []
    expect(new Set(ids).size).toBe(ids.length)
  })
})

describe('days off from a calendar file', () => {
  const file = (...events: string[]) =>
    ['BEGIN:VCALENDAR', 'VERSION:2.0', ...events.flatMap((e) => ['BEGIN:VEVENT', ...e.split('|'), 'END:VEVENT']), 'END:VCALENDAR', ''].join('\r\n')
  const days = (...events: string[]) => {
    const read = daysOff(file(...events), '2026-05-18')
    return read.ok ? read.value : read.problems
  }
  test('whole days, several days, and what comes every year; what has hours is left out by name', () => {
    expect(
      days(
        'SUMMARY:Holiday|DTSTART;VALUE=DATE:20260525',
        'SUMMARY:Works close|DTSTART;VALUE=DATE:20261224|DTEND;VALUE=DATE:20261227',
        'SUMMARY:Labour|DTSTART;VALUE=DATE:20200501|RRULE:FREQ=YEARLY',
        'SUMMARY:Meeting|DTSTART:20260601T080000Z|DTEND:20260601T090000Z',
        'SUMMARY:Long ago|DTSTART;VALUE=DATE:20250101',
      ),
    ).toEqual({
      days: ['2026-05-25', '2026-12-24', '2026-12-25', '2026-12-26', '2027-05-01', '2028-05-01', '2029-05-01'],
      left: ['Meeting has hours'],
    })
  })
  test('what this program writes is read back', () => {
    const read = daysOff(programmeIcs(state, programme, 'Wall'), TODAY)
    expect(read.ok && read.value.days).toContain(programme.finish)
  })
  test('no calendar, an empty one, every day of three years: said, never guessed', () => {
    expect(daysOff('no calendar', TODAY)).toMatchObject({ ok: false, problems: [{ message: expect.stringMatching(/BEGIN:VCALENDAR/) }] })
    expect(days()).toEqual({ days: [], left: [] })
    expect(days('SUMMARY:x|DTSTART;VALUE=DATE:20260601|RRULE:FREQ=DAILY')).toMatchObject([{ message: expect.stringMatching(/more than 400/) }])
  })
})
