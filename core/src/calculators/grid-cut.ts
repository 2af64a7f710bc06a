import { said } from '../base/said'
import { type GridCutInput, gridCut, gridCutInput } from '../bond'
import { defineCalculator } from './calculator'

interface Output {
  rolls: readonly (readonly number[])[]
  waste: number
  lowerBound: number
}

export const gridCutCalculator = defineCalculator<GridCutInput, Output>({
  name: 'grid-cut',
  title: 'Strips from rolls',
  purpose: 'How to cut strips of geogrid (or bars, or units) from as few rolls as possible.',
  formula: 'as few rolls as possible; proven where the lower bound is reached',
  source: 'Cutting stock by branch and bound.',
  schema: gridCutInput as never,
  example: {
    rollLength: 50,
    strips: [
      { length: 1.8, count: 20 },
      { length: 2.4, count: 12 },
    ],
  },
  labels: { rollLength: ['Roll', 'length'], strips: 'Strips', length: ['Length', 'length'], count: 'Count' },
  run: gridCut as never,
  working: (i, o) => [
    ...o.rolls.slice(0, 40).map((r, k) => ({
      what: `Roll ${k + 1}`,
      how: r.map((l) => said.given(l)).join(' + '),
      result: `${said.given(i.rollLength - r.reduce((s, l) => s + l, 0))} left`,
    })),
    { what: 'Rolls', how: `at least ${o.lowerBound}`, result: `${o.rolls.length}` },
    { what: 'Left over', how: 'all rolls', result: said.given(o.waste) },
  ],
})
