import type { Plan, Unit } from '../plan'

/** Where a stage is done: once for the wall, once per section, or once per course of a section. */
export type StageScope = 'wall' | 'section' | 'course'

/** What a reading of a stage is judged against. */
export type ReadingTarget = 'alignment' | 'dig' | 'pad' | 'course-top' | 'invert' | 'setback'

/** An item of a checklist that a person confirms. */
export interface CheckItem {
  readonly id: string
  readonly text: string
  /** It may be said not to apply, where it is so: nobody is made to confirm what was not done. */
  readonly maybe?: true
}

/** A number that goes with a checklist: a thickness, an overhang; m. */
export interface CheckMeasure {
  readonly id: string
  readonly text: string
  /** Limits, m, from the rule book by name; what lies outside is a finding. */
  readonly least?: string
  readonly most?: string
  /** It may be off either way: `most` counts below nought as well. */
  readonly either?: true
  /** Asked since this rule table. */
  readonly since?: number
}

/** What is recorded in a stage. */
export type Work =
  | {
      readonly type: 'check'
      readonly items: readonly CheckItem[]
      readonly measures?: readonly CheckMeasure[]
      readonly detail?: string
      readonly until?: string
    }
  | {
      readonly type: 'readings'
      readonly target: ReadingTarget
      readonly sense: 'level' | 'line' | 'setback'
      readonly limit: string
      readonly firstLimit?: string
    }
  | { readonly type: 'lifts'; readonly of: 'pad' | 'backfill' }
  | { readonly type: 'units' }
  | { readonly type: 'grid' }
  /** Pipe laid stretch by stretch, each with what was looked at and a photo, before anything covers it. */
  | { readonly type: 'pipe'; readonly items: readonly CheckItem[] }

/**
 * Only at these courses: `pipe` is where the pipe lies; `first` is whatever lies on the pad, on an upper step too; `above-first` whatever does not; `lowest` and `last`
 * the lowest and the highest course of a section; `third` whatever lies on the pad, every third course above, and the highest.
 */
export type StageWhen = 'every' | 'third' | 'pipe' | 'first' | 'above-first' | 'lowest' | 'with-grid' | 'last'

/** What must have happened before; the reason is shown when it blocks. */
export interface Requirement {
  readonly stage: string
  /** Same place, the course below, or the wall or section as a whole. */
  readonly of: 'same' | 'below'
  /** hold: its hold point released. hard: done, nobody may pass. soft: done, or passed with a written reason. */
  readonly force: 'hold' | 'hard' | 'soft'
  readonly why: string
}

/** One stage of the work in the order of the system. */
export interface Stage {
  readonly id: string
  readonly title: string
  readonly scope: StageScope
  readonly when: StageWhen
  readonly work: Work
  readonly hold?: string
  /** The witness point it belongs to, where it holds nothing up. */
  readonly witness?: string
  /** Not in the wet and not in frost: a reason in writing is asked for. */
  readonly dry?: string
  /** Kinds of entry that are recorded here beside the work itself: a boulder, a soil, a density test. */
  readonly also?: readonly string[]
  /** Facts that must be in the record before it is done, since rule table 2: the soil along the section, the cut where it is deep. */
  readonly needs?: readonly ('soil' | 'cut')[]
  readonly requires: readonly Requirement[]
  /** One section, or one course of one section, where it is done nowhere else. */
  readonly only?: { readonly section?: string | undefined; readonly course?: number | undefined }
  /** The caution that belongs where the danger is. */
  readonly caution?: string
  /** What to do, in a sentence. */
  readonly how: string
}

/** How a run of a course ends: free, at a step of the pad or top, at a corner, at an opening, or nowhere (a ring). */
export type RunEnd = 'free' | 'step' | 'outside-corner' | 'inside-corner' | 'opening' | 'ring'

/** A run of one course between two ends, as a system is asked to fill it. Positions in m along the course's own face. */
export interface CourseRun {
  readonly unit: Unit
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

/** One line of the quantities, with its working in words. */
export interface Quantity {
  readonly id: string
  readonly name: string
  readonly value: number
  readonly unit: 'm' | 'm²' | 'm³' | 'kg' | 'pieces'
  readonly working: string
}

/** What a system counts its own quantities from. */
export interface CountBasis {
  readonly plan: Plan
  readonly pieces: readonly Piece[]
  /** Those that lie straight on the pad, on its upper steps too. */
  readonly onPad: readonly Piece[]
  /** m² of face; m along the top; whole units taken, cut ones after their off-cuts are used again. */
  readonly face: number
  readonly topRun: number
  readonly whole: number
}

/** Outline of a side view, m: x into the fill, y up. */
export type Outline = readonly (readonly [number, number])[]

/**
 * A wall system: what a course is, what its units are, in which order stages run. A new one is a folder beside this file
 * and a line in the index; nothing else names it.
 */
export interface WallSystem {
  readonly id: string
  readonly name: string
  readonly summary: string
  /** Made-up units of the catalogue. */
  readonly units: readonly Unit[]
  readonly stages: readonly Stage[]
  /** The choices between schools that mean something to it; every one where it is left out. */
  readonly schools?: readonly string[]
  /** A course is open from the first record of `from` until every one of `until` is done. */
  readonly open: { readonly from: string; readonly until: readonly string[] }
  /** The words of the system for one piece and for several. */
  readonly noun: { readonly one: string; readonly many: string }
  /** Fills a run of a course with pieces. */
  lay(run: CourseRun): LaidRun
  /** What a person must know about the unit before work: an id and a sentence each. */
  cautions(plan: Plan): readonly { readonly id: string; readonly message: string }[]
  /** Why a wall of this system is an engineer's whatever its height; empty where it is not. `rows` is how many stand on one another. */
  engineered?(plan: Plan, rows: number): readonly string[]
  /** Quantities only this system has. */
  quantities(basis: CountBasis): readonly Quantity[]
  /** Side view of one piece for the section drawing: closed outlines relative to its lower front corner. */
  outline(unit: Unit): { readonly body: Outline; readonly core?: Outline; readonly fill?: 'stone' }
}
