import { said } from '../base/said'
import { type LiftsInput, lifts, liftsInput } from '../ground'
import { defineCalculator, num } from './calculator'

export const liftsCalculator = defineCalculator<LiftsInput, { count: number; compacted: number; loose: number }>({
  name: 'lifts',
  title: 'Lifts',
  purpose: 'In how many equal lifts a thickness is placed, and how thick each lies loose.',
  formula: 'count = ⌈thickness ÷ greatest lift⌉; loose = compacted × loose factor',
  source: 'Common practice; the greatest lift follows from tool and material.',
  schema: liftsInput as never,
  example: { thickness: 0.3, maxLift: 0.2, looseFactor: 1.25 },
  labels: { thickness: ['Thickness', 'length'], maxLift: ['Greatest lift, compacted', 'length'], looseFactor: 'Loose over compacted' },
  run: lifts,
  working: (i, o) => [
    { what: 'Lifts', how: `${said.given(i.thickness)} ÷ ${said.given(i.maxLift)}, rounded up`, result: `${o.count}` },
    { what: 'Each compacted', how: `${said.given(i.thickness)} ÷ ${o.count}`, result: said.fine(o.compacted) },
    { what: 'Each placed loose', how: `${said.fine(o.compacted)} × ${num(i.looseFactor)}`, result: said.fine(o.loose) },
  ],
})
