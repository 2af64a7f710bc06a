import { ok } from '../base/result'
import { said } from '../base/said'
import { type RodInput, rod, rodInput } from '../ground'
import { defineCalculator } from './calculator'

export const rodCalculator = defineCalculator<RodInput, ReturnType<typeof rod>>({
  name: 'rod',
  title: 'Rod readings',
  purpose: 'What the rod should show at each point, and how far off a reading is.',
  formula: 'HI = benchmark + backsight; target rod = HI − target; deviation = HI − reading − target',
  source: 'Ordinary levelling by height of instrument.',
  schema: rodInput as never,
  example: { benchmark: 10, backsight: 1.5, points: [{ target: 9.8, reading: 1.696 }] },
  labels: {
    benchmark: ['Benchmark', 'length'],
    backsight: ['Backsight', 'length'],
    points: 'Points',
    target: ['Target', 'length'],
    reading: ['Reading', 'length'],
  },
  run: (input) => ok(rod(input)),
  working: (i, o) => [
    { what: 'Height of instrument', how: `${said.given(i.benchmark)} + ${said.given(i.backsight)}`, result: said.given(o.heightOfInstrument) },
    ...o.points.flatMap((p, k) => [
      {
        what: `Point ${k + 1}: rod should show`,
        how: `${said.given(o.heightOfInstrument)} − ${said.given(i.points[k]?.target ?? 0)}`,
        result: said.given(p.targetRod),
      },
      {
        what: `Point ${k + 1}: deviation`,
        how: `${said.given(o.heightOfInstrument)} − ${said.given(i.points[k]?.reading ?? 0)} − ${said.given(i.points[k]?.target ?? 0)}`,
        result: `${said.fine(p.deviation)} ${p.deviation >= 0 ? 'high' : 'low'}`,
      },
    ]),
  ],
})
