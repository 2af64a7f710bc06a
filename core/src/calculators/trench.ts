import { said } from '../base/said'
import { swellFactor, type TrenchInput, trench, trenchArea, trenchInput } from '../ground'
import { defineCalculator, num } from './calculator'

export const trenchCalculator = defineCalculator<TrenchInput, { bank: number; loose: number; loads: number }>({
  name: 'trench',
  title: 'Trench volume',
  purpose: 'How much comes out of a trench, and how many loads take it away.',
  formula: 'area = width·h + slope·h²; volume = mean of end areas × length; loose = bank × (1 + swell)',
  source: 'Average end areas.',
  schema: trenchInput as never,
  example: {
    sideSlope: 0.5,
    swell: 0.25,
    truckVolume: 8,
    sections: [
      { station: 0, ground: 10.4, bottom: 9.45, width: 0.9 },
      { station: 6, ground: 10.55, bottom: 9.45, width: 0.9 },
      { station: 12, ground: 10.8, bottom: 9.65, width: 0.9 },
    ],
  },
  labels: {
    sideSlope: 'Side slope, across per up',
    swell: 'Swell, as a share (0.25) or a factor (1.25)',
    truckVolume: ['Truck, loose', 'volume'],
    sections: 'Sections',
    station: ['Station', 'length'],
    ground: ['Ground', 'length'],
    bottom: ['Bottom', 'length'],
    width: ['Width', 'length'],
  },
  run: trench,
  working: (i, o) => [
    ...i.sections.map((s) => {
      const h = Math.max(0, s.ground - s.bottom)
      return {
        what: `Area at ${said.station(s.station)}`,
        how: `${said.given(s.width)} × ${said.given(h)} + ${num(i.sideSlope)} × (${said.given(h)})²`,
        result: said.area(trenchArea(s, i.sideSlope)),
      }
    }),
    { what: 'In the bank', how: 'sum of mean areas × lengths', result: said.volume(o.bank) },
    { what: 'Loose', how: `${said.volume(o.bank)} × ${num(swellFactor(i.swell))}`, result: said.volume(o.loose) },
    { what: 'Loads', how: `${said.volume(o.loose)} ÷ ${said.volume(i.truckVolume)}, rounded up`, result: `${o.loads}` },
  ],
})
