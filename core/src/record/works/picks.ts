import { fail, ok } from '../../base/result'
import { said } from '../../base/said'
import { pickAt, picksOf } from '../../layout'
import { isClosed } from '../closed'
import { liesWell, pick } from '../kinds/pick'
import { reading } from '../kinds/reading'
import { live, type WallState } from '../state'
import { type Step, stepKey, titleOf } from '../step'
import { piecesMoved } from './units'
import { defineWork, NOT_READ } from './work'

/** A reading counts for a unit within this distance of the point beside it, m. */
const NEAR = 0.5

/** Units of a step that a machine sets. @example plannedPicks(state, step).map((p) => p.name) */
export const plannedPicks = ({ layout }: Pick<WallState, 'layout'>, step: Pick<Step, 'section' | 'course'>) =>
  picksOf(layout).filter((p) => p.section === step.section && p.course === step.course)

const contextOfPick = (state: WallState, revision: number) => state.layouts[revision - 1] ?? state.layout

/** The station of the pad that is read again before a unit that was out is set once more; undefined where it lies on a course. */
export function bedUnder(state: WallState, step: Step, number: number): { readonly step: Step; readonly station: number } | undefined {
  const planned = pickAt(state.layout, step.course ?? 0, number)
  const pad = state.layout.system.stages.find((s) => s.work.type === 'readings' && s.work.target === 'pad')
  const own = pad && state.byKey.get(stepKey({ stage: pad.id, section: step.section }))
  const cell = state.layout.cells.get(`${step.section}/${step.course}`)
  if (!planned || !own || !cell || cell.pad === 'none') return undefined
  const station = own.points.reduce((a, b) => (Math.abs(b - planned.station) < Math.abs(a - planned.station) ? b : a), own.points[0] ?? 0)
  return { step: own, station }
}

/** Units set one by one. What is out of limit comes off again: it counts only once it was set anew on a bed that was read again. */
export const picks = defineWork({
  type: 'picks',
  stands: true,
  plan: (layout, step) => ({ planned: picksOf(layout).filter((p) => p.section === step.section && p.course === step.course).length }),
  progress(state, step, work) {
    const last = new Map<number, string>()
    for (const e of pick.among(work)) last.set(e.entry.data.number, e.entry.id)
    const planned = plannedPicks(state, step)
    // A unit that lies well stays where it is, however it was lifted; that is answered by name.
    const answered = (id: string) => {
      const found = state.byId.get(id)
      return found !== undefined && pick.is(found.entry) && isClosed(state, id) && liesWell(found.entry, contextOfPick(state, found.entry.revision))
    }
    const out = planned.filter((p) => state.outs.has(last.get(p.number) ?? '') && !answered(last.get(p.number) ?? ''))
    const left = planned.filter((p) => !last.has(p.number))
    return {
      ...NOT_READ,
      done: planned.length - out.length - left.length,
      total: planned.length,
      missing: [
        ...(left.length > 0 ? [`${left.length} of ${planned.length} to set, next ${left[0]?.name}`] : []),
        ...out.map((p) => {
          const bed = bedUnder(state, step, p.number)
          return `${p.name} to lift off${bed ? `, its pad to mend and read at ${said.station(bed.station)}` : ''}, and to set again`
        }),
      ],
    }
  },
  wants(state, step) {
    const planned = plannedPicks(state, step)
    const heaviest = planned.reduce((a, b) => (b.load > a.load ? b : a), planned[0] ?? { load: 0, reach: 0, name: '' })
    const trucks = [...new Set(planned.flatMap((p) => p.truck ?? []))]
    return [
      `${planned.length} ${planned.length === 1 ? state.layout.system.noun.one : state.layout.system.noun.many}`,
      `heaviest pick ${said.mass(heaviest.load)} at ${said.length(heaviest.reach, 1)} out`,
      ...(trucks.length > 0 ? [trucks.length === 1 ? `truck ${trucks[0]}` : `trucks ${trucks[0]} to ${trucks[trucks.length - 1]}`] : []),
    ]
  },
  admit(state, step, entry) {
    if (!pick.is(entry)) return ok(true)
    const { number } = entry.data
    const before = pick.among(state.logs.get(step.key)?.work ?? []).filter((e) => live(state, e.entry.id) && e.entry.data.number === number)
    const name = pickAt(state.layout, step.course ?? 0, number)?.name ?? `${number}`
    if (entry.supersedes) return ok(true)
    if (!entry.recheckOf)
      return before.length > 0
        ? fail('data.number', `${name} is set already, ${titleOf(step)}; correct that entry, or re-check its finding`)
        : ok(true)
    const found = state.byId.get(entry.recheckOf)
    const bed = bedUnder(state, step, number)
    if (!found || !bed) return ok(true)
    const read = reading
      .among(state.logs.get(bed.step.key)?.work ?? [])
      .some(
        (e) =>
          e.seq > found.seq && live(state, e.entry.id) && !state.outs.has(e.entry.id) && Math.abs((e.entry.where.station ?? -9) - bed.station) < NEAR,
      )
    return read
      ? ok(true)
      : fail(
          'recheckOf',
          `${name} was out: lift it off, mend the pad and read it at ${said.station(bed.station)} again (${titleOf(bed.step)}), then set it`,
        )
  },
  changed: (before, after, _step, entry) => piecesMoved(before, after, entry),
})
