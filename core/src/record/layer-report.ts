import { type Layer, layerSchedule, rollOf } from '../reinforcement'
import type { RecordedEntry } from './entry'
import { statusOf } from './fold'
import type { GeogridData, RollData } from './kinds'
import { live, type WallState } from './state'
import { cleared } from './status'
import { type Step, stepKey } from './step'
import { unmatched } from './unmatched'

/** How a layer stands. */
export type LayerState = 'to place' | 'part placed' | 'wrong' | 'placed' | 'released' | 'plan changed'

export interface PlacedLayer {
  readonly layer: Layer
  readonly step: Step
  readonly state: LayerState
  readonly entries: readonly RecordedEntry[]
  /** What is missing or wrong, in words. */
  readonly words: string
}

/**
 * Every layer of the plan in force with what the record says of it, and layers placed that the plan no longer has.
 *
 * @example layerReport(state).filter((l) => l.state === 'to place').length
 */
export function layerReport(state: WallState): PlacedLayer[] {
  const changed = new Map(unmatched(state).map((u) => [u.key, u.message]))
  return layerSchedule(state.layout).flatMap((layer): PlacedLayer[] => {
    const key = stepKey({ stage: gridStageOf(state), section: layer.section, course: layer.course })
    const step = state.byKey.get(key)
    if (!step) return []
    const status = statusOf(state, step)
    const entries = (state.logs.get(key)?.work ?? []).filter((e) => e.entry.kind === 'geogrid' && live(state, e.entry.id))
    const was = changed.get(key)
    const of = (): [LayerState, string] => {
      if (was) return ['plan changed', was]
      if (status.open.length > 0) return ['wrong', status.open.map((o) => state.outs.get(o.entry.id)?.text).join('; ')]
      if (status.state === 'todo') return ['to place', '']
      if (status.state === 'partial') return ['part placed', status.missing.join('; ')]
      return cleared(status) ? ['released', ''] : ['placed', 'waits to be looked at']
    }
    const [layerState, words] = of()
    return [{ layer, step, state: layerState, entries, words }]
  })
}

const gridStageOf = (state: WallState) => state.layout.system.stages.find((s) => s.work.type === 'grid')?.id

/** A roll on site: what was cut from it and what is left, m. */
export interface RollUse {
  readonly roll: string
  readonly lot: string | undefined
  readonly type: string
  readonly length: number
  readonly used: number
  readonly left: number
  /** Named with a layer, but nobody recorded that it came. */
  readonly unknown: boolean
  /** Of another type than the layer it was used for. */
  readonly wrongType: boolean
}

/**
 * Rolls by name: those recorded as they came, and those only named with a layer.
 *
 * @example rollBook(state).find((r) => r.roll === 'R104')?.left
 */
export function rollBook(state: WallState): RollUse[] {
  const came = new Map<string, RollData>()
  for (const e of state.entries)
    if (e.entry.kind === 'roll' && live(state, e.entry.id)) came.set((e.entry.data as RollData).roll, e.entry.data as RollData)
  const uses = new Map<string, { used: number; type: string; lot: string | undefined; types: Set<string> }>()
  for (const e of state.entries) {
    if (e.entry.kind !== 'geogrid' || !live(state, e.entry.id)) continue
    const d = e.entry.data as GeogridData
    if (!d.roll) continue
    const own = state.byKey.get(stepKey(e.entry.where))
    const run = (own?.over ?? []).reduce((sum, s) => sum + Math.max(0, Math.min(s.to, d.to ?? s.to) - Math.max(s.from, d.from ?? s.from)), 0)
    const width = came.get(d.roll)?.width ?? rollOf(state.layout, d.type).width
    const known = uses.get(d.roll) ?? { used: 0, type: d.type, lot: d.lot, types: new Set<string>() }
    known.used += Math.ceil(run / width - 1e-6) * d.length
    known.types.add(d.type)
    uses.set(d.roll, known)
  }
  return [...new Set([...came.keys(), ...uses.keys()])].map((name): RollUse => {
    const [own, use] = [came.get(name), uses.get(name)]
    const type = own?.type ?? use?.type ?? ''
    const length = own?.length ?? rollOf(state.layout, type).length
    const used = use?.used ?? 0
    return {
      roll: name,
      lot: own?.lot ?? use?.lot,
      type,
      length,
      used,
      left: length - used,
      unknown: !own,
      wrongType: !!own && !!use && [...use.types].some((t) => t !== own.type),
    }
  })
}
