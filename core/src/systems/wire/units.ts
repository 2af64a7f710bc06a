import type { Unit } from '../unit'

/** Made-up mats: the length of a unit is a mat with the gap beside it; its depth is the zone of stone or soil behind the face. */
export const units: readonly Unit[] = [
  {
    id: 'mat-500',
    name: 'Wire mat 500 high',
    profile: 'wire-mat',
    height: 0.5,
    length: 2.6,
    depth: 0.3,
    setback: 0.04,
    coreVolume: 0,
    mass: 28,
    capHeight: 0,
    minRadius: 8,
    half: false,
    minPiece: 0.6,
    perPallet: 40,
  },
  {
    id: 'mat-18in',
    name: 'Wire mat 18 in high',
    profile: 'wire-mat',
    height: 0.4572,
    length: 2.6416,
    depth: 0.3048,
    setback: 0.0508,
    coreVolume: 0,
    mass: 27,
    capHeight: 0,
    minRadius: 8,
    half: false,
    minPiece: 0.6096,
    perPallet: 40,
  },
]
