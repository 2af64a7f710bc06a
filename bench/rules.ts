import {
  advance,
  emptyRules,
  emptyState,
  issued,
  issueUnder,
  layOut,
  openFindings,
  type EarlierPlan as Plan,
  type Rules,
  resolveRules,
  statusOf,
  storedPlan,
  type WallState,
} from '@stone-tally/core'
import { entries, type Figure, longPlan, median } from './record'

const time = (work: () => void) => {
  const start = performance.now()
  work()
  return performance.now() - start
}
const company: Rules = {
  ...emptyRules('Company'),
  limits: [
    { limit: 'compaction', value: 97, why: 'our guarantee' },
    { limit: 'courseLevel', value: 0.005, why: 'long units' },
  ],
  choices: [{ choice: 'cap', option: 'flush', why: 'looks' }],
}
const site: Rules = {
  ...emptyRules(),
  limits: [{ limit: 'padLevel', value: 0.004, why: 'heavy units' }],
  points: [{ point: 'subgrade', kind: 'hold', roles: ['foreman', 'inspector'], own: false, why: 'far away' }],
}
const wall = {
  limits: [{ limit: 'invert', value: 0.008, source: 'drawing 4, note 2' }],
  choices: [{ choice: 'pipe-sock', option: 'sock', why: 'silt' }],
}

/** Folding by a frozen book against folding by the shipped constants, and resolving four levels for many walls. */
export function ruleFigures(): Figure[] {
  const count = 50_000
  const made = issueUnder({ ...longPlan(), rules: wall }, { company, site })
  if (!made.ok) throw new Error(made.problems[0]?.message)
  const laid = (plan: Plan) => {
    const found = layOut(storedPlan(plan))
    if (!found.ok) throw new Error(found.problems[0]?.message)
    return found.value
  }
  // The double: the same wall by the table of the program, as revisions were issued before there was a book.
  const layouts = [laid(issued(longPlan())), laid(made.value)] as const
  const lists = layouts.map((l) => entries(l, count))
  const folded = (k: 0 | 1): WallState => {
    let state = emptyState([layouts[k]])
    for (const e of lists[k] as ReturnType<typeof entries>) state = advance(state, e)
    return state
  }
  const took: [number[], number[]] = [[], []]
  let kept = 0
  for (let i = 0; i < 7; i++)
    for (const k of i % 2 === 0 ? ([0, 1] as const) : ([1, 0] as const)) {
      let state: WallState | undefined
      ;(globalThis as { gc?: () => void }).gc?.()
      took[k].push(
        time(() => {
          state = folded(k)
          for (const s of state.steps) kept += statusOf(state, s).done
          kept += openFindings(state).length
        }),
      )
    }
  const walls = 500
  const text = JSON.stringify(Array.from({ length: walls }, () => made.value.book))
  const [parse, resolve]: [number[], number[]] = [[], []]
  for (let i = 0; i < 15; i++) {
    parse.push(
      time(() => {
        kept += (JSON.parse(text) as unknown[]).length
      }),
    )
    resolve.push(
      time(() => {
        for (let w = 0; w < walls; w++) kept += resolveRules({ company, site, wall }).ok ? 1 : 0
      }),
    )
  }
  return [
    {
      name: `fold of ${count} entries by a rule book / by constants`,
      value: median(took[1]) / median(took[0]),
      limit: 1.1,
      over: 'at most',
      unit: '×',
      note: `${median(took[1]).toFixed(0)} ms${kept === 0 ? ' ' : ''}`,
    },
    {
      name: `four levels of rules for ${walls} walls / JSON.parse of the resolved books`,
      value: median(resolve) / median(parse),
      limit: 5,
      over: 'at most',
      unit: '×',
      note: `${median(resolve).toFixed(0)} ms`,
    },
  ]
}
