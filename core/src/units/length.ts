import { fail, ok, type Result } from '../base/result'

/** The ways a crew measures: metres and millimetres, feet and inches, or a surveyor's feet and hundredths. */
export type UnitSystem = 'metric' | 'imperial' | 'decimal-feet'
export const UNIT_SYSTEMS: readonly UnitSystem[] = ['metric', 'imperial', 'decimal-feet']
/** The unit small lengths are typed in. @example smallUnit('metric') // 'mm' */
export const smallUnit = (units: UnitSystem) => (units === 'metric' ? ('mm' as const) : units === 'imperial' ? ('in' as const) : ('ft' as const))

export const FOOT = 0.3048
export const INCH = 0.0254

const PER_UNIT: Record<string, number> = { mm: 0.001, cm: 0.01, m: 1, in: INCH, '"': INCH, ft: FOOT, "'": FOOT }

function fraction(text: string): number {
  const parts = text.trim().split(/\s+/)
  let sum = 0
  for (const part of parts) {
    const [top, bottom] = part.split('/')
    sum += bottom === undefined ? Number(top) : Number(top) / Number(bottom)
  }
  return sum
}

/**
 * What people type for a length, in metres: `1.015`, `1,015`, `1015 mm`, `3' 4 1/2"`, `3-4 1/2`, `4 1/2"`, `3.5 ft`.
 * A bare number is metres (metric) or feet (imperial) unless `bare` says otherwise.
 *
 * @param bare - the unit of a number without one
 * @returns metres, or why the text could not be read
 * @example parseLength(`3' 4 1/2"`, 'ft') // { ok: true, value: 1.0287 }
 */
export function parseLength(input: string, bare: 'm' | 'mm' | 'ft' | 'in' = 'm'): Result<number> {
  const refuse = () => fail('', `"${input}" is not a length; write 1.015, 1015 mm, 3' 4 1/2" or 4 1/2 in`)
  let s = input
    .trim()
    .toLowerCase()
    .replace(/[’′]/g, "'")
    .replace(/[”″]|''/g, '"')
    .replace(/−/g, '-')
  if (s === '') return refuse()
  let sign = 1
  if (/^[+-]/.test(s)) {
    if (s[0] === '-') sign = -1
    s = s.slice(1).trim()
  }
  // A comma with no point before it is a decimal comma: 1,015 is one metre and fifteen millimetres.
  if (/^\d+,\d+(\s*(mm|cm|m))?$/.test(s)) s = s.replace(',', '.')
  const number = String.raw`\d+(?:\.\d+)?|\.\d+`
  const mixed = String.raw`(?:\d+\s+)?\d+\/\d+|${number}`
  const feetInches = new RegExp(String.raw`^(${number})\s*(?:'|ft)\s*-?\s*(${mixed})\s*(?:"|in)?$`).exec(s)
  if (feetInches) return finish(sign * (Number(feetInches[1]) * FOOT + fraction(feetInches[2] ?? '') * INCH))
  const dashed = new RegExp(String.raw`^(\d+)\s*-\s*(${mixed})\s*"?$`).exec(s)
  if (dashed) return finish(sign * (Number(dashed[1]) * FOOT + fraction(dashed[2] ?? '') * INCH))
  const one = new RegExp(String.raw`^(${mixed})\s*(mm|cm|m|in|ft|"|')?$`).exec(s)
  if (one) return finish(sign * fraction(one[1] ?? '') * (PER_UNIT[one[2] ?? bare] ?? 1))
  return refuse()

  function finish(value: number): Result<number> {
    // 350 mm is 0.35 m, not 0.35000000000000003: what is typed is what is recorded.
    return Number.isFinite(value) ? ok(Math.round(value * 1e9) / 1e9) : refuse()
  }
}

/** Inches to the nearest sixteenth; `full` shows the whole inches even where there are none. */
function sixteenths(inches: number, full = false): string {
  const total = Math.round(inches * 16)
  const whole = Math.floor(total / 16)
  let top = total % 16
  if (top === 0) return `${whole}`
  let bottom = 16
  while (top % 2 === 0) {
    top /= 2
    bottom /= 2
  }
  return whole === 0 && !full ? `${top}/${bottom}` : `${whole} ${top}/${bottom}`
}

const clean = (value: number, places: number) => {
  const s = value.toFixed(places)
  return Number(s) === 0 ? s.replace('-', '') : s
}

