import { ok } from '../base/result'
import { type RodInput, rod, rodInput } from '../ground'
import { defineCalculator, num } from './calculator'

export const rodCalculator = defineCalculator<RodInput, ReturnType<typeof rod>>({
  name: 'rod',
  title: 'Rod readings',
  purpose: 'What the rod should show at each point, and how far off a reading is.',
  formula: 'HI = benchmark + backsight; target rod = HI − target; deviation = HI − reading − target',
  source: 'Ordinary levelling by height of instrument.',
  schema: rodInput as never,
  example: { benchmark: 10, backsight: 1.5, points: [{ target: 9.8, reading: 1.696 }] },
  labels: { benchmark: 'Benchmark, m', backsight: 'Backsight, m', points: 'Points', target: 'Target, m', reading: 'Reading, m' },
  run: (input) => ok(rod(input)),
  working: (i, o) => [
    { what: 'Height of instrument', how: `${num(i.benchmark)} + ${num(i.backsight)}`, result: `${num(o.heightOfInstrument)} m` },
    ...o.points.flatMap((p, k) => [
      {
        what: `Point ${k + 1}: rod should show`,
        how: `${num(o.heightOfInstrument)} − ${num(i.points[k]?.target ?? 0)}`,
        result: `${num(p.targetRod)} m`,
      },
      {
        what: `Point ${k + 1}: deviation`,
        how: `${num(o.heightOfInstrument)} − ${num(i.points[k]?.reading ?? 0)} − ${num(i.points[k]?.target ?? 0)}`,
        result: `${num(Math.abs(p.deviation) * 1000, 1)} mm ${p.deviation >= 0 ? 'high' : 'low'}`,
      },
    ]),
  ],
})
