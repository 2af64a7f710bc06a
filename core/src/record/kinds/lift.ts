import { fail, ok } from '../../base/result'
import { said } from '../../base/said'
import { choice, type InferType, optionalChoice, optionalQuantity, optionalText, optionalYesNo, quantity, record } from '../../base/schema'
import { SQUEEZE } from '../../ground'
import type { Layout } from '../../layout'
import { limitsOf, plantRule, schoolBy, since, tableOf } from '../../rules'
import { formatSmall, formatStation } from '../../units/length'
import type { Verdict } from '../entry'
import { BUILDERS, covers, defineKind, judged } from './kind'

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
  /** What was placed, and whether silt or clay is in it. */
  soil: optionalText(60),
  fill: optionalChoice(['granular', 'fine', 'swelling', 'organic', 'frozen', 'made'] as const),
  /** The material is poured, not compacted: concrete or a cement mix. */
  poured: optionalYesNo(),
  /** Frozen or soaked fill of before, looked at by somebody before this was placed: who, and what was done. */
  looked: optionalText(160),
  /** Lap of the fabric laid below it, m. */
  fabricLap: optionalQuantity({ min: 0, max: 3, unit: 'm' }),
})
export type LiftData = InferType<typeof liftData>
export const PLANT_NAMES = { 'hand-tamper': 'hand tamper', 'light-plate': 'light plate', 'heavy-plate': 'heavy plate', roller: 'roller' }

/** What nobody places behind a wall, in words. */
const NO_FILL: Readonly<Record<string, string>> = {
  swelling: 'clay that swells',
  organic: 'organic soil',
  frozen: 'frozen soil',
  made: 'made ground',
}

/** Concrete and cement mixes are poured or tamped in one go: passes and density say nothing of them. */
function judgePoured(d: LiftData, { plan, building }: Layout): Verdict {
  const { foundation } = building
  return judged(
    [
      !foundation.cast && `the pad is ${foundation.kind.replace('-', ' ')}: it is compacted, not poured`,
      d.thickness < foundation.thickness - limitsOf(plan).padThickness.value - 0.0005 &&
        `${said.small(d.thickness)} thick, the plan wants ${said.small(foundation.thickness)}`,
    ],
    `poured, ${said.small(d.thickness)}`,
  )
}

export const lift = defineKind({
  kind: 'lift',
  roles: BUILDERS,
  schema: liftData,
  work: 'lifts',
  again(entry, finding) {
    const { lift } = finding.data
    return entry.data.lift === lift
      ? covers(entry.data, finding.data)
      : { field: 'data.lift', message: `re-check lift ${lift}, where the finding is, not lift ${entry.data.lift}` }
  },
  check(entry, { layout, stage }) {
    const { plant, near } = entry.data
    const heavy = plant === 'roller' || plant === 'heavy-plate'
    // Nobody's answer would be the worst one: it is asked.
    if (since(layout.plan, 3) && stage?.work.type === 'lifts' && stage.work.of === 'backfill' && heavy && near == null)
      return fail(
        'data.near',
        `is missing; say how near the ${PLANT_NAMES[plant]} came to the face, at least ${said.given(limitsOf(layout.plan).plantStandoff.value)}`,
      )
    return ok(true)
  },
  judge(entry, { layout, stage }) {
    if (stage?.work.type !== 'lifts') return undefined
    const pad = stage.work.of === 'pad'
    const { plan, building } = layout
    const { foundation } = building
    const most = foundation.lifts?.max ?? foundation.thickness
    const limits = limitsOf(plan)
    const { thickness, passes, compaction, plant, near, loose, fabricLap, fill } = entry.data
    if (pad && entry.data.poured) return judgePoured(entry.data, layout)
    const first = tableOf(plan) === 1
    const tool = plantRule(plan, plant, pad ? (fill ?? 'granular') : fill)
    // Of a pad the plan has its own limit, and no plant reaches deeper than it does.
    const limit = pad ? (first ? most : Math.min(most, tool.compacted)) : tool.compacted
    const wet = SQUEEZE.find((s) => s.id === entry.data.squeeze)
    const heavy = plant === 'roller' || plant === 'heavy-plate'
    const mm = (v: number) => said.small(v)
    const thick = thickness > limit + (first ? 1e-6 : 0.0005) && (pad || !first || building.course(entry.where.course ?? 1).height + 1e-6 < thickness)
    const unsaid = fill === undefined && !pad && since(plan, 3)
    const by = first ? '' : ` with a ${PLANT_NAMES[plant]}${fill === 'fine' ? ' in silt or clay' : unsaid ? ' in fill nobody has named' : ''}`
    return judged(
      [
        fill !== undefined && NO_FILL[fill] !== undefined && `${NO_FILL[fill]} was placed: it comes out again`,
        thick && `lift ${mm(thickness)}, limit ${mm(limit)}${limit === most && pad ? '' : by}`,
        passes < tool.passes && `${passes} ${passes === 1 ? 'pass' : 'passes'}${by}, at least ${tool.passes}`,
        compaction != null && compaction < limits.compaction.value && `${compaction} % of maximum density, at least ${limits.compaction.value} %`,
        wet?.out && `${wet.judged}: ${wet.text}`,
        fabricLap != null && fabricLap < limits.fabricLap.value && `fabric lap ${mm(fabricLap)}, at least ${mm(limits.fabricLap.value)}`,
        !pad &&
          heavy &&
          near != null &&
          near < limits.plantStandoff.value - 0.0005 &&
          `${PLANT_NAMES[plant]} ${mm(near)} from the face, at least ${mm(limits.plantStandoff.value)}`,
        !pad &&
          plant !== 'hand-tamper' &&
          schoolBy(plan, 'face-compactor') === 'hand' &&
          near != null &&
          near < limits.plantStandoff.value - 0.0005 &&
          !heavy &&
          `${PLANT_NAMES[plant]} ${mm(near)} from the face, where its rules have a hand tamper within ${said.given(limits.plantStandoff.value)}`,
        (!pad || !first) && loose != null && loose > tool.loose + 0.0005 && `placed ${mm(loose)} loose, limit ${mm(tool.loose)}${by}`,
      ],
      !pad && heavy && near == null
        ? `${passes} passes; keep the ${PLANT_NAMES[plant]} ${said.given(limits.plantStandoff.value)} off the face`
        : `${passes} passes, ${mm(thickness)}`,
    )
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
      d.looked ? `, looked at first: ${d.looked}` : '',
      d.near == null ? '' : `, no nearer than ${formatSmall(d.near, reader.units)} to the face`,
    ].join('')
    if (d.poured) return `${stage?.title ?? 'Lift'}: poured${over}, ${formatSmall(d.thickness, reader.units)}`
    return `${stage?.title ?? 'Lift'}: lift ${d.lift}${over}${how}, ${formatSmall(d.thickness, reader.units)}, ${d.passes} passes with ${PLANT_NAMES[d.plant]}${moisture}${density}`
  },
})
