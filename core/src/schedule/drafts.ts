import { cutsLeft } from '../materials'
import { cleared, neededBefore, type Step, statusOf, stepKey, titleOf, type WallState, type WorkdaysData } from '../record'
import { type LimitName, limitsOf, type MachineName, pointOf, type RateName } from '../rules'
import type { Calendar } from './calendar'
import { tasksOf } from './extras'
import { Network } from './network'
import { type Pace, workOfStep } from './pace'

/** A task before anybody has said when: what it takes and what it waits for, by number. */
export interface Draft {
  readonly id: string
  readonly title: string
  /** The step it is; a wait for a release has the step it follows; work in no stage has none. */
  readonly step: Step | undefined
  readonly section: string | undefined
  readonly kind: 'work' | 'release'
  /** Does it take a crew? */
  readonly crewed: boolean
  readonly rate: RateName | undefined
  readonly plant: MachineName | undefined
  readonly hours: number
  readonly spread: number
  readonly after: [before: number, lag: number][]
  /** Does somebody outside wait for it, or is it others' work: its links are nobody's gates. */
  readonly extra?: true
}

/** What is looked at otherwise than it is. */
export interface Reckoned {
  /** Releases of what is done are there. */
  readonly released?: true
  /** What is out of tolerance is put right. */
  readonly closed?: true
}

const PLANT_OF: Partial<Record<RateName, MachineName>> = { dig: 'excavator', lifts: 'plate', picks: 'crane', cuts: 'saw' }
/** Hours of others' work scatter like a check's. */
const OTHERS = 1.3

/** What is left to be done, with the links its own gates make. Nothing here can contradict the Board: it asks the same requirements. */
export function draftsOf(
  state: WallState,
  w: WorkdaysData,
  calendar: Calendar,
  pace: Readonly<Record<RateName, Pace>>,
  as: Reckoned = {},
): { readonly drafts: readonly Draft[]; readonly conflicts: readonly string[] } {
  const drafts: Draft[] = []
  /** Working hours of a wait that goes by the clock: an inspector who wants a day's notice, concrete that stands for a week. */
  const waitHours = (hours: number) => hours * calendar.clock
  /** By step: what its followers wait for, done and released. */
  const [done, released] = [new Map<string, number>(), new Map<string, number>()]
  const add = (d: Draft) => drafts.push(d) - 1
  for (const step of state.steps) {
    const status = statusOf(state, step)
    if (cleared(status)) continue
    const { title, section } = { title: titleOf(step), section: step.section }
    if (status.state !== 'done' || (status.open.length > 0 && !as.closed)) {
      const { rate, amount } = workOfStep(state, step)
      const left = status.total > 0 ? 1 - Math.min(1, status.done / status.total) : 1
      // What was done and is out of limit is looked at again.
      const hours = status.state === 'done' ? 1 / pace.checks.value : (amount * Math.max(left, 0)) / pace[rate].value
      done.set(
        step.key,
        add({
          id: step.key,
          title,
          step,
          section,
          kind: 'work',
          crewed: true,
          rate,
          plant: PLANT_OF[rate],
          hours,
          spread: pace[rate].spread,
          after: [],
        }),
      )
    }
    if (step.stage.hold && status.hold !== 'released' && pointOf(state.layout.plan, step.stage.hold)?.kind === 'hold') {
      const before = done.get(step.key)
      released.set(
        step.key,
        add({
          id: `release ${step.key}`,
          title: `Release: ${title}`,
          step,
          section,
          kind: 'release',
          crewed: false,
          rate: undefined,
          plant: undefined,
          hours: as.released && before === undefined ? 0 : waitHours(w.notice),
          spread: 1,
          after: before === undefined ? [] : [[before, 0]],
        }),
      )
    }
  }
  for (const d of drafts) {
    if (d.kind !== 'work' || !d.step) continue
    for (const req of d.step.stage.requires) {
      const days = typeof req.days === 'string' ? limitsOf(state.layout.plan)[req.days as LimitName].value : (req.days ?? 0)
      for (const other of neededBefore(state, d.step, req)) {
        if (other.key === d.step.key) continue
        const before = (req.force === 'hold' ? released.get(other.key) : undefined) ?? done.get(other.key)
        if (before !== undefined) d.after.push([before, days > 0 ? waitHours(days * 24) : 0])
      }
    }
  }
  openCourses(state, drafts, done)
  sawing(state, drafts, pace)
  return { drafts, conflicts: others(state, drafts) }
}

