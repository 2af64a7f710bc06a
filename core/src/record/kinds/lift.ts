import { choice, type InferType, optionalChoice, optionalQuantity, optionalText, quantity, record, type yup } from '../../base/schema'
import { SQUEEZE } from '../../ground'
import { LIMITS } from '../../rules'
import { formatSmall, formatStation } from '../../units/length'
import { BUILDERS, defineKind } from './kind'

/** A layer placed and compacted at once: compacted thickness m, passes, density in per cent of maximum where tested. */
export const liftData = record({
  lift: quantity({ min: 1, max: 100, whole: true }),
  thickness: quantity({ min: 0.01, max: 1, unit: 'm' }),
  passes: quantity({ min: 0, max: 40, whole: true }),
  plant: choice(['hand-tamper', 'light-plate', 'heavy-plate', 'roller'] as const),
  compaction: optionalQuantity({ min: 50, max: 115, unit: '%' }),
  /** As it was placed, m. */
  loose: optionalQuantity({ min: 0.01, max: 1.5, unit: 'm' }),
  /** By hand, or by meter in per cent. */
  squeeze: optionalChoice(SQUEEZE.map((s) => s.id)),
  moisture: optionalQuantity({ min: 0, max: 100, unit: '%' }),
  /** The stretch it covers, stations in m; the whole section when left out. */
  from: optionalQuantity({ min: 0, max: 2000, unit: 'm' }),
  to: optionalQuantity({ min: 0, max: 2000, unit: 'm' }),
  /** Nearest the plant came to the face, m. */
  near: optionalQuantity({ min: 0, max: 30, unit: 'm' }),
  /** What was placed. */
  soil: optionalText(60),
  /** Lap of the fabric laid below it, m. */
  fabricLap: optionalQuantity({ min: 0, max: 3, unit: 'm' }),
})
export type LiftData = InferType<typeof liftData>
export const PLANT_NAMES = { 'hand-tamper': 'hand tamper', 'light-plate': 'light plate', 'heavy-plate': 'heavy plate', roller: 'roller' }

export const lift = defineKind<LiftData>({
  kind: 'lift',
  roles: BUILDERS,
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
    const wet = SQUEEZE.find((s) => s.id === entry.data.squeeze)
    if (wet?.out) return { verdict: 'out', text: `${wet.judged}: ${wet.text}` }
    if (entry.data.fabricLap != null && entry.data.fabricLap < LIMITS.fabricLap.value) {
      return {
        verdict: 'out',
        text: `fabric lap ${formatSmall(entry.data.fabricLap, 'metric')}, at least ${formatSmall(LIMITS.fabricLap.value, 'metric')}`,
      }
    }
    const { near, loose } = entry.data
    const heavy = plant === 'roller' || plant === 'heavy-plate'
    if (!pad && heavy && near != null && near < LIMITS.plantStandoff.value - 0.0005) {
      return {
        verdict: 'out',
        text: `${PLANT_NAMES[plant]} ${formatSmall(near, 'metric')} from the face, at least ${formatSmall(LIMITS.plantStandoff.value, 'metric')}`,
      }
    }
    if (!pad && loose != null && loose > LIMITS.backfillLift.value + 0.0005) {
      return { verdict: 'out', text: `placed ${formatSmall(loose, 'metric')} loose, limit ${formatSmall(LIMITS.backfillLift.value, 'metric')}` }
    }
    if (!pad && heavy && near == null) {
      return { verdict: 'ok', text: `${passes} passes; keep the ${PLANT_NAMES[plant]} 1 m off the face` }
    }
    return { verdict: 'ok', text: `${passes} passes, ${formatSmall(thickness, 'metric')}` }
  },
  line(entry, reader, { stage }) {
    const d = entry.data
    const wet = SQUEEZE.find((s) => s.id === d.squeeze)?.judged
    const moisture = d.moisture == null ? (wet ? `, moisture ${wet}` : '') : `, ${d.moisture} % moisture`
    const over = d.from == null || d.to == null ? '' : ` (${formatStation(d.from, reader.units)} to ${formatStation(d.to, reader.units)})`
    const density = d.compaction == null ? '' : `, ${d.compaction} % density`
    const how = [
      d.soil ? `, ${d.soil}` : '',
      d.loose == null ? '' : `, placed ${formatSmall(d.loose, reader.units)} loose`,
      d.near == null ? '' : `, no nearer than ${formatSmall(d.near, reader.units)} to the face`,
    ].join('')
    return `${stage?.title ?? 'Lift'}: lift ${d.lift}${over}${how}, ${formatSmall(d.thickness, reader.units)}, ${d.passes} passes with ${PLANT_NAMES[d.plant]}${moisture}${density}`
  },
})
