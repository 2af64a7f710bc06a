import {
  admit,
  allTasksOf,
  calendarFrom,
  daylight,
  daysOfForecast,
  dayWords,
  emptyState,
  fixesOf,
  fold,
  issued,
  layOut,
  level,
  Network,
  nightAndDay,
  odds,
  oddsInput,
  paces,
  plantDays,
  programmeOf,
  type Seen,
  shareCrews,
  slips,
  tasksOf,
  threats,
  type WorkdaysData,
  winBack,
  withLine,
} from '@stone-tally/core'
import fc from 'fast-check'
import { entry, plain as inWords, layoutOf, recorded } from './plans'
import { startedLayout } from './started'

const week: WorkdaysData = { days: [1, 2, 3, 4, 5], starts: 7, hours: 8, crews: 1, notice: 24, holidays: [], lost: new Array(12).fill(0) }
const layout = layoutOf()
const TODAY = '2026-05-18'
const foreman = { role: 'foreman' } as const
const say = (kind: string, data: object, more: object = {}) => entry(kind, {}, data, { ...foreman, ...more })
const wall = (...entries: ReturnType<typeof entry>[]) => fold([layout], recorded(entries))
const fresh = emptyState([layout])
const plain = programmeOf(fresh, TODAY)
const check = (e: ReturnType<typeof entry>, known: ReturnType<typeof recorded> = []) => admit(fold([layout], known), e, Date.parse(e.at))

describe('hours of a day', () => {
  test.each([
    ['2026-06-21', 52, 16.8],
    ['2026-12-21', 52, 7.7],
    ['2026-03-20', 52, 12.2],
    ['2026-06-21', -35, 9.8],
    ['2026-01-01', 0, 12.1],
  ])('on %s at %s° the sun is up for %s h', (day, latitude, hours) => {
    expect(daylight(day, latitude)).toBeCloseTo(hours, 0)
    expect(Math.abs(daylight(day, latitude) - hours)).toBeLessThan(0.25)
  })
  test('no work is reckoned in the dark: a December day is shorter, a June day is not', () => {
    const c = calendarFrom({ ...week, hours: 10, latitude: 52 }, '2026-12-14')
    expect(c.hoursOn('2026-12-14')).toBeCloseTo(7.75, 1)
    expect(calendarFrom({ ...week, hours: 10, latitude: 52 }, '2026-06-15').hoursOn('2026-06-15')).toBe(10)
    expect(c.dayOf(16)).toBe('2026-12-16')
    expect(c.hoursUntil('2026-12-16')).toBeCloseTo(c.hoursOn('2026-12-14') + c.hoursOn('2026-12-15'), 9)
  })
  test('two shifts make a day twice as long; a day in the middle has its share', () => {
    const c = calendarFrom({ ...week, shifts: 2 }, TODAY)
    expect([c.hoursOn(TODAY), c.dayOf(16), c.dayOf(16.1)]).toEqual([16, TODAY, '2026-05-19'])
    expect([c.shareOf(4), c.shareOf(16), c.shareOf(20)]).toEqual([0.25, 1, 0.25])
  })
  test('days and hours agree whatever a week looks like', () => {
    fc.assert(
      fc.property(
        fc.record({
          days: fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1, maxLength: 7 }),
          hours: fc.integer({ min: 1, max: 16 }),
          latitude: fc.option(fc.integer({ min: -65, max: 65 }), { nil: undefined }),
          off: fc.uniqueArray(fc.integer({ min: 0, max: 30 }), { maxLength: 6 }),
        }),
        fc.double({ min: 0, max: 400, noNaN: true }),
        ({ days, hours, latitude, off }, at) => {
          const holidays = off.map((d) => new Date(Date.UTC(2026, 10, 2 + d)).toISOString().slice(0, 10))
          const c = calendarFrom({ ...week, days, hours, holidays, ...(latitude === undefined ? {} : { latitude }) }, '2026-11-02')
          const day = c.dayOf(at)
          expect(c.hoursOn(day)).toBeGreaterThan(0)
          expect(c.hoursUntil(day)).toBeLessThanOrEqual(at + 1e-9)
          expect(c.hoursUntil(day) + c.hoursOn(day)).toBeGreaterThanOrEqual(at - 1e-9)
          expect(c.nth(0)).toBe(c.from)
        },
      ),
      { numRuns: 150 },
    )
  })
  test('more shifts than a day has hours, a last day before the first: refused where it stands', () => {
    const wrong = (data: object) => check(say('workdays', { ...week, ...data }))
    expect(wrong({ shifts: 3, hours: 10 })).toMatchObject({ ok: false, problems: [{ field: 'data.shifts' }] })
    expect(wrong({ away: [{ from: '2026-05-20', to: '2026-05-18', crews: 1 }] })).toMatchObject({
      ok: false,
      problems: [{ field: 'data.away[0].to' }],
    })
    expect(wrong({ shifts: 2, latitude: 52, away: [{ from: '2026-05-20', to: '2026-05-20', crews: 1 }] }).ok).toBe(true)
  })
})

