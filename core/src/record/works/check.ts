import { tableOf } from '../../rules'
import { type CheckData, measuresOf } from '../kinds'
import { lineMoved, nowOut } from './changed'
import { defineWork, NOT_READ } from './work'

/** What a person confirms, item by item, with its sizes. */
export const check = defineWork({
  type: 'check',
  progress(state, step, work) {
    const last = work[work.length - 1]
    const before = work[work.length - 2]
    const said = last?.entry.data as CheckData | undefined
    const has = new Set([...(said?.confirmed ?? []), ...(said?.none ?? [])])
    const { items } = step.stage.work
    // What was confirmed under earlier rules is not asked for what they did not ask.
    const asked = last ? (state.layouts[last.entry.revision - 1]?.plan ?? state.layout.plan) : state.layout.plan
    const measures = measuresOf(step.stage.work, asked)
    const measured = new Set((last?.entry.data as CheckData | undefined)?.measured?.map((m) => m.id) ?? [])
    const day = tableOf(asked) > 1 ? step.stage.work.until : undefined
    const missing = [
      ...[...items.filter((i) => !has.has(i.id)), ...measures.filter((m) => !measured.has(m.id))].map((i) => i.text),
      ...(day && said?.until === undefined ? [day] : []),
    ]
    const total = items.length + measures.length + (day ? 1 : 0)
    const conflict =
      last &&
      before &&
      last.entry.by.id !== before.entry.by.id &&
      !last.entry.recheckOf &&
      [...((before.entry.data as CheckData).confirmed ?? [])].some((id) => !has.has(id))
    return { ...NOT_READ, done: total - missing.length, total, missing, conflicts: conflict ? [{ first: before, second: last }] : [] }
  },
  changed(before, after, step, entry) {
    return step.stage.scope === 'wall' && step.stage.id === 'set-out' ? lineMoved(before, after) : nowOut(before, after, step, entry)
  },
})
