import { alignmentOf, baseSteps, cutList, type Layout, layOut, type EarlierPlan as Plan, storedPlan, systemOf, type Vertex } from '@stone-tally/core'
import { longWall } from './long-wall'
import { type Figure, median } from './record'

const laid = (plan: Plan, earlier?: Layout): Layout => {
  const made = layOut(storedPlan(plan), earlier)
  if (!made.ok) throw new Error(JSON.stringify(made.problems))
  return made.value
}
const unitsOf = (l: Layout) => l.runs.flat().reduce((n, r) => n + r.pieces.length, 0)
const timed = (work: () => unknown) => {
  const start = performance.now()
  work()
  return performance.now() - start
}

/** What a layout is when it is written out: every course, run, piece and cap, without the links between runs. */
const written = (l: Layout) => ({
  steps: l.steps,
  tops: l.tops,
  courses: l.courses,
  caps: l.caps,
  runs: l.runs.map((runs) => runs.map(({ below: _, joints, ...r }) => ({ ...r, joints: [...joints] }))),
})

/** Base steps of a kilometre against one pass over its buried area. */
function baseStepsFigure(): Figure {
  const profile = Array.from({ length: 2001 }, (_, i) => ({ station: i / 2, toe: 20 + 3 * Math.sin(i / 200) + i / 500 }))
  const input = { datum: 10, minEmbedment: 0.2, minRun: 1.35, unit: { height: 0.2, length: 0.45 }, profile }
  const made = baseSteps(input)
  if (!made.ok) throw new Error('no steps')
  const { steps } = made.value
  let kept = 0
  const pass = () => {
    let area = 0
    let s = 0
    for (let i = 1; i < profile.length; i++) {
      const [a, b] = [profile[i - 1] as (typeof profile)[number], profile[i] as (typeof profile)[number]]
      while (s < steps.length - 1 && (steps[s] as (typeof steps)[number]).end <= a.station) s++
      area += ((a.toe + b.toe) / 2 - (steps[s] as (typeof steps)[number]).elevation) * (b.station - a.station)
    }
    kept += area
  }
  const ratios: number[] = []
  for (let i = 0; i < 15; i++) {
    const one = timed(() => {
      for (let k = 0; k < 200; k++) pass()
    })
    const own = timed(() => {
      for (let k = 0; k < 5; k++) baseSteps(input)
    })
    if (i > 4) ratios.push(own / 5 / (one / 200))
  }
  return {
    name: 'base steps, 1,000 m / one pass of the area',
    value: median(ratios),
    limit: 500,
    over: 'at most',
    unit: 'x',
    note: `${steps.length} steps${kept > 0 ? '' : '?'}`,
  }
}

/** 200 walls of every kind: whole units for the saw against the bound that proves how few can do. */
function cutFigure(): Figure {
  let worst = 0
  let proven = 0
  let seed = 7
  const random = () => {
    seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648
    return seed / 2_147_483_648
  }
  const base = longWall()
  const units = systemOf('hollow-core')?.units ?? []
  for (let i = 0; i < 200; i++) {
    const unit = units[i % units.length] as (typeof units)[number]
    const [first, radius, last] = [4 + random() * 12, 6 + random() * 20, 3 + random() * 9]
    const turn = (0.4 + random() * 0.6) * (random() < 0.5 ? -1 : 1)
    const chord = 2 * radius * Math.sin(Math.abs(turn) / 2)
    const vertices: Vertex[] = [
      { easting: 0, northing: 0 },
      { easting: first, northing: 0, bulge: Math.tan(turn / 4) },
      { easting: first + chord * Math.cos(turn / 2), northing: chord * Math.sin(turn / 2) },
    ]
    const end = vertices[2] as Vertex
    vertices.push({
      easting: end.easting + last * Math.cos(turn + (i % 3 ? 0 : 1.2)),
      northing: end.northing + last * Math.sin(turn + (i % 3 ? 0 : 1.2)),
    })
    const line = alignmentOf(vertices, false)
    if (!line.ok) throw new Error(JSON.stringify(line.problems))
    const { length } = line.value
    const toe = 20 + random()
    const layout = laid({
      ...base,
      unit,
      length,
      alignment: { vertices: vertices.map((v) => ({ easting: v.easting, northing: v.northing, bulge: v.bulge ?? 0 })), closed: false },
      grades: [
        { station: 0, toe, top: toe + 1 + random() },
        { station: length, toe: toe + random() * 0.6, top: toe + 1.7 + random() },
      ],
      sections: [{ id: 'A', from: 0, to: length }],
    })
    const cuts = cutList(layout)
    const over = cuts.units.length - cuts.lowerBound
    worst = Math.max(worst, over)
    if (over === 0) proven++
  }
  return {
    name: 'cut list over its lower bound, worst of 200 walls',
    value: worst,
    limit: 1,
    over: 'at most',
    unit: '',
    note: `${proven} of 200 proven least`,
  }
}

/** The long wall laid out, changed at one grade point, and held in memory. */
export function layoutFigures(): Figure[] {
  const plan = longWall()
  const collect = () => (globalThis as { gc?: () => void }).gc?.()
  const used = () => {
    collect()
    collect()
    return process.memoryUsage().heapUsed + process.memoryUsage().arrayBuffers
  }
  // Laid in frames of their own: one that was let go must not be kept by this one and counted against the next.
  const warm = () => unitsOf(laid(plan))
  warm()
  const before = used()
  // Three of them, so that what the collector is late with does not count.
  const held = [laid(plan), laid(plan), laid(plan)]
  const bytes = (used() - before) / held.length
  let layout = held.pop() as Layout
  held.length = 0
  const units = unitsOf(layout)
  const ratios: number[] = []
  const shares: number[] = []
  for (let i = 0; i < 14; i++) {
    // Only the writing itself is timed, not what is put together for it.
    const result = written(layout)
    const text = timed(() => JSON.stringify(result))
    const own = timed(() => {
      layout = laid(plan)
    })
    // Another point each time, so that nothing is found ready made.
    const at = 8 + ((i * 11) % (plan.grades.length - 16))
    const changed = { ...plan, grades: plan.grades.map((g, k) => (k === at ? { ...g, top: g.top + 0.35 } : g)) }
    const again = timed(() => laid(changed, layout))
    if (i < 3) continue
    ratios.push(own / text)
    shares.push((again / own) * 100)
  }
  return [
    baseStepsFigure(),
    {
      name: 'layout, 1,000 m / JSON.stringify of it',
      value: median(ratios),
      limit: 3,
      over: 'at most',
      unit: 'x',
      note: `${units} units, ${layout.courses.length} courses`,
    },
    { name: 'layout in memory', value: bytes / units, limit: 400, over: 'at most', unit: 'B', note: 'a unit, everything counted' },
    { name: 'one grade point changed / whole layout', value: median(shares), limit: 10, over: 'at most', unit: '%', note: '' },
    cutFigure(),
  ]
}
