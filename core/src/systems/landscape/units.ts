import type { Unit } from '../unit'

/** Made-up units. */
export const units: readonly Unit[] = [
  {
    id: 'garden-100',
    name: 'Landscape stone 100',
    profile: 'landscape',
    height: 0.1,
    length: 0.3,
    depth: 0.2,
    setback: 0.012,
    coreVolume: 0,
    mass: 12,
    capHeight: 0.05,
    minRadius: 0.6,
    half: true,
    capLength: 0.3,
    capTaper: 4,
    perPallet: 144,
  },
  {
    id: 'garden-4in',
    name: 'Landscape stone 4 in',
    profile: 'landscape',
    height: 0.1016,
    length: 0.3048,
    depth: 0.2032,
    setback: 0.0127,
    coreVolume: 0,
    mass: 12.5,
    capHeight: 0.0508,
    minRadius: 0.6096,
    half: true,
    capLength: 0.3048,
    capTaper: 4,
    perPallet: 144,
  },
]
