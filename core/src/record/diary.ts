import { fullDay } from '../units/day'
import { say } from '../units/say'
import type { Entry, Reader } from './entry'
import { contextOf } from './fold'
import { kindOf } from './kinds'
import { outOfCalibration } from './latest'
import type { WallState } from './state'

/** One entry as a line of the diary. @example lineOf(state, entry, { units: 'metric' }) // 'Set 14 blocks' */
export function lineOf(state: WallState, entry: Entry, reader: Reader): string {
  const line = say(kindOf(entry.kind)?.line(entry, reader, contextOf(state, entry)) ?? entry.kind, reader.units)
  if (!entry.instrument) return line
  const { name, serial, calibratedUntil } = entry.instrument
  return `${line} · ${name} ${serial}${outOfCalibration(entry) ? `, calibration ran out on ${fullDay(calibratedUntil)}` : ''}`
}

/** Where an entry belongs, in words. @example placeOf(entry) // 'A · course 3' */
export function placeOf(entry: Entry): string {
  const { section, course } = entry.where
  return [section, course === undefined ? undefined : `course ${course}`].filter(Boolean).join(' · ')
}
