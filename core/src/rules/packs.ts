/** How materials are commonly sold: what a pack holds in the unit of the material, and what it needs to come in. A supplier's own word goes before. */
export interface PackDef {
  readonly name: string
  /** Metres, square metres, cubic metres or kilograms. */
  readonly of: 'm' | 'm²' | 'm³' | 'kg'
  readonly holds: number
  /** What it is a pack of: words of a material's name or its id. */
  readonly fits: readonly string[]
  /** Width of way it needs, m. */
  readonly access?: number
  /** What comes at once, kg. */
  readonly load?: number
}

const LOOSE = ['pad', 'stone', 'backfill', 'rock']
const POURED = ['grout', 'mortar']
export const PACKS: readonly PackDef[] = [
  { name: 'cartridge of 310 ml', of: 'm³', holds: 0.00031, fits: ['adhesive'] },
  { name: 'sausage of 600 ml', of: 'm³', holds: 0.0006, fits: ['adhesive'] },
  { name: 'bag of 25 kg', of: 'm³', holds: 0.015, fits: LOOSE },
  { name: 'big bag', of: 'm³', holds: 0.6, fits: LOOSE, access: 2.2 },
  { name: 'lorry of 4 m³', of: 'm³', holds: 4, fits: LOOSE, access: 2.6, load: 7000 },
  { name: 'lorry of 10 m³', of: 'm³', holds: 10, fits: LOOSE, access: 3.2, load: 18_000 },
  { name: 'bag of dry mix', of: 'm³', holds: 0.012, fits: POURED },
  { name: 'mixer of 6 m³', of: 'm³', holds: 6, fits: ['pad', 'grout'], access: 3.2, load: 15_000 },
  { name: 'roll of 2 × 50 m', of: 'm²', holds: 100, fits: ['fabric', 'membrane', 'mesh'] },
  { name: 'roll of 4.5 × 100 m', of: 'm²', holds: 450, fits: ['fabric'] },
  { name: 'length of 6 m', of: 'm', holds: 6, fits: ['pipe', 'bars', 'vertical'] },
  { name: 'length of 12 m', of: 'm', holds: 12, fits: ['bars', 'vertical'] },
  { name: 'coil of 25 m', of: 'm', holds: 25, fits: ['pipe'] },
  { name: 'coil of 50 m', of: 'm', holds: 50, fits: ['pipe'] },
]

/** What a cubic metre weighs as it comes, kg, where nobody weighed it: loose and damp, on the heavy side. */
export const HEAVY = { pad: 1800, stone: 1600, backfill: 1700, rock: 1700, concrete: 2400 } as const
/** What a pallet may weigh with its units, kg. */
export const PALLET_MASS = 1300