describe('crews and plant as resources', () => {
  const four = { durations: [4, 4, 4, 4], after: [[], [], [], []] }
  const all = [true, true, true, true]
  test('one plate between two crews: what it does goes one after the other', () => {
    const l = level(four, all, { crews: 2, plantOf: [0, 0, 0, -1], plant: [[0]] })
    expect([l?.end, l?.bound]).toEqual([12, 12])
    expect(Network.of(l?.wiring ?? four)).toMatchObject({ end: 12 })
    expect(level(four, all, { crews: 2, plantOf: [0, 0, 0, -1], plant: [[0, 0]] })?.end).toBe(8)
    // Nobody keeps account of it: it is there.
    expect(level(four, all, { crews: 2, plantOf: [0, 0, 0, -1], plant: [undefined] })?.end).toBe(8)
  })
  test('plant that comes later is waited for, and the rest goes on', () => {
    const l = level(four, all, { crews: 1, plantOf: [0, -1, -1, -1], plant: [[10]] })
    expect([l?.start[0], l?.end]).toEqual([12, 16])
    expect(level({ durations: [4], after: [[]] }, [true], { crews: 1, plantOf: [0], plant: [[10]] })?.start[0]).toBe(10)
  })
  test('a crew that is away does nothing, and what would reach into it begins after it', () => {
    const l = level(four, all, { crews: 1, away: [[[6, 20]]] })
    expect([...(l?.start ?? [])].sort((a, b) => a - b)).toEqual([0, 20, 24, 28])
    expect((Network.of(l?.wiring ?? four) as Network).end).toBe(32)
  })
  test('whatever plant and absences there are: nothing at once that cannot be, nothing below the bound, the network agrees', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ hours: fc.integer({ min: 1, max: 9 }), plant: fc.integer({ min: -1, max: 1 }), waits: fc.boolean() }), {
          minLength: 1,
          maxLength: 24,
        }),
        fc.integer({ min: 1, max: 3 }),
        fc.integer({ min: 0, max: 30 }),
        (tasks, crews, gap) => {
          const wiring = {
            durations: tasks.map((t) => t.hours),
            after: tasks.map((t, i): [number, number][] => (t.waits && i > 0 ? [[i - 1, 0]] : [])),
          }
          const plant = [[0], [3, 5]]
          const l = level(
            wiring,
            tasks.map(() => true),
            {
              crews,
              away: Array.from({ length: crews }, () => [[gap, gap + 7]] as const),
              plantOf: tasks.map((t) => t.plant),
              plant,
            },
          )
          if (!l) throw new Error()
          const overlap = (i: number, j: number) =>
            (l.start[i] as number) < (l.finish[j] as number) - 1e-9 && (l.start[j] as number) < (l.finish[i] as number) - 1e-9
          tasks.forEach((t, i) => {
            expect((l.start[i] as number) >= gap + 7 - 1e-9 || (l.finish[i] as number) <= gap + 1e-9).toBe(true)
            if (t.plant >= 0) {
              expect(l.start[i] as number).toBeGreaterThanOrEqual(Math.min(...(plant[t.plant] as number[])) - 1e-9)
              const beside = tasks.filter(
                (o, j) => o.plant === t.plant && j !== i && overlap(i, j) && (l.start[j] as number) <= (l.start[i] as number),
              )
              expect(beside.length).toBeLessThan((plant[t.plant] as number[]).length)
            }
            expect(tasks.some((_, j) => j !== i && l.crew[j] === l.crew[i] && overlap(i, j))).toBe(false)
          })
          expect(l.end).toBeGreaterThanOrEqual(l.bound - 1e-9)
          expect((Network.of(l.wiring) as Network).end).toBeCloseTo(l.end, 6)
        },
      ),
      { numRuns: 150 },
    )
  })
  test('a hire that comes late makes the wall later and says so; one that is on site too long costs', () => {
    const late = wall(say('hire', { plant: 'plate', count: 1, from: '2026-07-06', to: '2026-07-31', perDay: 40 }))
    const p = programmeOf(late, TODAY)
    expect(p.finish > plain.finish).toBe(true)
    for (const t of p.tasks) if (t.plant === 'plate' && t.hours > 0) expect(t.from >= '2026-07-06').toBe(true)
    expect(slips(late, p, TODAY).find((s) => s.id === 'plant')?.days).toBeGreaterThan(20)
    expect(winBack(late, p, TODAY).find((w) => w.id === 'plant')?.days).toBeGreaterThan(20)
    const long = wall(say('hire', { plant: 'excavator', count: 1, from: TODAY, to: '2026-12-31', perDay: 100 }))
    const q = programmeOf(long, TODAY)
    const [digger] = plantDays(long, q, TODAY).filter((d) => d.plant === 'excavator')
    const last = digger?.needed[digger.needed.length - 1]
    expect(inWords(digger?.words.join())).toBe(`Excavator: needed last on ${dayWords(last ?? '')}, on hire to Thu 31 Dec. Send it back then.`)
    expect(digger?.hires[0]).toMatchObject({ ahead: 228, cost: 22800, saved: 100 * (228 - (digger?.needed.length ?? 0)) })
  })
  test('plant that went back is not taken to be there: that it is needed is said', () => {
    const s = wall(say('hire', { plant: 'plate', count: 1, from: '2026-04-01', to: '2026-05-10' }))
    const [plate] = plantDays(s, programmeOf(s, TODAY), TODAY).filter((d) => d.plant === 'plate')
    expect(inWords(plate?.words.join())).toMatch(/^Plate or roller: needed on \d+ days on which none is here, the first Tue 19 May/)
  })
  test('plant on hire for one wall is shared by all: one plate for two walls makes both later', () => {
    const own = (count: number) => programmeOf(wall(say('hire', { plant: 'plate', count, from: '2026-05-01' })), TODAY)
    const both = (count: number) =>
      shareCrews(
        [
          { id: 'a', programme: own(count) },
          { id: 'b', programme: plain },
        ],
        2,
      )
    expect(both(1).hours).toBeGreaterThan(both(2).hours)
    expect(both(1).hours).toBeGreaterThanOrEqual(both(1).bound - 1e-9)
  })
  test('nobody said whose the plant is: the days it is needed, no word of blame', () => {
    const list = plantDays(fresh, plain, TODAY)
    expect(list.map((d) => d.plant).sort()).toEqual(['excavator', 'plate', 'saw'])
    expect(list.flatMap((d) => d.words)).toEqual([])
    expect(list.every((d) => d.needed.length > 0)).toBe(true)
  })
  test('a hire that ended before today is not here and is not spoken of; its last day before its first is refused', () => {
    const gone = wall(say('hire', { plant: 'plate', count: 1, from: '2026-04-01', to: '2026-04-10' }))
    expect(programmeOf(gone, TODAY).finish).toBe(plain.finish)
    expect(plantDays(gone, programmeOf(gone, TODAY), TODAY).find((d) => d.plant === 'plate')?.hires).toEqual([])
    expect(check(say('hire', { plant: 'saw', count: 1, from: TODAY, to: '2026-05-01' }))).toMatchObject({
      problems: [{ field: 'data.to' }],
    })
  })
})

