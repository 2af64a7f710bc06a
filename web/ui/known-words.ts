import type { Known } from '@stone-tally/core'

/** Where an answer comes from that stands in its field already. @example fromWords({ value: 1.2, from: 'plan' }) // 'as planned' */
export const fromWords = ({ from }: Pick<Known<unknown>, 'from'>): string =>
  from === 'plan' ? 'as planned' : `as in entry no. ${from.number}; another can be typed`
