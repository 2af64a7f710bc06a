import type { Unit } from '../unit'

/** Made-up units. */
export const units: readonly Unit[] = [
  {
    id: 'lip-150',
    name: 'Rear-lip block 150',
    profile: 'rear-lip',
    height: 0.15,
    length: 0.4,
    depth: 0.3,
    setback: 0.02,
    coreVolume: 0,
    mass: 33,
    capHeight: 0.075,
    minRadius: 1.2,
    half: true,
    capLength: 0.3,
    capTaper: 8,
    perPallet: 72,
  },
]
