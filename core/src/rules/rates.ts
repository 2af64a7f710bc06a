/** How fast work goes until a company's own record says better: what a usual crew of three does in an hour, with what it scatters by. */
export interface RateDef {
  readonly title: string
  /** What is done in an hour. */
  readonly of: 'pieces' | 'm' | 'm²' | 'm³' | 'points' | 'steps'
  readonly value: number
  /** One day in six takes this many times as long or more; one in six this much less. */
  readonly spread: number
  readonly reason: string
}

/** Every kind of work that takes time, by name. Shipped rates are cautious: they are what a crew that is new to a system does. */
export const RATES = {
  units: { title: 'Units set', of: 'pieces', value: 14, spread: 1.35, reason: 'Carried, set and tapped to the string; more where units are small.' },
  first: {
    title: 'First course set',
    of: 'pieces',
    value: 6,
    spread: 1.5,
    reason: 'Every unit is bedded and levelled by itself: the slowest course of the wall.',
  },
  picks: { title: 'Units set by machine', of: 'pieces', value: 3.5, spread: 1.4, reason: 'Slung, swung, set and read one by one.' },
  caps: { title: 'Caps bonded', of: 'pieces', value: 10, spread: 1.4, reason: 'Cleaned, laid dry, glued to the string.' },
  cuts: {
    title: 'Units cut',
    of: 'pieces',
    value: 12,
    spread: 1.4,
    reason: 'Marked, cut wet with the dust held down, cleaned and put to its place.',
  },
  dig: { title: 'Trench dug', of: 'm³', value: 7, spread: 1.5, reason: 'A small excavator with its spoil put aside and the floor cleaned.' },
  lifts: { title: 'Layer placed and compacted', of: 'm²', value: 22, spread: 1.4, reason: 'Placed, spread, passes and a check of its thickness.' },
  stone: { title: 'Stone placed', of: 'm³', value: 2.2, spread: 1.4, reason: 'By bucket and shovel behind and into the units, rodded and swept.' },
  layers: { title: 'Geogrid laid', of: 'm²', value: 45, spread: 1.35, reason: 'Cut, laid, pulled tight and pinned.' },
  pipe: { title: 'Pipe laid', of: 'm', value: 9, spread: 1.4, reason: 'Bedded to its fall, read, wrapped and photographed.' },
  readings: { title: 'Readings taken', of: 'points', value: 40, spread: 1.3, reason: 'A point read, called and written.' },
  checks: { title: 'Looked at and written down', of: 'steps', value: 4, spread: 1.3, reason: 'A quarter of an hour with whoever did it.' },
} as const satisfies Record<string, RateDef>
export type RateName = keyof typeof RATES

/** So many times as long as on a straight stretch a unit takes on a curve, and at a corner: fitted, cut, turned and read again. */
export const SLOWER = { curve: 1.25, corner: 2 } as const

/** Working days until somebody says otherwise, and days lost to weather by month in per cent, of a mild and wet climate. */
export const WORKDAYS = {
  /** Monday is 1. */
  days: [1, 2, 3, 4, 5] as readonly number[],
  starts: 7,
  hours: 8,
  crews: 1,
  /** Hours an inspector wants to know before. */
  notice: 24,
  lost: [30, 26, 20, 14, 10, 8, 8, 9, 12, 17, 24, 29] as readonly number[],
} as const
/** A record's own pace counts as much as the shipped one once it rests on so many days. */
export const BELIEVED = 4
