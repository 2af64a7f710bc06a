/** A piece of a course stretch, m. */
export interface BondPiece {
  readonly length: number
  readonly kind: 'full' | 'half' | 'cut'
}

/** What a stretch of a course asks of its bond; positions in m from the start of the stretch. */
export interface StretchToBond {
  readonly length: number
  readonly full: number
  readonly half: boolean
  readonly minPiece: number
  readonly minOverlap: number
  /** Joints of the course below, ascending. */
  readonly below: ArrayLike<number>
  readonly cutStart: boolean
  readonly cutEnd: boolean
}
