import type { yup } from '../base/schema'
import type { Quantity } from './quantity'
import type { Stage } from './stage'

/** What a wall stands on, whatever it is made of; m. */
export interface Foundation {
  /** Which kind of foundation, by its id, and its name. */
  readonly kind: string
  readonly name: string
  readonly thickness: number
  readonly width: number
  /** Shortest level stretch between two steps. */
  readonly minRun: number
  /** Placed and compacted in lifts of this thickness at most, so many times as thick loose; left out where it is cast. `over`: how much of it is. */
  readonly lifts?: { readonly max: number; readonly loose: number; readonly over?: number }
  /** Water runs through it. */
  readonly drains: boolean
  /** It sets hard: placed in one go, never compacted by passes, never tested for density. */
  readonly cast: boolean
  /** Sizes of its own that stages and drawings ask for by name, m; counts as they are. */
  readonly sizes: Readonly<Record<string, number>>
  /** What it takes over a run along the wall (m), and what is ordered with so many per cent above. */
  takes(run: number, above: number): readonly Quantity[]
}

/** Fields every kind of foundation has; m. */
export interface FoundationData {
  readonly kind: string
  readonly thickness: number
  readonly width: number
  readonly minRun: number
}

/**
 * A kind of foundation: its own data, what it is to the rest of the house, and what of the ground's stages it does otherwise. A new kind
 * is a file beside the others and a line in their index.
 */
export interface FoundationKind<D extends FoundationData = FoundationData> {
  readonly id: string
  readonly name: string
  readonly schema: yup.ISchema<D>
  readonly traits: Pick<Foundation, 'drains' | 'cast'>
  /** Lifts it is placed in; left out where it has none. */
  lifts?(data: D): Foundation['lifts']
  /** Stages from the ground to the first course: those of an aggregate pad where it says nothing. */
  stages?(ground: readonly Stage[]): readonly Stage[]
  /** Why a wall on it is an engineer's whatever its height. */
  readonly engineered?: string
  /** How much of its thickness is placed in lifts, m; the whole where left out. */
  coarse?(data: D): number
  /** Nothing is placed: the wall stands on the ground as it is. */
  readonly nothing?: true
  /** Sizes of its own that stages ask for by name, m. */
  sizes?(data: D): Readonly<Record<string, number>>
  /** What it takes besides its own volume. */
  takes?(data: D, run: number): readonly Quantity[]
}

export const defineFoundation = <D extends FoundationData>(kind: FoundationKind<D>): FoundationKind => kind as unknown as FoundationKind
