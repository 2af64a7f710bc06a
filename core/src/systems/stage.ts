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

/** What a number of a checklist is a measure of; SI: m, kg; temperatures in °C, counts as they are. */
export type MeasureOf = 'length' | 'temperature' | 'count' | 'mass'

/** A number that goes with a checklist: a thickness, an overhang, a temperature. */
export interface CheckMeasure {
  readonly id: string
  readonly text: string
  /** A small length where left out, m. */
  readonly of?: MeasureOf
  /**
   * Limits: from the rule book by name; `own.…` as its system has it for that place, `foundation.…` as its foundation does; or a number of
   * its own. What lies outside is a finding.
   */
  readonly least?: string | number
  readonly most?: string | number
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
      /** A photo goes with it: it is covered, and nobody sees it again. */
      readonly photo?: true
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
  /** Units set one by one by a machine, each with its own level. */
  | { readonly type: 'picks' }
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
  /** Same place, the course below, or the wall or section as a whole; all: every course of the section. */
  readonly of: 'same' | 'below' | 'all'
  /** hold: its hold point released. hard: done, nobody may pass. soft: done, or passed with a written reason. */
  readonly force: 'hold' | 'hard' | 'soft'
  readonly why: string
  /** So many days after it was done, by the rule book's name or as the plan has it: concrete that cures. */
  readonly days?: string | number
}

/** One stage of the work in the order of the system. */
export interface Stage {
  readonly id: string
  readonly title: string
  readonly scope: StageScope
  readonly when: StageWhen
  /** Only on this course of its section, counted from the lowest; the highest where there are fewer. */
  readonly nth?: number
  /** Only on every so manieth course from the lowest, and the highest. */
  readonly each?: number
  /** Done on a second round up the section, after the first is through to its top: what is put behind a wall that stands. */
  readonly round?: 2
  readonly work: Work
  readonly hold?: string
  /** The witness point it belongs to, where it holds nothing up. */
  readonly witness?: string
  /** Not in the wet and not in frost: a reason in writing is asked for. */
  readonly dry?: string
  /** Not in the heat of the day: why, and what then. */
  readonly heat?: string
  /** Kinds of entry that are recorded here beside the work itself: a boulder, a soil, a density test. */
  readonly also?: readonly string[]
  /** Facts that must be in the record before it is done, since rule table 2: the soil along the section, the cut where it is deep. */
  readonly needs?: readonly ('soil' | 'cut')[]
  readonly requires: readonly Requirement[]
  /** One section, or one course of one section, where it is done nowhere else. */
  readonly only?: { readonly section?: string | undefined; readonly course?: number | undefined }
  /** The caution that belongs where the danger is. */
  readonly caution?: string
  /** What is in its place once this is done: quantities placed as `stone` or `caps`. */
  readonly places?: 'stone' | 'caps'
  /** What to do, in a sentence. */
  readonly how: string
}
