import { capAdhesive } from '../block-shape'
import { adapted, plainBlockStages, saying, withItems } from '../block-stages'
import { blocks } from '../block-system'
import type { BlockData } from '../blocks'
import { defineSystem } from '../system'
import { units } from './units'

const stages = adapted(plainBlockStages, {
  units: (s) => ({
    ...s,
    title: 'Band set',
    how: 'Set the tile row by row from one end; the first course is full-size units only. Take each shape from its own pallet.',
  }),
  joints: withItems(
    (list) => [
      ...saying('joints', 'Joints a quarter unit apart; shapes swapped where the tile lines up')(list),
      { id: 'mix', text: 'Shapes left on the pallets fit what is still to set' },
    ],
    {
      title: 'Pattern and joints',
    },
  ),
  fill: withItems(
    (list) =>
      list
        .filter((i) => i.id !== 'cores')
        .map((i) => (i.id === 'stone' ? { ...i, text: 'Stone behind filled and rodded row by row to the top of the band' } : i)),
    { title: 'Stone behind', how: 'Fill and rod behind each row as it stands; geogrid and backfill only at the joint of the band.' },
  ),
  grid: (s) => ({ ...s, how: `At the joint of the band only, never within it. ${s.how}` }),
})

/** Several shapes laid in a repeating tile two or three rows high: a course is a band. */
export const pattern = defineSystem<BlockData>({
  ...blocks,
  id: 'pattern',
  name: 'Patterned wall of several shapes',
  summary: 'Bands of two or three rows filled by a repeating tile; geogrid at band joints only.',
  noun: { one: 'stone', many: 'stones' },
  units,
  stages,
  cautions: (_plan, { unit }) =>
    unit.pattern
      ? []
      : [
          {
            id: 'pattern',
            message: 'The unit has no tile: its bands are laid as one shape in running bond. Take a patterned unit, or plan it as block.',
          },
        ],
  quantities: (basis, { unit }) => capAdhesive(basis, unit),
})
