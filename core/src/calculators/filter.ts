import { FILTER_LIMITS, type FilterCheck, type FilterInput, filter, filterInput } from '../water'
import { defineCalculator, num } from './calculator'

export const filterCalculator = defineCalculator<FilterInput, FilterCheck>({
  name: 'filter',
  title: 'Soil against stone',
  purpose: 'Whether drainage stone holds the soil back without fabric, and lets its water through.',
  formula: 'retention = D15 stone ÷ d85 soil, at most 5; permeability = D15 stone ÷ d15 soil, at least 5',
  source: 'Terzaghi filter rules; sizes between sieves over the logarithm of size.',
  schema: filterInput as never,
  example: {
    soil: [
      { size: 0.02, passing: 5 },
      { size: 0.2, passing: 30 },
      { size: 2, passing: 70 },
      { size: 6, passing: 95 },
    ],
    stone: [
      { size: 4, passing: 3 },
      { size: 10, passing: 30 },
      { size: 20, passing: 95 },
    ],
  },
  labels: { soil: 'Soil', stone: 'Stone', size: 'Sieve, mm', passing: 'Passing, %' },
  run: filter,
  working: (_, o) => [
    { what: 'D15 of the stone', how: '15 % of it is finer', result: `${num(o.d15Stone)} mm` },
    { what: 'd85 of the soil', how: '85 % of it is finer', result: `${num(o.d85Soil)} mm` },
    { what: 'd15 of the soil', how: '15 % of it is finer', result: `${num(o.d15Soil)} mm` },
    { what: 'Holds the soil back', how: `${num(o.d15Stone)} ÷ ${num(o.d85Soil)}, at most ${FILTER_LIMITS.retention}`, result: num(o.retention, 2) },
    {
      what: 'Lets water through',
      how: `${num(o.d15Stone)} ÷ ${num(o.d15Soil)}, at least ${FILTER_LIMITS.permeability}`,
      result: num(o.permeability, 2),
    },
    { what: 'Without fabric', how: 'both rules', result: o.ok ? 'good' : '▲ fabric between, or another stone' },
  ],
})
