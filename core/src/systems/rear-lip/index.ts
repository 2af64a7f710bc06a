import { capAdhesive } from '../block-shape'
import { adapted, plainBlockStages, saying, withItems } from '../block-stages'
import { blocks } from '../block-system'
import type { BlockData } from '../blocks'
import { defineSystem } from '../system'
import { units } from './units'

const stages = adapted(plainBlockStages, {
  units: (s) => ({ ...s, how: 'Sweep, set, pull every unit forward until its lip bears on the one below; running bond, no slivers at the ends.' }),
  bedding: withItems(saying('lugs', 'Lip knocked off every unit of this course, or recessed in the pad'), {
    caution: 'Fingers clear when a unit is lowered. Knocking lips off: eye protection, and dust kept down with water.',
    how: 'Lowest end and corner first. Knock the lip off with a flat chisel, bed each unit full, tap the high end down.',
  }),
  joints: withItems(
    (list) => [
      ...saying('engaged', 'Every lip bears, pulled forward')(list),
      { id: 'notched', text: 'Lips notched where they foul on a curve', maybe: true },
    ],
    {
      title: 'Lips and joints',
    },
  ),
  fill: withItems((list) => list.filter((i) => i.id !== 'cores'), {
    title: 'Stone behind',
    how: 'Fill the stone behind to the top of the course, rod it, sweep the top clean. Below a raised pipe lies what carries it: compacted soil or dense stone up to its bed, open stone from there on.',
  }),
  'cap-dry': withItems((list) => [...list, { id: 'turned', text: 'Wide and narrow faces in turn on straight runs, all one way on curves' }]),
})

/** Solid block with a lip along its lower back edge that hooks over the course below and sets it back. */
export const rearLip = defineSystem<BlockData>({
  ...blocks,
  id: 'rear-lip',
  name: 'Rear-lip block',
  summary: 'Solid block whose lip hooks over the back of the course below; the lip comes off where a unit lies on the pad.',
  noun: { one: 'block', many: 'blocks' },
  units,
  stages,
  cautions: () => [
    {
      id: 'lips',
      message: 'Lips knocked off fly: eye protection, and nobody opposite. A unit that lost its lip by accident goes on the pad, nowhere else.',
    },
  ],
  quantities: (basis, { unit }) => {
    const lips = basis.onPad.filter((p) => p.kind !== 'return').length
    return [
      {
        id: 'lips',
        name: 'Lips to knock off',
        value: lips,
        unit: 'pieces',
        working: 'every unit that lies on the pad, on its steps too',
        bought: false,
      },
      ...capAdhesive(basis, unit),
    ]
  },
  outline: ({ unit: u }) => {
    const lip = Math.min(0.02, u.height / 6)
    return {
      body: [
        [0, 0],
        [u.depth - 0.03, 0],
        [u.depth - 0.03, -lip],
        [u.depth, -lip],
        [u.depth, u.height],
        [0, u.height],
      ],
    }
  },
})
