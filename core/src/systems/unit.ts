import { type InferType, list, optionalChoice, optionalQuantity, optionalRecord, optionalYesNo, quantity, record, text } from '../base/schema'

const metres = (min: number, max: number) => quantity({ min, max, unit: 'm' })

/** How the unit holds its place; the catalogue is sorted by it. */
export const UNIT_PROFILES = ['lug', 'rear-lip', 'tongue-groove', 'pattern', 'landscape', 'basket', 'big-block', 'wire-mat', 'masonry'] as const

/** One shape of a pattern's tile: where it lies in the tile, from its lower left corner, and how large it is (m). */
export const patternPieceSchema = record({
  shape: text(40),
  x: metres(0, 20),
  y: metres(0, 3),
  length: metres(0.05, 5),
  height: metres(0.03, 2),
})

/** A unit of the catalogue as it is used in this plan, so that a plan file stands on its own. Lengths m, mass kg, volume m³. */
export const unitSchema = record({
  id: text(40),
  name: text(80),
  height: metres(0.04, 1.5),
  length: metres(0.1, 3),
  depth: metres(0.08, 2),
  setback: metres(0, 0.3),
  coreVolume: quantity({ min: 0, max: 1, unit: 'm³' }),
  mass: quantity({ min: 1, max: 5000, unit: 'kg' }),
  capHeight: metres(0, 0.5),
  profile: optionalChoice(UNIT_PROFILES),
  /** Smallest radius of any course's face, m; a curve without it is refused. */
  minRadius: optionalQuantity({ min: 0, max: 100, unit: 'm' }),
  /** Half units are made; taken as yes when left out. */
  half: optionalYesNo(),
  /** Shortest piece that may be cut, m; a quarter unit when left out. */
  minPiece: optionalQuantity({ min: 0.02, max: 3, unit: 'm' }),
  /** Face length of a corner unit, m; without one corners are mitred. */
  cornerLength: optionalQuantity({ min: 0.05, max: 3, unit: 'm' }),
  /** Length of a cap, m; that of the unit when left out. */
  capLength: optionalQuantity({ min: 0.05, max: 3, unit: 'm' }),
  /** Tapered caps are used on curves tighter than this, m. */
  capTaper: optionalQuantity({ min: 0, max: 500, unit: 'm' }),
  perPallet: optionalQuantity({ min: 1, max: 5000, whole: true }),
  /** Share of a basket that stays air between its stones. */
  porosity: optionalQuantity({ min: 0, max: 0.6 }),
  /** A tile of several shapes, two or three rows high, that repeats along the course. */
  pattern: optionalRecord({ length: metres(0.1, 20), pieces: list(patternPieceSchema, 1, 60) }),
})
export type Unit = InferType<typeof unitSchema>
