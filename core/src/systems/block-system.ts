import { CHOICES } from '../rules'
import { layBlocks } from './block-lay'
import { blockQuestions } from './block-questions'
import { blockOutline } from './block-shape'
import {
  type BlockData,
  blockBuilding,
  blockSchema,
  blockStart,
  checkBlocks,
  compareBlocks,
  foundationEngineered,
  refitBlocks,
  settleBlocks,
} from './blocks'
import { roomOfLayers, standBlocks } from './stand'
import type { WallSystem } from './system'

/** What every system of units on a foundation does alike; what one does otherwise its own folder says over it. */
export const blocks = {
  schema: blockSchema,
  traits: { flexible: false, carried: true, face: 'plain' },
  // Waterproofing is masonry's.
  schools: CHOICES.filter((c) => c.id !== 'waterproofing').map((c) => c.id),
  open: { from: 'units', until: ['fill', 'backfill'] },
  questions: blockQuestions(),
  start: blockStart,
  stands: standBlocks,
  room: roomOfLayers,
  settle: settleBlocks,
  check: checkBlocks,
  refit: refitBlocks,
  building: blockBuilding,
  compare: compareBlocks,
  laidBy: (data) => data.unit,
  lay: (run, data) => layBlocks(run, data.unit),
  cautions: () => [],
  engineered: (_plan, data) => foundationEngineered(data),
  outline: (data) => blockOutline(data.unit),
} satisfies Partial<WallSystem<BlockData>>
