import { said } from '../../base/said'
import type { WallSystem } from '../system'
import { lay } from './lay'
import { stages } from './stages'
import { units } from './units'

/** Hollow segmental block with a locating lug on top; each course steps back by the lug. */
export const hollowCore: WallSystem = {
  id: 'hollow-core',
  name: 'Hollow-core segmental block',
  summary: 'Rows of hollow block, cores filled with stone; a lug on top sets each course back from the one below.',
  noun: { one: 'block', many: 'blocks' },
  units,
  stages,
  open: { from: 'units', until: ['fill', 'backfill'] },
  lay,
  cautions: () => [],
  quantities: ({ plan, pieces, topRun }) => {
    const { unit } = plan
    const share = (kind: string, each: number) => pieces.filter((p) => p.kind === kind).length * each
    const cores = (share('full', 1) + share('corner', 1) + share('half', 0.5)) * unit.coreVolume
    // A bead of 8 mm twice along every cap.
    const adhesive = topRun * 2 * 0.000_05
    return [
      {
        id: 'cores',
        name: 'Stone in the cores',
        value: cores,
        unit: 'm³',
        working: `${said.volume(unit.coreVolume ?? 0)} a unit, half for halves; cut units are taken as solid`,
      },
      ...(unit.capHeight > 0
        ? [
            {
              id: 'adhesive',
              name: 'Adhesive for caps',
              value: adhesive,
              unit: 'm³' as const,
              working: `two beads of ${said.small(0.008)} along ${said.length(topRun, 2)} of cap`,
            },
          ]
        : []),
    ]
  },
  outline: (u) => {
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
  },
}
