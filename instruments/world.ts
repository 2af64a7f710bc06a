import type { InstrumentKind, InstrumentReading, InstrumentStatus } from '@stone-tally/core'

/** What an instrument would meet if it stood on the site: values by name, as its readings have them. */
export type Scene = Readonly<Record<string, number>>
export type Fault = 'none' | 'off' | 'drop' | 'garbage' | 'twice'

/** Repeatable noise: xorshift, so that a seed gives the same day again. */
export function noise(seed: number) {
  let s = (seed | 0) === 0 ? 1 : seed | 0
  const next = () => {
    s ^= s << 13
    s ^= s >>> 17
    s ^= s << 5
    return (s >>> 0) / 4294967296
  }
  return {
    next,
    /** About normal, mean 0, deviation 1: twelve uniform draws. */
    normal: () => {
      let sum = 0
      for (let i = 0; i < 12; i++) sum += next()
      return sum - 6
    },
  }
}

interface Model {
  readonly kind: InstrumentKind
  readonly name: string
  readonly serial: string
  readonly calibratedUntil: string
  /** Per cent of battery a reading takes. */
  readonly drain: number
  /** What it meets where nobody said otherwise, and its standard deviation. */
  readonly values: Readonly<Record<string, readonly [number, number]>>
  /** Value that drifts, per reading. */
  readonly drift?: readonly [string, number]
}

/** The instruments that ship with the product. Their days of calibration are counted from the day they are started. */
function models(today: Date): Readonly<Record<string, Model>> {
  const day = (plus: number) => new Date(today.getTime() + plus * 86_400_000).toISOString().slice(0, 10)
  return {
    'laser-1': {
      kind: 'level',
      name: 'Laser',
      serial: 'LZ-20417',
      calibratedUntil: day(120),
      drain: 0.0005,
      values: { rod: [1.5, 0.0008] },
      drift: ['rod', 0.000_002],
    },
    'laser-2': {
      kind: 'level',
      name: 'Old laser',
      serial: 'LZ-11806',
      calibratedUntil: day(-20),
      drain: 0.002,
      values: { rod: [1.5, 0.002] },
      drift: ['rod', 0.000_02],
    },
    'gauge-1': {
      kind: 'density-gauge',
      name: 'Gauge',
      serial: 'DG-3352',
      calibratedUntil: day(200),
      drain: 0.005,
      values: { wet: [2150, 8], moisture: [9, 0.2], dstd: [2302, 3], dref: [2300, 0], mstd: [681, 1.5], mref: [680, 0] },
    },
    'probe-1': { kind: 'moisture-probe', name: 'Probe', serial: 'MP-118', calibratedUntil: day(60), drain: 0.002, values: { moisture: [9, 0.3] } },
    'mast-1': {
      kind: 'weather-station',
      name: 'Mast',
      serial: 'WS-07',
      calibratedUntil: day(300),
      drain: 0.001,
      values: { rain: [2, 0.1], low: [6, 0.2], wind: [14, 3] },
    },
    'forecast-1': {
      kind: 'forecast',
      name: 'Forecast',
      serial: 'FC-01',
      calibratedUntil: day(3000),
      drain: 0,
      values: forecastValues(),
    },
  }
}

/** The days to come, told one by one and less surely the further they are: a wet third day, a hot fifth. */
const COMING = [
  { rain: 1, low: 7, high: 15, wind: 18 },
  { rain: 0, low: 8, high: 18, wind: 12 },
  { rain: 16, low: 6, high: 12, wind: 38 },
  { rain: 3, low: 5, high: 14, wind: 22 },
  { rain: 0, low: 14, high: 33, wind: 8 },
  { rain: 0, low: 13, high: 29, wind: 10 },
] as const
const forecastValues = (): Model['values'] =>
  Object.fromEntries(
    COMING.flatMap((w, i) =>
      Object.entries(w).map(([name, value]) => [`${name}${i}`, [value, name === 'rain' ? value * 0.05 * i : 0.3 * i] as [number, number]]),
    ),
  )

/** One instrument that stands in for a real one. */
export class StandIn {
  private seq = 0
  private battery: number
  private last: InstrumentReading | undefined
  private readonly random: ReturnType<typeof noise>
  scene: Scene = {}
  fault: Fault = 'none'
  constructor(
    readonly id: string,
    private readonly model: Model,
    seed: number,
  ) {
    this.random = noise(seed)
    this.battery = 60 + this.random.next() * 38
  }
  status(): InstrumentStatus {
    const { kind, name, serial, calibratedUntil } = this.model
    return { id: this.id, kind, name, serial, calibratedUntil, battery: this.battery, connected: this.fault !== 'off' && this.battery > 1 }
  }
  /** The next reading with its noise and drift. */
  read(now: Date): InstrumentReading {
    this.seq++
    this.battery = Math.max(0, this.battery - this.model.drain)
    const values: Record<string, number> = {}
    for (const [key, [usual, deviation]] of Object.entries(this.model.values)) {
      const drift = this.model.drift?.[0] === key ? this.model.drift[1] * this.seq : 0
      values[key] = (this.scene[key] ?? usual) + this.random.normal() * deviation + drift
    }
    // Neither rain nor wind is ever less than none, today or on a day to come.
    for (const key of Object.keys(values)) if (/^(rain|wind)\d*$/.test(key)) values[key] = Math.max(0, values[key] ?? 0)
    this.last = { id: this.id, seq: this.seq, at: now.toISOString(), values }
    return this.last
  }
  /** Now and then a receiver does not catch the beam. */
  misses = () => this.random.next() < 0.003
}

export function standIns(seed: number, today: Date): Map<string, StandIn> {
  return new Map(Object.entries(models(today)).map(([id, m], i) => [id, new StandIn(id, m, seed * 7919 + (i + 1) * 104_729)]))
}
