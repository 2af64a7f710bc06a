import { gabion } from './gabion'
import { glued } from './glued'
import { hollowCore } from './hollow-core'
import { landscape } from './landscape'
import { pattern } from './pattern'
import { rearLip } from './rear-lip'
import type { WallSystem } from './system'
import { tongueGroove } from './tongue-groove'

/** Every system the application knows; a new one is its folder and its line here. */
export const SYSTEMS: readonly WallSystem[] = [hollowCore, rearLip, tongueGroove, pattern, landscape, glued, gabion]

/** @example systemOf('hollow-core')?.name */
export const systemOf = (id: string): WallSystem | undefined => SYSTEMS.find((s) => s.id === id)
export * from './pipe-order'
export * from './schools'
export * from './staged'
export * from './system'
