import { fail, ok } from '../../base/result'
import { said } from '../../base/said'
import { type InferType, optionalChoice, optionalQuantity, optionalText, quantity, record, text } from '../../base/schema'
import { identifySoil } from '../../ground'
import type { Plan } from '../../plan'
import { limitsOf, plantRule, tableOf } from '../../rules'
import { formatSmall, formatStation } from '../../units/length'
import type { Entry, Verdict } from '../entry'
import { BUILDERS, defineKind, judged } from './kind'
import { soil } from './soil'

/** Bad soil dug out and replaced. Stations and depth m. */
export const undercutData = record({
  from: quantity({ min: 0, max: 2000, unit: 'm' }),
  to: quantity({ min: 0, max: 2000, unit: 'm' }),
  depth: quantity({ min: 0.02, max: 5, unit: 'm' }),
  fill: text(80),
  passes: quantity({ min: 0, max: 40, whole: true }),
  fabricLap: optionalQuantity({ min: 0, max: 3, unit: 'm' }),
  note: optionalText(200),
  /** How firm grown ground was seen at the bottom; or the engineer of record's word for going no deeper. */
  firm: optionalChoice(['heel', 'bar', 'proof-roll'] as const),
  engineer: optionalText(160),
  /** What it was filled with, and in how many lifts. */
  material: optionalChoice(['pad-material', 'clean-stone', 'lean-concrete', 'site-soil'] as const),
  lifts: optionalQuantity({ min: 1, max: 60, whole: true }),
})
export type UndercutData = InferType<typeof undercutData>
/** An undercut goes down to ground somebody saw to be firm, or as deep as the engineer of record says, and is filled with what carries. */
function judgeUndercut(d: UndercutData, of: Entry | undefined, plan: Plan): Verdict {
  const bad = of && soil.is(of) ? of.data : undefined
  const wanted = bad ? identifySoil(bad.answers, tableOf(plan)).undercut : 0
  const poured = d.material === 'lean-concrete'
  const rule = plantRule(plan, 'heavy-plate', 'granular')
  const word = !!d.engineer?.trim()
  return judged(
    [
      !d.firm && !word && 'nobody says that firm ground was seen at the bottom, by heel, bar or proof roll; or give the engineer’s word',
      d.depth < wanted - 0.005 && !word && `${said.small(d.depth)} dug out, at least ${said.small(wanted)}`,
      bad &&
        (d.from > bad.from + 0.05 || d.to < bad.to - 0.05) &&
        `dug out ${said.given(d.from)} to ${said.given(d.to)}, but the bad soil runs ${said.given(bad.from)} to ${said.given(bad.to)}`,
      !d.material && 'nobody says what it was filled with',
      d.material === 'site-soil' && !word && 'filled with soil of the site: only by the engineer’s word',
      !poured && d.passes < rule.passes && `${d.passes} passes a lift, at least ${rule.passes}`,
      !poured &&
        d.depth / (d.lifts ?? 1) > rule.compacted + 0.0005 &&
        `${said.small(d.depth)} in ${d.lifts ?? 'nobody says how many'} ${d.lifts === 1 ? 'lift' : 'lifts'}, at most ${said.small(rule.compacted)} each`,
    ],
    `${said.small(d.depth)} replaced with ${d.fill}${word ? `, by ${d.engineer}` : ', on firm ground'}`,
  )
}

export const undercut = defineKind({
  kind: 'undercut',
  closes: ['soil', 'undercut'],
  beside: true,
  roles: BUILDERS,
  schema: undercutData,
  check({ data, recheckOf }, { find, layout }) {
    if (data.to <= data.from) return fail('data.to', `must be beyond ${said.given(data.from)}, not ${said.given(data.to)}`)
    const of = recheckOf ? find(recheckOf) : undefined
    if (of && soil.is(of) && identifySoil(of.data.answers, tableOf(layout.plan)).stop)
      return fail('recheckOf', 'that is a stop: digging does not answer it. The owner of the line or a competent person says by name that it is safe')
    return ok(true)
  },
  judge(entry, { find, layout }) {
    const d = entry.data
    if (tableOf(layout.plan) > 1) return judgeUndercut(entry.data, entry.recheckOf ? find(entry.recheckOf) : undefined, layout.plan)
    const { passes } = limitsOf(layout.plan)
    if (d.passes < passes.value) return { verdict: 'out', text: `${d.passes} passes on the fill, at least ${passes.value}` }
    const of = entry.recheckOf ? find(entry.recheckOf) : undefined
    if (of && soil.is(of)) {
      const bad = of.data
      const wanted = identifySoil(bad.answers, 1).undercut
      if (d.depth < wanted - 0.005) return { verdict: 'out', text: `${said.small(d.depth)} dug out, at least ${said.small(wanted)}` }
      if (d.from > bad.from + 0.05 || d.to < bad.to - 0.05) {
        return {
          verdict: 'out',
          text: `dug out ${said.given(d.from)} to ${said.given(d.to)}, but the bad soil runs ${said.given(bad.from)} to ${said.given(bad.to)}`,
        }
      }
    }
    return { verdict: 'ok', text: `${said.small(d.depth)} replaced with ${d.fill}` }
  },
  line(entry, reader) {
    const d = entry.data
    return `Undercut ${formatStation(d.from, reader.units)} to ${formatStation(d.to, reader.units)}: ${formatSmall(d.depth, reader.units)} dug out, ${d.fill}, ${d.passes} passes`
  },
})
