import { said } from '../base/said'
import { type BaseStepsInput, baseSteps, baseStepsInput } from '../layout'
import { defineCalculator } from './calculator'

interface Output {
  steps: readonly { start: number; end: number; elevation: number }[]
  buriedArea: number
}

export const baseStepsCalculator = defineCalculator<BaseStepsInput, Output>({
  name: 'base-steps',
  title: 'Pad steps',
  purpose: 'Where the pad steps up or down under a sloping grade with the least wall buried.',
  formula: 'elevation = datum + k·unit height; least ∫(toe − elevation) ds with every step deep and long enough',
  source: 'Dynamic programming over the half-unit grid; the optimum.',
  schema: baseStepsInput as never,
  example: {
    datum: 9,
    minEmbedment: 0.2,
    minRun: 1.2,
    unit: { height: 0.2, length: 0.45 },
    profile: [
      { station: 0, toe: 10 },
      { station: 9, toe: 10.1 },
      { station: 15, toe: 10.75 },
    ],
  },
  labels: {
    datum: ['Datum', 'length'],
    minEmbedment: ['Least embedment', 'length'],
    minRun: ['Shortest step', 'length'],
    unit: 'Unit',
    height: ['Height', 'length'],
    length: ['Length', 'length'],
    profile: 'Toe grade',
    station: ['Station', 'length'],
    toe: ['Toe', 'length'],
  },
  run: baseSteps as never,
  working: (_, o) => [
    ...o.steps.map((s, k) => ({
      what: `Step ${k + 1}`,
      how: `${said.given(s.start)} to ${said.given(s.end)}`,
      result: said.given(s.elevation),
    })),
    { what: 'Face buried', how: 'area between toe grade and pad', result: said.area(o.buriedArea) },
  ],
})
