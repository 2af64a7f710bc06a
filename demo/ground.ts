import { type Instrument, type Layout, type Step, stepsOf, type Where } from '@stone-tally/core'
import { CURVE } from './stone'
import type { Told } from './told'

/** Height of the instrument through the story, m. */
export const HI = 11.731
const BENCHMARK = 10.25

const day = (now: Date, plus: number) => new Date(now.getTime() + plus * 86_400_000).toISOString().slice(0, 10)
export const laser = (now: Date): Instrument => ({ name: 'Laser', serial: 'LZ-20417', calibratedUntil: day(now, 120) })
const gauge = (now: Date): Instrument => ({ name: 'Gauge', serial: 'DG-3352', calibratedUntil: day(now, 200) })
const mast = (now: Date): Instrument => ({ name: 'Mast', serial: 'WS-07', calibratedUntil: day(now, 300) })

/** Readings of the story that are out of tolerance: with a cause where they were mended. */
export interface BadReading {
  readonly as: string
  readonly value: number
  readonly cause?: string
  readonly action?: string
  readonly after?: number
}

/** By section, stage, course and station. */
export function badReadings(layout: Layout): ReadonlyMap<string, BadReading> {
  const steps = stepsOf(layout)
  const point = (stage: string, course: number | undefined, i: number) => {
    const step = steps.find((s) => s.section === 'B' && s.stage.id === stage && s.course === course)
    return `B ${stage} ${course ?? ''} ${step?.points[i]}`
  }
  return new Map<string, BadReading>([
    [
      point('dig', undefined, 3),
      {
        as: 'boulder hole',
        value: -0.07,
        cause: 'Boulder came out whole and left a hole under the bottom.',
        action: 'Filled with pad material in one lift, heavy plate, 4 passes.',
        after: -0.004,
      },
    ],
    [
      point('pad-level', undefined, 2),
      { as: 'high pad', value: 0.011, cause: 'Screed rail lifted by a stone.', action: 'Shaved 12 mm, plated once more.', after: 0.001 },
    ],
    [
      point('level', 1, 2),
      {
        as: 'bad1',
        value: -0.007,
        cause: 'Bedding washed thin by overnight rain under two blocks.',
        action: 'Both lifted, bed dressed with stone dust and tamped, reset.',
        after: -0.001,
      },
    ],
    [point('setback', 7, 4), { as: 'bad7', value: -0.016 }],
  ])
}

const at = (s: Step, station?: number): Where => ({
  stage: s.stage.id,
  ...(s.section ? { section: s.section } : {}),
  ...(station === undefined ? {} : { station }),
})
export const clay = {
  grain: 'fine',
  ribbon: 'medium',
  feel: 'sticky',
  colour: 'even',
  smell: 'none',
  water: 'moist',
  origin: 'natural',
  firm: 'firm',
}

/** What was found before the trench of a section was read: weather, sides, a boulder, an old pond. */
export const groundBefore = (say: (t: Told) => void) => (s: Step) => {
  /** The same look a few strides on: one speaks for ten metres, and for one soil. */
  const looksBeside = (of: Step, stations: readonly number[], water: boolean) => {
    for (const station of stations)
      say({ who: 'crew', kind: 'cut', where: at(of, station), data: { slope: 1.5, spoil: 1.1, plant: 1.5, ladder: 7, water, by: 'Mara Quill' } })
  }
  if (s.stage.id === 'pad' && s.section === 'B') {
    say({
      who: 'foreman',
      kind: 'curve',
      where: {},
      as: 'curve',
      data: CURVE,
    })
    say({
      who: 'foreman',
      kind: 'pad-choice',
      where: at(s),
      data: {
        material: 'dense-graded',
        recommended: 'dense-graded',
        reason: 'The outlets lie above the bottom of the pad; open stone would stand full.',
      },
    })
  }
  if (s.stage.id !== 'dig') return
  if (s.section === 'B') {
    say({ who: 'crew', kind: 'weather', where: {}, data: { rain: 0.4, low: 7, wind: 18 }, instrument: mast })
    say({
      who: 'crew',
      kind: 'cut',
      where: at(s, 27),
      data: { width: 0.9, behind: 2, slope: 1.5, spoil: 1.2, plant: 1.5, ladder: 6, water: false, by: 'Mara Quill' },
    })
    looksBeside(s, [20, 25, 29, 31, 34], false)
    say({
      who: 'crew',
      kind: 'obstruction',
      where: at(s),
      data: { what: 'rock', from: 22.3, to: 23.2, above: 0.16, way: 'break-out', note: 'boulder, lifted whole with the bucket' },
    })
    say({ who: 'foreman', kind: 'soil', where: at(s), data: { answers: clay, from: 18, to: 30 } })
    say({
      who: 'foreman',
      kind: 'soil',
      where: at(s),
      as: 'pond',
      data: {
        answers: { ...clay, ribbon: 'short', feel: 'spongy', colour: 'dark', smell: 'earthy', water: 'wet', firm: 'soft' },
        from: 30,
        to: 32,
        place: 'floor',
      },
    })
    say({ who: 'foreman', kind: 'soil', where: at(s), data: { answers: clay, from: 30, to: 32, place: 'sides' } })
    say({
      who: 'foreman',
      kind: 'action',
      where: at(s),
      actionOn: 'pond',
      data: { cause: 'Bottom of an old pond across the line.', action: 'Dug out to stiff clay, fabric, filled in three lifts.' },
    })
    say({
      who: 'crew',
      kind: 'undercut',
      where: at(s),
      recheckOf: 'pond',
      data: {
        from: 30,
        to: 32.2,
        depth: 0.42,
        fill: 'pad material over fabric',
        material: 'pad-material',
        lifts: 3,
        passes: 4,
        fabricLap: 0.6,
        firm: 'bar',
      },
    })
    say({ who: 'foreman', kind: 'soil', where: at(s), data: { answers: clay, from: 32, to: 36 } })
  } else {
    say({ who: 'crew', kind: 'weather', where: {}, data: { rain: 6.5, low: 4, wind: 26 }, instrument: mast })
    say({ who: 'crew', kind: 'weather', where: {}, data: { rain: 14, low: 2, wind: 30, expected: true } })
    say({ who: 'foreman', kind: 'look', where: {}, data: { by: 'Mara Quill', safe: true, seen: 'wet at the foot, no cracks, water led out' } })
    say({
      who: 'crew',
      kind: 'cut',
      where: at(s, 9),
      data: { width: 0.9, behind: 2, slope: 1.5, spoil: 1, plant: 1.5, ladder: 7, water: true, by: 'Mara Quill' },
    })
    looksBeside(s, [3, 15], true)
    say({ who: 'foreman', kind: 'soil', where: at(s), data: { answers: { ...clay, grain: 'mixed', ribbon: 'short' }, from: 0, to: 18 } })
  }
}

