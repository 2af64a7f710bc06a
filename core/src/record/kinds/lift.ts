import { choice, type InferType, optionalQuantity, quantity, record, type yup } from '../../base/schema'
import { LIMITS } from '../../rules'
import { formatSmall } from '../../units/length'
import { defineKind } from './kind'

/** A layer placed and compacted at once: compacted thickness m, passes, density in per cent of maximum where tested. */
export const liftData = record({
  lift: quantity({ min: 1, max: 100, whole: true }),
  thickness: quantity({ min: 0.01, max: 1, unit: 'm' }),
  passes: quantity({ min: 0, max: 40, whole: true }),
  plant: choice(['hand-tamper', 'light-plate', 'heavy-plate', 'roller'] as const),
  compaction: optionalQuantity({ min: 50, max: 115, unit: '%' }),
})
export type LiftData = InferType<typeof liftData>
export const PLANT_NAMES = { 'hand-tamper': 'hand tamper', 'light-plate': 'light plate', 'heavy-plate': 'heavy plate', roller: 'roller' }

export const lift = defineKind<LiftData>({
  kind: 'lift',
  schema: liftData as unknown as yup.ISchema<LiftData>,
  work: 'lifts',
  judge(entry, { layout, stage }) {
    if (stage?.work.type !== 'lifts') return undefined
    const pad = stage.work.of === 'pad'
    const limit = pad ? layout.plan.pad.maxLift : LIMITS.backfillLift.value / LIMITS.backfillLoose.value
    const { thickness, passes, compaction, plant } = entry.data
    if (thickness > limit + 1e-6 && (pad || layout.plan.unit.height + 1e-6 < thickness)) {
      return { verdict: 'out', text: `lift ${formatSmall(thickness, 'metric')}, limit ${formatSmall(limit, 'metric')}` }
    }
    if (passes < LIMITS.passes.value) return { verdict: 'out', text: `${passes} passes, at least ${LIMITS.passes.value}` }
    if (compaction != null && compaction < LIMITS.compaction.value) {
      return { verdict: 'out', text: `${compaction} % of maximum density, at least ${LIMITS.compaction.value} %` }
    }
    if (!pad && (plant === 'roller' || plant === 'heavy-plate')) {
      return { verdict: 'ok', text: `${passes} passes; keep the ${PLANT_NAMES[plant]} 1 m off the face` }
    }
    return { verdict: 'ok', text: `${passes} passes, ${formatSmall(thickness, 'metric')}` }
  },
  line(entry, reader, { stage }) {
    const d = entry.data
    const density = d.compaction == null ? '' : `, ${d.compaction} % density`
    return `${stage?.title ?? 'Lift'}: lift ${d.lift}, ${formatSmall(d.thickness, reader.units)}, ${d.passes} passes with ${PLANT_NAMES[d.plant]}${density}`
  },
})
