import { said } from '../../base/said'
import type { CountBasis, Quantity } from '../system'
import { basketsDeep, type GabionData } from './data'

/** Solid rock, kg/m³: common for granite and limestone; a supplier's own figure goes before it. */
export const ROCK = 2600

/** Rings apart along an edge, m. */
const RINGS = 0.2
/** Along the wall: the runs of its lowest course. */
const topRunOf = (runs: CountBasis['runs']) => runs.filter((r) => r.course === 1).reduce((sum, r) => sum + r.length, 0)

/** What the baskets of a wall take; those behind the front ones are counted like them. */
export function quantities({ pieces, face, topRun, runs }: CountBasis, data: GabionData): Quantity[] {
  const { unit, joint, mattress } = data
  const own = pieces.filter((p) => p.kind !== 'return')
  // Every basket in front stands for those behind it.
  const rows_ = runs.map((r) => ({ ...r, deep: basketsDeep(data, r.course) }))
  const front = own.reduce((sum, p) => sum + p.length, 0)
  const share =
    rows_.reduce((sum, r) => sum + r.length * r.deep, 0) /
    Math.max(
      1e-9,
      rows_.reduce((sum, r) => sum + r.length, 0),
    )
  const run = front * share
  const behind = Math.round(rows_.reduce((n, r) => n + r.pieces * (r.deep - 1), 0))
  const volume = run * unit.height * unit.depth
  const porosity = unit.porosity ?? 0.35
  const lids = own.length + behind
  const ends = lids * unit.depth * unit.height
  // Two wires each way in every metre of a cell's length and third of its height, front to back.
  const rows = Math.max(1, Math.round(unit.height / 0.33) - 1)
  const braces = Math.ceil(own.reduce((sum, p) => sum + Math.max(1, Math.round(p.length)) * rows * 2, 0) * share - 1e-6)
  const lacing = run * 4 + lids * 2 * (unit.height + unit.depth)
  return [
    {
      id: 'rock',
      name: 'Stone in the baskets, as placed',
      value: volume,
      unit: 'm³',
      working: `${said.length(run, 2)} of basket × ${said.given(unit.height)} × ${said.given(unit.depth)}`,
    },
    {
      id: 'rock-mass',
      name: 'Mass of stone',
      value: volume * (1 - porosity) * ROCK,
      unit: 'kg',
      working: `${said.volume(volume)} × (1 − ${porosity} air) × ${said.density(ROCK)}`,
      bought: false,
    },
    ...(data.face === 'machine'
      ? []
      : [
          {
            id: 'hand-faced',
            name: 'Front laid by hand',
            value: face * 0.25,
            unit: 'm³' as const,
            working: `${said.area(face)} of face, ${said.small(0.25)} deep`,
            bought: false as const,
          },
        ]),
    ...(behind > 0
      ? [
          {
            id: 'behind',
            name: 'Baskets behind the front ones',
            value: behind,
            unit: 'pieces' as const,
            working: 'where the foot is more than one basket deep',
          },
        ]
      : []),
    ...(joint === 'spiral'
      ? [{ id: 'spirals', name: 'Spirals of 1 m', value: Math.ceil(lacing - 1e-6), unit: 'pieces' as const, working: 'one an edge and metre' }]
      : []),
    ...(joint === 'ring'
      ? [
          {
            id: 'rings',
            name: 'Rings',
            value: Math.ceil(lacing / RINGS),
            unit: 'pieces' as const,
            working: `every ${said.small(RINGS)} along ${said.length(lacing, 1)} of edges`,
          },
        ]
      : []),
    ...(mattress
      ? [
          {
            id: 'mattress',
            name: 'Mattress in front',
            value: topRunOf(runs) * mattress.out,
            unit: 'm²' as const,
            working: `${said.given(mattress.out)} out, ${said.given(mattress.thickness)} thick`,
          },
        ]
      : []),
    { id: 'lids', name: 'Lids', value: lids, unit: 'pieces', working: 'one a basket, closed before the next course', bought: false },
    {
      id: 'bracing',
      name: 'Bracing wires',
      value: braces,
      unit: 'pieces',
      working: `front to back, two in every metre, ${rows} ${rows === 1 ? 'row' : 'rows'} up`,
    },
    { id: 'lacing', name: 'Lacing', value: lacing, unit: 'm', working: 'four long edges of every basket and the edges of its ends' },
    {
      id: 'panels',
      name: 'End panels',
      value: ends,
      unit: 'm²',
      working: `${lids} baskets × ${said.given(unit.depth)} × ${said.given(unit.height)}`,
    },
    {
      id: 'fabric',
      name: 'Back fabric',
      value: face * 1.1 + topRun * 0.5,
      unit: 'm²',
      working: `${said.area(face)} behind the baskets with a tenth of laps, ${said.given(0.5)} folded over the top`,
    },
  ]
}
