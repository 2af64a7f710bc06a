import { layBlocks } from '../block-lay'
import { blockOutline, capAdhesive, coreStone } from '../block-shape'
import { blockStages } from '../block-stages'
import type { WallSystem } from '../system'
import { units } from './units'

/** Hollow segmental block with a locating lug on top; each course steps back by the lug. */
export const hollowCore: WallSystem = {
  id: 'hollow-core',
  name: 'Hollow-core segmental block',
  summary: 'Rows of hollow block, cores filled with stone; a lug on top sets each course back from the one below.',
  noun: { one: 'block', many: 'blocks' },
  units,
  stages: blockStages,
  open: { from: 'units', until: ['fill', 'backfill'] },
  // Blocks of other kinds were planned as this one before they had folders of their own; their plans are laid as they were.
  lay: layBlocks,
  cautions: () => [],
  quantities: (basis) => [coreStone(basis), ...capAdhesive(basis)],
  outline: blockOutline,
}
