import { said } from '../base/said'
import { type DrainInput, type DrainProfile, drain, drainInput } from '../water'
import { defineCalculator } from './calculator'

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
    length: ['Length', 'length'],
    fall: 'Fall, as a share (0.01 is 1 in 100)',
    maxOutletSpacing: ['Outlets apart at most', 'length'],
    outlets: 'Outlets',
    station: ['Station', 'length'],
    invert: ['Invert', 'length'],
    ceiling: 'May not rise above',
    elevation: ['Elevation', 'length'],
  },
  run: drain,
  working: (i, o) => [
    ...o.inverts.map((p) => {
      const over = o.violations.find((v) => v.station === p.station)
      return {
        what: `Invert at ${said.station(p.station)}`,
        how: over ? `▲ ${said.small(over.by)} too high` : 'below what is above it',
        result: said.given(p.invert),
      }
    }),
    { what: 'Longest way to an outlet', how: 'from where two lines meet, or from an end', result: said.length(o.longestRun, 2) },
    { what: 'Outlets', how: `neighbours at most ${said.given(i.maxOutletSpacing)} apart`, result: o.spacingOk ? 'near enough' : '▲ too far apart' },
  ],
})
