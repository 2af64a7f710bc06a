import type { Work } from '../../systems'
import { check } from './check'
import { grid } from './grid'
import { lifts } from './lifts'
import { picks } from './picks'
import { pipe } from './pipe'
import { readings } from './readings'
import { units } from './units'
import type { WorkType } from './work'

/** Every type of work; a new one is a file beside the others and its line here. */
const WORKS: { readonly [T in Work['type']]: WorkType<T> } = { check, grid, lifts, picks, pipe, readings, units }

/** @example workOf('lifts').progress(state, step, work, all).missing */
export const workOf = (type: Work['type']): WorkType => WORKS[type] as WorkType
export { mm } from './changed'
export { bedUnder, plannedPicks } from './picks'
export type { Progress, SheetFact, SheetPart } from './work'
