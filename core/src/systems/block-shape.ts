import { said } from '../base/said'
import type { CountBasis, Outline, Quantity } from './system'
import type { Unit } from './unit'

/** Side view of a block, its core where it has one; m. */
export function blockOutline(u: Unit): { readonly body: Outline; readonly core?: Outline } {
  const wall = Math.min(0.06, u.depth / 5)
  return {
    body: [
      [0, 0],
      [u.depth, 0],
      [u.depth, u.height],
      [0, u.height],
    ],
    ...(u.coreVolume > 0
      ? {
          core: [
            [wall, 0],
            [u.depth - wall, 0],
            [u.depth - wall, u.height],
            [wall, u.height],
          ] as const,
        }
      : {}),
  }
}

/** A bead of adhesive, m³ along a metre: 8 mm. */
const BEAD = 0.000_05

/** Adhesive under the caps; nothing where there is no cap. */
export const capAdhesive = ({ topRun }: Pick<CountBasis, 'topRun'>, unit: Unit): Quantity[] =>
  unit.capHeight > 0
    ? [
        {
          id: 'adhesive',
          name: 'Adhesive for caps',
          value: topRun * 2 * BEAD,
          unit: 'm³',
          working: `two beads of ${said.small(0.008)} along ${said.length(topRun, 2)} of cap`,
        },
      ]
    : []

/** Stone in the cores of hollow units. */
export function coreStone({ pieces }: Pick<CountBasis, 'pieces'>, unit: Unit): Quantity {
  const share = (kind: string, each: number) => pieces.filter((p) => p.kind === kind).length * each
  return {
    id: 'cores',
    name: 'Stone in the cores',
    value: (share('full', 1) + share('corner', 1) + share('half', 0.5)) * unit.coreVolume,
    unit: 'm³',
    working: `${said.volume(unit.coreVolume ?? 0)} a unit, half for halves; cut units are taken as solid`,
    bought: false,
  }
}

/** Adhesive between the courses: two beads along every piece above the first course. */
export function bedAdhesive({ pieces }: Pick<CountBasis, 'pieces'>): Quantity {
  const run = pieces.reduce((sum, p) => (p.kind === 'return' ? sum : sum + p.length), 0)
  return {
    id: 'bed-adhesive',
    name: 'Adhesive between courses',
    value: run * 2 * BEAD,
    unit: 'm³',
    working: `two beads of ${said.small(0.008)} along ${said.length(run, 2)} of course`,
  }
}
