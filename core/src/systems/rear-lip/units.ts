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
  {
    id: 'lip-6in',
    name: 'Rear-lip block 6 in',
    profile: 'rear-lip',
    height: 0.1524,
    length: 0.4064,
    depth: 0.3048,
    setback: 0.01905,
    coreVolume: 0,
    mass: 35,
    capHeight: 0.0762,
    minRadius: 1.2192,
    half: true,
    capLength: 0.3048,
    capTaper: 8,
    perPallet: 72,
  },
]
