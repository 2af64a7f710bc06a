import { said } from '../../base/said'
import { choice, type InferType, quantity, record, type yup } from '../../base/schema'
import { defineFoundation } from '../foundation'
import type { Stage } from '../stage'
import { SIZE } from './common'

const metres = (min: number, max: number) => quantity({ min, max, unit: 'm' })
const schema = record({
  kind: choice(['footing'] as const),
  ...SIZE,
  /** Concrete between the ground and the nearest bar, m. */
  cover: metres(0.02, 0.2),
  /** Bars along the footing: how many, how thick, and how far two of them lap, m. */
  bars: record({ count: quantity({ min: 1, max: 20, whole: true }), diameter: metres(0.006, 0.04), lap: metres(0.1, 3) }),
  /** Longest bar that is delivered, m. */
  stock: metres(1, 18),
})
type Data = InferType<typeof schema>

const bars: Stage = {
  id: 'bars',
  title: 'Bars of the footing',
  scope: 'section',
  when: 'every',
  hold: 'footing',
  how: 'Bars on chairs or blocks, clear of ground and forms by the cover of the plan, laps tied; steps formed, the trench clean and damp.',
  caution: 'Bar ends are capped or bent over. Nobody walks on tied bars.',
  work: {
    type: 'check',
    detail: 'Bars, laps and cover as measured',
    items: [
      { id: 'count', text: 'Bars, size and count as the plan has them' },
      { id: 'laps', text: 'Laps as long as the plan asks, tied' },
      { id: 'cover', text: 'Cover all round, on chairs, none on the ground' },
      { id: 'clean', text: 'Trench clean, no loose soil, no water standing' },
    ],
  },
  requires: [{ stage: 'subgrade', of: 'same', force: 'hold', why: 'the soil may not be covered before it' }],
}

const pour: Stage = {
  id: 'pad',
  title: 'Footing poured',
  witness: 'pad-lifts',
  scope: 'section',
  when: 'every',
  how: 'Pour from one end, vibrate, strike off to the level marks. What is poured is covered against sun, rain and frost.',
  caution: 'Wet concrete burns: gloves, boots and eye protection. Forms and pump line are checked before anyone stands under them.',
  dry: 'Concrete is not poured into standing water or on frozen ground.',
  heat: 'Concrete sets too fast and cracks in the heat; pour early, keep it wet and shaded.',
  work: {
    type: 'check',
    detail: 'Mix, ticket and time of the pour',
    items: [
      { id: 'mix', text: 'Mix and slump as ordered, ticket kept' },
      { id: 'vibrated', text: 'Vibrated round the bars, struck off to the marks' },
      { id: 'cured', text: 'Kept damp and left as long as the plan says before it is loaded' },
    ],
  },
  requires: [{ stage: 'bars', of: 'same', force: 'hold', why: 'bars are covered for good once it is poured' }],
}

/** Concrete footing with bars, by an engineer's plan. */
export const footing = defineFoundation<Data>({
  id: 'footing',
  name: 'Reinforced footing',
  schema: schema as unknown as yup.ISchema<Data>,
  traits: { drains: false, cast: true },
  engineered: 'it stands on a reinforced footing',
  sizes: (d) => ({ cover: d.cover, lap: d.bars.lap, bars: d.bars.count }),
  stages: (ground) =>
    ground.flatMap((s) =>
      s.id === 'pad'
        ? [bars, pour]
        : s.id === 'pad-level'
          ? [
              {
                ...s,
                title: 'Footing level',
                how: 'Read the top of the footing at every point; grind high spots, bed low ones.',
                requires: [{ stage: 'pad', of: 'same', force: 'soft', why: 'the footing is not poured' }],
              },
            ]
          : [s],
    ),
  takes: (d, run) => {
    const pieces = Math.max(1, Math.ceil((run - d.bars.lap) / (d.stock - d.bars.lap) - 1e-9))
    const length = d.bars.count * (run + (pieces - 1) * d.bars.lap)
    return [
      {
        id: 'footing-bars',
        name: 'Bars of the footing',
        value: length,
        unit: 'm',
        working: `${d.bars.count} × ${said.length(run, 2)} and ${pieces - 1} laps of ${said.given(d.bars.lap)} each`,
      },
    ]
  },
})
