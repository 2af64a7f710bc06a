import { said } from '../base/said'
import { live, type PromiseData, type RecordedEntry, statusOf, titleOf, type WallState } from '../record'
import { RATES, type RateName, weatherLimitsOf } from '../rules'
import { calendarFrom, dayAfter, daysTo, workdaysOf } from './calendar'
import { type Otherwise, type Programme, programmeOf } from './programme'

/** Something that would win days back, and how many. */
export interface WinBack {
  readonly id: 'crew' | 'crew-on' | 'notice' | 'saturdays' | 'stock' | 'plant'
  readonly title: string
  readonly finish: string
  /** Days of the calendar. */
  readonly days: number
}

const SATURDAY = 6
const SOME = 2

/**
 * What would win days back, tried one by one on the whole programme; what wins nothing is left out. Each is by itself: two of them together
 * win less than their sum.
 *
 * @param basis - with what the programme was reckoned
 * @example winBack(state, programme, '2026-05-31')[0] // { title: 'A second crew', days: 4, … }
 */
export function winBack(state: WallState, p: Programme, today: string, basis: Otherwise = {}): readonly WinBack[] {
  const { crews, notice, days } = p.calendar.data
  const tries: (readonly [WinBack['id'], string, Otherwise])[] = [['crew', crews === 1 ? 'A second crew' : 'One crew more', { crews: crews + 1 }]]
  for (const section of longest(p)) tries.push(['crew-on', `Another crew on section ${section} alone`, { crewOn: section }])
  if (notice > 0) tries.push(['notice', 'Inspections booked ahead, so that nobody waits', { notice: 0 }])
  if (!days.includes(SATURDAY)) tries.push(['saturdays', 'Saturdays too', { days: [...days, SATURDAY] }])
  if (p.tasks.some((t) => t.waitsFor)) tries.push(['stock', 'All material that is waited for here at once', { stocked: true }])
  if (p.tasks.some((t) => t.plant)) tries.push(['plant', 'As much plant as there are crews', { plant: 'enough' }])
  return tries
    .map(([id, title, otherwise]) => {
      const q = programmeOf(state, today, { ...basis, ...otherwise })
      return { id, title, finish: q.finish, days: daysTo(q.finish, p.finish) }
    })
    .filter((w) => w.days > 0)
    .sort((a, b) => b.days - a.days)
}
/** Sections with the most work that has nothing to spare; none where the wall has only one. */
function longest(p: Programme): readonly string[] {
  const hours = new Map<string, number>()
  for (const t of p.tasks) if (t.section !== undefined && t.critical && t.crewed) hours.set(t.section, (hours.get(t.section) ?? 0) + t.hours)
  const sections = new Set(p.tasks.flatMap((t) => t.section ?? []))
  return sections.size < SOME
    ? []
    : [...hours]
        .sort((a, b) => b[1] - a[1])
        .slice(0, SOME)
        .map(([s]) => s)
}

/** The promise that stands: the newest that was not taken back. */
export function promised(state: WallState): (RecordedEntry & { readonly data: PromiseData }) | undefined {
  for (let i = state.entries.length - 1; i >= 0; i--) {
    const e = state.entries[i] as RecordedEntry
    if (e.entry.kind === 'promise' && live(state, e.entry.id)) return { ...e, data: e.entry.data as PromiseData }
  }
  return undefined
}

/** What makes the wall later, as far as the record tells, and by how many days of the calendar. */
export interface Slip {
  readonly id: 'release' | 'finding' | 'material' | 'plant' | 'pace' | 'fixed' | 'weather' | 'idle'
  readonly title: string
  readonly why: string
  /** The wall would be done so much sooner without it; nought where other work hides it. */
  readonly days: number
}

/**
 * What holds the wall up: the whole programme is reckoned again without each cause. Causes that hide each other show nought by themselves.
 *
 * @param basis - with what the programme was reckoned
 * @example slips(state, programme, '2026-05-31')[0] // { id: 'pace', title: 'Units set', why: '9 an hour on 3 days …', days: 2 }
 */
