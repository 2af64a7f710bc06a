/** An outlet of the toe drain: station and invert elevation, m. */
export interface Outlet {
  readonly station: number
  readonly invert: number
}

/**
 * Invert of the toe drain: it rises from each outlet at `fall` and peaks where two lines meet.
 * `invert(s) = min over outlets (invert_o + fall·|s − s_o|)`.
 *
 * @param fall - m per m
 * @returns m
 * @example drainInvert([{ station: 0, invert: 9 }], 0.01, 10) // 9.1
 */
export const drainInvert = (outlets: readonly Outlet[], fall: number, station: number) =>
  Math.min(...outlets.map((o) => o.invert + fall * Math.abs(station - o.station)))