const cone = { massBefore: 6.82, massAfter: 3.05, coneMass: 1.62, sandDensity: 1430 }
const counts = { densityStandard: 2306, densityReference: 2300, moistureStandard: 683, moistureReference: 680 }

/** Density of the pad: one test that failed for a dry lift, was reworked and tested again; and the level book closed. */
export const groundAfter = (say: (t: Told) => void) => (s: Step) => {
  if (s.stage.id === 'pad') {
    const test = (t: Partial<Told> & { station: number; data: object }) => {
      const { station, data, ...rest } = t
      say({ who: 'crew', kind: 'density', where: at(s, station), curve: 'curve', data, ...rest })
    }
    if (s.section === 'B') {
      test({ station: 21, data: { method: 'gauge', lift: 1, gauge: { wetDensity: 2241, moisture: 7.6, ...counts } }, instrument: gauge })
      test({ station: 31, as: 'dry lift', data: { method: 'sand-cone', lift: 1, cone: { ...cone, soilMass: 3.12, moisture: 5.6 } } })
      say({
        who: 'foreman',
        kind: 'action',
        where: at(s, 31),
        actionOn: 'dry lift',
        data: {
          cause: 'Lift placed dry over the undercut, no water cart that morning.',
          action: 'Ripped, sprinkled, 4 passes with the heavy plate.',
        },
      })
      test({ station: 31, recheckOf: 'dry lift', data: { method: 'sand-cone', lift: 1, cone: { ...cone, soilMass: 3.32, moisture: 7.9 } } })
      test({ station: 26, data: { method: 'gauge', lift: 2, gauge: { wetDensity: 2252, moisture: 7.9, ...counts } }, instrument: gauge })
      test({ station: 33, data: { method: 'gauge', lift: 2, gauge: { wetDensity: 2236, moisture: 8.2, ...counts } }, instrument: gauge })
    } else {
      test({ station: 5, data: { method: 'gauge', lift: 1, gauge: { wetDensity: 2230, moisture: 7.4, ...counts } }, instrument: gauge })
      test({ station: 14, data: { method: 'gauge', lift: 1, gauge: { wetDensity: 2238, moisture: 7.6, ...counts } }, instrument: gauge })
      test({ station: 4, data: { method: 'gauge', lift: 2, gauge: { wetDensity: 2241, moisture: 7.9, ...counts } }, instrument: gauge })
      test({ station: 12, data: { method: 'gauge', lift: 2, gauge: { wetDensity: 2248, moisture: 8, ...counts } }, instrument: gauge })
    }
  }
  if (s.stage.id === 'pad-level' && s.section === 'B') {
    const book = (kind: string, data: object) => say({ who: 'crew', kind, where: {}, data, instrument: laser })
    book('sight', { sight: 'check', point: 'BM slipway bolt', hi: HI, reading: 1.482, known: BENCHMARK })
    book('sight', { sight: 'foresight', point: 'TP kerb', hi: HI, reading: 1.204 })
    book('setup', { benchmark: 10.527, backsight: 1.318, point: 'TP kerb', turning: true })
    book('sight', { sight: 'foresight', point: 'BM slipway bolt', hi: 11.845, reading: 1.593, known: BENCHMARK, setups: 2 })
    book('setup', { benchmark: BENCHMARK, backsight: 1.481 })
  }
}
