import type { Problem } from '../base/result'
import type { yup } from '../base/schema'
import type { Plan } from '../plan'
import type { Building } from './building'
import type { Quantity } from './quantity'
import type { Question, Starts } from './question'
import type { Stage } from './stage'
import type { Unit } from './unit'

export * from './quantity'
export * from './stage'

/** How a run of a course ends: free, at a step of the pad or top, at a corner, at an opening, or nowhere (a ring). */
export type RunEnd = 'free' | 'step' | 'outside-corner' | 'inside-corner' | 'opening' | 'ring'

/** A run of one course between two ends, as a system is asked to fill it. Positions in m along the course's own face. */
export interface CourseRun {
  readonly length: number
  /** Number of the course from the lowest pad step. */
  readonly course: number
  /** Does it lie on the pad anywhere? */
  readonly onPad: boolean
  readonly start: RunEnd
  readonly end: RunEnd
  /** Turn of the wall at a corner, radians without sign. */
  readonly startTurn: number
  readonly endTurn: number
  /** At a mitred corner one stone is cut at the whole angle against a whole one, in turn; both at half of it where left out. */
  readonly mitre?: 'turn'
  /** Joints of the course below, ascending; may lie outside the run. */
  readonly below: ArrayLike<number>
}

/**
 * full, half, cut: as in the bond. corner: a corner unit; return: the end of the other leg's corner unit, seen but not
 * counted; mitre: cut to the angle of the corner.
 */
export type PieceKind = 'full' | 'half' | 'cut' | 'corner' | 'return' | 'mitre'

/** A piece within its run, m. */
export interface LaidPiece {
  readonly at: number
  readonly length: number
  readonly kind: PieceKind
  /** Name of its shape where a unit has several. */
  readonly shape?: string
  /** Part of the course's height it fills, where a course is a band of rows: from its bottom, m. */
  readonly bottom?: number
  readonly height?: number
}

/** The run filled; `broken` says which rule of the bond could not be kept. */
export interface LaidRun {
  readonly pieces: readonly LaidPiece[]
  readonly broken?: string
}

/** A piece of a course on the wall: stations where it is drawn, distance along its run's own face and true length (m). */
export interface Piece {
  readonly start: number
  readonly to: number
  readonly at: number
  readonly length: number
  readonly kind: PieceKind
  readonly shape?: string
  readonly bottom?: number
  readonly height?: number
}

/** Pieces that a person sets; the returns belong to the other leg's corner units. */
export const counted = (pieces: readonly Piece[]): number => pieces.reduce((n, p) => (p.kind === 'return' ? n : n + 1), 0)

/** What a system counts its own quantities from. */
export interface CountBasis {
  readonly pieces: readonly Piece[]
  /** Those that lie straight on the pad, on its upper steps too. */
  readonly onPad: readonly Piece[]
  /** m² of face; m along the top; whole units taken, cut ones after their off-cuts are used again. */
  readonly face: number
  readonly topRun: number
  readonly whole: number
  /** Runs of each course between two ends: how many pieces a person sets, and its true length, m. */
  readonly runs: readonly { readonly course: number; readonly pieces: number; readonly length: number; readonly last: boolean }[]
  /** How often the top steps. */
  readonly topSteps: number
  /** Along the foundation, step by step; m. */
  readonly steps: readonly { readonly length: number }[]
}

/** Outline of a side view, m: x into the fill, y up. */
export type Outline = readonly (readonly [number, number])[]

/** What is true of a system as such: said here, never guessed from a name or a drawing. */
export interface Traits {
  /** It follows ground that settles without harm; rigid walls crack or lean. */
  readonly flexible: boolean
  /** Its pieces are carried and set by hand; others are filled where they stand, or set by a machine. */
  readonly carried: boolean
  /** What is seen of a piece: a face, the stones within it, or the wires before it. */
  readonly face: 'plain' | 'stone' | 'mesh'
}

/** A difference between two revisions of a system's own part: an id, what it is, and both in words. */
export type PartChange = readonly [id: string, title: string, was: string, is: string]

