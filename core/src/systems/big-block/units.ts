import type { Unit } from '../unit'

/** Made-up units; the second is made in inches. */
export const units: readonly Unit[] = [
  {
    id: 'big-600',
    name: 'Big block 1200 × 600',
    profile: 'big-block',
    height: 0.6,
    length: 1.2,
    depth: 0.6,
    setback: 0.04,
    coreVolume: 0,
    mass: 1010,
    capHeight: 0,
    minRadius: 6,
    half: true,
    minPiece: 0.6,
    cornerLength: 1.2,
    perPallet: 1,
  },
  {
    id: 'big-24',
    name: 'Big block 48 × 24 × 36 in',
    profile: 'big-block',
    height: 0.6096,
    length: 1.2192,
    depth: 0.9144,
    setback: 0.0508,
    coreVolume: 0,
    mass: 1580,
    capHeight: 0,
    minRadius: 7,
    half: true,
    minPiece: 0.6096,
    cornerLength: 1.2192,
    perPallet: 1,
  },
]
