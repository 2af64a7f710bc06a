import {
  fold,
  type Layout,
  layOut,
  type Plan,
  STARTS,
  type StartName,
  SYSTEMS,
  storedPlan,
  systemOf,
  truckLoads,
  type Unit,
  type WallSystem,
} from '@stone-tally/core'
import { longWall } from './long-wall'
import { entries, type Figure, longPlan, median } from './record'

const laid = (plan: Plan): Layout => {
  const made = layOut(plan)
  if (!made.ok) throw new Error(JSON.stringify(made.problems))
  return made.value
}
const timed = (work: () => unknown) => {
  const start = performance.now()
  work()
  return performance.now() - start
}
const starts = { value: (name: StartName) => STARTS[name].value, school: () => 'dense-graded' }
const written = (l: Layout) => ({
  steps: l.steps,
  tops: l.tops,
  courses: l.courses,
  caps: l.caps,
  runs: l.runs.map((runs) => runs.map(({ below: _, joints, ...r }) => ({ ...r, joints: [...joints] }))),
})

/** The wall of the other figures built of a system, of so many stretches of 100 m. */
function wallOf(system: WallSystem, hundreds: number): Plan {
  const base = storedPlan(longWall(hundreds))
  const data = system.start(system.units[0] as Unit, starts) as { drain?: object }
  return {
    ...base,
    system: {
      id: system.id,
      data: system.settle({ ...data, ...(data.drain ? { drain: { ...data.drain, outlets: [{ station: 0, invert: 18 }] } } : {}) }),
    },
  }
}

const unitsOf = (l: Layout) => l.runs.flat().reduce((n, r) => n + r.pieces.length, 0)

/** As long as 90,000 of its units make it: a kilometre of blocks, many more of baskets, further than one plan may go. */
function layoutOfEach(): Figure[] {
  const found = SYSTEMS.map((system) => {
    const plan = wallOf(system, Math.round((10 * 90_000) / unitsOf(laid(wallOf(system, 10)))))
    const units = unitsOf(laid(plan))
    const collect = () => (globalThis as { gc?: () => void }).gc?.()
    const ratios = Array.from({ length: 14 }, () => {
      // What the round before left lying is not swept up at the cost of this one.
      collect()
      let layout: Layout | undefined
      const own = timed(() => {
        layout = laid({ ...plan })
      })
      const result = written(layout as Layout)
      collect()
      return own / timed(() => JSON.stringify(result))
    })
    return { id: system.id, units, ratio: median(ratios.slice(3)) }
  })
  const worst = found.reduce((a, b) => (b.ratio > a.ratio ? b : a))
  return [
    {
      name: 'layout of 90,000 units of each system / JSON.stringify, the worst',
      value: worst.ratio,
      limit: 3,
      over: 'at most',
      unit: 'x',
      note: found.map((f) => `${f.id} ${f.ratio.toFixed(1)}`).join(', '),
    },
  ]
}

function truckFigure(): Figure {
  const units = Array.from({ length: 5000 }, (_, i) => ({ mass: 400 + ((i * 7919) % 1600) }))
  let kept = 0
  const pass = () => {
    for (const u of units) kept += u.mass
  }
  const ratios = Array.from({ length: 15 }, () => {
    const one = timed(() => {
      for (let k = 0; k < 200; k++) pass()
    })
    const own = timed(() => {
      for (let k = 0; k < 20; k++) truckLoads({ units, capacity: { mass: 18_000, count: 16 } })
    })
    return own / 20 / (one / 200)
  })
  return {
    name: 'truck loads of 5,000 units / one pass',
    value: median(ratios.slice(5)),
    limit: 20,
    over: 'at most',
    unit: 'x',
    note: kept > 0 ? '' : '?',
  }
}

/** The same wall with every system registered, and with its own alone. */
function registeredFigure(): Figure {
  const all = [...SYSTEMS]
  const own = systemOf('hollow-core') as WallSystem
  const list = SYSTEMS as WallSystem[]
  const plan = storedPlan(longPlan())
  const recorded = entries(laid(plan), 4000)
  const work = () => {
    const layout = laid({ ...plan })
    fold([layout], recorded)
  }
  const round = (systems: readonly WallSystem[]) => {
    list.splice(0, list.length, ...systems)
    return timed(work)
  }
  const ratios: number[] = []
  for (let i = 0; i < 14; i++) {
    // In turn first and second, so that neither has the warmer machine.
    const [a, b] = i % 2 === 0 ? [round(all), round([own])] : [0, round([own])]
    const every = i % 2 === 0 ? a : round(all)
    if (i > 3) ratios.push(every / b)
  }
  list.splice(0, list.length, ...all)
  return {
    name: 'layout and fold, all systems registered / its own alone',
    value: median(ratios),
    limit: 1.1,
    over: 'at most',
    unit: 'x',
    note: `${all.length} systems`,
  }
}

export const systemFigures = (): Figure[] => [...layoutOfEach(), truckFigure(), registeredFigure()]
