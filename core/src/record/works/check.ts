import { tableOf } from '../../rules'
import { check as kind, measuresOf } from '../kinds/check'
import { photo } from '../kinds/photo'
import { lineMoved, nowOut } from './changed'
import { defineWork, NOT_READ, whereOf } from './work'

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
