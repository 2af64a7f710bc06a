import { said } from '../base/said'
import { pointAt } from '../geometry'
import { gridOn, type Layout } from '../layout'
import { tableOf } from '../rules'
import { counted } from '../systems'
import type { Entry } from './entry'
import { type GeogridData, kindOf, type PipeData } from './kinds'
import type { Step } from './steps'
import { targetAt } from './target'

const mm = (v: number) => `${said.small(v)} ${v > 0 ? 'higher' : 'lower'}`
/** Less than this is reading noise, m. */
const NOISE = 0.001
/** A face line that moved by more has to be set out anew, m. */
const LINE = 0.005

const known = new WeakMap<Layout, WeakMap<Layout, number>>()
/** Furthest the face line moved between two revisions, m; worked out once for a pair. */
function moved(before: Layout, after: Layout): number {
  const own = known.get(before) ?? new WeakMap<Layout, number>()
  known.set(before, own)
  const earlier = own.get(after)
  if (earlier !== undefined) return earlier
  let most = 0
  const length = Math.min(before.plan.length, after.plan.length)
  for (let k = 0; k <= 40; k++) {
    const [p, q] = [pointAt(before.alignment, (length * k) / 40), pointAt(after.alignment, (length * k) / 40)]
    most = Math.max(most, Math.hypot(p.easting - q.easting, p.northing - q.northing))
  }
  own.set(after, most)
  return most
}
const lineMoved = (before: Layout, after: Layout) => {
  const by = moved(before, after)
  return by > LINE ? `the face line moved by up to ${said.small(by)} since` : undefined
}

const sameRules = new WeakMap<Layout, WeakMap<Layout, Layout>>()
/** A layout under the rules of an earlier one. */
function asOf(before: Layout, after: Layout): Layout {
  if (tableOf(after.plan) === tableOf(before.plan) && after.plan.book === before.plan.book) return after
  const own = sameRules.get(after) ?? new WeakMap<Layout, Layout>()
  sameRules.set(after, own)
  const known = own.get(before) ?? { ...after, plan: { ...after.plan, ruleTable: before.plan.ruleTable, book: before.plan.book } }
  own.set(before, known)
  return known
}

/** What the plan in force would find wrong with an entry that was good under its own; undefined where it says nothing new. */
function nowOut(before: Layout, after: Layout, step: Step, entry: Entry): string | undefined {
  const judge = (layout: Layout) => kindOf(entry.kind)?.judge?.(entry, { layout, stage: step.stage, find: () => undefined })
  // What a plan changed is looked at, not what rules changed: work is judged by the rules of its own day.
  const now = judge(asOf(before, after))
  return now?.verdict === 'out' && judge(before)?.verdict !== 'out' ? `by the plan in force: ${now.text}` : undefined
}

/**
 * Why an entry made under an earlier revision no longer says that its step is done as the plan in force asks; undefined where it does.
 * The entry and its own verdict stay as they are.
 *
 * @param step - the step of the plan in force it belongs to
 * @example mismatch(first, second, step, entry) // 'its target is now 42 mm higher'
 */
export function mismatch(before: Layout, after: Layout, step: Step, entry: Entry): string | undefined {
  if (before === after) return undefined
  const { where } = entry
  const { work } = step.stage
  switch (work.type) {
    case 'readings': {
      if (work.target === 'alignment') return lineMoved(before, after)
      if (work.target === 'setback') {
        const by = after.plan.unit.setback - before.plan.unit.setback
        return Math.abs(by) > NOISE / 2 ? `the units now step back ${said.small(after.plan.unit.setback)} a course` : undefined
      }
      const [was, is] = [targetAt(before, work.target, where), targetAt(after, work.target, where)]
      return Math.abs(is - was) > NOISE ? `its target is now ${mm(is - was)}` : undefined
    }
    case 'units': {
      const key = `${where.section}/${where.course}`
      const [was, is] = [before.cells.get(key), after.cells.get(key)]
      if (!was || !is) return 'the course is not in that section any more'
      if (counted(was.pieces) !== counted(is.pieces)) return `${counted(was.pieces)} units were planned, now ${counted(is.pieces)}`
      return was.pieces.some((p, i) => Math.abs(p.start - (is.pieces[i]?.start ?? 0)) > 0.01) ? 'its joints are planned elsewhere now' : undefined
    }
    case 'lifts': {
      const [was, is] = work.of === 'pad' ? [before.plan.pad.thickness, after.plan.pad.thickness] : [before.plan.unit.height, after.plan.unit.height]
      return Math.abs(is - was) > NOISE
        ? `the layer is now ${mm(is - was)
            .replace('higher', 'thicker')
            .replace('lower', 'thinner')}`
        : undefined
    }
    case 'grid': {
      const [was, is] = [before, after].map((l) => gridOn(l, where.course ?? 0))
      if (!is) return 'the plan in force has no layer here'
      if (!was || (was.length === is.length && was.type === is.type)) return nowOut(before, after, step, entry)
      // A layer that is longer than the plan now asks for does what it asks for.
      const d = entry.data as GeogridData
      return d.length >= is.length - 0.005 && d.type === is.type
        ? undefined
        : `placed as ${said.length(was.length, 2)} ${was.type}; the plan now asks for ${said.length(is.length, 2)} ${is.type}`
    }
    case 'pipe': {
      if (entry.kind !== 'pipe') return undefined
      const d = entry.data as PipeData
      const by = [d.from, d.to].map((station) => targetAt(after, 'invert', { station }) - targetAt(before, 'invert', { station }))
      const most = by.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0)
      return Math.abs(most) > LINE ? `its invert is now ${mm(most)}` : nowOut(before, after, step, entry)
    }
    case 'check':
      return step.stage.scope === 'wall' && step.stage.id === 'set-out' ? lineMoved(before, after) : nowOut(before, after, step, entry)
  }
}
