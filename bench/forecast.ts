import {
  advance,
  emptyState,
  expectedAt,
  type GrowthReport,
  type GrowthRule,
  growthOf,
  growthReport,
  type RecordedEntry,
  statusOf,
  stepsOf,
} from '@stone-tally/core'
import { layoutOf, smallPlan } from '../core/test/plans'
import { type Figure, median } from './record'

const time = (work: () => void) => {
  const start = performance.now()
  work()
  return performance.now() - start
}
const rule: GrowthRule = { model: 'level', limit: 0.006, step: 0.003, grain: 0.001 }

/** A wall of 600 m and 40 courses read at 200 stations: 8,000 readings. */
function tallWall() {
  return layoutOf({
    ...smallPlan,
    length: 597.2,
    unit: { ...smallPlan.unit, height: 0.1 },
    grades: [
      { station: 0, toe: 10, top: 13.9 },
      { station: 597.2, toe: 10, top: 13.9 },
    ],
    drain: { ...smallPlan.drain, outlets: [{ station: 0, invert: 9.5 }] },
    grid: [],
    sections: [{ id: 'A', from: 0, to: 597.2 }],
  })
}

/** One least-squares line per station over the same readings: what any forecast must at least do. */
function leastSquares(columns: readonly (readonly { course: number; deviation: number }[])[]): number {
  let sum = 0
  for (const list of columns) {
    let [n, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0]
    for (const r of list) {
      n++
      sx += r.course
      sy += r.deviation
      sxx += r.course * r.course
      sxy += r.course * r.deviation
    }
    const slope = (n * sxy - sx * sy) / (n * sxx - sx * sx)
    sum += (sy - slope * sx) / n + slope * 40
  }
  return sum
}

/** Forecast of 200 stations × 40 courses against one least-squares pass over the same readings, and what one entry more costs. */
export function forecastFigures(): Figure[] {
  const layout = tallWall()
  const steps = stepsOf(layout).filter((s) => s.stage.work.type === 'readings' && s.stage.work.target === 'course-top')
  const stations = Math.max(...steps.map((s) => s.points.length))
  const columns = Array.from({ length: stations }, (_, k) =>
    steps.map((s) => ({
      course: s.course ?? 0,
      deviation: (((k * 7 + (s.course ?? 0) * 13) % 9) - 4) / 2000 + (k % 11) * 0.00004 * (s.course ?? 0),
    })),
  )
  let kept = 0
  const pass: number[] = []
  const whole: number[] = []
  const math: number[] = []
  // The same from the record of a wall: every reading an entry, every status known.
  let seq = 0
  let state = advanceAll(layout, () => ++seq, steps, columns)
  for (const s of state.steps) if (state.logs.has(s.key)) statusOf(state, s)
  // In turns, so that whatever else the machine does falls on all of them alike.
  for (let i = 0; i < 120; i++) {
    pass.push(
      time(() => {
        for (let k = 0; k < 5; k++) kept += leastSquares(columns)
      }) / 5,
    )
    math.push(
      time(() => {
        for (const list of columns) {
          const g = growthOf(list, 40, rule)
          if (g) kept += expectedAt(g, 40).deviation
        }
      }),
    )
    whole.push(
      time(() => {
        kept += growthReport(state, 'A', 'level').columns.length
      }),
    )
  }
  let report: GrowthReport = growthReport(state, 'A', 'level')
  const one: number[] = []
  for (let i = 0; i < 600; i++) {
    const step = steps[(i * 7) % steps.length] as (typeof steps)[number]
    const station = step.points[(i * 13) % step.points.length] as number
    state = advance(state, recorded(++seq, step, station, ((i % 9) - 4) / 1500))
    // The status of the step belongs to the fold, which has its own figure.
    statusOf(state, step)
    one.push(
      time(() => {
        report = growthReport(state, 'A', 'level', report)
      }),
    )
  }
  kept += report.columns.length
  const share = (100 * median(one)) / median(whole)
  return [
    {
      name: `forecast of ${stations} × ${steps.length} / one least-squares pass`,
      value: median(whole) / median(pass),
      limit: 20,
      over: 'at most',
      unit: '×',
      note: `${median(whole).toFixed(2)} ms from the record; the lines alone ${(median(math) / median(pass)).toFixed(1)} ×${kept === 0 ? ' ' : ''}`,
    },
    {
      name: 'forecast after one entry / whole forecast',
      value: share,
      limit: 5,
      over: 'at most',
      unit: '%',
      note: `${(median(one) * 1000).toFixed(0)} µs`,
    },
  ]
}

type Steps = ReturnType<typeof stepsOf>
const recorded = (seq: number, step: Steps[number], station: number, value: number): RecordedEntry => ({
  seq,
  receivedAt: '2026-05-20T08:00:01.000Z',
  entry: {
    id: `01900000-0000-7000-8000-${seq.toString(16).padStart(12, '0')}`,
    wall: '01900000-0000-7000-8000-0000000000aa',
    revision: 1,
    at: '2026-05-20T08:00:00Z',
    by: { id: 'crew', name: 'Crew member', role: 'crew' },
    kind: 'reading',
    where: { stage: step.stage.id, section: 'A', course: step.course, station },
    data: { method: 'deviation', value },
  },
})
function advanceAll(layout: ReturnType<typeof layoutOf>, next: () => number, steps: Steps, columns: readonly (readonly { deviation: number }[])[]) {
  let state = emptyState([layout])
  steps.forEach((step, c) => {
    step.points.forEach((station, k) => {
      state = advance(state, recorded(next(), step, station, columns[k]?.[c]?.deviation ?? 0))
    })
  })
  return state
}
