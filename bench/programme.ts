import { advance, endsOf, fold, type Layout, layOut, level, Network, type RecordedEntry, stockBook, storedPlan } from '@stone-tally/core'
import { entries, type Figure, longPlan, median } from './record'

const WALLS = 100
const COURSES = 40
const STAGES = 10
const timed = (work: () => unknown) => {
  const start = performance.now()
  work()
  return performance.now() - start
}
const most = (name: string, value: number, limit: number, unit: string, note: string): Figure => ({ name, value, limit, unit, over: 'at most', note })
let seed = 12345
const random = () => {
  seed = (seed * 1103515245 + 12345) & 0x7fffffff
  return seed / 0x7fffffff
}

/** A hundred walls of forty courses and ten stages: stage after stage, course on course, one wall's crew going on to the next now and then. */
function wiringOf() {
  const at = (w: number, c: number, s: number) => (w * COURSES + c) * STAGES + s
  const after: [number, number][][] = []
  const durations: number[] = []
  for (let w = 0; w < WALLS; w++)
    for (let c = 0; c < COURSES; c++)
      for (let s = 0; s < STAGES; s++) {
        const own: [number, number][] = []
        if (s > 0) own.push([at(w, c, s - 1), s === 6 ? 4 : 0])
        if (c > 0) own.push([at(w, c - 1, Math.min(STAGES - 1, s + 3)), 0])
        if (c === 0 && s === 0 && w % 5 > 0) own.push([at(w - 1, COURSES - 1, STAGES - 1), 0])
        after.push(own)
        durations.push(0.5 + 6 * random())
      }
  return { durations, after }
}

function networkFigures(): Figure[] {
  const wiring = wiringOf()
  const n = wiring.after.length
  const pass = () => {
    let sum = 0
    for (let i = 0; i < n; i++) for (const [b, lag] of wiring.after[i] as [number, number][]) sum += (wiring.durations[b] as number) + lag
    return sum
  }
  const rounds = Array.from({ length: 15 }, () => ({ whole: timed(() => Network.of(wiring)), one: timed(pass) })).slice(5)
  const network = Network.of(wiring) as Network
  const whole = median(rounds.map((r) => r.whole))
  const changes: number[] = []
  for (let k = 0; k < 600; k++) {
    const task = Math.floor(random() * n)
    const to = (wiring.durations[task] as number) * (0.7 + 0.8 * random())
    changes.push(timed(() => network.change(task, { duration: to })))
  }
  const input = {
    wiring,
    spreads: wiring.durations.map((_, i) => [1.3, 1.35, 1.4, 1.5][i % 4] as number),
    groups: wiring.durations.map((_, i) => i % 10),
    runs: 200,
    seed: 3,
    workdays: undefined as never,
    today: '',
  }
  const finish = new Float64Array(n)
  const middle = Float64Array.from(wiring.durations)
  const runs = Array.from({ length: 3 }, () => ({
    sampled: timed(() => endsOf(network, input)),
    // The critical path of so many networks: forwards and backwards.
    plain: timed(() => {
      for (let r = 0; r < 200; r++) network.endWith(middle, finish)
    }),
  }))
  return [
    most(
      `critical path of ${n} tasks / one pass over its links`,
      median(rounds.map((r) => r.whole / r.one)),
      10,
      'x',
      `${whole.toFixed(1)} ms, order and both ways`,
    ),
    most(
      'after one entry, median / the whole',
      (100 * median(changes)) / whole,
      2,
      '%',
      `${median(changes).toFixed(3)} ms; the worst ${Math.max(...changes).toFixed(1)} ms`,
    ),
    most(
      'simulated runs, sampling counted in / as many critical paths',
      median(runs.map((r) => r.sampled / r.plain)),
      2,
      'x',
      `against the way forwards alone; ${((median(runs.map((r) => r.sampled)) / 200) * 1000).toFixed(0)} ms for a thousand`,
    ),
  ]
}

function levelFigures(): Figure[] {
  const ratios: number[] = []
  for (let k = 0; k < 200; k++) {
    const [sections, courses, stages, crews] = [
      1 + Math.floor(random() * 5),
      2 + Math.floor(random() * 12),
      2 + Math.floor(random() * 7),
      1 + Math.floor(random() * 4),
    ]
    const at = (s: number, c: number, g: number) => (s * courses + c) * stages + g
    const after: [number, number][][] = []
    const durations: number[] = []
    for (let s = 0; s < sections; s++)
      for (let c = 0; c < courses; c++)
        for (let g = 0; g < stages; g++) {
          after.push([
            ...(g > 0 ? [[at(s, c, g - 1), random() < 0.1 ? 8 * random() : 0] as [number, number]] : []),
            ...(g === 0 && c > 0 ? [[at(s, c - 1, stages - 1), 0] as [number, number]] : []),
          ])
          durations.push(0.5 + 8 * random())
        }
    const l = level(
      { durations, after },
      durations.map(() => true),
      { crews },
    )
    if (!l || l.end < l.bound - 1e-6) throw new Error('below the bound')
    ratios.push(l.end / l.bound)
  }
  return [
    most(
      'levelling, 200 programmes: end / lower bound, mean',
      ratios.reduce((a, b) => a + b, 0) / ratios.length,
      1.15,
      'x',
      `the worst ${Math.max(...ratios).toFixed(2)}; bound: the longest way, or all work over all crews`,
    ),
  ]
}

function stockFigures(): Figure[] {
  const laid = layOut(storedPlan(longPlan()))
  if (!laid.ok) throw new Error('no layout')
  const layout: Layout = laid.value
  const list = entries(layout, 50_000)
  const state = fold([layout], list)
  const whole = median(Array.from({ length: 7 }, () => timed(() => stockBook(state).rows())))
  let now = fold([layout], list)
  let book = stockBook(now)
  const one: number[] = []
  for (let k = 0; k < 200; k++) {
    const last = list[list.length - 1] as RecordedEntry
    const entry = {
      ...last.entry,
      id: `02900000-0000-7000-8000-${k.toString(16).padStart(12, '0')}`,
      kind: 'delivery',
      where: {},
      data: { item: 'stone', name: 'Drainage stone', unit: 'm³', amount: 8, docket: `D-${k}` },
    }
    now = advance(now, { seq: list.length + 1 + k, receivedAt: last.receivedAt, entry })
    one.push(
      timed(() => {
        book = stockBook(now, book)
        book.of('stone')
      }),
    )
  }
  if (Math.abs((book.of('stone')?.delivered ?? 0) - 1600) > 1e-6) throw new Error('not all came')
  return [
    most(
      'stock of 50,000 entries: one entry / the whole',
      (100 * median(one)) / whole,
      1,
      '%',
      `${median(one).toFixed(3)} of ${whole.toFixed(0)} ms`,
    ),
  ]
}

export const programmeFigures = (): Figure[] => [...networkFigures(), ...levelFigures(), ...stockFigures()]
