import { cleared, neededBefore, type Step, statusOf, stepKey, titleOf, type WallState, type WorkdaysData } from '../record'
import { type LimitName, limitsOf, pointOf, type RateName } from '../rules'
import { stockBook } from '../stock'
import { type Calendar, calendarFrom, workdaysOf } from './calendar'
import { type Levelled, level } from './level'
import { Network } from './network'
import { type Pace, paces, workOfStep } from './pace'
import { type Supplied, suppliedOn } from './supplied'

/** One thing that is still to be done, and when. Hours are working hours from now on. */
export interface ProgrammeTask {
  readonly id: string
  /** The step it is; a wait for a release or for concrete has the step it follows. */
  readonly step: Step
  readonly title: string
  readonly kind: 'work' | 'release' | 'cure'
  readonly rate: RateName | undefined
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
}

interface Draft {
  readonly id: string
  readonly step: Step
  readonly kind: ProgrammeTask['kind']
  readonly rate: RateName | undefined
  readonly hours: number
  readonly spread: number
  readonly after: [number, number][]
}

/** Working hours of a wait that goes by the clock: an inspector who wants a day's notice, concrete that stands for a week. */
const waitHours = (clockHours: number, w: WorkdaysData) => (clockHours / 24) * ((w.days.length / 7) * w.hours)

/** What would be otherwise: what is tried to win days back. */
export interface Otherwise {
  readonly crews?: number
  readonly notice?: number
  /** As if all material were here. */
  readonly stocked?: true
}

/** What is left to be done, with the links its own gates make. Nothing here can contradict the Board: it asks the same requirements. */
function draftsOf(state: WallState, w: WorkdaysData, pace: Readonly<Record<RateName, Pace>>): Draft[] {
  const drafts: Draft[] = []
  /** By step: what its followers wait for, done and released. */
  const [done, released] = [new Map<string, number>(), new Map<string, number>()]
  const add = (d: Draft) => drafts.push(d) - 1
  for (const step of state.steps) {
    const status = statusOf(state, step)
    if (cleared(status)) continue
    if (status.state !== 'done' || status.open.length > 0) {
      const { rate, amount } = workOfStep(state, step)
      const left = status.total > 0 ? 1 - Math.min(1, status.done / status.total) : 1
      // What was done and is out of limit is looked at again.
      const hours = status.state === 'done' ? 1 / pace.checks.value : (amount * Math.max(left, 0)) / pace[rate].value
      done.set(step.key, add({ id: step.key, step, kind: 'work', rate, hours, spread: pace[rate].spread, after: [] }))
    }
    if (step.stage.hold && status.hold !== 'released' && pointOf(state.layout.plan, step.stage.hold)?.kind === 'hold') {
      const before = done.get(step.key)
      const id = `release ${step.key}`
      released.set(
        step.key,
        add({
          id,
          step,
          kind: 'release',
          rate: undefined,
          hours: waitHours(w.notice, w),
          spread: 1,
          after: before === undefined ? [] : [[before, 0]],
        }),
      )
    }
  }
  for (const d of drafts) {
    if (d.kind !== 'work') continue
    for (const req of d.step.stage.requires) {
      const days = typeof req.days === 'string' ? limitsOf(state.layout.plan)[req.days as LimitName].value : (req.days ?? 0)
      for (const other of neededBefore(state, d.step, req)) {
        if (other.key === d.step.key) continue
        const before = (req.force === 'hold' ? released.get(other.key) : undefined) ?? done.get(other.key)
        if (before !== undefined) d.after.push([before, days > 0 ? waitHours(days * 24, w) : 0])
      }
    }
  }
  openCourses(state, drafts, done)
  return drafts
}

/** No more courses stand open than the rule allows: a course waits for what closes the one so many below it. */
function openCourses(state: WallState, drafts: Draft[], done: ReadonlyMap<string, number>) {
  const { open } = state.layout.system
  const allowed = state.layout.plan.rules?.openCourses ?? limitsOf(state.layout.plan).openCourses.value
  for (const d of drafts) {
    if (d.kind !== 'work' || d.step.stage.id !== open.from || d.step.course === undefined) continue
    for (const stage of open.until) {
      const before = done.get(stepKey({ stage, section: d.step.section, course: d.step.course - allowed }))
      if (before !== undefined) d.after.push([before, 0])
    }
  }
}

/**
 * What is left of a wall and when it will be done: tasks from its own steps, links from its own gates, durations from what ships and what
 * its record says, levelled to its crews.
 *
 * @param today - as 2026-05-31
 * @param otherwise - what is tried: another crew, an inspector sooner
 * @example programmeOf(state, '2026-05-31').finish // '2026-06-19'
 */
export function programmeOf(state: WallState, today: string, otherwise: Otherwise = {}): Programme {
  const set = workdaysOf(state)
  const data = { ...set, crews: otherwise.crews ?? set.crews, notice: otherwise.notice ?? set.notice }
  const calendar = calendarFrom(data, today)
  const pace = paces(state)
  const drafts = draftsOf(state, data, pace)
  const steps = drafts.flatMap((d) => (d.kind === 'work' ? [d.step] : []))
  const supplied: ReadonlyMap<string, Supplied> = otherwise.stocked ? new Map() : suppliedOn(stockBook(state), steps, today)
  const waitsFor = (d: Draft) => (d.kind === 'work' ? supplied.get(d.step.key) : undefined)
  const wiring = {
    durations: drafts.map((d) => d.hours),
    after: drafts.map((d) => d.after),
    notBefore: drafts.map((d) => {
      const w = waitsFor(d)
      return w === undefined ? 0 : calendar.hoursUntil(w.day)
    }),
  }
  const crewed = drafts.map((d) => d.kind === 'work')
  const levelled = level(wiring, crewed, data.crews)
  // The gates of a system that go in a circle would stop its Board as well: a fault of the system, not of the wall.
  if (!levelled) throw new Error(`the stages of ${state.layout.system.name} wait for each other in a circle`)
  const network = Network.of(levelled.wiring)
  if (!(network instanceof Network)) throw new Error('levelling made a circle')
  const tasks = drafts.map((d, i): ProgrammeTask => {
    const [start, finish] = [network.start[i] as number, network.finish[i] as number]
    const float = network.float(i)
    return {
      id: d.id,
      step: d.step,
      title: d.kind === 'release' ? `Release: ${titleOf(d.step)}` : titleOf(d.step),
      kind: d.kind,
      rate: d.rate,
      hours: d.hours,
      spread: d.spread,
      start,
      finish,
      from: calendar.dayOf(start + 1e-6),
      to: calendar.dayOf(finish),
      float,
      critical: float < 1e-6,
      crew: levelled.crew[i] as number,
      waitsFor: waitsFor(d),
    }
  })
  return {
    tasks,
    calendar,
    paces: pace,
    hours: network.end,
    finish: calendar.dayOf(network.end),
    bound: levelled.bound,
    levelled,
    gates: wiring.after,
  }
}
