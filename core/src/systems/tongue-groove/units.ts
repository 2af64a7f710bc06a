import type { Unit } from '../unit'

/** Made-up units. */
export const units: readonly Unit[] = [
  {
    id: 'tongue-200',
    name: 'Tongue-and-groove block 200',
    profile: 'tongue-groove',
    height: 0.2,
    length: 0.4,
    depth: 0.26,
    setback: 0.025,
    coreVolume: 0.004,
    mass: 31,
    capHeight: 0.09,
    minRadius: 2.4,
    cornerLength: 0.4,
    half: true,
    capLength: 0.6,
    capTaper: 5,
    perPallet: 60,
  },
]
