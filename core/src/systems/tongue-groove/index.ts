import { said } from '../../base/said'
import { layBlocks } from '../block-lay'
import { blockOutline, capAdhesive, coreStone } from '../block-shape'
import { adapted, plainBlockStages, saying, withItems } from '../block-stages'
import { blocks } from '../block-system'
import type { BlockData } from '../blocks'
import { defineSystem } from '../system'
import type { Unit } from '../unit'
import { units } from './units'

const stages = adapted(plainBlockStages, {
  units: (s) => ({
    ...s,
    how: 'Sweep the grooves, set each unit over the tongue below; corner units long side and short side in turn, cut pieces in the middle of the wall.',
  }),
  bedding: withItems(saying('lugs', 'Nothing under the groove; lowest edge full on the pad')),
  joints: withItems(
    (list) => [
      ...saying(
        'engaged',
        'Every tongue sits in its groove',
      )(list).map((i) => (i.id === 'damaged' ? { ...i, text: 'Damaged units turned or thrown out, and counted' } : i)),
      { id: 'cuts', text: 'Cut pieces half a unit or more, none at a corner or an end', maybe: true },
    ],
    { title: 'Tongues and joints' },
  ),
  'cap-dry': withItems(saying('ends', 'Finished ends, left and right, at every top step'), {
    title: 'Coping laid dry',
    how: 'Lay the coping loose on its ribs to a string at the back, finish the ends, look along it, then lift and glue.',
  }),
  cap: (s) => ({ ...s, title: 'Coping bonded' }),
})

/** A cut piece is at least half a unit here: shorter ones do not hold on the tongue. */
const halves = (unit: Unit): Unit => ({ ...unit, minPiece: Math.max(unit.minPiece ?? 0, unit.length / 2) })

/** Tongue on top, groove below: the course is set back by a fixed lean; corner units with two finished ends. */
export const tongueGroove = defineSystem<BlockData>({
  ...blocks,
  id: 'tongue-groove',
  name: 'Tongue-and-groove battered block',
  summary: 'Each course sits in the tongue of the one below and leans back by it; corners and ends are finished units of their own.',
  noun: { one: 'block', many: 'blocks' },
  units,
  stages,
  lay: (run, { unit }) => layBlocks(run, halves(unit)),
  cautions: (_plan, { unit }) =>
    unit.cornerLength
      ? []
      : [
          {
            id: 'corner-units',
            message: 'The unit has no corner unit: corners are mitred, and their ends are not finished. Order corner units by hand, left and right.',
          },
        ],
  quantities: (basis, { unit }) => {
    const corners = basis.pieces.filter((p) => p.kind === 'corner').length
    const half = basis.pieces.filter((p) => p.kind === 'cut').length
    return [
      ...(unit.coreVolume > 0 ? [coreStone(basis, unit)] : []),
      {
        id: 'corner-units',
        name: 'Corner units, two finished ends',
        value: corners,
        unit: 'pieces',
        working: 'long side and short side in turn, course by course',
        bought: false,
      },
      {
        id: 'middle-cuts',
        name: 'Cut pieces for the middle of the wall',
        value: half,
        unit: 'pieces',
        working: `none shorter than ${said.given(unit.length / 2)}`,
        bought: false,
      },
      ...capAdhesive(basis, unit),
    ]
  },
  outline: ({ unit: u }) => {
    const t = Math.min(0.02, u.height / 8)
    return {
      ...blockOutline(u),
      // The groove below takes the tongue of the course under it.
      body: [
        [0, 0],
        [u.depth * 0.38, 0],
        [u.depth * 0.42, t],
        [u.depth * 0.58, t],
        [u.depth * 0.62, 0],
        [u.depth, 0],
        [u.depth, u.height],
        [0, u.height],
      ],
    }
  },
})
