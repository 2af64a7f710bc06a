import { canonical } from '../../base/canonical'
import { fail, ok } from '../../base/result'
import { since, tableOf } from '../../rules'
import type { Entry } from '../entry'
import { type CheckData, check as kind, measuresOf } from '../kinds/check'
import { photo } from '../kinds/photo'
import { live } from '../state'
import { observedAt } from '../time'
import { lineMoved, nowOut } from './changed'
import { defineWork, NOT_READ, whereOf } from './work'

/** Said again by the same person within so long, it is the same word, ms. */
const MOMENT = 12 * 3_600_000
/** Is it the very word that stands, of the same person and the same day's work? */
function sameWord(before: Entry<string, CheckData>, now: Entry<string, CheckData>): boolean {
  const of = ({ confirmed, none, detail, until, measured }: CheckData) =>
    canonical({
      confirmed: [...confirmed].sort(),
      none: [...(none ?? [])].sort(),
      detail: detail ?? '',
      until: until ?? '',
      measured: [...(measured ?? [])].sort((a, b) => a.id.localeCompare(b.id)),
    })
  return before.by.id === now.by.id && Math.abs(observedAt(now) - observedAt(before)) < MOMENT && of(before.data) === of(now.data)
}

/** What a person confirms, item by item, with its sizes. */
export const check = defineWork({
  type: 'check',
  plan: () => ({}),
  progress(state, step, work, all) {
    const own = kind.among(work)
    const [last, before] = [own[own.length - 1], own[own.length - 2]]
    const said = last?.entry.data
    const has = new Set([...(said?.confirmed ?? []), ...(said?.none ?? [])])
    const { items } = step.stage.work
    // What was confirmed under earlier rules is not asked for what they did not ask.
    const asked = last ? (state.layouts[last.entry.revision - 1]?.plan ?? state.layout.plan) : state.layout.plan
    const measures = measuresOf(step.stage.work, asked)
    const measured = new Set(said?.measured?.map((m) => m.id) ?? [])
    const day = tableOf(asked) > 1 ? step.stage.work.until : undefined
    const missing = [
      ...[...items.filter((i) => !has.has(i.id)), ...measures.filter((m) => !measured.has(m.id))].map((i) => i.text),
      ...(day && said?.until === undefined ? [day] : []),
    ]
    // Whatever was seen at the step shows it; nobody sees it again.
    const wantsPhoto = step.stage.work.photo === true
    if (wantsPhoto && photo.among(all).length === 0) missing.push('a photo')
    const total = items.length + measures.length + (day ? 1 : 0) + (wantsPhoto ? 1 : 0)
    const conflict =
      last && before && last.entry.by.id !== before.entry.by.id && !last.entry.recheckOf && before.entry.data.confirmed.some((id) => !has.has(id))
    return { ...NOT_READ, done: total - missing.length, total, missing, conflicts: conflict ? [{ first: before, second: last }] : [] }
  },
  admit(state, step, entry, status) {
    // A press too many, or a page that was late: the same word of the same person at a list that is whole says nothing new.
    if (!kind.is(entry) || entry.supersedes || entry.recheckOf || !since(state.layout.plan, 3) || status().state !== 'done') return ok(true)
    // A rejection is answered by the same list, looked at anew.
    if (status().hold === 'rejected') return ok(true)
    const own = kind.among((state.logs.get(step.key)?.work ?? []).filter((e) => live(state, e.entry.id)))
    const last = own[own.length - 1]
    return last && sameWord(last.entry, entry)
      ? fail('data', `says what ${entry.by.name} recorded a moment ago (no. ${last.seq}); it stands, and is not recorded twice`)
      : ok(true)
  },
  wants: (_state, step) => [step.stage.work.items.map((i) => i.text.toLowerCase()).join('; ')],
  sheet(state, step) {
    const { items } = step.stage.work
    // A size is measured, never made up.
    if (measuresOf(step.stage.work, state.layout.plan).length > 0) return undefined
    return {
      words: `all ${items.length}: ${items.map((i) => i.text.toLowerCase()).join(', ')}`,
      facts: () => [{ kind: kind.kind, where: whereOf(step), data: { confirmed: items.map((i) => i.id) } }],
    }
  },
  changed(before, after, step, entry) {
    return step.stage.scope === 'wall' && step.stage.id === 'set-out' ? lineMoved(before, after) : nowOut(before, after, step, entry)
  },
})
