import type { Plan } from '../plan'
import { bigBlock } from './big-block'
import type { Building } from './building'
import { gabion } from './gabion'
import { glued } from './glued'
import { hollowCore } from './hollow-core'
import { landscape } from './landscape'
import { masonry } from './masonry'
import { pattern } from './pattern'
import { rearLip } from './rear-lip'
import type { WallSystem } from './system'
import { tongueGroove } from './tongue-groove'
import { wire } from './wire'

/** Every system the application knows; a new one is its folder and its line here. */
export const SYSTEMS: readonly WallSystem[] = [hollowCore, rearLip, tongueGroove, pattern, landscape, glued, gabion, bigBlock, wire, masonry]

/** @example systemOf('hollow-core')?.name */
export const systemOf = (id: string): WallSystem | undefined => SYSTEMS.find((s) => s.id === id)

const built = new WeakMap<object, Building>()
/**
 * A wall in the terms every wall has. The same object for the same plan.
 *
 * @param plan - a plan of a system that is known
 * @example buildingOf(plan).foundation.thickness // 0.15
 */
export function buildingOf(plan: Plan): Building {
  let building = built.get(plan)
  if (!building) {
    const system = systemOf(plan.system.id)
    if (!system) throw new RangeError(`no system ${plan.system.id}`)
    building = system.building(plan, plan.system.data)
    built.set(plan, building)
  }
  return building
}
