import type { Unit } from '../unit'

/** Made-up units. */
export const units: readonly Unit[] = [
  {
    id: 'flat-75',
    name: 'Flat stone 75',
    profile: 'landscape',
    height: 0.075,
    length: 0.3,
    depth: 0.2,
    setback: 0.012,
    coreVolume: 0,
    mass: 9.5,
    capHeight: 0.05,
    minRadius: 0.9,
    half: true,
    minPiece: 0.1,
    capLength: 0.3,
    capTaper: 4,
    perPallet: 168,
  },
]
