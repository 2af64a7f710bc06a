import type { Chapter, LimitUnit } from './definitions'

/** What the planner starts a new wall from, until somebody types another: lengths m, per cent and ratios as they are. */
export interface StartDef {
  readonly title: string
  readonly of: LimitUnit
  readonly value: number
  readonly range: readonly [least: number, most: number]
  readonly chapter: Chapter
  /** Why a wall is begun with it. */
  readonly why: string
}
const start = (title: string, of: LimitUnit, value: number, range: StartDef['range'], chapter: Chapter, why: string): StartDef => ({
  title,
  of,
  value,
  range,
  chapter,
  why,
})

/** Every default of the planner that is a number; schools it starts from are choices. */
export const STARTS = {
  embedFixed: start(
    'Buried, fixed',
    'length',
    0.15,
    [0, 2],
    'engineer',
    'What is buried holds the foot of the wall where somebody digs or water runs in front.',
  ),
  embedShare: start('Buried, share of the height', '%', 10, [0, 50], 'engineer', 'A higher wall pushes harder at its foot.'),
  behind: start(
    'Room behind the units at the foot',
    'length',
    1,
    [0.2, 10],
    'dig',
    'Room for the stone, for people, and for the longest layer to lie flat.',
  ),
  slope: start('Side of the cut, across per 1 up', 'ratio', 1.5, [0.25, 4], 'dig', 'Soil nobody has classified is taken for the weakest.'),
  padThickness: start('Pad, thick', 'length', 0.15, [0.05, 1], 'pad', 'Thick enough to be compacted in lifts and to spread the load of the units.'),
  padWidth: start('Pad, wide', 'length', 0.6, [0.15, 4], 'pad', 'As wide as a unit and as much again as the pad is thick on either side.'),
  padLift: start('Pad, lift', 'length', 0.1, [0.03, 0.5], 'pad', 'No thicker than light plant compacts through.'),
  minRun: start('Pad step, at least', 'length', 1.2, [0, 50], 'pad', 'Shorter steps cost more digging in corners than they save.'),
  stone: start(
    'Drainage stone behind the units',
    'length',
    0.3,
    [0, 3],
    'water',
    'Water must reach the pipe faster than it comes, and frost must not reach soil behind the units.',
  ),
  pipe: start('Pipe, diameter', 'length', 0.1, [0.05, 0.6], 'water', 'Smaller pipes silt up and cannot be flushed.'),
  fall: start('Pipe, fall', '%', 1, [0, 20], 'water', 'Under one in a hundred a pipe keeps its silt.'),
  heelAbove: start(
    'Heel drain, above the toe drain',
    'length',
    0.3,
    [0, 3],
    'water',
    'The back of the cut lies higher than the toe, and its pipe falls to the same outlets.',
  ),
  postApart: start('Posts of a fence, apart', 'length', 2.4, [0.5, 6], 'top', 'As long as the usual panel of a fence.'),
  postSleeve: start('Sleeve of a post, diameter', 'length', 0.2, [0.05, 1], 'top', 'Room for the post and the concrete round it.'),
  postDeep: start('Sleeve of a post, deep at least', 'length', 0.6, [0.3, 2], 'top', 'A post holds by what is beside it; a higher one goes deeper.'),
  wasteUnits: start(
    'Ordered above what is built: units',
    '%',
    3,
    [0, 50],
    'courses',
    'Some break, some are cut wrong, and a second delivery has another colour.',
  ),
  wasteStone: start('Ordered above what is built: stone', '%', 10, [0, 50], 'water', 'Stone settles, and some goes into the ground.'),
  wasteGrid: start('Ordered above what is built: geogrid', '%', 5, [0, 50], 'grid', 'Laps, trimming, and what is left of a roll.'),
} as const satisfies Record<string, StartDef>
export type StartName = keyof typeof STARTS

/** A start by name; undefined for a name that is none. @example startDef('padWidth')?.value // 0.6 */
export const startDef = (name: string): StartDef | undefined => (Object.hasOwn(STARTS, name) ? STARTS[name as StartName] : undefined)
