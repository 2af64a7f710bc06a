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
  labels: { thickness: 'Thickness, m', maxLift: 'Greatest lift, compacted, m', looseFactor: 'Loose over compacted' },
  run: lifts,
  working: (i, o) => [
    { what: 'Lifts', how: `${num(i.thickness)} ÷ ${num(i.maxLift)}, rounded up`, result: `${o.count}` },
    { what: 'Each compacted', how: `${num(i.thickness)} ÷ ${o.count}`, result: `${num(o.compacted * 1000, 1)} mm` },
    { what: 'Each placed loose', how: `${num(o.compacted, 4)} × ${num(i.looseFactor)}`, result: `${num(o.loose * 1000, 1)} mm` },
  ],
})
