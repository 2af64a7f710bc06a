import { fail, ok, type Result } from '../base/result'
import { said } from '../base/said'
import { type InferType, list, quantity, record } from '../base/schema'

const elevation = () => quantity({ min: -500, max: 9000, unit: 'm' })
const stationField = () => quantity({ min: 0, max: 100_000, unit: 'm' })

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

/** Where the lines of two neighbouring outlets meet, m from the first; without fall water goes to the nearer of two equal ones. */
const meets = (a: Outlet, b: Outlet, fall: number) => {
  const span = b.station - a.station
  return fall > 0 ? Math.min(span, Math.max(0, span / 2 + (b.invert - a.invert) / (2 * fall))) : span / 2
}
/** Outlets that water reaches at all, along the wall: those on the lower envelope of all lines. */
const reached = (outlets: readonly Outlet[], fall: number) =>
  [...outlets].sort((a, b) => a.station - b.station || a.invert - b.invert).filter((o) => drainInvert(outlets, fall, o.station) >= o.invert - 1e-12)

/**
 * Outlets that no water reaches: they lie above the line of another one.
 *
 * @example stoodOn({ fall: 0.01, outlets: [{ station: 0, invert: 9 }, { station: 10, invert: 9.5 }] })[0]?.station // 10
 */
export const stoodOn = ({ outlets, fall }: { readonly outlets: readonly Outlet[]; readonly fall: number }): Outlet[] => {
  const good = new Set(reached(outlets, fall))
  return outlets.filter((o) => !good.has(o))
}

/**
 * The longest way of water to an outlet, and the longer one of those from an end of the wall, m.
 *
 * @example longestWay({ length: 60, fall: 0.01, outlets: [{ station: 0, invert: 9 }] }) // { most: 60, end: { at: 60, way: 60 } }
 */
export function longestWay(of: { readonly length: number; readonly fall: number; readonly outlets: readonly Outlet[] }): {
  readonly most: number
  readonly end: { readonly at: number; readonly way: number }
} {
  const active = reached(of.outlets, of.fall)
  const [first, last] = [active[0], active[active.length - 1]]
  if (!first || !last) return { most: of.length, end: { at: 0, way: of.length } }
  const end = first.station > of.length - last.station ? { at: 0, way: first.station } : { at: of.length, way: of.length - last.station }
  let most = end.way
  for (let i = 1; i < active.length; i++) {
    const [a, b] = [active[i - 1] as Outlet, active[i] as Outlet]
    const meet = meets(a, b, of.fall)
    most = Math.max(most, meet, b.station - a.station - meet)
  }
  return { most, end }
}

/** Length and stations m, fall m per m; the ceiling is what the invert may not rise above. */
export const drainInput = record({
  length: quantity({ min: 0.01, max: 100_000, unit: 'm' }),
  fall: quantity({ min: 0, max: 1, unit: 'm per m' }),
  maxOutletSpacing: quantity({ min: 0.01, max: 100_000, unit: 'm' }),
  outlets: list(record({ station: stationField(), invert: elevation() }), 1, 1000),
  ceiling: list(record({ station: stationField(), elevation: elevation() }), 0, 100_000),
})
export type DrainInput = InferType<typeof drainInput>

export interface DrainProfile {
  readonly inverts: readonly { readonly station: number; readonly invert: number }[]
  /** The longest way water travels to an outlet, m. */
  readonly longestRun: number
  /** Where the invert stands above its ceiling, and by how much, m. */
  readonly violations: readonly { readonly station: number; readonly by: number }[]
  /** No two neighbouring outlets are further apart than allowed, and no water travels further to one. */
  readonly spacingOk: boolean
}

/**
 * The toe drain between its outlets: inverts at the stations of the ceiling, the longest way to an outlet, and where the pipe would
 * stand too high. An outlet that lies above the line of another one drains nothing: water passes below it.
 *
 * @param ends - does an end of the pipe count for the spacing? Rule tables 1 and 2 looked at neighbours alone
 * @returns profile, or the first field that cannot be
 * @example drain({ length: 20, fall: 0.01, maxOutletSpacing: 15, outlets: [{ station: 0, invert: 9 }, { station: 20, invert: 9 }], ceiling: [{ station: 10, elevation: 9.2 }] })
 * // inverts [{ station: 10, invert: 9.1 }], longestRun 10, violations [], spacingOk false
 */
export function drain(input: DrainInput, ends = true): Result<DrainProfile> {
  const { length, fall, outlets } = input
  for (const [i, o] of outlets.entries())
    if (o.station > length) return fail(`outlets[${i}].station`, `${said.given(o.station)} is beyond the wall, which ends at ${said.given(length)}`)
  for (const [i, c] of input.ceiling.entries())
    if (c.station > length) return fail(`ceiling[${i}].station`, `${said.given(c.station)} is beyond the wall, which ends at ${said.given(length)}`)
  const sorted = [...outlets].sort((a, b) => a.station - b.station || a.invert - b.invert)
  for (let i = 1; i < sorted.length; i++) {
    if ((sorted[i] as Outlet).station === (sorted[i - 1] as Outlet).station) {
      return fail(
        `outlets[${Math.max(outlets.indexOf(sorted[i] as Outlet), outlets.indexOf(sorted[i - 1] as Outlet))}].station`,
        `there are two outlets at ${said.given(sorted[i]?.station ?? 0)}`,
      )
    }
  }
  const longestRun = longestWay({ length, fall, outlets }).most
  const inverts = input.ceiling.map((c) => ({ station: c.station, invert: drainInvert(outlets, fall, c.station) }))
  return ok({
    inverts,
    longestRun,
    violations: input.ceiling.flatMap((c, i) => {
      const by = (inverts[i]?.invert ?? 0) - c.elevation
      return by > 1e-9 ? [{ station: c.station, by }] : []
    }),
    // An end of the pipe counts as well: what it sends to its outlet travels as far.
    spacingOk:
      (!ends || longestRun <= input.maxOutletSpacing + 1e-9) &&
      sorted.every((o, i) => i === 0 || o.station - (sorted[i - 1] as Outlet).station <= input.maxOutletSpacing + 1e-9),
  })
}