export function slips(state: WallState, p: Programme, today: string, basis: Otherwise = {}): readonly Slip[] {
  const without = (o: Otherwise) => Math.max(0, daysTo(programmeOf(state, today, { ...basis, ...o }).finish, p.finish))
  const found: Slip[] = []
  const waits = p.tasks.filter((t) => t.kind === 'release' && t.step && statusOf(state, t.step).state === 'done')
  if (waits.length > 0) {
    const days = without({ released: true })
    for (const t of waits) found.push({ id: 'release', title: t.step ? titleOf(t.step) : t.title, why: 'is done and waits for its release', days })
  }
  const open = p.tasks.flatMap((t) => {
    const count = t.kind === 'work' && t.step ? statusOf(state, t.step).open.length : 0
    return count > 0 ? [{ t, count }] : []
  })
  if (open.length > 0) {
    const days = without({ closed: true })
    for (const { t, count } of open) found.push({ id: 'finding', title: t.title, why: `${count} out of tolerance, not closed`, days })
  }
  const late = p.tasks.filter((t) => t.waitsFor && p.calendar.hoursUntil(t.waitsFor.day) >= t.start - 1e-6)
  if (late.length > 0) {
    const days = without({ stocked: true })
    // What waits longest for each material says it for all of it.
    const seen = new Set<string>()
    for (const t of late) {
      const w = t.waitsFor
      if (!w || seen.has(w.material)) continue
      seen.add(w.material)
      const why = w.ordered
        ? `waits for ${w.material.toLowerCase()}, expected ${said.day(w.day)}`
        : `waits for ${w.material.toLowerCase()}, which is not ordered; ordered today it is here on ${said.day(w.day)}`
      found.push({ id: 'material', title: t.title, why, days })
    }
  }
  if (p.tasks.some((t) => t.fixed)) {
    const days = without({ fixed: 'none' })
    const put = p.tasks.filter((t) => t.fixed)
    if (days > 0) found.push({ id: 'fixed', title: put.map((t) => t.title).join(', '), why: 'put on a day later than it could begin', days })
  }
  if (p.tasks.some((t) => t.plant)) {
    const days = without({ plant: 'enough' })
    if (days > 0) found.push({ id: 'plant', title: 'Plant', why: 'comes later than it is needed, or is shared by more than one crew', days })
  }
  if (p.lost.length > 0)
    found.push({
      id: 'weather',
      title: p.lost.length === 1 ? 'The weather expected takes a day' : `The weather expected takes ${p.lost.length} days`,
      why: p.lost[0]?.why ?? '',
      days: without({ fair: true }),
    })
  const slow = Object.values(p.paces).filter((pace) => {
    const critical = p.tasks.some((t) => t.rate === pace.rate && t.critical && t.hours > 0)
    return pace.seen && critical && pace.value < 0.95 * RATES[pace.rate].value
  })
  if (slow.length > 0) {
    const days = without({ pace: 'shipped' })
    for (const { rate, seen } of slow)
      found.push({
        id: 'pace',
        title: RATES[rate as RateName].title,
        why: `${Math.round((seen?.median ?? 0) * 10) / 10} an hour on ${seen?.days} ${seen?.days === 1 ? 'day' : 'days'} of the record, reckoned at ${RATES[rate].value}`,
        days,
      })
  }
  const idle = idleDays(state, today)
  if (idle) found.push(idle)
  return found.sort((a, b) => b.days - a.days)
}

/** Working days since the promise on which nothing of the work was recorded, with the rain that fell. */
function idleDays(state: WallState, today: string): Slip | undefined {
  const said = promised(state)
  if (!said) return undefined
  const since = said.entry.at.slice(0, 10)
  const worked = new Set<string>()
  const rained = new Set<string>()
  for (const { entry } of state.entries) {
    if (!live(state, entry.id)) continue
    const day = entry.at.slice(0, 10)
    if (entry.where.stage !== undefined) worked.add(day)
    const w = entry.data as { rain?: number; expected?: boolean }
    if (entry.kind === 'weather' && !w.expected && (w.rain ?? 0) >= weatherLimitsOf(state.layout.plan).wet) rained.add(day)
  }
  const calendar = calendarFrom(workdaysOf(state), since)
  const idle: string[] = []
  for (let d = dayAfter(since, 1); d < today; d = dayAfter(d, 1)) if (calendar.works(d) && !worked.has(d)) idle.push(d)
  if (idle.length === 0) return undefined
  const wet = idle.filter((d) => rained.has(d)).length
  return {
    id: 'idle',
    title: `${idle.length} working ${idle.length === 1 ? 'day' : 'days'} since the promise`,
    why: `nothing of the work was recorded${wet > 0 ? `; it rained on ${wet} of them` : ''}`,
    days: idle.length,
  }
}
