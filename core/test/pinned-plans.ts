// Two revisions of a plan that differ in a field here and there, told apart.
import { compareLayouts, type Layout } from '@stone-tally/core'
import { type Draw, maybe, pick } from './drawn'
import { layoutOf } from './plans'
import { startedThen } from './started'

/** What a revision may change without moving a unit. */
const CHANGED: Readonly<Record<string, readonly unknown[]>> = {
  engineer: ['plan E-2', undefined],
  drawing: ['sheet 4', undefined],
  benchmark: [{ name: 'BM 2', elevation: 10.125 }],
  excavation: [
    { behind: 1.5, slope: 1.5 },
    { behind: 1.2, slope: 1 },
  ],
  top: [{ style: 'level' }, undefined],
  openings: [[{ name: 'culvert', station: 3, width: 0.5, bottom: 10.2, height: 0.4 }], undefined],
  obstacles: [[{ name: 'gas', station: 2, behind: 0.5, elevation: 9.5 }], undefined],
  holds: [undefined, [], ['water', 'slope']],
  stands: [undefined, [{ kind: 'slope', rise: 0.3 }], [{ kind: 'building', away: 3 }]],
  found: [undefined, { points: [{ station: 0, behind: 0, elevation: 10 }] }],
  front: [undefined, { slope: 0.2, erodible: true }, { slope: 0.1, erodible: false }],
  frost: [undefined, 0.5],
  engineerBy: ['Another', undefined],
  padSteps: [undefined, [], [3, 4.5]],
  water: [undefined, { heel: { height: 0.5 } }],
  sections: [
    [
      { id: 'A', from: 0, to: 4 },
      { id: 'B', from: 4, to: 9.6 },
    ],
  ],
}
const compared: Layout[] = []
export function plansCompared(draw: Draw): unknown {
  if (compared.length === 0)
    compared.push(
      layoutOf(startedThen('hollow-core')),
      layoutOf(startedThen('gabion')),
      layoutOf(startedThen('hollow-core', { length: 7.2, frost: 0.4 })),
    )
  const one = pick(draw, compared)
  const changed = Object.fromEntries(Object.entries(CHANGED).flatMap(([name, values]) => (maybe(draw, 0.3) ? [[name, pick(draw, values)]] : [])))
  const other = { ...one, plan: { ...one.plan, ...changed } } as Layout
  return [compareLayouts(one, other), compareLayouts(other, one), compareLayouts(one, pick(draw, compared))]
}
