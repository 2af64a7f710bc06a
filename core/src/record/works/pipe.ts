import { said } from '../../base/said'
import { check } from '../kinds/check'
import { photo } from '../kinds/photo'
import { pipe as kind } from '../kinds/pipe'
import { uncovered } from '../needs'
import { targetAt } from '../target'
import { LINE, mm, nowOut } from './changed'
import { defineWork, gapWords, NOT_READ } from './work'

/** Pipe laid stretch by stretch, each with a photo before anything covers it. */
export const pipe = defineWork({
  type: 'pipe',
  plan: (_layout, _step, { section }) => section && { over: [{ from: section.from, to: section.to }] },
  wants(state) {
    const { drain } = state.layout.building
    return drain ? [`pipe of ${said.small(drain.diameter)}, falling ${+(drain.fall * 100).toFixed(2)} %`] : []
  },
  progress(_state, step, work, all) {
    const laid = kind.among(work).map((e) => ({ id: e.entry.id, ...e.entry.data }))
    // Before pipe was recorded by stretches it was ticked off; what was seen and released then stays so.
    if (laid.length === 0 && all.some((e) => check.is(e.entry))) return { ...NOT_READ, done: 1, total: 1, missing: [] }
    const gaps = (step.over ?? []).flatMap((s) => uncovered(s, laid))
    const photos = photo.among(all).map((e) => e.entry)
    // A photo shows one stretch: the one it names, else the first that its station lies in.
    const shown = new Set<string>()
    for (const p of photos) {
      const named = p.data.of
      const { station } = p.where
      const of =
        laid.find((d) => d.id === named) ??
        (station === undefined
          ? undefined
          : (laid.find((d) => !shown.has(d.id) && station >= d.from && station < d.to) ??
            laid.find((d) => !shown.has(d.id) && station >= d.from - 0.05 && station <= d.to + 0.05)))
      if (of) shown.add(of.id)
    }
    const unseen = laid.filter((d) => !shown.has(d.id))
    return {
      ...NOT_READ,
      done: laid.length - unseen.length,
      total: laid.length + gaps.length,
      missing: [...(gaps.length > 0 ? [`pipe ${gapWords(gaps)}`] : []), ...(unseen.length > 0 ? [`a photo of ${gapWords(unseen)}`] : [])],
    }
  },
  changed(before, after, step, entry) {
    if (!kind.is(entry)) return undefined
    if (!after.building.drain) return 'the plan has no pipe any more'
    const d = entry.data
    const by = [d.from, d.to].map((station) => targetAt(after, 'invert', { station }) - targetAt(before, 'invert', { station }))
    const most = by.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0)
    return Math.abs(most) > LINE ? `its invert is now ${mm(most)}` : nowOut(before, after, step, entry)
  },
})
