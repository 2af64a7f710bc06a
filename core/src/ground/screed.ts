/** A level on the pad: station along the wall, offset into the fill, deviation from design (+ high). m. */
export interface PadReading {
  readonly station: number
  readonly offset: number
  readonly deviation: number
}

/** The plane that lies closest to the readings: `deviation = mean + along·(s − s̄) + across·(o − ō)`. m, and m per m. */
export interface PadFit {
  readonly mean: number
  readonly along: number
  readonly across: number
  readonly station: number
  readonly offset: number
}

/**
 * Least-squares plane of the readings: says whether the pad tilts as a whole or is only uneven.
 *
 * @returns zero slopes where the readings do not span a direction
 */
export function fitPad(readings: readonly PadReading[]): PadFit {
  const n = Math.max(1, readings.length)
  let [ms, mo, md] = [0, 0, 0]
  for (const r of readings) {
    ms += r.station
    mo += r.offset
    md += r.deviation
  }
  ms /= n
  mo /= n
  md /= n
  let [ss, oo, so, sd, od] = [0, 0, 0, 0, 0]
  for (const r of readings) {
    const [s, o, d] = [r.station - ms, r.offset - mo, r.deviation - md]
    ss += s * s
    oo += o * o
    so += s * o
    sd += s * d
    od += o * d
  }
  const det = ss * oo - so * so
  if (det > 1e-9 * Math.max(ss * oo, 1e-12)) {
    return { mean: md, along: (sd * oo - od * so) / det, across: (od * ss - sd * so) / det, station: ms, offset: mo }
  }
  return { mean: md, along: ss > 1e-9 ? sd / ss : 0, across: ss <= 1e-9 && oo > 1e-9 ? od / oo : 0, station: ms, offset: mo }
}

/** What to do at one point: shave or add so many metres, to the nearest `step`; nothing within tolerance. */
export interface ScreedAction extends PadReading {
  readonly action: 'leave' | 'shave' | 'add'
  /** m, rounded; 0 when left. */
  readonly by: number
}

export interface ScreedPlan {
  readonly actions: readonly ScreedAction[]
  readonly fit: PadFit
  /** Points out of tolerance. */
  readonly out: number
  readonly accepted: boolean
  readonly highest: ScreedAction | undefined
  readonly lowest: ScreedAction | undefined
}

/**
 * Where to shave and where to add, and whether the pad is accepted. A point within tolerance is left alone: dressing what is
 * good only loosens it.
 *
 * @param tolerance - m either way
 * @param step - what a person can shave or add, m
 * @example screedPlan([{ station: 0, offset: 0, deviation: 0.012 }], 0.005, 0.002).actions[0] // { action: 'shave', by: 0.012, … }
 */
export function screedPlan(readings: readonly PadReading[], tolerance: number, step = 0.002): ScreedPlan {
  let out = 0
  let highest: ScreedAction | undefined
  let lowest: ScreedAction | undefined
  const actions = readings.map((r): ScreedAction => {
    const off = Math.abs(r.deviation) > tolerance + 1e-9
    if (off) out++
    const one: ScreedAction = {
      station: r.station,
      offset: r.offset,
      deviation: r.deviation,
      action: !off ? 'leave' : r.deviation > 0 ? 'shave' : 'add',
      by: off ? Math.max(step, Math.round(Math.abs(r.deviation) / step) * step) : 0,
    }
    if (!highest || r.deviation > highest.deviation) highest = one
    if (!lowest || r.deviation < lowest.deviation) lowest = one
    return one
  })
  return { actions, fit: fitPad(readings), out, accepted: readings.length > 0 && out === 0, highest, lowest }
}

/** Deviations on a regular raster, row by row from the front, for contours; NaN where nothing was read near. m. */
export interface PadRaster {
  readonly columns: number
  readonly rows: number
  readonly values: Float64Array
  /** Station of the first column and metres to the next; the same across. */
  readonly from: number
  readonly dx: number
  readonly front: number
  readonly dy: number
}

/**
 * Readings brought onto a raster. Along each line of equal offset readings are joined by straight lines, and between the
 * lines by straight lines again, as a straightedge would lie.
 *
 * @param columns, rows - size of the raster, at least 2
 */
export function padRaster(
  readings: readonly PadReading[],
  area: { from: number; to: number; front: number; back: number },
  columns: number,
  rows: number,
): PadRaster {
  const dx = (area.to - area.from) / (columns - 1)
  const dy = (area.back - area.front) / (rows - 1)
  // Readings of one line of the pad share their offset to the centimetre.
  const lines = new Map<number, PadReading[]>()
  for (const r of readings) {
    const key = Math.round(r.offset * 100)
    const list = lines.get(key)
    if (list) list.push(r)
    else lines.set(key, [r])
  }
  const sorted = [...lines.entries()].sort((a, b) => a[0] - b[0])
  const along = sorted.map(([, list]) => {
    list.sort((a, b) => a.station - b.station)
    const row = new Float64Array(columns)
    let k = 0
    for (let i = 0; i < columns; i++) {
      const s = area.from + i * dx
      while (k < list.length - 2 && (list[k + 1] as PadReading).station < s) k++
      const a = list[k] as PadReading
      const b = list[Math.min(k + 1, list.length - 1)] as PadReading
      const t = b.station > a.station ? Math.min(1, Math.max(0, (s - a.station) / (b.station - a.station))) : 0
      row[i] = a.deviation + (b.deviation - a.deviation) * t
    }
    return { offset: (list[0] as PadReading).offset, row }
  })
  const values = new Float64Array(columns * rows).fill(Number.NaN)
  if (along.length > 0) {
    let k = 0
    for (let j = 0; j < rows; j++) {
      const o = area.front + j * dy
      while (k < along.length - 2 && (along[k + 1] as { offset: number }).offset < o) k++
      const a = along[k] as { offset: number; row: Float64Array }
      const b = along[Math.min(k + 1, along.length - 1)] as { offset: number; row: Float64Array }
      const t = b.offset > a.offset ? Math.min(1, Math.max(0, (o - a.offset) / (b.offset - a.offset))) : 0
      for (let i = 0; i < columns; i++) values[j * columns + i] = (a.row[i] as number) * (1 - t) + (b.row[i] as number) * t
    }
  }
  return { columns, rows, values, from: area.from, dx, front: area.front, dy }
}
