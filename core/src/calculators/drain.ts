import { type DrainInput, type DrainProfile, drain, drainInput } from '../water'
import { defineCalculator, num } from './calculator'

export const drainCalculator = defineCalculator<DrainInput, DrainProfile>({
  name: 'drain',
  title: 'Toe drain',
  purpose: 'How high the pipe lies between its outlets, and how far water travels in it.',
  formula: 'invert(s) = least of (outlet invert + fall × distance to it)',
  source: 'The pipe rises from each outlet and peaks where two lines meet.',
  schema: drainInput as never,
  example: {
    length: 30,
    fall: 0.01,
    maxOutletSpacing: 15,
    outlets: [
      { station: 0, invert: 9.5 },
      { station: 14, invert: 9.46 },
      { station: 28, invert: 9.4 },
    ],
    ceiling: [
      { station: 7, elevation: 9.6 },
      { station: 20, elevation: 9.55 },
      { station: 30, elevation: 9.45 },
    ],
  },
  labels: {
    length: 'Length, m',
    fall: 'Fall, m per m',
    maxOutletSpacing: 'Outlets apart at most, m',
    outlets: 'Outlets',
    station: 'Station, m',
    invert: 'Invert, m',
    ceiling: 'May not rise above',
    elevation: 'Elevation, m',
  },
  run: drain,
  working: (i, o) => [
    ...o.inverts.map((p) => {
      const over = o.violations.find((v) => v.station === p.station)
      return {
        what: `Invert at ${num(p.station, 2)}`,
        how: over ? `▲ ${num(over.by * 1000, 0)} mm too high` : 'below what is above it',
        result: `${num(p.invert)} m`,
      }
    }),
    { what: 'Longest way to an outlet', how: 'from where two lines meet, or from an end', result: `${num(o.longestRun, 2)} m` },
    { what: 'Outlets', how: `neighbours at most ${num(i.maxOutletSpacing, 2)} m apart`, result: o.spacingOk ? 'near enough' : '▲ too far apart' },
  ],
})
