import { said } from '../../base/said'
import { gridIn, gridOn } from '../../layout'
import { geogrid } from '../kinds/geogrid'
import { uncovered } from '../needs'
import { nowOut } from './changed'
import { defineWork, gapWords, NOT_READ } from './work'

/** A layer of geogrid over all its stretches. */
export const grid = defineWork({
  type: 'grid',
  plan(layout, step, { section, cell }) {
    const layer = section && step.course !== undefined && !cell?.last ? gridIn(layout, step.course, section) : undefined
    if (!layer) return undefined
    const { over, ...grid } = layer
    return { grid, over }
  },
  wants: (_state, step) =>
    step.grid ? [`${said.length(step.grid.length, 2)} of ${step.grid.type}${step.grid.crossing ? ', across the layer below' : ''}`] : [],
  progress(_state, step, work) {
    const laid = geogrid.among(work).map((e) => e.entry.data)
    const gaps = (step.over ?? []).flatMap((s) => uncovered(s, laid))
    const which = laid.length > 0 && gaps.length > 0 ? `, ${gapWords(gaps)}` : ''
    return {
      ...NOT_READ,
      done: gaps.length === 0 ? 1 : 0,
      total: 1,
      missing: gaps.length === 0 ? [] : [`layer of ${said.length(step.grid?.length ?? 0, 2)}${which}`],
    }
  },
  changed(before, after, step, entry) {
    const { where } = entry
    const [was, is] = [before, after].map((l) => gridOn(l, where.course ?? 0))
    if (!is) return 'the plan in force has no layer here'
    if (!was || (was.length === is.length && was.type === is.type)) return nowOut(before, after, step, entry)
    // A layer that is longer than the plan now asks for does what it asks for.
    if (!geogrid.is(entry)) return undefined
    const d = entry.data
    return d.length >= is.length - 0.005 && d.type === is.type
      ? undefined
      : `placed as ${said.length(was.length, 2)} ${was.type}; the plan now asks for ${said.length(is.length, 2)} ${is.type}`
  },
})
