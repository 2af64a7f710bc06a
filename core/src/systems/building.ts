import type { EmbedmentRule } from '../rules'
import type { Foundation } from './foundation'
import type { Lifting } from './lifting'

/** What a course is made of; m, kg. */
export interface CourseMake {
  /** Its piece, by name. */
  readonly name: string
  readonly height: number
  /** A whole piece along the face, and the shortest that may stand there. */
  readonly length: number
  readonly minPiece: number
  /** Front to back. */
  readonly depth: number
  /** Back from the face of the course below. */
  readonly setback: number
  /** Smallest radius of the face it can follow; left out where nobody knows. */
  readonly minRadius?: number
  /** Mass of a whole piece. */
  readonly mass: number
  /** Halves come ready made; else they are sawn. */
  readonly half: boolean
  /** Whole pieces on a pallet. */
  readonly perPallet?: number
  /** The form of its piece, where a school of practice depends on it; and whether it is hollow. */
  readonly form?: string
  readonly hollow: boolean
}

/** What lies on the top course; m. */
export interface CapMake {
  readonly height: number
  readonly length: number
  /** On curves tighter than this tapered ones are used. */
  readonly taper: number
}

/** A pipe behind the foot of the wall; m. */
export interface Drain {
  readonly diameter: number
  readonly fall: number
  readonly outlets: readonly { readonly station: number; readonly invert: number }[]
  readonly maxOutletSpacing: number
}

/** A layer of geogrid as the plan has it; m. */
export interface PlannedLayer {
  readonly course: number
  readonly length: number
  readonly type: string
}

/** A roll that layers are cut from; m. */
export interface PlannedRoll {
  readonly type: string
  readonly width: number
  readonly length: number
}

/**
 * A wall in the terms every wall has: what it stands on, what its courses are made of, what lies behind and between them. A system makes
 * it of its own part of the plan; layout, record, quantities and drawings look at nothing else of it.
 */
export interface Building {
  readonly foundation: Foundation
  /** What course `n` is made of, 1 the lowest. @example building.course(1).height */
  course(n: number): CourseMake
  readonly cap?: CapMake
  /** Drainage stone behind the face, m. */
  readonly stone?: { readonly width: number }
  readonly drain?: Drain
  readonly layers: readonly PlannedLayer[]
  readonly rolls: readonly PlannedRoll[]
  /** The foundation falls so much per metre into the fill; level where left out. */
  readonly tilt?: number
  /** How far the pieces of a course themselves lie into the fill, from the face, m; left out where they do not. */
  reach?(course: number): number
  /** Tied to its foundation with bars: both turn over together or not at all. */
  readonly tied?: true
  /** Elevation of a finished slab that the foundation lies below, m. */
  readonly slab?: number
  /** Stations of joints that run through every course, m; none where left out. */
  readonly joints?: readonly number[]
  /** A machine that sets its units; left out where people do. */
  readonly lifting?: Lifting
  /** Schools by which it is buried; the deepest governs. */
  readonly embedment: readonly EmbedmentRule[]
  /** Where in the part of its system these stand, so that what is wrong with one is said at its field. */
  readonly at: { readonly embedment: string; readonly layers: string; readonly outlets: string; readonly minRadius: string }
  /** Ordered above what is built, per cent. */
  readonly waste: { readonly units: number; readonly stone: number; readonly grid: number }
}

/** A field of a system's part as a field of the whole plan. @example fieldOfPart(`${building.at.layers}[2].course`) // 'system.data.layers[2].course' */
export const fieldOfPart = (field: string): string => `${PART}${field}`
/** What every field of a system's part begins with. */
export const PART = 'system.data.'

/** Height of the cap, m; nothing where there is none. @example capHeight(building) // 0.1 */
export const capHeight = (b: Building): number => b.cap?.height ?? 0

/** A sum over courses that is a plain product where all are alike, so that it carries no rounding of its own. */
function over(from: number, to: number, of: (n: number) => number): number {
  let [total, alike, value] = [0, 0, 0]
  for (let n = from; n <= to; n++) {
    const one = of(n)
    if (one !== value) [total, alike, value] = [total + alike * value, 0, one]
    alike++
  }
  return total + alike * value
}

/** Height of the lowest `n` courses, m. @example riseOf(building, 3) // 0.6 */
export const riseOf = (b: Building, n: number): number => over(1, n, (k) => b.course(k).height)

/** How far the face of course `n` stands back from that of the first, m. @example offsetOfCourse(building, 3) // 0.04 */
export const offsetOfCourse = (b: Building, n: number): number => over(2, n, (k) => b.course(k).setback)

/** Are its courses of one height? @example evenCourses(building, 12) // true */
export function evenCourses(b: Building, most: number): boolean {
  const first = b.course(1).height
  for (let n = 2; n <= most; n++) if (b.course(n).height !== first) return false
  return true
}
