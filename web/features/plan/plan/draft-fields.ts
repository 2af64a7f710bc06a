import type { Adopted, Plan, StandKind } from '@stone-tally/core'

/** Which line of the plan in force a typed line stands for; a new line has none. */
export interface Was {
  was?: number
}

/** A line of a list of the system's part as it is typed, by column. */
export interface Line extends Was {
  cells: Record<string, string>
}

/** What no field of the form shows as text: it is edited where it is drawn. SI, as the plan has it. */
export interface Drawn {
  /** What was taken of a drawing or survey: the line this wall is made on, with its grades to the last digit. */
  line?: Adopted
  /** The line of the wall, where it is on the site grid. */
  alignment?: Plan['alignment']
  references?: Plan['references']
  obstacles?: Plan['obstacles']
  /** Inspection points of this wall's own. */
  added?: NonNullable<Plan['rules']>['added']
}

/** A plan as it is typed: every length a text in the crew's units. */
export interface Draft {
  name: string
  site: string
  drawing: string
  engineer: string
  engineerBy: string
  engineerLicence: string
  /** The day of its plan. */
  engineerOn: string
  coversHeight: string
  coversFrom: string
  coversTo: string
  /** Facts its plan reckons with, ids with commas. */
  coversFacts: string
  /** What was asked first: facts with commas, who, as, on, reference, question, may. */
  asked: Line[]
  soilBehind: string
  soilBelow: string
  soilBy: string
  /** Who comes to the edge on top: people, nobody, or not said. */
  edge: string
  /** Ids with commas; `none`: nothing; empty: not said. */
  holds: string
  frontSlope: string
  frontErodible: '' | 'yes' | 'no'
  frost: string
  /** What stands around it, in plain words: each of its kind, with `away`, `size` and `note`. */
  stands: (Line & { kind: StandKind })[]
  /** The ground as found, a line a level: station; behind the face; level. Empty: not measured. */
  found: string
  foundBack: string
  /** Stations of pad steps; empty: where they fall by themselves; `none`: one level pad. */
  padSteps: string
  limits: ({ limit: string; value: string; source: string } & Was)[]
  system: string
  length: string
  grades: ({ station: string; toe: string; top: string } & Was)[]
  benchmarkName: string
  benchmark: string
  behind: string
  slope: string
  sections: ({ id: string; to: string } & Was)[]
  openCourses: string
  topStyle: 'stepped' | 'level' | 'cap-following'
  /** What is built in with the wall, each of its kind, by field. */
  builtIn: (Line & { kind: string })[]
  /** Answers to the questions of its system by their name; its unit by its id. */
  part: Record<string, string>
  /** Answers that are lists: lines of columns. */
  lists: Record<string, Line[]>
  /** Answers to what every wall is asked, in the same way. */
  every: Record<string, string>
  everyLists: Record<string, Line[]>
  drawn: Drawn
  /** Answers of its system that somebody typed, by field: they stay through another unit and back, whatever that one starts with. */
  typed?: string[]
  /** Answers that were typed and that the unit chosen now is not asked. */
  left?: Pick<Draft, 'part' | 'lists'>
  /** Ways that were compared and not kept. */
  sketches: { title: string; draft: Omit<Draft, 'sketches'> }[]
}
