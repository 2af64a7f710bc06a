import { CLOSE, type Dated, OPEN, type Quantity } from '../base/said'
import { dayWords, momentWords } from './day'
import {
  formatArea,
  formatDeviation,
  formatFine,
  formatGiven,
  formatLength,
  formatSigned,
  formatSmall,
  formatStation,
  formatVolume,
  type UnitSystem,
} from './length'
import { formatDensity, formatFlow, formatMass, formatPressure, formatRain, formatSpeed, formatTemperature, formatWeight } from './quantity'

/**
 * Quantities a sentence of the core carries, each by its kind and its SI value. Only the reader's side turns them into words.
 */
const KINDS = {
  length: (v: number, u: UnitSystem, places?: number) => formatLength(v, u, places ?? 3),
  given: (v: number, u: UnitSystem) => formatGiven(v, u),
  small: (v: number, u: UnitSystem) => formatSmall(v, u),
  fine: (v: number, u: UnitSystem) => formatFine(v, u),
  signed: (v: number, u: UnitSystem) => formatSigned(v, u),
  station: (v: number, u: UnitSystem) => formatStation(v, u),
  area: (v: number, u: UnitSystem) => formatArea(v, u),
  volume: (v: number, u: UnitSystem) => formatVolume(v, u),
  mass: (v: number, u: UnitSystem) => formatMass(v, u),
  pressure: (v: number, u: UnitSystem) => formatPressure(v, u),
  weight: (v: number, u: UnitSystem) => formatWeight(v, u),
  density: (v: number, u: UnitSystem) => formatDensity(v, u),
  flow: (v: number, u: UnitSystem) => formatFlow(v, u),
  rain: (v: number, u: UnitSystem) => formatRain(v, u),
  temperature: (v: number, u: UnitSystem) => formatTemperature(v, u),
  speed: (v: number, u: UnitSystem) => formatSpeed(v, u),
  // A deviation has its direction in words.
  level: (v: number, u: UnitSystem) => formatDeviation(v, 'level', u),
  line: (v: number, u: UnitSystem) => formatDeviation(v, 'line', u),
  setback: (v: number, u: UnitSystem) => formatDeviation(v, 'setback', u),
} as const satisfies Record<Quantity, (v: number, u: UnitSystem, places?: number) => string>
const DATES = { day: dayWords, moment: momentWords } as const satisfies Record<Dated, (at: string) => string>
const QUANTITY = new RegExp(`${OPEN}([a-z]+) ([^ ${CLOSE}]+)(?: (\\d))?${CLOSE}`, 'g')

/**
 * A sentence of the core in the reader's units.
 *
 * @example say(`lift ${said.small(0.15)}`, 'imperial') // 'lift 5 7/8"'
 */
export const say = (sentence: string, units: UnitSystem): string =>
  sentence.includes(OPEN)
    ? sentence.replace(QUANTITY, (whole, kind: string, value: string, places: string | undefined) => {
        if (Object.hasOwn(DATES, kind)) return DATES[kind as Dated](value)
        const write = KINDS[kind as Quantity] as ((v: number, u: UnitSystem, places?: number) => string) | undefined
        return write ? write(Number(value), units, places === undefined ? undefined : Number(places)) : whole
      })
    : sentence
