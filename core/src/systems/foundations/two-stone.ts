import { said } from '../../base/said'
import { choice, type InferType, quantity, record, type yup } from '../../base/schema'
import { defineFoundation } from '../foundation'
import type { Stage } from '../stage'
import { lifts, SIZE } from './common'

const schema = record({ kind: choice(['two-stone'] as const), ...SIZE, lifts: lifts(), chip: quantity({ min: 0.01, max: 0.08, unit: 'm' }) })
type Data = InferType<typeof schema>

/** Chip thinner than this leaves the coarse stone standing through; thicker it moves under a unit; m. */
const CHIP = [0.025, 0.04] as const

const chip: Stage = {
  id: 'chip',
  title: 'Chip screeded',
  scope: 'section',
  when: 'every',
  how: 'Finer chip over the locked coarse stone, screeded between rails to the level of the pad, plated once; nobody walks on it after.',
  work: {
    type: 'check',
    items: [
      { id: 'locked', text: 'Coarse stone below locked, nothing moves' },
      { id: 'screeded', text: 'Screeded between rails, plated once' },
    ],
    measures: [
      { id: 'thin', text: 'Chip, thinnest', least: CHIP[0] },
      { id: 'thick', text: 'Chip, thickest', most: CHIP[1] },
    ],
  },
  requires: [{ stage: 'pad', of: 'same', force: 'soft', why: 'the coarse stone is not all in' }],
}

/** Coarse clean stone with a thin layer of finer chip on top, each placed and counted by itself. */
export const twoStone = defineFoundation<Data>({
  id: 'two-stone',
  name: 'Clean stone with chip on top',
  schema: schema as unknown as yup.ISchema<Data>,
  traits: { drains: true, cast: false },
  lifts: (d) => d.lifts,
  coarse: (d) => d.thickness - d.chip,
  sizes: (d) => ({ chip: d.chip }),
  stages: (ground) =>
    ground.flatMap((s) =>
      s.id === 'pad-level' ? [chip, { ...s, requires: [{ stage: 'chip', of: 'same', force: 'soft', why: 'the chip is not on' } as const] }] : [s],
    ),
  takes: (d, run) => [
    {
      id: 'chip',
      name: 'Chip on the pad',
      value: run * d.width * d.chip,
      unit: 'm³',
      working: `${said.length(run, 2)} × ${said.given(d.width)} × ${said.given(d.chip)}`,
    },
  ],
})
