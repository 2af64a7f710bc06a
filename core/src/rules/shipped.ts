import { FIRST } from './tables/first'
import type { LimitName, Limits } from './tables/names'
import { SECOND } from './tables/second'
import { THIRD } from './tables/third'
import { UNJUDGED } from './tables/unjudged'

export type { Limit } from './tables/limit'
export type { LimitName, Limits } from './tables/names'

/** The shipped tables by number. A revision is judged by the table it was issued under. */
const TABLES: Readonly<Record<number, Limits>> = { 1: { ...FIRST, ...UNJUDGED }, 2: SECOND, 3: THIRD }
/** The table new revisions are issued under. */
export const RULE_TABLE = 3

/** Limits every new wall starts from, for what belongs to no revision. */
export const LIMITS: Limits = THIRD
/** A shipped table by number; the newest for a number that is none. @example shippedLimits(2).compaction.value // 95 */
export const shippedLimits = (number: number): Limits => TABLES[number] ?? THIRD
/** Names of the limits a table knows; those of later ones stand in it at values nothing fails. @example limitNames(2).length */
export const limitNames = (number: number): readonly LimitName[] =>
  (Object.keys(shippedLimits(number)) as LimitName[]).filter((name) => number > 2 || !Object.hasOwn(UNJUDGED, name))
