import { fail, ok } from '../../base/result'
import { said } from '../../base/said'
import { lifts as fittedLifts } from '../../ground/rod'
import type { Layout, Stretch } from '../../layout'
import { limitsOf, since, tableOf } from '../../rules'
import { fillHeld } from '../daily'
import type { Entry } from '../entry'
import { lift as kind, type LiftData } from '../kinds/lift'
import { tableAt, uncovered } from '../needs'
import { live, type WallState } from '../state'
import { type Step, stepKey } from '../step'
import { mm, NOISE } from './changed'
import { defineWork, gapWords, NOT_READ, whereOf } from './work'

/** Thinnest lift anybody places, m. */
const THINNEST = 0.05

/** Lifts that together fill a height, each over the whole section. */
export const lifts = defineWork({
  type: 'lifts',
  plan(layout, step) {
    const { plan, building } = layout
    const { foundation } = building
    const limits = limitsOf(plan)
    const pad = step.stage.work.of === 'pad'
    // What sets hard is poured in one go.
    if (pad && (!foundation.lifts || (tableOf(plan) > 1 && foundation.cast)))
      return { lifts: { count: 1, compacted: foundation.thickness, loose: foundation.thickness } }
    const fitted = fittedLifts(
      pad && foundation.lifts
        ? { thickness: foundation.lifts.over ?? foundation.thickness, maxLift: foundation.lifts.max, looseFactor: foundation.lifts.loose }
        : {
            thickness: building.course(step.course ?? 1).height,
            maxLift: Math.max(limits.backfillLift.value / limits.backfillLoose.value, THINNEST),
            looseFactor: limits.backfillLoose.value,
          },
    )
    return fitted.ok ? { lifts: fitted.value } : undefined
  },
  progress(state, step, entries) {
    const work = kind.among(entries)
    const total = step.lifts?.count ?? 1
    const own = state.layout.plan.sections.find((s) => s.id === step.section)
    const missing: string[] = []
    for (let i = 1; i <= total; i++) {
      const laid = work.filter((e) => liftOf(state, e) === i).map((e) => e.entry.data)
      const gaps = own ? uncovered(own, laid) : laid.length > 0 ? [] : [{ from: 0, to: 0 }]
      if (gaps.length === 0) continue
      const where = laid.length > 0 ? `, ${gapWords(gaps)}` : ''
      missing.push(`lift ${i} of ${total}${where}`)
    }
    const done = total - missing.length
    if (missing.length > 0 || !own || work.some((e) => tableAt(state, e) === 1)) return { ...NOT_READ, done, total, missing }
    // Thin lifts are more lifts: what counts is that the fill stands at its height.
    const short = shortest(state, step, work, own)
    return short ? { ...NOT_READ, done, total: done + 1, missing: [short] } : { ...NOT_READ, done, total, missing }
  },
  wants(state, step) {
    if (!step.lifts) return []
    const { count, compacted, loose } = step.lifts
    const { foundation } = state.layout.building
    if (step.stage.work.of === 'pad' && foundation.cast) return [`${foundation.name}, ${said.small(compacted)} in one go`]
    return [`${count} ${count === 1 ? 'lift' : 'lifts'} of ${said.small(compacted)}, placed ${said.small(loose)} loose`]
  },
  admit(state, step, entry, status, times) {
    if (!kind.is(entry)) return ok(true)
    const { lift, looked, from = 0, to = 2000 } = entry.data
    if (!entry.supersedes && !looked?.trim()) {
      const held = times.map((at) => fillHeld(state, step, at)).find((h) => h !== undefined)
      if (held)
        return fail(
          'data.looked',
          `is missing; the weather was ${held}. Frozen or soaked fill is taken off or let drain first: say who looked at it and what was done`,
        )
    }
    if (entry.supersedes || entry.recheckOf) return ok(true)
    // Thin lifts are more lifts: as many as the thinnest that is placed, and two more for what was laid too low.
    const thin = tableOf(state.layout.plan) === 1 ? 0 : Math.ceil(((step.lifts?.count ?? 1) * (step.lifts?.compacted ?? 0)) / THINNEST)
    const most = Math.max(step.lifts?.count ?? 1, thin) + 2
    if (lift > most)
      return fail('data.lift', `the plan has ${step.lifts?.count} ${step.lifts?.count === 1 ? 'lift' : 'lifts'} here; ${lift} is too many`)
    const twice = kind.among(state.logs.get(step.key)?.work ?? []).some((e) => {
      const d = e.entry.data
      const old = status().unmatched.some((u) => u.recorded === e)
      return !old && live(state, e.entry.id) && d.lift === lift && (d.from ?? 0) < to - 0.01 && (d.to ?? 2000) > from + 0.01
    })
    return twice ? fail('data.lift', `lift ${lift} is recorded; correct that entry or record the next lift`) : ok(true)
  },
  sheet(state, step, status) {
    const below = liftsBelow(state, step)
    // Plant and passes nobody has recorded are not made up: the first lifts are recorded by themselves.
    if (!below && tableOf(state.layout.plan) > 1) return undefined
    const count = step.lifts?.count ?? 1
    const as = (i: number): LiftData => {
      const model = below?.lifts.find((l) => l.lift === i) ?? below?.lifts[below.lifts.length - 1]
      const { plant, passes, soil, near, loose, fill } = model ?? { plant: 'light-plate' as const, passes: limitsOf(state.layout.plan).passes.value }
      return {
        lift: i,
        thickness: step.lifts?.compacted ?? model?.thickness ?? 0.1,
        passes,
        plant,
        ...(soil === undefined ? {} : { soil }),
        ...(fill === undefined || !since(state.layout.plan, 3) ? {} : { fill }),
        ...(near === undefined ? {} : { near }),
        ...(loose === undefined ? {} : { loose }),
      } as LiftData
    }
    const first = as(1)
    const taken = status.done
    return {
      words: `${count - taken} ${count - taken === 1 ? 'lift' : 'lifts'}, ${first.plant.replace('-', ' ')}, ${first.passes} passes${below ? `, as course ${below.course}` : ''}`,
      like: below?.course,
      facts: () => Array.from({ length: count - taken }, (_, i) => ({ kind: kind.kind, where: whereOf(step), data: as(taken + i + 1) })),
    }
  },
  changed(before, after, step) {
    const { work } = step.stage
    const of = ({ building }: Layout) =>
      work.of === 'pad' ? (building.foundation.lifts?.over ?? building.foundation.thickness) : building.course(step.course ?? 1).height
    const [was, is] = [of(before), of(after)]
    return Math.abs(is - was) > NOISE
      ? `the layer is now ${mm(is - was)
          .replace('higher', 'thicker')
          .replace('lower', 'thinner')}`
      : undefined
  },
})

