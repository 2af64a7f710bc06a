import { action } from './action'
import { check } from './check'
import { clearance } from './clearance'
import { curve } from './curve'
import { cut } from './cut'
import { delivery } from './delivery'
import { density } from './density'
import { fixed } from './fixed'
import { geogrid } from './geogrid'
import { gradation } from './gradation'
import { hire } from './hire'
import type { EntryKind } from './kind'
import { lift } from './lift'
import { look } from './look'
import { mix } from './mix'
import { note } from './note'
import { obstruction } from './obstruction'
import { ordered } from './ordered'
import { override } from './override'
import { padChoice } from './pad-choice'
import { photo } from './photo'
import { pick } from './pick'
import { pipe } from './pipe'
import { promise } from './promise'
import { put } from './put'
import { reading } from './reading'
import { release } from './release'
import { request } from './request'
import { revision } from './revision'
import { roll } from './roll'
import { sawn } from './sawn'
import { setup } from './setup'
import { sight } from './sight'
import { sighting } from './sighting'
import { soil } from './soil'
import { soilReport } from './soil-report'
import { stock } from './stock'
import { strike } from './strike'
import { supply } from './supply'
import { task } from './task'
import { told } from './told'
import { undercut } from './undercut'
import { unitLevel } from './unit-level'
import { units } from './units'
import { weather } from './weather'
import { workdays } from './workdays'

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
  pick,
  sawn,
  roll,
  geogrid,
  gradation,
  pipe,
  photo,
  ordered,
  delivery,
  stock,
  supply,
  put,
  mix,
  workdays,
  hire,
  task,
  fixed,
  promise,
  told,
  request,
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

export { amountSaid, ITEM_UNITS, type ItemUnit } from '../item'
export type { ActionData } from './action'
export { boundsOf, type CheckData, measureSaid, measuresOf } from './check'
export { CLEARED_BY, type ClearanceData } from './clearance'
export { type CurveData, curveOf } from './curve'
export { type CutData, cutDepth, roomBehind } from './cut'
export { cameOf, type DeliveryData, delivery } from './delivery'
export { type DensityData, type DensityResult, densityOf, provenByMethod } from './density'
export { type FixedData, fixed } from './fixed'
export type { GeogridData } from './geogrid'
export type { GradationData } from './gradation'
export { type HireData, hire } from './hire'
export type { Context, Effect, EntryKind, PutRight } from './kind'
export { type LiftData, PLANT_NAMES } from './lift'
export type { LookData } from './look'
export { type MixData, mix } from './mix'
export type { NoteData } from './note'
export { OBSTRUCTIONS, type ObstructionData, WAYS } from './obstruction'
export { type OrderedData, ordered } from './ordered'
export type { OverrideData } from './override'
export type { PadChoiceData } from './pad-choice'
export { PHOTO_LIMIT, PHOTO_TYPES, type PhotoData, photo } from './photo'
export type { PickData } from './pick'
export { PIPE_ENDS, type PipeData } from './pipe'
export { type PromiseData, promise } from './promise'
export { type PutData, put } from './put'
export { aim, deviationOf, type ReadingData } from './reading'
export { decidedBy, isSigned, type ReleaseData } from './release'
export { isOutside, LOOKS_AS, outsideId, type RequestData, request } from './request'
export type { RevisionData } from './revision'
export type { RollData } from './roll'
export type { SawnData } from './sawn'
export type { SetupData } from './setup'
export type { SightData } from './sight'
export type { SightingData } from './sighting'
export type { SoilData } from './soil'
export type { SoilReportData } from './soil-report'
export { STOCK_CHANGES, type StockData, stock } from './stock'
export type { StrikeData } from './strike'
export { type SupplyData, supply } from './supply'
export { type TaskData, task } from './task'
export { TOLD_HOW, TOLD_WORDS, type ToldData, told } from './told'
export type { UndercutData } from './undercut'
export type { UnitLevelData } from './unit-level'
export type { UnitsData } from './units'
export type { WeatherData } from './weather'
export { type WorkdaysData, workdays } from './workdays'
