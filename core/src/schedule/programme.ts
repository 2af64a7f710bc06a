import { said } from '../base/said'
import type { Step, WallState, WorkdaysData } from '../record'
import { MACHINE_KINDS, MACHINES, type MachineName, type RateName, weatherLimitsOf } from '../rules'
import { stockBook } from '../stock'
import { type Calendar, calendarFrom, dayAfter, workdaysOf } from './calendar'
import { draftsOf, type Reckoned } from './drafts'
import { allTasksOf, type Fix, fixesOf, hiresOf } from './extras'
import { type Levelled, level } from './level'
import { Network } from './network'
import { type Pace, paces, type Seen } from './pace'
import { type Supplied, suppliedOn } from './supplied'
import { against, expectedDays } from './windows'

/** One thing that is still to be done, and when. Hours are working hours from now on. */
export interface ProgrammeTask {
  readonly id: string
  /** The step it is; a wait for a release has the step it follows; work in no stage has none. */
  readonly step: Step | undefined
  readonly section: string | undefined
  readonly title: string
  readonly kind: 'work' | 'release'
  /** Done by a crew of this wall. */
  readonly crewed: boolean
  readonly rate: RateName | undefined
  readonly plant: MachineName | undefined
  /** Hours it takes by the middle of what is known. */
  readonly hours: number
  readonly spread: number
  readonly start: number
  readonly finish: number
  readonly from: string
  readonly to: string
  /** Hours it may slip before the end does. */
  readonly float: number
  readonly critical: boolean
  readonly crew: number
  /** The delivery it waits for. */
  readonly waitsFor: Supplied | undefined
  /** The day somebody put it on. */
  readonly fixed: Fix | undefined
}

/** A day that the weather expected takes from the wall. */
export interface LostDay {
  readonly day: string
  readonly why: string
}

/** What is left of a wall, task by task, levelled to its crews. */
export interface Programme {
  readonly tasks: readonly ProgrammeTask[]
  readonly calendar: Calendar
  readonly paces: Readonly<Record<RateName, Pace>>
  /** Working hours, and the day on which they are over. */
  readonly hours: number
  readonly finish: string
  /** Below this no order of the work comes; working hours. */
  readonly bound: number
  readonly levelled: Levelled
  /** What each task waits for by the gates alone, without the crews. */
  readonly gates: readonly (readonly (readonly [before: number, lag: number])[])[]
  /** Units of plant by kind, with the hour each is here from; nothing where nobody keeps account of it. */
  readonly plant: readonly (readonly number[] | undefined)[]
  /** What does not fit together: a task put on a day before what it waits for, links in a circle. */
  readonly conflicts: readonly string[]
  /** Days it is reckoned without, by the weather expected. */
  readonly lost: readonly LostDay[]
  /** Days the weather expected speaks of. */
  readonly foreseen: readonly string[]
}

/** What would be otherwise: what is tried to win days back, or to see what costs them. */
export interface Otherwise extends Reckoned {
  readonly crews?: number
  /** One crew more, on that section alone. */
  readonly crewOn?: string
  readonly notice?: number
  /** As if all material were here. */
  readonly stocked?: true
  /** Work on these days of the week too. */
  readonly days?: readonly number[]
  /** As if nothing had been put on a day; or as if it were, by task: the day, or nothing to let it go. */
  readonly fixed?: 'none' | ReadonlyMap<string, string | undefined>
  /** As if plant were always there. */
  readonly plant?: 'enough'
  /** As if no weather were expected. */
  readonly fair?: true
  /** As it ships, whatever the record says. */
  readonly pace?: 'shipped'
  /** What other walls of the company have seen. */
  readonly seen?: readonly Seen[]
}

/** Units of plant by kind, with the working hour each is here from; nothing where nobody keeps account of it. */
function plantFrom(state: WallState, calendar: Calendar, today: string): readonly (readonly number[] | undefined)[] {
  const hires = hiresOf(state)
  return MACHINE_KINDS.map((kind) => {
    // What went back before today is not here; when it is on hire no longer is a word of advice, not a wall that stands still.
    const own = hires.filter(({ data: d }) => d.plant === kind && (d.to === undefined || d.to >= today))
    const units = own.flatMap(({ data: d }) => new Array<number>(d.count).fill(d.from <= today ? 0 : calendar.hoursUntil(d.from)))
    return units.length > 0 ? units : undefined
  })
}