/** Lifts of the newest course below that has any, by number. */
function liftsBelow(state: WallState, step: Step): { course: number; lifts: LiftData[] } | undefined {
  for (let course = (step.course ?? 1) - 1; course > 0; course--) {
    const log = state.logs.get(stepKey({ ...whereOf(step), course }))
    const lifts = kind.among(log?.work ?? []).flatMap((e) => (live(state, e.entry.id) ? [e.entry.data] : []))
    if (lifts.length > 0) return { course, lifts }
  }
  return undefined
}

/** Where the lifts of a step do not come up to its height: how much is missing at most, and where. */
function shortest(state: WallState, step: Step, work: ReturnType<typeof kind.among>, own: Stretch): string | undefined {
  const wanted = (step.lifts?.count ?? 0) * (step.lifts?.compacted ?? 0)
  // The last word on each lift, where it reaches: a re-check replaces what it re-checks.
  const laid = work.map((e) => ({ lift: liftOf(state, e), from: own.from, to: own.to, ...tidied(e.entry.data) }))
  const ends = [...new Set([own.from, own.to, ...laid.flatMap((d) => [d.from, d.to])])]
    .filter((s) => s >= own.from && s <= own.to)
    .sort((a, b) => a - b)
  const least = limitsOf(state.layout.plan).fillShort.value
  let worst = { by: least, from: 0, to: 0 }
  for (let i = 1; i < ends.length; i++) {
    const [from, to] = [ends[i - 1] as number, ends[i] as number]
    if (to - from <= 0.05) continue
    const last = new Map<number, number>()
    for (const d of laid) if (d.from <= from + 1e-6 && d.to >= to - 1e-6) last.set(d.lift, d.thickness)
    const by = wanted - [...last.values()].reduce((n, t) => n + t, 0)
    if (by > worst.by) worst = { by, from, to }
  }
  return worst.by > least ? `${said.small(worst.by)} of fill, ${gapWords([worst])}` : undefined
}
const tidied = ({ from, to, thickness }: LiftData) => ({ thickness, ...(from == null ? {} : { from }), ...(to == null ? {} : { to }) })

/** Which lift an entry speaks of: a re-check speaks of the lift it re-checks, whatever number stands on it. */
function liftOf(state: WallState, { entry }: ReturnType<typeof kind.among>[number]): number {
  let of = entry
  for (let i = 0; i < 20 && of.recheckOf !== undefined; i++) {
    const before: Entry | undefined = state.byId.get(of.recheckOf)?.entry
    if (!before || !kind.is(before)) break
    of = before
  }
  return of.data.lift
}
