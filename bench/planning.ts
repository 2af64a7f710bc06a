import { fewestCuts, issued, layOut, type Plan, SYSTEMS, startPlan, storedPlan, wayOf } from '@stone-tally/core'
import { draftOf, planRead } from '../web/features/plan/plan/draft'
import { longWall } from './long-wall'
import { type Figure, median } from './record'

const timed = (f: () => void) => {
  const start = performance.now()
  f()
  return performance.now() - start
}

/** A way of building a kilometre of wall, with all that is said of it, against laying it out alone; every round on a plan of its own. */
function wayFigure(): Figure {
  const today = '2026-05-18'
  const [alone, whole]: [number[], number[]] = [[], []]
  for (let i = 0; i < 7; i++) {
    const plan = issued(storedPlan(longWall(10) as never) as Plan)
    let made: ReturnType<typeof layOut> | undefined
    const a = timed(() => {
      made = layOut(plan)
    })
    const b = timed(() => {
      if (made?.ok) wayOf(made.value, today)
    })
    if (i === 0) continue
    alone.push(a)
    whole.push(a + b)
  }
  const [a, b] = [median(alone), median(whole)]
  return {
    name: 'a way of building a kilometre / its layout',
    value: b / a,
    limit: 1.2,
    over: 'at most',
    unit: 'x',
    note: `${Math.round(b)} ms and ${Math.round(a)} ms, beside the page`,
  }
}

/** What the page itself does for another way of a kilometre: read what is typed and hand it to the worker; against laying that wall out. */
function pageFigure(): Figure {
  const system = SYSTEMS.find((s) => s.id === 'hollow-core') as (typeof SYSTEMS)[number]
  const plan = {
    ...startPlan(system, 1000),
    grades: Array.from({ length: 101 }, (_, i) => ({ station: i * 10, toe: Math.sin(i / 7), top: 2 + Math.sin(i / 7) + Math.cos(i / 5) / 2 })),
  } as Plan
  const draft = draftOf(plan, 'metric')
  const [page, laid]: [number[], number[]] = [[], []]
  for (let i = 0; i < 9; i++) {
    page.push(
      timed(() => {
        const read = planRead(draft, 'metric')
        if (read.ok) structuredClone(issued(read.value))
      }),
    )
    const fresh = issued(structuredClone(plan))
    laid.push(timed(() => void layOut(fresh)))
  }
  const [a, b] = [median(page), median(laid)]
  return {
    name: 'a way of 1,000 m, on the page itself / its layout',
    value: a / b,
    limit: 1.2,
    over: 'at most',
    unit: 'x',
    note: `${a.toFixed(1)} ms and ${b.toFixed(1)} ms`,
  }
}

/** A number between 0 and 1, the same on every machine. */
function drawn(seed: number) {
  let s = seed
  return () => {
    s = (s * 1664525 + 1013904223) % 2 ** 32
    return s / 2 ** 32
  }
}

/** Fewest cuts on fifty made-up straight walls: never more than as given, and how near the bound. */
function cutFigures(): Figure[] {
  const next = drawn(77)
  let [worse, reached, given, found, bound] = [0, 0, 0, 0, 0]
  for (let i = 0; i < 50; i++) {
    const system = SYSTEMS[i % SYSTEMS.length] as (typeof SYSTEMS)[number]
    const length = Math.round((3 + next() * 12) * 1000) / 1000
    const plan = issued({
      ...startPlan(system, length),
      grades: [
        { station: 0, toe: 0, top: 0.6 + next() },
        { station: length, toe: next() * 0.5, top: 1.2 + next() },
      ],
    } as Plan)
    const made = fewestCuts(plan, 0.15)
    if (!made.ok) continue
    const { value } = made
    if (value.cuts > value.given.cuts) worse++
    if (value.cuts === value.bound) reached++
    given += value.given.cuts
    found += value.cuts
    bound += value.bound
  }
  return [
    {
      name: 'fewest cuts on 50 walls: worse than as given',
      value: worse,
      limit: 0,
      over: 'at most',
      unit: '',
      note: `${given} cuts as given, ${found} found, no fewer than ${bound}; ${reached} walls at the bound`,
    },
  ]
}

export const planningFigures = (): Figure[] => [pageFigure(), wayFigure(), ...cutFigures()]
