/** Opens and closes a quantity within a sentence: signs nobody types. */
export const [OPEN, CLOSE] = ['\u2045', '\u2046']

/** What a sentence of the core can carry; {@link say} writes each in the reader's units. */
export type Quantity =
  | 'length'
  | 'given'
  | 'small'
  | 'fine'
  | 'signed'
  | 'station'
  | 'area'
  | 'volume'
  | 'mass'
  | 'pressure'
  | 'weight'
  | 'density'
  | 'flow'
  | 'rain'
  | 'temperature'
  | 'speed'
  | 'level'
  | 'line'
  | 'setback'
/** A day or a time a sentence carries: one way of writing them for all that read it. */
export type Dated = 'day' | 'moment'

/**
 * A quantity to be put into a sentence of the core.
 *
 * @param value - SI: m, m², m³, kg, kPa, kN/m³, kg/m³, m³/s, mm of rain, °C, km/h
 * @param places - decimals of a length in metres
 * @example `front edge ${quantityOf('small', 0.05)} behind the face`
 */
export const quantityOf = (kind: Quantity, value: number, places?: number) =>
  `${OPEN}${kind} ${value}${places === undefined ? '' : ` ${places}`}${CLOSE}`

const dated = (kind: Dated, at: string) => `${OPEN}${kind} ${at}${CLOSE}`

/** {@link quantityOf} by kind, and days. @example said.small(0.05) // read as '50 mm', or '1 15/16"' */
export const said = {
  length: (v: number, places?: number) => quantityOf('length', v, places),
  /** A length as somebody gave it: no more decimals than it has. */
  given: (v: number) => quantityOf('given', v),
  small: (v: number) => quantityOf('small', v),
  /** A small length to the tenth of a millimetre. */
  fine: (v: number) => quantityOf('fine', v),
  signed: (v: number) => quantityOf('signed', v),
  station: (v: number) => quantityOf('station', v),
  area: (v: number) => quantityOf('area', v),
  volume: (v: number) => quantityOf('volume', v),
  mass: (v: number) => quantityOf('mass', v),
  pressure: (v: number) => quantityOf('pressure', v),
  /** Unit weight of soil. */
  weight: (v: number) => quantityOf('weight', v),
  density: (v: number) => quantityOf('density', v),
  flow: (v: number) => quantityOf('flow', v),
  rain: (v: number) => quantityOf('rain', v),
  temperature: (v: number) => quantityOf('temperature', v),
  speed: (v: number) => quantityOf('speed', v),
  /** A day of the record, or the day of a time. */
  day: (at: string) => dated('day', at),
  /** A time of the record, to the minute. */
  moment: (at: string) => dated('moment', at),
  deviation: (v: number, sense: 'level' | 'line' | 'setback') => quantityOf(sense, v),
}
