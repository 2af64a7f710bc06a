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
    sideSlope: 'Side slope, m across per m up',
    swell: 'Swell, as a share (0.25) or a factor (1.25)',
    truckVolume: 'Truck, m³ loose',
    sections: 'Sections',
    station: 'Station, m',
    ground: 'Ground, m',
    bottom: 'Bottom, m',
    width: 'Width, m',
  },
  run: trench,
  working: (i, o) => [
    ...i.sections.map((s) => {
      const h = Math.max(0, s.ground - s.bottom)
      return {
        what: `Area at ${num(s.station, 2)}`,
        how: `${num(s.width)}·${num(h)} + ${num(i.sideSlope)}·${num(h)}²`,
        result: `${num(trenchArea(s, i.sideSlope))} m²`,
      }
    }),
    { what: 'In the bank', how: 'sum of mean areas × lengths', result: `${num(o.bank)} m³` },
    { what: 'Loose', how: `${num(o.bank)} × ${num(swellFactor(i.swell))}`, result: `${num(o.loose)} m³` },
    { what: 'Loads', how: `${num(o.loose)} ÷ ${num(i.truckVolume)}, rounded up`, result: `${o.loads}` },
  ],
})
