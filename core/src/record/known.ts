import type { Entry } from './entry'
import { soilsOf } from './ground-report'
import type { CutData } from './kinds/cut'
import type { DensityData } from './kinds/density'
import type { LiftData } from './kinds/lift'
import type { LookData } from './kinds/look'
import { live, type WallState } from './state'

/** An answer that somebody or the plan gave already, and who: it stands in its field until another is typed. SI. */
export interface Known<T> {
  readonly value: T
  /** Where it comes from: the plan, or the entry that said so by its number. */
  readonly from: 'plan' | { readonly number: number }
}

/** The newest entry of a kind that still counts and says what is looked for. */
function newest<T>(state: WallState, kind: string, of: (entry: Entry) => T | undefined): Known<T> | undefined {
  for (let i = state.entries.length - 1; i >= 0; i--) {
    const e = state.entries[i]
    if (!e || e.entry.kind !== kind || !live(state, e.entry.id)) continue
    const value = of(e.entry)
    if (value !== undefined) return { value, from: { number: e.seq } }
  }
  return undefined
}
const later = <T>(a: Known<T> | undefined, b: Known<T> | undefined): Known<T> | undefined =>
  a && b ? ((a.from as { number: number }).number > (b.from as { number: number }).number ? a : b) : (a ?? b)

/**
 * The competent person of this wall's cut, as whoever looked last was named.
 *
 * @example knownPerson(state)?.value // 'Fay Ortmann'
 */
export const knownPerson = (state: WallState): Known<string> | undefined =>
  later(
    newest(state, 'look', (e) => (e.data as LookData).by?.trim() || undefined),
    newest(state, 'cut', (e) => (e.data as CutData).by?.trim() || undefined),
  )

/** The cut as the plan has it: width at the bottom and room behind the face in m, sides in m across per m up. */
export function plannedCut(state: WallState): Readonly<Record<'width' | 'behind' | 'slope', Known<number>>> {
  const { plan, building } = state.layout
  const depth = building.course(1).depth
  const { behind, slope } = plan.excavation
  const width = Math.max(building.foundation.width, depth + behind + (building.foundation.width - depth) / 2)
  const of = (value: number): Known<number> => ({ value, from: 'plan' })
  return { width: of(width), behind: of(depth + behind), slope: of(slope) }
}

/**
 * What a test's own apparatus was calibrated to when it was used here last: a cone's mass in kg and the density of its sand in kg/m³; the
 * references of a gauge in its own counts. Undefined where none was used: nobody can guess another cone.
 *
 * @example knownApparatus(state, 'sand-cone')?.value.coneMass // 1.62
 */
export const knownApparatus = (state: WallState, method: DensityData['method']): Known<Readonly<Record<string, number>>> | undefined =>
  newest(state, 'density', (e) => {
    const d = e.data as DensityData
    if (d.method !== method) return undefined
    if (d.cone) return { coneMass: d.cone.coneMass, sandDensity: d.cone.sandDensity }
    return d.gauge ? { densityReference: d.gauge.densityReference, moistureReference: d.gauge.moistureReference } : undefined
  })

/**
 * The soils found in a section, by name; undefined where nobody looked yet.
 *
 * @example soilHere(state, 'B') // 'silty sand, lean clay'
 */
export function soilHere(state: WallState, section: string | undefined): string | undefined {
  const names = new Set(soilsOf(state, section).map((s) => s.finding.meaning.name.toLowerCase()))
  return names.size > 0 ? [...names].join(', ') : undefined
}

/**
 * With what the last lift of a stage was compacted and what it was of, in any section: the next one is mostly the same.
 *
 * @example knownLift(state, 'pad')?.value.plant // 'light-plate'
 */
export const knownLift = (state: WallState, stage: string): Known<Pick<LiftData, 'plant' | 'fill'>> | undefined =>
  newest(state, 'lift', (e) => {
    const { plant, fill } = e.data as LiftData
    return e.where.stage === stage ? { plant, fill } : undefined
  })

/**
 * How the density of a stage was tested last, in any section, and why not where it could not be; undefined where nothing was tested.
 *
 * @example knownMethod(state, 'pad')?.value.method // 'gauge'
 */
export const knownMethod = (state: WallState, stage: string): Known<Pick<DensityData, 'method' | 'untestable'>> | undefined =>
  newest(state, 'density', (e) => (e.where.stage === stage ? (e.data as DensityData) : undefined))
