export * from './bond'
export * from './cutting'
export type { BondPiece, StretchToBond } from './stretch'
export { searchBond } from './sweep'