describe('work that is in no stage, and what is put on a day', () => {
  const own = (more: object = {}) =>
    say('task', { task: 'hedge', title: 'Move the hedge', hours: 12, after: [], before: [], crew: true, state: 'open', ...more })
  const first = plain.tasks.find((t) => t.rate === 'dig')
  test('it takes a crew and stands before what waits for it', () => {
    const p = programmeOf(wall(own({ before: [first?.id] })), TODAY)
    const [hedge, dig] = ['hedge', first?.id].map((id) => p.tasks.find((t) => t.id === id))
    expect(dig?.start).toBeGreaterThanOrEqual((hedge?.finish ?? Number.NaN) - 1e-9)
    expect(p.hours).toBeGreaterThan(plain.hours)
    expect(programmeOf(wall(own({ crew: false, hours: 1 })), TODAY).hours).toBeCloseTo(plain.hours, 6)
  })
  test('done or dropped it is gone; the newest of its name holds', () => {
    const s = wall(own(), own({ state: 'done' }))
    expect([tasksOf(s), allTasksOf(s).map((t) => t.state)]).toEqual([[], ['done']])
    expect(programmeOf(s, TODAY).tasks.some((t) => t.id === 'hedge')).toBe(false)
  })
  test('tasks that wait for each other are refused with the way round; through the gates the link is left out and said', () => {
    const b = say('task', { task: 'fence', title: 'Fence', hours: 4, after: ['hedge'], before: [], crew: true, state: 'open' })
    const known = recorded([own(), b])
    expect(check(own({ after: ['fence'] }), known)).toMatchObject({
      ok: false,
      problems: [{ field: 'data.after', message: expect.stringMatching(/hedge waits for fence waits for hedge/) }],
    })
    expect(check(own({ after: ['hedge'] })).ok).toBe(false)
    const last = [...plain.tasks].sort((a, b) => b.finish - a.finish)[0]
    const p = programmeOf(wall(own({ after: [last?.id], before: [first?.id] })), TODAY)
    expect(p.conflicts.join()).toMatch(/Move the hedge and ".*" wait for each other through the gates/)
    expect(p.tasks.find((t) => t.id === 'hedge')).toBeDefined()
  })
  test('linked to nothing this wall has: said, not lost; linked to what is done: nothing', () => {
    expect(programmeOf(wall(own({ after: ['no such thing'] })), TODAY).conflicts).toEqual([
      'Move the hedge is linked to "no such thing", which this wall has not: the link is left out.',
    ])
    expect(check(own({ section: 'Z' }))).toMatchObject({ problems: [{ field: 'data.section' }] })
  })
  const put = (day: string | undefined, more: object = {}) =>
    say('fixed', { task: first?.id ?? '', title: first?.title ?? '', ...(day ? { day } : {}), ...more })
  test('put on a later day it begins then, and what it moves moves', () => {
    const s = wall(put('2026-06-15'))
    const p = programmeOf(s, TODAY)
    expect(p.tasks.find((t) => t.id === first?.id)).toMatchObject({ from: '2026-06-15', fixed: { day: '2026-06-15' } })
    expect(p.finish > plain.finish).toBe(true)
    expect(slips(s, p, TODAY).find((x) => x.id === 'fixed')?.days).toBeGreaterThan(10)
    expect(programmeOf(fresh, TODAY, { fixed: new Map([[first?.id ?? '', '2026-06-15']]) }).finish).toBe(p.finish)
    expect(programmeOf(s, TODAY, { fixed: new Map([[first?.id ?? '', undefined]]) }).finish).toBe(plain.finish)
  })
  test('put before what it waits for: it stays behind it, and that is said with what it comes after', () => {
    const late = plain.tasks.find((t) => t.kind === 'work' && t.rate === 'units' && t.from > '2026-05-25')
    const s = wall(say('fixed', { task: late?.id ?? '', title: late?.title ?? '', day: '2026-05-19' }))
    const p = programmeOf(s, TODAY)
    expect(p.tasks.find((t) => t.id === late?.id)?.from).toBe(late?.from)
    expect(inWords(p.conflicts.join())).toMatch(
      new RegExp(`${late?.title} was put on Tue 19 May, but cannot begin before ${dayWords(late?.from ?? '')}: it comes after`),
    )
  })
  test('put on a day under a plan that had it: said, once the plan has no such step', () => {
    const s = wall(say('fixed', { task: 'units|Z|3', title: 'Units set, section Z course 3', day: '2026-06-15' }))
    expect(inWords(programmeOf(s, TODAY).conflicts)).toEqual([
      expect.stringMatching(/^Units set, section Z course 3 was put on Mon 15 Jun by .*: the plan in force has no such step/),
    ])
  })
  test('a year with a wrong digit is refused; more work than days there are is said, never given a day as if it were so', () => {
    expect(check(put('2062-06-15'))).toMatchObject({ ok: false, problems: [{ field: 'data.day', message: expect.stringMatching(/36 years ahead/) }] })
    expect(check(say('hire', { plant: 'saw', count: 1, from: '2206-05-20' }))).toMatchObject({ problems: [{ field: 'data.from' }] })
    expect(check(say('hire', { plant: 'saw', count: 1, from: TODAY, to: '2206-05-20' }))).toMatchObject({ problems: [{ field: 'data.to' }] })
    expect(check(say('hire', { plant: 'saw', count: 1, from: TODAY, to: '2029-05-20' })).ok).toBe(true)
    const endless = Array.from({ length: 300 }, (_, i) => own({ task: `t${i}`, hours: 2000, after: i ? [`t${i - 1}`] : [] }))
    expect(programmeOf(wall(...endless), TODAY).conflicts[0]).toMatch(/longer than half a century.*is not when it ends/)
    expect(plain.conflicts).toEqual([])
  })
  test('two people move one bar: the second is told who moved it where, and may move it once it has seen that', () => {
    const a = put('2026-06-15')
    const known = recorded([a])
    expect(inWords(check(put('2026-06-20'), known))).toMatchObject({
      ok: false,
      problems: [{ field: 'data.day', message: expect.stringMatching(/was put on Mon 15 Jun by .+ meanwhile/) }],
    })
    expect(check(put('2026-06-20', { over: a.id }), known).ok).toBe(true)
    const freed = put(undefined, { over: a.id })
    expect(check(freed, known).ok).toBe(true)
    const after = fold([layout], recorded([a, freed]))
    expect(fixesOf(after).get(first?.id ?? '')?.day).toBeUndefined()
    expect(programmeOf(after, TODAY).finish).toBe(plain.finish)
    expect(check(put('2026-06-20', { over: 'long gone' })).ok).toBe(false)
  })
})

