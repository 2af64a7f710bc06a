import { capAdhesive, coreStone } from '../block-shape'
import { blockStages } from '../block-stages'
import { blocks } from '../block-system'
import type { BlockData } from '../blocks'
import { defineSystem } from '../system'
import { units } from './units'

/**
 * Hollow segmental block with a locating lug on top; each course steps back by the lug. Blocks of other kinds were planned as this one before
 * they had folders of their own; their plans are laid as they were.
 */
export const hollowCore = defineSystem<BlockData>({
  ...blocks,
  id: 'hollow-core',
  name: 'Hollow-core segmental block',
  summary: 'Rows of hollow block, cores filled with stone; a lug on top sets each course back from the one below.',
  noun: { one: 'block', many: 'blocks' },
  units,
  stages: blockStages,
  quantities: (basis, { unit }) => [coreStone(basis, unit), ...capAdhesive(basis, unit)],
})
