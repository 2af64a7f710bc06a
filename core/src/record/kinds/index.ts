import { action, note, override, release, setup, strike } from './beside'
import { check } from './check'
import { clearance } from './clearance'
import { cut } from './cut'
import { curve, density } from './density'
import { obstruction, padChoice, weather } from './dig'
import { geogrid } from './geogrid'
import type { EntryKind } from './kind'
import { lift } from './lift'
import { look } from './look'
import { gradation, roll } from './materials'
import { photo } from './photo'
import { pipe } from './pipe'
import { reading } from './reading'
import { revision } from './revision'
import { sight } from './sight'
import { sighting } from './sighting'
import { soil, soilReport, undercut } from './soil'
import { unitLevel } from './unit-level'
import { units } from './units'

/** Every kind of entry. */
export const KINDS: readonly EntryKind[] = [
  setup,
  sight,
  check,
  reading,
  sighting,
  unitLevel,
  cut,
  obstruction,
  soil,
  soilReport,
  undercut,
  clearance,
  look,
  padChoice,
  lift,
  curve,
  density,
  weather,
  units,
  roll,
  geogrid,
  gradation,
  pipe,
  photo,
  release,
  override,
  action,
  note,
  strike,
  revision,
]
const byName = new Map(KINDS.map((k) => [k.kind, k]))
/** @example kindOf('reading')?.work */
export const kindOf = (kind: string) => byName.get(kind)

export { type ActionData, decidedBy, isSigned, type NoteData, type OverrideData, type ReleaseData, type SetupData, type StrikeData } from './beside'
export { type CheckData, measuresOf } from './check'
export { CLEARED_BY, type ClearanceData } from './clearance'
export { type CutData, cutDepth, roomBehind } from './cut'
export { type CurveData, curveOf, type DensityData, type DensityResult, densityOf } from './density'
export { OBSTRUCTIONS, type ObstructionData, type PadChoiceData, WAYS, type WeatherData } from './dig'
export type { GeogridData } from './geogrid'
export type { Context, Effect, EntryKind, PutRight } from './kind'
export { type LiftData, PLANT_NAMES } from './lift'
export type { LookData } from './look'
export type { GradationData, RollData } from './materials'
export { PHOTO_LIMIT, PHOTO_TYPES, type PhotoData } from './photo'
export { PIPE_ENDS, type PipeData } from './pipe'
export { aim, deviationOf, type ReadingData } from './reading'
export type { RevisionData } from './revision'
export type { SightData } from './sight'
export type { SightingData } from './sighting'
export type { SoilData, SoilReportData, UndercutData } from './soil'
export type { UnitLevelData } from './unit-level'
export type { UnitsData } from './units'
