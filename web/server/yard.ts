import { overviewOf, type Plan, type WallOverview } from '@stone-tally/core'
import type { Person } from './accounts'
import { stateOf } from './record-store'
import type { WallRow } from './wall-row'
import { wallsOf, whyNotShown } from './walls'

/** What the Yard shows of a wall. */
export interface YardWall extends WallOverview {
  readonly id: string
  readonly name: string
  readonly site: string
  readonly plan: Plan
  readonly madeUp: boolean
}

/** A wall that cannot be shown, and why; it hides no other. */
export interface HiddenWall {
  readonly id: string
  readonly name: string
  readonly site: string
  readonly why: string
}

export async function yardOf(person: Person): Promise<{ walls: YardWall[]; hidden: HiddenWall[]; away: WallRow[] }> {
  const result: YardWall[] = []
  const hidden: HiddenWall[] = []
  const away: WallRow[] = []
  for (const wall of await wallsOf(person.companyId)) {
    if (wall.away) {
      away.push(wall)
      continue
    }
    const why = await whyNotShown(wall.id)
    if (why !== undefined) {
      hidden.push({ id: wall.id, name: wall.name, site: wall.site, why })
      continue
    }
    const state = await stateOf(wall.id)
    result.push({ ...wall, plan: state.layout.plan, ...overviewOf(state, new Date().toISOString()) })
  }
  return { walls: result, hidden, away }
}
