import { gabion } from './gabion'
import { hollowCore } from './hollow-core'
import type { WallSystem } from './system'

/** Every system the application knows; a new one is its folder and its line here. */
export const SYSTEMS: readonly WallSystem[] = [hollowCore, gabion]

/** @example systemOf('hollow-core')?.name */
export const systemOf = (id: string): WallSystem | undefined => SYSTEMS.find((s) => s.id === id)
export * from './pipe-order'
export * from './schools'
export * from './staged'
export * from './system'