/** Hours during which each crew is elsewhere: the last of them go first. */
function awayOf(w: WorkdaysData, calendar: Calendar, crews: number): readonly (readonly (readonly [number, number])[])[] {
  return Array.from({ length: crews }, (_, c) =>
    (w.away ?? [])
      .filter((a) => c >= crews - a.crews && a.to >= calendar.from)
      .map((a) => [calendar.hoursUntil(a.from), calendar.hoursUntil(dayAfter(a.to, 1))] as const)
      .sort((a, b) => a[0] - b[0]),
  )
}

/**
 * What is left of a wall and when it will be done: tasks from its own steps, links from its own gates, durations from what ships and what
 * its record says, levelled to its crews and plant, without the days that the weather expected takes.
 *
 * @param today - as 2026-05-31
 * @param otherwise - what is tried: another crew, an inspector sooner
 * @example programmeOf(state, '2026-05-31').finish // '2026-06-19'
 */
export function programmeOf(state: WallState, today: string, otherwise: Otherwise = {}): Programme {
  const plain = reckon(state, today, otherwise, [])
  if (otherwise.fair) return plain
  const lost = lostDays(state, plain, today)
  return lost.length > 0 ? reckon(state, today, otherwise, lost) : plain
}

/** A day counts as lost when the weather speaks against half of what has nothing to spare: the rest of it does not carry a crew through the day. */
const HALF = 0.5
function lostDays(state: WallState, p: Programme, today: string): readonly LostDay[] {
  const lost: LostDay[] = []
  // What was to be done on a day that is lost is what comes on the next.
  let behind = 0
  for (const w of expectedDays(state, today)) {
    const hours = p.calendar.hoursOn(w.day)
    if (hours <= 0) continue
    const from = p.calendar.hoursUntil(w.day) - behind
    let [due, stopped] = [0, 0]
    let why = ''
    for (const t of p.tasks) {
      const share = Math.min(t.finish, from + hours) - Math.max(t.start, from)
      if (t.kind !== 'work' || !t.critical || !(share > 1e-6)) continue
      due += share
      const reason = t.step && against(t.step.stage, w, weatherLimitsOf(state.layout.plan))
      if (reason) stopped += share
      why ||= reason ?? ''
    }
    if (due === 0 || stopped < HALF * due) continue
    lost.push({ day: w.day, why })
    behind += hours
  }
  return lost
}

