import { type Plan, toeAt } from '../plan'
import { embedment } from '../rules'
import type { BlockData } from './blocks'

/** Inverts are said to the centimetre, downwards, m. */
const CM = 0.01

/**
 * Outlets of a wall for which nobody has said where water can leave: one at the start of a short wall, else at both ends and between them no
 * further apart than its drain allows; each so low that the pipe that rises from it lies below the ground in front all its way. Whether water
 * can leave there is the site's.
 *
 * @returns stations and inverts, m
 * @example standingOutlets(plan, { diameter: 0.1, fall: 0.01, maxOutletSpacing: 15 }) // 12 m, ground at 0: [{ station: 0, invert: -0.22 }]
 */
export function standingOutlets(
  plan: Plan,
  { diameter, fall, maxOutletSpacing }: { readonly diameter: number; readonly fall: number; readonly maxOutletSpacing: number },
): { station: number; invert: number }[] {
  const { length } = plan
  if (!(length > 0) || !(maxOutletSpacing > 0)) return []
  const spaces = length <= maxOutletSpacing ? 0 : Math.ceil(length / maxOutletSpacing - 1e-9)
  const stations =
    spaces === 0 ? [0] : Array.from({ length: spaces + 1 }, (_, i) => (i === spaces ? length : Math.round(((i * length) / spaces) * 100) / 100))
  return stations.map((station, i) => {
    const before = stations[i - 1]
    const after = stations[i + 1]
    const reach = [before === undefined ? 0 : (before + station) / 2, after === undefined ? length : (station + after) / 2] as const
    const along = [station, ...reach, ...plan.grades.map((g) => g.station).filter((s) => s > reach[0] && s < reach[1])]
    const low = Math.min(...along.map((s) => toeAt(plan, s) - diameter - fall * Math.abs(s - station)))
    return { station, invert: Math.floor(low / CM + 1e-6) * CM }
  })
}

/** The part of a wall of blocks with its outlets, where none was said. */
export const standBlocks = <D extends BlockData>(plan: Plan, data: D): D =>
  data.drain && data.drain.outlets.length === 0 ? { ...data, drain: { ...data.drain, outlets: standingOutlets(plan, data.drain) } } : data

/** Room behind the units that the layers of a wall of blocks want, m; each lies on its course. */
export const roomOfLayers = ({ layers, unit }: Pick<BlockData, 'layers' | 'unit'>, slope: number): number =>
  Math.max(0, ...layers.map((g) => g.length - unit.depth - slope * g.course * unit.height))

/** How high the courses stand from the pad to the top, m: what shows and what is buried, in whole courses. */
export function standingHeight(plan: Plan, { unit, embedment: rules }: Pick<BlockData, 'unit' | 'embedment'>): number {
  const shows = Math.max(...plan.grades.map((g) => g.top - g.toe))
  const buried = embedment({ exposedHeight: Math.max(0, shows), unitHeight: unit.height, rules: [...rules] })
  return Math.ceil((shows + (buried.ok ? buried.value.depth : 0)) / unit.height - 1e-6) * unit.height
}