/**
 * A length for reading: `1.015 m`, `3'-4"` or, as surveyors write it, `3.33 ft`.
 *
 * @param metres - SI length
 * @example formatLength(1.015, 'metric') // '1.015 m'
 */
export function formatLength(metres: number, system: UnitSystem, places = 3): string {
  if (system === 'metric') return `${clean(metres, places)} m`
  if (system === 'decimal-feet') return `${clean(metres / FOOT, Math.min(places, 2)).replace('-', '−')} ft`
  const inches = Math.round((Math.abs(metres) / INCH) * 16) / 16
  const feet = Math.floor(inches / 12)
  return `${metres < 0 && inches > 0 ? '−' : ''}${feet}'-${sixteenths(inches - feet * 12, true)}"`
}

/** A small length such as a deviation or a lift, without sign: `4 mm`, `3/16"` or `0.01 ft`. */
export function formatSmall(metres: number, system: UnitSystem): string {
  const size = Math.abs(metres)
  if (system === 'decimal-feet') return `${(size / FOOT).toFixed(2)} ft`
  return system === 'metric' ? `${Math.round(size * 1000)} mm` : `${sixteenths(size / INCH)}"`
}

/** A length as somebody gave it: `1.2 m`, not `1.200 m`. @example formatGiven(1.2, 'metric') // '1.2 m' */
export const formatGiven = (metres: number, system: UnitSystem): string =>
  system === 'metric' ? `${+metres.toFixed(4)} m` : formatLength(metres, system)

/** A small length to the tenth of a millimetre, or to the sixteenth; without sign. @example formatFine(0.1524, 'metric') // '152.4 mm' */
export const formatFine = (metres: number, system: UnitSystem): string =>
  system === 'metric' ? `${+(Math.abs(metres) * 1000).toFixed(1)} mm` : formatSmall(metres, system)

/**
 * The same with its sign where it is below nothing: `−280 mm`. For a length that has a direction and no words for it.
 *
 * @example formatSigned(-0.28, 'metric') // '−280 mm'
 */
export function formatSigned(metres: number, system: UnitSystem): string {
  const size = formatSmall(metres, system)
  return metres < 0 && !NOTHING.test(size) ? `−${size}` : size
}

/**
 * A length to one side or the other, the side in words: `280 mm below`.
 *
 * @param sides - words for above nothing and below it
 * @example formatSide(-0.28, ['above', 'below'], 'metric') // '280 mm below'
 */
export function formatSide(metres: number, sides: readonly [string, string], system: UnitSystem): string {
  return `${formatSmall(metres, system)} ${sides[metres < 0 ? 1 : 0]}`
}
const NOTHING = /^0 ?(mm|"|ft)$|^0\.00 ft$/

/** A station along the face, shown the way stakes are written: `12.60` or `41'-4"`. */
export const formatStation = (metres: number, system: UnitSystem) => (system === 'metric' ? clean(metres, 2) : formatLength(metres, system))

/** The directions a deviation can have, in words; first when positive. */
const WORDS = { level: ['high', 'low'], line: ['out', 'in'], setback: ['back', 'forward'] } as const
export type DeviationSense = keyof typeof WORDS

/**
 * A deviation in words, so that it never depends on sign or colour: `4 mm high`, `on target`.
 *
 * @param metres - positive is high, out of line to the front, or too far back
 * @example formatDeviation(0.004, 'level', 'metric') // '4 mm high'
 */
export function formatDeviation(metres: number, sense: DeviationSense, system: UnitSystem): string {
  const size = formatSmall(metres, system)
  if (NOTHING.test(size)) return 'on target'
  return `${size} ${WORDS[sense][metres > 0 ? 0 : 1]}`
}

/** Cubic metres as `3.4 m³`, or cubic yards; what would read as nothing in litres or gallons. */
export const formatVolume = (m3: number, system: UnitSystem) =>
  m3 > 0 && m3 < 0.05
    ? system === 'metric'
      ? `${(m3 * 1000).toFixed(m3 < 0.005 ? 2 : 1)} l`
      : `${(m3 * 264.172052).toFixed(m3 < 0.005 ? 3 : 1)} gal`
    : system === 'metric'
      ? `${m3.toFixed(1)} m³`
      : `${(m3 / 0.764554857984).toFixed(1)} yd³`

/** Square metres as `52 m²`, or square feet. */
export const formatArea = (m2: number, system: UnitSystem) => (system === 'metric' ? `${m2.toFixed(1)} m²` : `${(m2 / (FOOT * FOOT)).toFixed(0)} ft²`)