/** No more courses stand open than the rule allows: a course waits for what closes the one so many below it. */
function openCourses(state: WallState, drafts: readonly Draft[], done: ReadonlyMap<string, number>) {
  const { open } = state.layout.system
  const allowed = state.layout.plan.rules?.openCourses ?? limitsOf(state.layout.plan).openCourses.value
  for (const { kind, step, after } of drafts) {
    if (kind !== 'work' || step?.stage.id !== open.from || step.course === undefined) continue
    for (const stage of open.until) {
      const before = done.get(stepKey({ stage, section: step.section, course: step.course - allowed }))
      if (before !== undefined) after.push([before, 0])
    }
  }
}

/** The cuts of a section on one day at the saw, before the lowest of its courses that has any. */
function sawing(state: WallState, drafts: Draft[], pace: Readonly<Record<RateName, Pace>>) {
  // Where a course is set its cuts were made, whether somebody wrote that down or not.
  const unset = new Map<string, { i: number; course: number }[]>()
  drafts.forEach((d, i) => {
    if (d.step?.stage.work.type !== 'units' || d.step.course === undefined || d.section === undefined) return
    unset.set(d.section, [...(unset.get(d.section) ?? []), { i, course: d.step.course }])
  })
  const left = cutsLeft(state)
  for (const [section, courses] of unset) {
    const own = courses.filter((c) => left.get(section)?.get(c.course)).sort((a, b) => a.course - b.course)
    const first = own[0]
    if (!first) continue
    const count = own.reduce((n, c) => n + (left.get(section)?.get(c.course) ?? 0), 0)
    const i =
      drafts.push({
        id: `saw ${section}`,
        title: `Cuts of section ${section}: ${count}`,
        step: undefined,
        section,
        kind: 'work',
        crewed: true,
        rate: 'cuts',
        plant: 'saw',
        hours: count / pace.cuts.value,
        spread: pace.cuts.spread,
        after: [],
      }) - 1
    drafts[first.i]?.after.push([i, 0])
  }
}

/** Work that is in no stage, with the links somebody gave it. What would make a circle with the gates is left out and said. */
function others(state: WallState, drafts: Draft[]): readonly string[] {
  const extra = tasksOf(state)
  if (extra.length === 0) return []
  const conflicts: string[] = []
  const steps = new Set(state.steps.map((s) => s.key))
  const at = new Map(drafts.map((d, i) => [d.id, i]))
  for (const t of extra) {
    at.set(
      t.task,
      drafts.push({
        id: t.task,
        title: t.title,
        step: undefined,
        section: t.section,
        kind: 'work',
        crewed: t.crew,
        rate: undefined,
        plant: t.plant,
        hours: t.hours,
        spread: OTHERS,
        after: [],
        extra: true,
      }) - 1,
    )
  }
  const known = new Set([...steps, ...[...steps].map((k) => `release ${k}`), ...at.keys()])
  const links = extra.flatMap((t) => [
    ...t.after.map((name) => ({ of: t, name, before: at.get(name), i: at.get(t.task) })),
    ...t.before.map((name) => ({ of: t, name, before: at.get(t.task), i: at.get(name) })),
  ])
  const circle = () => !(Network.of({ durations: drafts.map((d) => d.hours), after: drafts.map((d) => d.after) }) instanceof Network)
  const good = links.flatMap((l) => {
    // What is done is waited for no longer; what never was is a slip of the pen.
    if (l.before !== undefined && l.i !== undefined) return [{ of: l.of, name: l.name, own: drafts[l.i]?.after ?? [], before: l.before }]
    if (!known.has(l.name)) conflicts.push(`${l.of.title} is linked to "${l.name}", which this wall has not: the link is left out.`)
    return []
  })
  for (const l of good) l.own.push([l.before, 0])
  if (!circle()) return conflicts
  for (const l of good)
    l.own.splice(
      l.own.findIndex(([b]) => b === l.before),
      1,
    )
  for (const l of good) {
    l.own.push([l.before, 0])
    if (!circle()) continue
    l.own.pop()
    conflicts.push(`${l.of.title} and "${l.name}" wait for each other through the gates of the wall: that link is left out.`)
  }
  return conflicts
}
