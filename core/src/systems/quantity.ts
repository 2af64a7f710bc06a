/** One line of the quantities, with its working in words. */
export interface Quantity {
  readonly id: string
  readonly name: string
  readonly value: number
  readonly unit: 'm' | 'm²' | 'm³' | 'kg' | 'pieces'
  readonly working: string
  /** As what it is bought; false where it is a part, a mass or a sum of what is. Left out: it is bought as it stands. */
  readonly bought?: false | Bought
}

/** A quantity as it is ordered. */
export interface Bought {
  /** Under what it is kept account of; the quantity's own where left out. */
  readonly id?: string
  readonly name?: string
  /** Built in, where the quantity is what is ordered. */
  readonly planned?: number
  /** With what is ordered above what is built; in the unit of the quantity, or of `loose`. */
  readonly order?: number
  /** So much loose makes one compacted, where it is ordered and comes loose. */
  readonly loose?: number
  /** What of the record says that it was placed; otherwise it is taken to go as the wall grows. */
  readonly placed?: 'pieces' | 'caps' | 'pad' | 'stone' | 'backfill' | 'layers' | 'pipe'
  /** Seen in the face: lots are not mixed there. */
  readonly seen?: true
}
