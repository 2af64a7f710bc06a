import {
  advance,
  type Entry,
  fold,
  type Layout,
  layOut,
  nextStep,
  openFindings,
  type EarlierPlan as Plan,
  placesOf,
  type RecordedEntry,
  statusOf,
  stepsOf,
  storedPlan,
} from '@stone-tally/core'
import { SIGNED, smallPlan } from '../core/test/plans'

/** One line of the table: a ratio within this run, and the limit it must keep. */
export interface Figure {
  readonly name: string
  readonly value: number
  readonly limit: number
  readonly over: 'at most' | 'at least'
  readonly unit: string
  readonly note: string
}

export const median = (list: readonly number[]) => [...list].sort((a, b) => a - b)[list.length >> 1] ?? Number.NaN

/** A long wall: 20 sections of 18 m, some 20 courses. */
export function longPlan(): Plan {
  return {
    ...smallPlan,
    length: 360,
    grades: [
      { station: 0, toe: 10, top: 14 },
      { station: 360, toe: 9, top: 13 },
    ],
    drain: { ...smallPlan.drain, outlets: [{ station: 360, invert: 8.9 }] },
    grid: [2, 5, 8, 11].map((course) => ({ course, length: 1.2, type: 'uniaxial 30' })),
    sections: Array.from({ length: 20 }, (_, i) => ({ id: `S${i}`, from: i * 18, to: (i + 1) * 18 })),
  }
}

/** Entries like a long build's: mostly readings, then lifts, units and checks, a few corrections and findings. */
export function entries(layout: Layout, count: number): RecordedEntry[] {
  const steps = stepsOf(layout).filter((s) => s.section !== undefined)
  const list: RecordedEntry[] = []
  for (let i = 0; list.length < count; i++) {
    const step = steps[i % steps.length] as (typeof steps)[number]
    const where = { stage: step.stage.id, section: step.section, ...(step.course === undefined ? {} : { course: step.course }) }
    const put = (kind: string, at: object, data: object) => {
      if (list.length >= count) return
      const n = list.length
      const entry: Entry = {
        id: `01900000-0000-7000-8000-${n.toString(16).padStart(12, '0')}`,
        wall: '01900000-0000-7000-8000-0000000000aa',
        revision: 1,
        at: new Date(1.78e12 + n * 60_000).toISOString(),
        by: { id: `person-${n % 5}`, name: 'Crew member', role: 'crew' },
        kind,
        where: { ...where, ...at },
        data,
      }
      list.push({ seq: n + 1, receivedAt: new Date(1.78e12 + n * 60_000 + 900).toISOString(), entry })
    }
    const { work } = step.stage
    if (work.type === 'readings' && i % 11 === 3 && step.stage.scope === 'course' && step.stage.when !== 'first')
      put('sighting', { station: step.points[0] ?? 0 }, { worst: 0.002 })
    else if (work.type === 'readings')
      for (const at of placesOf(step)) put('reading', at, { method: 'deviation', value: ((i * 7 + at.station * 13) % 9) / 2000 - 0.002 })
    else if (work.type === 'units') put('units', {}, { set: 5 })
    else if (work.type === 'lifts') put('lift', {}, { lift: 1, thickness: 0.08, passes: 3, plant: 'light-plate' })
    else if (work.type === 'check') put('check', {}, { confirmed: work.items.map((x) => x.id) })
    else if (work.type === 'pipe')
      put(
        'pipe',
        {},
        { from: 0, to: 9, diameter: 0.1, bed: 0.1, sock: false, start: 'cap', end: 'outlet', laps: 'with', confirmed: work.items.map((x) => x.id) },
      )
    else if (work.type === 'grid')
      put('geogrid', {}, { type: 'uniaxial 30', length: 1.2, front: 0.04, direction: 'across', tight: true, roll: `R${i % 9}` })
    if (i % 3 === 0) {
      const photo = {
        file: '01900000-0000-7000-8000-00000000f0f0',
        sha256: 'a'.repeat(64),
        name: 'p.jpg',
        type: 'image/jpeg',
        bytes: 9,
        width: 4,
        height: 3,
      }
      put('photo', {}, { ...photo, location: 'none' })
    }
    if (step.stage.also?.includes('unit-level')) put('unit-level', {}, { unit: 1 + (i % 9), along: 0.001 })
    if (step.stage.hold) put('release', {}, { decision: 'released', reason: 'seen', signature: SIGNED })
    if (i % 40 === 7) put('override', {}, { reason: 'rain coming' })
    if (i % 60 === 9) put('weather', {}, { rain: i % 12, low: 6, wind: 20 })
    if (i % 60 === 19) put('roll', {}, { roll: `R${i % 9}`, type: 'uniaxial 30', width: 2, length: 50 })
    if (i % 60 === 29) put('note', {}, { text: 'fill from the second heap' })
    if (i % 60 === 39) put('density', {}, { method: 'seen', lift: 1, seen: 'firm under the heel' })
    if (i % 60 === 49)
      put(
        'gradation',
        {},
        {
          of: 'soil',
          source: 'sheet',
          points: [
            { size: 0.1, passing: 20 },
            { size: 2, passing: 90 },
          ],
        },
      )
  }
  return list
}