function reckon(state: WallState, today: string, otherwise: Otherwise, lost: readonly LostDay[]): Programme {
  const set = workdaysOf(state)
  const onOne = otherwise.crewOn
  const data = {
    ...set,
    crews: (otherwise.crews ?? set.crews) + (onOne === undefined ? 0 : 1),
    notice: otherwise.notice ?? set.notice,
    days: [...(otherwise.days ?? set.days)],
  }
  const calendar = calendarFrom(data, today, new Set(lost.map((l) => l.day)))
  const pace = paces(state, otherwise.seen, otherwise.pace)
  const { drafts, conflicts } = draftsOf(state, data, calendar, pace, otherwise)
  const steps = drafts.flatMap((d) => (d.kind === 'work' && d.step ? [d.step] : []))
  const supplied: ReadonlyMap<string, Supplied> = otherwise.stocked ? new Map() : suppliedOn(stockBook(state), steps, today)
  const waitsFor = (kind: string, step: Step | undefined) => (kind === 'work' && step ? supplied.get(step.key) : undefined)
  const fixes = fixesOf(state)
  const put = otherwise.fixed
  const dayOf = (id: string) => (put === 'none' ? undefined : put?.has(id) ? put.get(id) : fixes.get(id)?.day)
  const wiring = {
    durations: drafts.map((d) => d.hours),
    after: drafts.map((d) => d.after),
    notBefore: drafts.map((d) => {
      const w = waitsFor(d.kind, d.step)
      const day = dayOf(d.id)
      return Math.max(w === undefined ? 0 : calendar.hoursUntil(w.day), day === undefined ? 0 : calendar.hoursUntil(day))
    }),
  }
  const plant = otherwise.plant === 'enough' ? [] : plantFrom(state, calendar, today)
  const made = level(
    wiring,
    drafts.map((d) => d.crewed),
    {
      crews: data.crews,
      away: awayOf(data, calendar, data.crews - (onOne === undefined ? 0 : 1)),
      plantOf: drafts.map((d) => (d.plant ? MACHINE_KINDS.indexOf(d.plant) : -1)),
      plant,
      ...(onOne === undefined ? {} : { may: (crew: number, task: number) => crew < data.crews - 1 || drafts[task]?.section === onOne }),
    },
  )
  // The gates of a system that go in a circle would stop its Board as well: a fault of the system, not of the wall.
  if (!made) throw new Error(`the stages of ${state.layout.system.name} wait for each other in a circle`)
  const network = Network.of(made.wiring)
  if (!(network instanceof Network)) throw new Error('levelling made a circle')
  const early: string[] = []
  const tasks = drafts.map((d, i): ProgrammeTask => {
    const [start, finish] = [network.start[i] as number, network.finish[i] as number]
    const float = network.float(i)
    const from = calendar.dayOf(start + 1e-6)
    const day = dayOf(d.id)
    const fix = fixes.get(d.id)
    if (day !== undefined && d.kind === 'work' && day < from && start > calendar.hoursUntil(day) + calendar.hoursOn(day) + 1e-6)
      early.push(
        `${d.title} was put on ${said.day(day)}, but cannot begin before ${said.day(from)}: ${whyLater(drafts, made.wiring.after[i] ?? [], network, start)}.`,
      )
    return {
      id: d.id,
      step: d.step,
      section: d.section,
      title: d.title,
      kind: d.kind,
      crewed: d.crewed,
      rate: d.rate,
      plant: d.plant,
      hours: d.hours,
      spread: d.spread,
      start,
      finish,
      from,
      to: calendar.dayOf(finish),
      float,
      critical: float < 1e-6,
      crew: made.crew[i] as number,
      waitsFor: waitsFor(d.kind, d.step),
      fixed: put === 'none' || fix?.day === undefined ? undefined : fix,
    }
  })
  // Put on a day under a plan that had it; what is done is put nowhere any more.
  const drawn = new Set([
    ...drafts.map((d) => d.id),
    ...state.steps.flatMap((s) => [s.key, `release ${s.key}`]),
    ...allTasksOf(state).map((t) => t.task),
  ])
  const astray =
    put === 'none' ? [] : [...fixes].filter(([id, f]) => f.day !== undefined && f.day >= today && !drawn.has(id) && !id.startsWith('saw '))
  const nowhere = astray.map(
    ([id, f]) => `${f.title} was put on ${said.day(f.day as string)} by ${f.by}: the plan in force has no such step (${id}).`,
  )
  return {
    tasks,
    calendar,
    paces: pace,
    hours: network.end,
    finish: calendar.dayOf(network.end),
    bound: made.bound,
    levelled: made,
    gates: wiring.after,
    plant,
    conflicts: [
      ...(calendar.reaches(network.end)
        ? []
        : [
            `What is left takes longer than half a century: a number of hours, or of the working days, is wrong. ${said.day(calendar.dayOf(network.end))} is not when it ends.`,
          ]),
      ...conflicts,
      ...early,
      ...nowhere,
    ],
    lost,
    foreseen: otherwise.fair ? [] : expectedDays(state, today).map((d) => d.day),
  }
}

/** What a task waits for longest. */
function whyLater(
  drafts: readonly { readonly title: string; readonly plant: MachineName | undefined }[],
  after: readonly (readonly [number, number])[],
  network: Network,
  start: number,
): string {
  const last = after.find(([b, lag]) => Math.abs((network.finish[b] as number) + lag - start) < 1e-6)
  const other = last && drafts[last[0]]
  return other ? `it comes after ${other.title}` : 'its material or plant is not here sooner'
}

/** What plant is called. @example plantTitle('plate') // 'Plate or roller' */
export const plantTitle = (p: MachineName): string => MACHINES[p].title
