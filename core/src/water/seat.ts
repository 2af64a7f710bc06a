import { said } from '../base/said'
/** Where a toe drain sits. */
export type DrainSchool = 'in-pad' | 'on-bed' | 'raised'

export const DRAIN_SCHOOLS: Readonly<Record<DrainSchool, { readonly name: string; readonly why: string }>> = {
  'in-pad': {
    name: 'Low, in the pad',
    why: 'Inside an open-graded pad: water is taken off before it stands under the wall. Needs an outlet below the pad.',
  },
  'on-bed': {
    name: 'On a stone bed, behind or on the pad',
    why: 'On a dense-graded pad water cannot sink in, so the pipe lies on clean stone behind it or on top of it. The usual one.',
  },
  raised: {
    name: 'Raised to its outlet',
    why: 'Where nothing lower than the outlet drains. What stands below the pipe stays there: dense pad, tight soil below, no open stone under the invert.',
  },
}

/** Elevations at the lowest place, m. */
export interface SeatFacts {
  readonly open: boolean
  readonly padBottom: number
  readonly padTop: number
  readonly outlet: number
  readonly bed: number
}

/**
 * Where the pipe can sit, from the pad and from where water can leave.
 *
 * @returns the school that fits, its lowest invert (m) and why
 * @example drainSeat({ open: false, padBottom: 9.2, padTop: 9.4, outlet: 9.3, bed: 0.05 }).school // 'on-bed'
 */
export function drainSeat(f: SeatFacts): { school: DrainSchool; invert: number; why: string } {
  const on = f.padTop + f.bed
  if (f.open && f.outlet <= f.padBottom + f.bed + 1e-9) {
    return { school: 'in-pad', invert: f.padBottom + f.bed, why: 'The pad is open graded and water can leave below it.' }
  }
  if (f.outlet <= on + 1e-9) {
    const why = f.open ? 'The outlet is not low enough to empty the open pad itself.' : 'The pad is dense, and water can leave at its top.'
    return { school: 'on-bed', invert: on, why }
  }
  return { school: 'raised', invert: f.outlet, why: `The lowest outlet lies ${said.small(f.outlet - on)} above a bed on the pad.` }
}
