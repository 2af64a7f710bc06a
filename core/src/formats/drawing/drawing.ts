import type { Vertex } from '../../geometry'
import { FOOT } from '../../units/length'

/** Units a drawing can be in. */
export const DRAWING_UNITS = { m: 1, cm: 0.01, mm: 0.001, ft: FOOT, usft: 1200 / 3937, in: 0.0254 } as const
export type DrawingUnit = keyof typeof DRAWING_UNITS

/** A line found in a file, in the file's own unit; elevations where its points have them. */
export interface FoundLine {
  readonly id: string
  readonly layer: string
  readonly name: string
  readonly vertices: readonly Vertex[]
  readonly closed: boolean
  readonly elevations?: readonly number[]
}

/** A profile found in a file: elevations at stations along its alignment, in the file's own unit. */
export interface FoundProfile {
  readonly id: string
  readonly name: string
  /** Line it belongs to. */
  readonly line: string
  readonly points: readonly { readonly station: number; readonly elevation: number }[]
}

export interface FoundPoint {
  readonly name: string
  readonly easting: number
  readonly northing: number
  readonly elevation?: number
  readonly code: string
}

/** What a file holds that a wall can be made of, and what it holds besides. Nothing is converted yet. */
export interface Drawing {
  readonly kind: 'dxf' | 'landxml' | 'points'
  /** Undefined: the file does not say, and a person must. */
  readonly unit?: DrawingUnit
  /** What the file itself says, where somebody overruled it. */
  readonly stated?: DrawingUnit
  /** Undefined: the file does not say which number comes first. */
  readonly axes?: 'northing-first' | 'easting-first'
  readonly lines: readonly FoundLine[]
  readonly profiles: readonly FoundProfile[]
  readonly points: readonly FoundPoint[]
  /** Points of a surface of the ground, in the file's own unit. */
  readonly ground?: readonly { readonly easting: number; readonly northing: number; readonly elevation: number }[]
  readonly layers: readonly { readonly name: string; readonly lines: number; readonly hidden?: 'off' | 'frozen' }[]
  /** Left out, how many, and why. */
  readonly ignored: readonly { readonly what: string; readonly count: number; readonly why: string }[]
  /** What only a person can say before something is taken. */
  readonly asks?: readonly string[]
}

/** Counts what is left out. */
export class Ignored {
  readonly #counts = new Map<string, { what: string; count: number; why: string }>()
  add(what: string, why: string, count = 1) {
    const known = this.#counts.get(what)
    if (known) known.count += count
    else this.#counts.set(what, { what, count, why })
  }
  list() {
    return [...this.#counts.values()].sort((a, b) => b.count - a.count)
  }
}
