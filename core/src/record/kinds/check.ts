import { fail, ok } from '../../base/result'
import { said } from '../../base/said'
import { type InferType, list, optionalList, optionalText, quantity, record, text } from '../../base/schema'
import type { Layout } from '../../layout'
import { type LimitName, limitsOf, type Ruled, tableOf } from '../../rules'
import type { CheckMeasure, MeasureOf } from '../../systems'
import { fullDay } from '../../units/day'
import { say } from '../../units/say'
import type { Where } from '../entry'
import { optionalDay } from '../item'
import { BUILDERS, defineKind, judged } from './kind'

/** Items of a checklist a person confirmed, and the numbers that go with them (m, °C, counts). */
export const checkData = record({
  confirmed: list(text(40), 0, 40),
  /** Items that do not apply here, as the person says. */
  none: optionalList(text(40), 40),
  detail: optionalText(200),
  /** The last day of a locate ticket. */
  until: optionalDay(),
  measured: optionalList(record({ id: text(40), value: quantity({ min: -60, max: 1_000_000 }) }), 10),
})
export type CheckData = InferType<typeof checkData>

/** What is measured in a checklist under the rules of a plan. */
export const measuresOf = (work: { readonly measures?: readonly CheckMeasure[] }, plan: Ruled): readonly CheckMeasure[] =>
  (work.measures ?? []).filter((m) => (m.since ?? 1) <= tableOf(plan))

/** What a measure can be at all: beyond it another unit was meant. m, °C, pieces. */
const RANGE: Readonly<Record<MeasureOf, readonly [least: number, most: number]>> = {
  length: [-1, 10],
  temperature: [-40, 60],
  mass: [0, 1_000_000],
  count: [0, 10_000],
}

/** The limits of a measure at a place of a wall; SI. @example boundsOf({ id: 'cover', text: 'Stone', least: 'pipeCover' }, layout).least // 0.15 */
export function boundsOf(
  m: CheckMeasure,
  layout: Pick<Layout, 'plan' | 'system' | 'building'>,
  at: Where = {},
): { readonly least: number | undefined; readonly most: number | undefined } {
  const of = (limit: string | number | undefined): number | undefined => {
    if (typeof limit !== 'string') return limit
    const [from, name] = limit.split('.')
    if (from === 'own' && name) return layout.system.size?.(layout.plan.system.data, name, at, layout.plan)
    if (from === 'foundation' && name) return layout.building.foundation.sizes[name]
    return limitsOf(layout.plan)[limit as LimitName].value
  }
  return { least: of(m.least), most: of(m.most) }
}

/** A measure in words. @example measureSaid('count', 3) // '3' */
export const measureSaid = (of: MeasureOf | undefined, value: number, signed = false): string =>
  of === 'temperature'
    ? said.temperature(value)
    : of === 'mass'
      ? said.mass(value)
      : of === 'count'
        ? `${value}`
        : signed
          ? said.signed(value)
          : said.small(value)

export const check = defineKind({
  kind: 'check',
  roles: BUILDERS,
  schema: checkData,
  work: 'check',
  check(entry, { stage, layout }) {
    if (stage?.work.type !== 'check' || tableOf(layout.plan) === 1) return ok(true)
    const { none = [], confirmed } = entry.data
    for (const [i, m] of (entry.data.measured ?? []).entries()) {
      const asked = stage.work.measures?.find((x) => x.id === m.id)
      const [least, most] = RANGE[asked?.of ?? 'length']
      if (m.value < least || m.value > most)
        return fail(`data.measured[${i}].value`, `${asked?.text ?? m.id} must be ${least} to ${most}, not ${m.value}; is the unit right?`)
      if (asked?.of === 'count' && !Number.isInteger(m.value)) return fail(`data.measured[${i}].value`, `must be a whole number, not ${m.value}`)
    }
    for (const [i, id] of none.entries()) {
      const item = stage.work.items.find((x) => x.id === id)
      if (!item?.maybe) return fail(`data.none[${i}]`, `"${item?.text ?? id}" is wanted here; it cannot be said not to apply`)
      if (confirmed.includes(id)) return fail(`data.none[${i}]`, `"${item.text}" is confirmed and said not to apply; it is one or the other`)
    }
    return ok(true)
  },
  judge(entry, { stage, layout }) {
    if (stage?.work.type !== 'check') return undefined
    const outs: string[] = []
    for (const m of measuresOf(stage.work, layout.plan)) {
      const got = entry.data.measured?.find((x) => x.id === m.id)?.value
      if (got === undefined) continue
      const { least, most } = boundsOf(m, layout, entry.where)
      const words = `${m.text.toLowerCase()} ${measureSaid(m.of, got, true)}`
      if (least !== undefined && got < least - 0.0005) outs.push(`${words}, at least ${measureSaid(m.of, least)}`)
      if (most !== undefined && (m.either ? Math.abs(got) : got) > most + 0.0005) outs.push(`${words}, at most ${measureSaid(m.of, most)}`)
    }
    return outs.length > 0 ? judged(outs, '') : undefined
  },
  line(entry, reader, { stage }) {
    if (stage?.work.type !== 'check') return 'Check'
    const names = stage.work.items.filter((i) => entry.data.confirmed.includes(i.id)).map((i) => i.text)
    const none = stage.work.items.filter((i) => entry.data.none?.includes(i.id)).map((i) => `${i.text.toLowerCase()}: does not apply`)
    const sizes = (stage.work.measures ?? []).flatMap((m) => {
      const got = entry.data.measured?.find((x) => x.id === m.id)
      return got ? [`${m.text.toLowerCase()} ${say(measureSaid(m.of, got.value, true), reader.units)}`] : []
    })
    const until = entry.data.until ? `, until ${fullDay(entry.data.until)}` : ''
    const detail = entry.data.detail || until ? ` (${entry.data.detail ?? ''}${until})`.replace('(, ', '(') : ''
    return `${stage.title}: ${[...names, ...none, ...sizes].join('; ') || 'nothing confirmed'}${detail}`
  },
})