/**
 * A wall system: its own part of the plan, what a course is, in which order stages run. A new one is a folder beside this file and a line
 * in the index; nothing else names it, and nothing outside it reads a field of its data.
 *
 * @typeParam D - its own part of the plan, read by its schema
 */
export interface WallSystem<D = unknown> {
  readonly id: string
  readonly name: string
  readonly summary: string
  /** Its own part of the plan. */
  readonly schema: yup.ISchema<D>
  /** Made-up units of the catalogue. */
  readonly units: readonly Unit[]
  readonly stages: readonly Stage[]
  readonly traits: Traits
  /** The choices between schools that mean something to it; every one where it is left out. */
  readonly schools?: readonly string[]
  /** A course is open from the first record of `from` until every one of `until` is done. */
  readonly open: { readonly from: string; readonly until: readonly string[] }
  /** The words of the system for one piece and for several. */
  readonly noun: {
    readonly one: string
    readonly many: string
    /** What is done to a piece that is not whole, in the words of the trade. */
    readonly cut?: Partial<Readonly<Record<'cut' | 'half' | 'mitre', string>>>
  }
  /** What the planner asks for its part, in the order of the trade. */
  readonly questions: readonly Question[]
  /** The part a new wall starts with. */
  start(unit: Unit, starts: Starts): D
  /** Its part with what stands in lists that nobody filled in, from the line and grades of the plan: no caution that a default can avoid is left to somebody. */
  stands?(plan: Plan, data: D): D
  /** What of it lies into the fill wants so much room behind the units at the foot of a cut that leans so far, across per 1 up; m. */
  room?(data: D, slope: number): number
  /** Its part after an answer changed: what no longer belongs to it goes, what it now must have gets its usual value. */
  settle(data: D): D
  /** What only the whole plan can tell of its part; fields are those of the part. */
  check(plan: Plan, data: D): readonly Problem[]
  /** Its part where the wall became another length: what would lie beyond its end lies at it. */
  refit(data: D, length: number): D
  /** Its part in the terms every wall has. */
  building(plan: Plan, data: D): Building
  /** What of its part the pieces of a course follow from: where it is the same, a run of before is taken over. */
  laidBy(data: D): unknown
  /** Fills a run of a course with pieces. */
  lay(run: CourseRun, data: D): LaidRun
  /** Its stages for this part, before schools, pipe and points: its own where left out. */
  staged?(data: D, plan: Partial<Pick<Plan, 'ruleTable'>>): readonly Stage[]
  /** What its stages become on their foundation: a measure more, a time to wait. */
  onFoundation?(stages: readonly Stage[], data: D): readonly Stage[]
  /** A limit of a stage that its part sets, by its name after `own.`: the length of a mat on this course, SI. */
  size?(data: D, name: string, at: { readonly section?: string | undefined; readonly course?: number | undefined }, plan?: Plan): number | undefined
  /** What a person must know of it before work: an id and a sentence each. */
  cautions(plan: Plan, data: D): readonly { readonly id: string; readonly message: string }[]
  /** Why a wall of this system is an engineer's whatever its height; empty where it is not. `rows` is how many stand on one another. */
  engineered(plan: Plan, data: D, rows: number): readonly string[]
  /** Quantities only this system has. */
  quantities(basis: CountBasis, data: D): readonly Quantity[]
  /** Side view of a piece of a course for the section drawing: closed outlines relative to its lower front corner. */
  outline(
    data: D,
    course: number,
  ): {
    readonly body: Outline
    readonly core?: Outline
    readonly fill?: 'stone'
    /** Drawn as lines: wires, bars, a membrane. */
    readonly lines?: readonly Outline[]
  }
  /** Of pieces made of wires: those that lie into the fill are so far apart and are never cut, m. */
  wires?(data: D): number
  /** How two revisions of its part differ. */
  compare(before: D, after: D): readonly PartChange[]
}

/** A system as it stands in the index: its part goes in and out unopened. The schema that read it is what makes this sound. */
export const defineSystem = <D>(system: WallSystem<D>): WallSystem => system as unknown as WallSystem
