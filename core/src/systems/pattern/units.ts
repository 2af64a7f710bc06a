import type { Unit } from '../unit'

/** Made-up units. */
export const units: readonly Unit[] = [
  {
    id: 'pattern-300',
    name: 'Pattern stone, two rows',
    profile: 'pattern',
    height: 0.3,
    length: 0.4,
    depth: 0.28,
    setback: 0.03,
    coreVolume: 0,
    mass: 62,
    capHeight: 0.08,
    minRadius: 3,
    half: true,
    minPiece: 0.1,
    capLength: 0.4,
    capTaper: 6,
    perPallet: 40,
    pattern: {
      length: 1.2,
      pieces: [
        { shape: 'large', x: 0, y: 0, length: 0.4, height: 0.3 },
        { shape: 'long', x: 0.4, y: 0, length: 0.5, height: 0.15 },
        { shape: 'short', x: 0.4, y: 0.15, length: 0.2, height: 0.15 },
        { shape: 'middle', x: 0.6, y: 0.15, length: 0.3, height: 0.15 },
        { shape: 'tall', x: 0.9, y: 0, length: 0.3, height: 0.3 },
      ],
    },
  },
]
