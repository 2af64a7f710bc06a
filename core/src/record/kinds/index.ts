import { action, note, override, release, setup, strike } from './beside'
import { check } from './check'
import { geogrid } from './geogrid'
import type { EntryKind } from './kind'
import { lift } from './lift'
import { reading } from './reading'
import { revision } from './revision'
import { units } from './units'

/** Every kind of entry. */
export const KINDS: readonly EntryKind[] = [setup, check, reading, lift, units, geogrid, release, override, action, note, strike, revision]
const byName = new Map(KINDS.map((k) => [k.kind, k]))
/** @example kindOf('reading')?.work */
export const kindOf = (kind: string) => byName.get(kind)

export type { ActionData, NoteData, OverrideData, ReleaseData, SetupData, StrikeData } from './beside'
export type { CheckData } from './check'
export type { GeogridData } from './geogrid'
export type { Context, EntryKind } from './kind'
export { type LiftData, PLANT_NAMES } from './lift'
export { aim, deviationOf, type ReadingData } from './reading'
export type { RevisionData } from './revision'
export type { UnitsData } from './units'
