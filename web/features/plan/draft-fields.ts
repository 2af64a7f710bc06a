import type { Plan } from '@stone-tally/core'

/** Which line of the plan in force a typed line stands for; a new line has none. */
export interface Was {
  was?: number
}

/** A plan as it is typed: every length a text in the crew's units. */
export interface Draft {
  name: string
  site: string
  drawing: string
  engineer: string
  engineerBy: string
  /** Ids with commas; `none`: nothing; empty: not said. */
  holds: string
  frontSlope: string
  frontErodible: '' | 'yes' | 'no'
  frost: string
  limits: ({ limit: string; value: string; source: string } & Was)[]
  system: string
  unit: string
  length: string
  grades: ({ station: string; toe: string; top: string } & Was)[]
  benchmarkName: string
  benchmark: string
  embedFixed: string
  embedShare: string
  padMaterial: Plan['pad']['material']
  padThickness: string
  padWidth: string
  padLift: string
  minRun: string
  behind: string
  slope: string
  stone: string
  pipe: string
  fall: string
  outlets: ({ station: string; invert: string } & Was)[]
  grid: ({ course: string; length: string; type: string } & Was)[]
  sections: ({ id: string; to: string } & Was)[]
  openCourses: string
  topStyle: 'stepped' | 'level' | 'cap-following'
  wasteUnits: string
  wasteStone: string
  wasteGrid: string
}
