import {
  type DeviationSense,
  formatArea,
  formatDeviation,
  formatLength,
  formatSigned,
  formatSmall,
  formatStation,
  formatVolume,
  type UnitSystem,
} from './length'
import { formatDensity, formatFlow, formatMass, formatPressure, formatRain, formatTemperature } from './quantity'

/**
 * Quantities a sentence of the core carries, each by its kind and its SI value. Only the reader's side turns them into words.
 */
const KINDS = {
  length: (v: number, u: UnitSystem, places?: number) => formatLength(v, u, places ?? 3),
  small: (v: number, u: UnitSystem) => formatSmall(v, u),
  signed: (v: number, u: UnitSystem) => formatSigned(v, u),
  station: (v: number, u: UnitSystem) => formatStation(v, u),
  area: (v: number, u: UnitSystem) => formatArea(v, u),
  volume: (v: number, u: UnitSystem) => formatVolume(v, u),
  mass: (v: number, u: UnitSystem) => formatMass(v, u),
  pressure: (v: number, u: UnitSystem) => formatPressure(v, u),
  density: (v: number, u: UnitSystem) => formatDensity(v, u),
  flow: (v: number, u: UnitSystem) => formatFlow(v, u),
  rain: (v: number, u: UnitSystem) => formatRain(v, u),
  temperature: (v: number, u: UnitSystem) => formatTemperature(v, u),
  // A deviation has its direction in words.
  level: (v: number, u: UnitSystem) => formatDeviation(v, 'level', u),
  line: (v: number, u: UnitSystem) => formatDeviation(v, 'line', u),
  setback: (v: number, u: UnitSystem) => formatDeviation(v, 'setback', u),
} as const
type Kind = keyof typeof KINDS

/** Opens and closes a quantity within a sentence: signs nobody types. */
const [OPEN, CLOSE] = ['\u2045', '\u2046']
const QUANTITY = new RegExp(`${OPEN}([a-z]+) ([^ ${CLOSE}]+)(?: (\\d))?${CLOSE}`, 'g')

/**
 * A quantity to be put into a sentence of the core.
 *
 * @param value - SI: m, m², m³, kg, kPa, kg/m³, m³/s, mm of rain, °C
 * @param places - decimals of a length in metres
 * @example `front edge ${quantityOf('small', 0.05)} behind the face`
 */
export const quantityOf = (kind: Kind, value: number, places?: number) => `${OPEN}${kind} ${value}${places === undefined ? '' : ` ${places}`}${CLOSE}`
export const said = {
  length: (v: number, places?: number) => quantityOf('length', v, places),
  small: (v: number) => quantityOf('small', v),
  signed: (v: number) => quantityOf('signed', v),
  station: (v: number) => quantityOf('station', v),
  area: (v: number) => quantityOf('area', v),
  volume: (v: number) => quantityOf('volume', v),
  mass: (v: number) => quantityOf('mass', v),
  pressure: (v: number) => quantityOf('pressure', v),
  density: (v: number) => quantityOf('density', v),
  flow: (v: number) => quantityOf('flow', v),
  rain: (v: number) => quantityOf('rain', v),
  temperature: (v: number) => quantityOf('temperature', v),
  deviation: (v: number, sense: DeviationSense) => quantityOf(sense, v),
}

/**
 * A sentence of the core in the reader's units.
 *
 * @example say(`lift ${said.small(0.15)}`, 'imperial') // 'lift 5 7/8"'
 */
export const say = (sentence: string, units: UnitSystem): string =>
  sentence.includes(OPEN)
    ? sentence.replace(QUANTITY, (whole, kind: string, value: string, places: string | undefined) => {
        const write = KINDS[kind as Kind] as ((v: number, u: UnitSystem, places?: number) => string) | undefined
        return write ? write(Number(value), units, places === undefined ? undefined : Number(places)) : whole
      })
    : sentence