describe('weather of the days to come', () => {
  const days = (list: readonly object[]) =>
    wall(say('weather', { rain: 0, low: 8, wind: 5, expected: true, days: list }, { at: '2026-05-18T06:00:00Z' }))
  const fair = (day: string) => ({ day, rain: 0, low: 8, wind: 5, high: 20 })
  test('a day on which all that has nothing to spare is against the weather is reckoned without, once', () => {
    const big = startedLayout('big-block', { length: 48 })
    const bare = programmeOf(emptyState([big]), TODAY)
    // A day of which most is hung on the hook.
    const hung = (d: string) => {
      const from = bare.calendar.hoursUntil(d)
      return bare.tasks.reduce(
        (n, t) => n + (t.rate === 'picks' && t.critical ? Math.max(0, Math.min(t.finish, from + 8) - Math.max(t.start, from)) : 0),
        0,
      )
    }
    const day = Array.from({ length: 14 }, (_, i) => bare.calendar.nth(i)).find((d) => hung(d) > 5)
    if (!day) throw new Error('no day of picks')
    const told = (wind: number) =>
      fold(
        [big],
        recorded([say('weather', { rain: 0, low: 8, wind: 5, expected: true, days: [{ ...fair(day), wind }] }, { at: `${TODAY}T05:00:00Z` })]),
      )
    const p = programmeOf(told(50), TODAY)
    expect(p.lost).toEqual([{ day, why: expect.stringMatching(/nothing hangs on a hook/) }])
    expect(p.finish > bare.finish).toBe(true)
    expect(p.hours).toBeCloseTo(bare.hours, 6)
    expect(slips(told(50), p, TODAY).find((x) => x.id === 'weather')?.days).toBeGreaterThan(0)
    expect(threats(told(50), p, `${TODAY}T06:00:00Z`).map((t) => t.day)).toContain(day)
    expect(programmeOf(told(20), TODAY).lost).toEqual([])
  })
  test('heat speaks against adhesive, not against digging', () => {
    const bonding = plain.tasks.find((t) => t.step?.stage.heat)
    const on = bonding?.from ?? ''
    const hot = wall(say('weather', { rain: 0, low: 20, wind: 5, expected: true, days: [{ ...fair(on), high: 38 }] }, { at: `${on}T05:00:00Z` }))
    const p = programmeOf(hot, TODAY, { fair: true })
    expect(
      threats(hot, p, `${on}T06:00:00Z`)
        .map((t) => t.text)
        .join(),
    ).toMatch(/skins over in the heat/)
    expect(threats(hot, p, `${on}T06:00:00Z`).some((t) => t.task.rate === 'dig')).toBe(false)
  })
  test('what is left open tonight is left open for tomorrow: the figures are the worse of both', () => {
    const told = daysOfForecast({ rain0: 0, low0: 6, wind0: 10, high0: 14, rain1: 18, low1: 2, wind1: 40, rain2: 90, low2: -9, wind2: 99 }, TODAY)
    expect(told.map((d) => d.day)).toEqual([TODAY, '2026-05-19', '2026-05-20'])
    expect(nightAndDay(told)).toEqual({ rain: 18, low: 2, wind: 40, high: 14 })
    expect([nightAndDay([]), nightAndDay(told.slice(0, 1))]).toEqual([undefined, { rain: 0, low: 6, wind: 10, high: 14 }])
    // Half a forecast is not guessed at.
    expect(daysOfForecast({ rain0: 1, low0: 2, wind0: 3, rain1: Number.NaN, low1: 2, wind1: 3, rain2: 1, low2: 1, wind2: 1 }, TODAY)).toHaveLength(1)
  })
  test('no forecast, an old one, an empty one: nothing is threatened and nothing is lost', () => {
    for (const s of [fresh, days([]), wall(say('weather', { rain: 40, low: 2, wind: 5, expected: true }, { at: '2026-05-10T06:00:00Z' }))]) {
      const p = programmeOf(s, TODAY)
      expect([p.lost, threats(s, p, `${TODAY}T08:00:00Z`)]).toEqual([[], []])
    }
  })
  test('what is foreseen to be fair is not lost by chance; the odds know the days that are', () => {
    const bad: WorkdaysData = { ...week, lost: new Array(12).fill(90) }
    const input = { ...oddsInput(programmeOf(fresh, TODAY), TODAY, 60), workdays: bad }
    const all = Array.from({ length: 400 }, (_, i) => new Date(Date.UTC(2026, 4, 18 + i)).toISOString().slice(0, 10))
    const sure = odds({ ...input, foreseen: all })
    expect(sure.at(50) < odds(input).at(50)).toBe(true)
    expect(odds({ ...input, foreseen: all, lost: [TODAY, '2026-05-19'] }).at(50) > sure.at(50)).toBe(true)
  })
})

