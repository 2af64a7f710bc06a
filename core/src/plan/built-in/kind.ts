import type { yup } from '../../base/schema'

/** Where something that is built in lies: along the wall, between two elevations, so far behind the face of the first course; m. */
export interface Lies {
  readonly from: number
  readonly to: number
  readonly low: number
  readonly high: number
  readonly behind: number
  /** Thick, or wide, m. */
  readonly size: number
  /** It stands up, as a sleeve does. */
  readonly upright?: true
  /** It lies flat, so wide across the wall as its size. */
  readonly flat?: true
}

/** A field of it as a form asks for it: lengths m, small ones mm or in, words as they are. */
export interface BuiltInField {
  readonly id: string
  readonly label: string
  readonly of: 'length' | 'small' | 'text' | 'number' | 'choice'
  readonly options?: readonly (readonly [id: string, title: string])[]
  readonly optional?: true
}

/** What is looked at when it is done. */
export interface BuiltInWork {
  readonly title: string
  readonly how: string
  readonly items: readonly { readonly id: string; readonly text: string; readonly maybe?: true }[]
  readonly measures?: readonly { readonly id: string; readonly text: string; readonly least?: string | number; readonly most?: string | number }[]
  readonly caution?: string
}

/** What it takes; SI. */
export interface BuiltInTake {
  readonly id: string
  readonly name: string
  readonly value: number
  readonly unit: 'm' | 'm²' | 'm³' | 'pieces'
  readonly working: string
}

/** What of the wall it may look at. */
export interface Around {
  readonly length: number
  topAt(station: number): number
  toeAt(station: number): number
  readonly openings: readonly {
    readonly name: string
    readonly station: number
    readonly width: number
    readonly bottom: number
    readonly height: number
  }[]
  readonly sections: readonly { readonly id: string; readonly from: number; readonly to: number }[]
}

/** Fields each of them has: its kind, and the name it is called by on this wall. */
export interface BuiltInData {
  readonly kind: string
  readonly name: string
}

/**
 * A kind of thing that is built with a wall and is no part of it: before the dig, under the pad, with the courses, or after. One file each; a new
 * one is a file beside these and its line in the index. Whatever it is, it is planned, drawn, counted, recorded, and covered only then.
 */
export interface BuiltInKind<D extends BuiltInData = BuiltInData> {
  readonly id: string
  readonly name: string
  readonly when: 'before' | 'under' | 'with' | 'after'
  readonly schema: yup.ISchema<D>
  readonly fields: readonly BuiltInField[]
  /** Where a thing without an elevation of its own lies: under the pad, along the toe in front, on top behind the wall. */
  readonly along?: 'pad' | 'toe' | 'top'
  /** Where it lies; nowhere where that follows from the wall. */
  lies(data: D, around: Around): readonly Lies[]
  work(data: D): BuiltInWork
  takes(data: D, around: Around): readonly BuiltInTake[]
  /** What is wrong with it on this wall; fields are its own. */
  check?(data: D, around: Around): readonly { readonly field: string; readonly message: string }[]
}

export const defineBuiltIn = <D extends BuiltInData>(kind: BuiltInKind<D>): BuiltInKind => kind as unknown as BuiltInKind