const time = (work: () => void) => {
  const start = performance.now()
  work()
  return performance.now() - start
}
const heap = () => {
  globalThis.gc?.()
  globalThis.gc?.()
  return process.memoryUsage().heapUsed
}

/** What the entries take when parsed, and with the whole index and every status beside them. */
function heapFigure(layout: Layout, text: string): Figure {
  const before = heap()
  const held = JSON.parse(text) as RecordedEntry[]
  const parsed = heap() - before
  const state = fold([layout], held)
  for (const s of state.steps) statusOf(state, s)
  const all = heap() - before
  // Both are used after the measuring, so that neither is collected before it.
  const note = `${(all / 1048576).toFixed(0)} of ${(parsed / 1048576).toFixed(0)} MB for ${held.length} entries in ${state.logs.size} places`
  return { name: 'heap folded / parsed entries', value: all / parsed, limit: 2, over: 'at most', unit: '×', note }
}

/** Folding 50,000 entries against JSON.parse, adding one against folding all, and what the index holds in memory. */
export function foldFigures(): Figure[] {
  const laid = layOut(storedPlan(longPlan()))
  if (!laid.ok) throw new Error(laid.problems[0]?.message)
  const text = JSON.stringify(entries(laid.value, 50_000))
  const memory = heapFigure(laid.value, text)
  const parse: number[] = []
  const whole: number[] = []
  for (let i = 0; i < 7; i++) {
    let parsed: RecordedEntry[] = []
    parse.push(
      time(() => {
        parsed = JSON.parse(text) as RecordedEntry[]
      }),
    )
    // Whole: indexed, every step's status known, next step and open findings found.
    whole.push(
      time(() => {
        const state = fold([laid.value], parsed)
        for (const s of state.steps) statusOf(state, s)
        nextStep(state)
        openFindings(state)
      }),
    )
  }
  let state = fold([laid.value], JSON.parse(text) as RecordedEntry[])
  for (const s of state.steps) statusOf(state, s)
  const extra = entries(laid.value, 50_400).slice(50_000)
  const one = extra.map((e) =>
    time(() => {
      state = advance(state, e)
      const step = state.byKey.get([e.entry.where.stage, e.entry.where.section, e.entry.where.course ?? ''].join('|'))
      if (step) statusOf(state, step)
      nextStep(state, e.entry.where.section)
    }),
  )
  return [
    {
      name: 'add one entry / fold 50,000',
      value: (100 * median(one)) / median(whole),
      limit: 1,
      over: 'at most',
      unit: '%',
      note: `${(median(one) * 1000).toFixed(0)} µs, status and next step included`,
    },
    {
      name: 'fold 50,000 / JSON.parse',
      value: median(whole) / median(parse),
      limit: 4,
      over: 'at most',
      unit: '×',
      note: `${median(whole).toFixed(0)} ms, every status included`,
    },
    memory,
  ]
}