test('units on a curve and at a corner take longer than as many on a straight stretch', () => {
  const straight = startedLayout('landscape', { length: 12 })
  const hours = (l: typeof straight) => {
    const { tasks } = programmeOf(emptyState([l]), TODAY)
    const sets = tasks.filter((t) => t.rate === 'units')
    return sets.reduce((n, t) => n + t.hours, 0) / sets.reduce((n, t) => n + (t.step?.planned ?? 0), 0)
  }
  const along = (vertices: { easting: number; northing: number; bulge?: number }[]) => {
    const laid = layOut(issued(withLine(straight.plan, vertices, false)))
    if (!laid.ok) throw new Error(JSON.stringify(laid.problems))
    return laid.value
  }
  const at = (easting: number, northing: number, bulge = 0) => ({ easting, northing, bulge })
  const bent = along([at(0, 0, 0.2), at(12, 0)])
  const cornered = along([at(0, 0), at(6, 0), at(6, -6)])
  expect(hours(bent)).toBeCloseTo(1.25 * hours(straight), 6)
  expect(hours(cornered)).toBeGreaterThan(hours(straight) * 1.02)
})

describe('the pace of a company', () => {
  const seen = (perHour: number, crew: string, system = layout.system.id): Seen => ({ rate: 'units', system, crew, day: TODAY, perHour })
  test('other walls of the same system count as days of their own; another system does not', () => {
    const list = [seen(20, 'Fay'), seen(24, 'Fay'), seen(28, 'Mo'), seen(22, 'Mo'), seen(26, 'Fay')]
    const p = paces(fresh, list).units
    expect(p.seen).toEqual({
      median: 24,
      spread: expect.any(Number),
      days: 5,
      elsewhere: 5,
      crews: [
        { crew: 'Fay', median: 24, days: 3 },
        { crew: 'Mo', median: 25, days: 2 },
      ],
    })
    expect(p.value).toBeGreaterThan(14)
    expect(p.value).toBeLessThan(24)
    expect(paces(fresh, [seen(20, 'Fay', 'gabion')]).units.seen).toBeUndefined()
    expect(paces(fresh, list, 'shipped').units).toMatchObject({ value: 14, seen: undefined })
  })
  test('a slow company is later, and the pace says by how much', () => {
    const slow = Array.from({ length: 12 }, () => seen(5, 'Fay'))
    const p = programmeOf(fresh, TODAY, { seen: slow })
    expect(p.finish > plain.finish).toBe(true)
    expect(slips(fresh, p, TODAY, { seen: slow }).find((s) => s.id === 'pace')).toMatchObject({
      title: 'Units set',
      why: '5 an hour on 12 days of the record, reckoned at 14',
    })
  })
})

describe('since the promise', () => {
  test('working days without work are counted, with the rain that fell', () => {
    const s = wall(
      say('promise', { finish: '2026-07-30', odds: 90 }, { at: '2026-05-11T08:00:00Z' }),
      say('weather', { rain: 18, low: 8, wind: 5 }, { at: '2026-05-13T08:00:00Z' }),
    )
    expect(slips(s, programmeOf(s, TODAY), TODAY).find((x) => x.id === 'idle')).toEqual({
      id: 'idle',
      title: '4 working days since the promise',
      why: 'nothing of the work was recorded; it rained on 1 of them',
      days: 4,
    })
  })
})
