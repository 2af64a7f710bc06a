import { fail, ok, type Result } from '../base/result'

/** What an instrument measures. */
export const INSTRUMENT_KINDS = ['level', 'density-gauge', 'moisture-probe', 'weather-station', 'forecast'] as const
export type InstrumentKind = (typeof INSTRUMENT_KINDS)[number]
export const INSTRUMENT_NAMES: Readonly<Record<InstrumentKind, string>> = {
  level: 'Rotating laser with receiver',
  'density-gauge': 'Density gauge',
  'moisture-probe': 'Moisture probe',
  'weather-station': 'Weather station',
  forecast: 'Weather forecast',
}

/** An instrument as it introduces itself. Battery per cent; calibration day as 2026-05-31. */
export interface InstrumentStatus {
  readonly id: string
  readonly kind: InstrumentKind
  readonly name: string
  readonly serial: string
  readonly calibratedUntil: string
  readonly battery: number
  readonly connected: boolean
}

/** A reading: named values in SI (rod m, wet kg/m³, moisture %, counts, rain mm, low °C, wind km/h). */
export interface InstrumentReading {
  readonly id: string
  /** Counts up by one with each reading; the same number twice is the same reading sent twice. */
  readonly seq: number
  readonly at: string
  readonly values: Readonly<Record<string, number>>
}

export type InstrumentLine =
  | { readonly type: 'instrument'; readonly status: InstrumentStatus }
  | { readonly type: 'reading'; readonly reading: InstrumentReading }
  | { readonly type: 'end' }
  | { readonly type: 'error'; readonly id: string; readonly message: string }

/** Exclusive or of all characters, as two hexadecimal digits: what a line ends with after its star. */
export function checksum(body: string): string {
  let x = 0
  for (let i = 0; i < body.length; i++) x ^= body.charCodeAt(i) & 0xff
  return x.toString(16).toUpperCase().padStart(2, '0')
}
const seal = (body: string) => `${body}*${checksum(body)}`

/** Writes a line of the protocol, without its line end. @example writeInstrumentLine({ type: 'end' }) // '.*2E' */
export function writeInstrumentLine(line: InstrumentLine): string {
  switch (line.type) {
    case 'instrument': {
      const s = line.status
      return seal(`I;${s.id};${s.kind};${s.name};${s.serial};${s.calibratedUntil};${s.battery.toFixed(0)};${s.connected ? 'on' : 'off'}`)
    }
    case 'reading': {
      const values = Object.entries(line.reading.values).map(([k, v]) => `${k}=${+v.toFixed(4)}`)
      return seal(`R;${line.reading.id};${line.reading.seq};${line.reading.at};${values.join(',')}`)
    }
    case 'error':
      return seal(`E;${line.id};${line.message.replace(/[;*\r\n]/g, ' ')}`)
    case 'end':
      return seal('.')
  }
}

/**
 * Reads one line of an instrument. A line whose checksum does not agree, or that is no line of the protocol, is refused: a
 * number that was changed on its way must never become a reading.
 *
 * @example readInstrumentLine('.*2E') // { ok: true, value: { type: 'end' } }
 */
export function readInstrumentLine(line: string): Result<InstrumentLine> {
  const bad = (message: string) => fail('line', message)
  const star = line.lastIndexOf('*')
  if (star < 0 || line.length > 500) return bad('is not a line of an instrument')
  const body = line.slice(0, star)
  if (checksum(body) !== line.slice(star + 1).trim()) return bad('was changed on its way (its checksum does not agree)')
  const [type, ...f] = body.split(';')
  if (type === '.') return ok({ type: 'end' })
  if (type === 'E') return ok({ type: 'error', id: f[0] ?? '', message: f[1] ?? '' })
  if (type === 'I') {
    const [id = '', kind, name = '', serial = '', calibratedUntil = '', battery, on] = f
    const known = INSTRUMENT_KINDS.find((k) => k === kind)
    const level = Number(battery)
    if (!known || !id || !serial || !/^\d{4}-\d\d-\d\d$/.test(calibratedUntil) || !Number.isFinite(level)) return bad('is not an introduction')
    return ok({ type: 'instrument', status: { id, kind: known, name, serial, calibratedUntil, battery: level, connected: on === 'on' } })
  }
  if (type === 'R') {
    const [id = '', seq, at = '', list = ''] = f
    const values: Record<string, number> = {}
    for (const pair of list.split(',')) {
      const [key, value] = pair.split('=')
      const number = Number(value)
      if (!key || value === undefined || value.trim() === '' || !Number.isFinite(number)) return bad(`has no number in "${pair}"`)
      values[key] = number
    }
    const n = Number(seq)
    if (!id || !Number.isInteger(n) || Number.isNaN(Date.parse(at))) return bad('is not a reading')
    return ok({ type: 'reading', reading: { id, seq: n, at, values } })
  }
  return bad(`of kind "${type}" is not known`)
}
