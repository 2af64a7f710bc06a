import type { Chapter, LimitUnit } from './definitions'

/** What the planner starts a new wall from, until somebody types another: lengths m, per cent and ratios as they are. */
export interface StartDef {
  readonly title: string
  readonly of: LimitUnit
  readonly value: number
  readonly range: readonly [least: number, most: number]
  readonly chapter: Chapter
}
const start = (title: string, of: LimitUnit, value: number, range: StartDef['range'], chapter: Chapter): StartDef => ({
  title,
  of,
  value,
  range,
  chapter,
})

/** Every default of the planner that is a number; schools it starts from are choices. */
export const STARTS = {
  embedFixed: start('Buried, fixed', 'length', 0.15, [0, 2], 'engineer'),
  embedShare: start('Buried, share of the height', '%', 10, [0, 50], 'engineer'),
  behind: start('Room behind the units at the foot', 'length', 1, [0.2, 10], 'dig'),
  slope: start('Side of the cut, across per 1 up', 'ratio', 1.5, [0.25, 4], 'dig'),
  padThickness: start('Pad, thick', 'length', 0.15, [0.05, 1], 'pad'),
  padWidth: start('Pad, wide', 'length', 0.6, [0.15, 4], 'pad'),
  padLift: start('Pad, lift', 'length', 0.1, [0.03, 0.5], 'pad'),
  minRun: start('Pad step, at least', 'length', 1.2, [0, 50], 'pad'),
  stone: start('Drainage stone behind the units', 'length', 0.3, [0, 3], 'water'),
  pipe: start('Pipe, diameter', 'length', 0.1, [0.05, 0.6], 'water'),
  fall: start('Pipe, fall', '%', 1, [0, 20], 'water'),
  wasteUnits: start('Ordered above what is built: units', '%', 3, [0, 50], 'courses'),
  wasteStone: start('Ordered above what is built: stone', '%', 10, [0, 50], 'water'),
  wasteGrid: start('Ordered above what is built: geogrid', '%', 5, [0, 50], 'grid'),
} as const satisfies Record<string, StartDef>
export type StartName = keyof typeof STARTS

/** A start by name; undefined for a name that is none. @example startDef('padWidth')?.value // 0.6 */
export const startDef = (name: string): StartDef | undefined => (Object.hasOwn(STARTS, name) ? STARTS[name as StartName] : undefined)
