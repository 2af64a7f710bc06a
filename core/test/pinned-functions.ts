// What is worked out of numbers alone, on coarse numbers: halves, eighths and tenths, so that what lies exactly at a limit comes up again and again.

import { createHash } from 'node:crypto'
import {
  type BondInput,
  baseSteps,
  bond,
  coarseCorrection,
  compareLayouts,
  cutting,
  cuttingBound,
  fabricArea,
  fabricLap,
  fitCurve,
  fitPad,
  gridCut,
  identifySoil,
  judgeDensity,
  KINDS,
  type Layout,
  liftPlans,
  lifts,
  looksLikeShare,
  otherDatum,
  padAdvice,
  padRaster,
  proctor,
  quickBond,
  reduceBook,
  rod,
  type Sight,
  SOILS,
  type SoilAnswers,
  type SoilClass,
  sandCone,
  say,
  screedPlan,
  searchBond,
  slip,
  soilQuestions,
  stakeMarks,
  standardCounts,
  swellFactor,
  testsOwed,
  trench,
  trenchArea,
  truckLoads,
  undercutVolume,
  WINDOWS,
  weatherCautions,
  zeroAirVoids,
} from '@stone-tally/core'
import { type Draw, maybe, on, pick, several } from './drawn'
import { numbers } from './pinned'
import { kindSaid } from './pinned-kinds'
import { buried, recommended, rulesSaid, strangeBooks } from './pinned-rules'
import { layoutOf } from './plans'
import { started } from './started'

const SIGHTS = ['backsight', 'intermediate', 'foresight', 'check'] as const
function sights(draw: Draw): Sight[] {
  const known: Record<string, number> = { BM: 10, B2: 10.25 }
  const points = ['BM', 'B2', 'TP1', 'TP2', 'A']
  const list: Sight[] = [{ kind: 'backsight', point: 'BM', reading: on(draw, 0.5, 2, 0.125), known: 10 }]
  const seen = new Set(['BM'])
  for (let i = 0; i < 14; i++) {
    const kind = pick(draw, SIGHTS)
    // What is looked back at was mostly seen before.
    const point = kind === 'intermediate' || kind === 'foresight' || maybe(draw, 0.04) ? pick(draw, points) : pick(draw, [...seen])
    if (kind !== 'check') seen.add(point)
    list.push({
      kind,
      point,
      reading: on(draw, 1, 1.75, 0.125),
      ...(known[point] && maybe(draw, 0.8) ? { known: known[point] } : {}),
      ...(maybe(draw, 0.2) ? { id: `s${i}` } : {}),
    })
  }
  return maybe(draw, 0.15) ? list.slice(1) : list
}

function stretch(draw: Draw): BondInput {
  const length = pick(draw, [0.2, 0.4, 0.5])
  const from = pick(draw, [0, 0, 3, -1.5])
  const to = Math.round((from + on(draw, 0.1, 3, 0.05)) * 100) / 100
  return {
    from,
    to,
    unit: { length },
    half: maybe(draw),
    minPiece: pick(draw, [0, 0.1, 0.1, 0.1, 0.15, 0.15, 0.2, 0.6]),
    minOverlap: pick(draw, [0, 0.05, 0.1, 0.1]),
    below: several(draw, 0, 8, () => Math.round((from + on(draw, 0, 3, 0.05)) * 100) / 100),
    endCuts: maybe(draw),
  }
}
const stretchToBond = (draw: Draw) => {
  const s = stretch(draw)
  return {
    length: s.to - s.from,
    full: s.unit.length,
    half: s.half,
    minPiece: s.minPiece,
    minOverlap: s.minOverlap,
    below: s.below.map((b) => b - s.from).sort((a, b) => a - b),
    cutStart: maybe(draw),
    cutEnd: maybe(draw),
  }
}
const sizes = (draw: Draw) => several(draw, 1, 6, () => ({ length: on(draw, 0.5, 5, 0.25), count: on(draw, 1, 5, 1) }))
const padPoints = (draw: Draw) =>
  several(draw, 0, 9, () => ({ station: on(draw, 0, 4, 1), offset: on(draw, 0, 0.6, 0.3), deviation: on(draw, -0.008, 0.008, 0.002) }))
const laboratory = (draw: Draw) => ({
  points: several(draw, 3, 6, () => {
    const moisture = on(draw, 0, 14, 0.5)
    return { moisture, dryDensity: on(draw, 1990, 2010, 5) - (moisture - 8) ** 2 * pick(draw, [2, 4, 4, 4]) }
  }),
  ...(maybe(draw, 0.3) ? { gs: pick(draw, [2.2, 2.65]) } : {}),
})
const answers = (draw: Draw, table: number) =>
  Object.fromEntries(
    soilQuestions(table)
      .filter(() => maybe(draw, 0.9))
      .map((q) => [q.id, pick(draw, q.answers as readonly (readonly [string, ...unknown[]])[])[0]]),
  ) as unknown as SoilAnswers

/** What a revision may change without moving a unit. */
const CHANGED: Readonly<Record<string, readonly unknown[]>> = {
  engineer: ['plan E-2', undefined],
  drawing: ['sheet 4', undefined],
  benchmark: [{ name: 'BM 2', elevation: 10.125 }],
  excavation: [
    { behind: 1.5, slope: 1.5 },
    { behind: 1.2, slope: 1 },
  ],
  top: [{ style: 'level' }, undefined],
  openings: [[{ name: 'culvert', station: 3, width: 0.5, bottom: 10.2, height: 0.4 }], undefined],
  obstacles: [[{ name: 'gas', station: 2, behind: 0.5, elevation: 9.5 }], undefined],
  holds: [undefined, [], ['water', 'slope']],
  stands: [undefined, [{ kind: 'slope', rise: 0.3 }], [{ kind: 'building', away: 3 }]],
  found: [undefined, { points: [{ station: 0, behind: 0, elevation: 10 }] }],
  front: [undefined, { slope: 0.2, erodible: true }, { slope: 0.1, erodible: false }],
  frost: [undefined, 0.5],
  engineerBy: ['Another', undefined],
  padSteps: [undefined, [], [3, 4.5]],
  water: [undefined, { heel: { height: 0.5 } }],
  sections: [
    [
      { id: 'A', from: 0, to: 4 },
      { id: 'B', from: 4, to: 9.6 },
    ],
  ],
}
const compared: Layout[] = []
function plansCompared(draw: Draw): unknown {
  if (compared.length === 0)
    compared.push(layoutOf(started('hollow-core')), layoutOf(started('gabion')), layoutOf(started('hollow-core', { length: 7.2, frost: 0.4 })))
  const one = pick(draw, compared)
  const changed = Object.fromEntries(Object.entries(CHANGED).flatMap(([name, values]) => (maybe(draw, 0.3) ? [[name, pick(draw, values)]] : [])))
  const other = { ...one, plan: { ...one.plan, ...changed } } as Layout
  return [compareLayouts(one, other), compareLayouts(other, one), compareLayouts(one, pick(draw, compared))]
}

/** What is pinned: each on so many draws. */
export const FUNCTIONS: Readonly<Record<string, readonly [draws: number, of: (draw: Draw, n: number) => unknown]>> = {
  'level book': [600, (d) => reduceBook(sights(d), { perSetup: 0.125, check: 0.125 })],
  slips: [
    400,
    (d, n) => [
      slip((n - 200) / 32),
      slip((n - 200) / 400),
      slip(on(d, 0.98, 1.03, 0.001)),
      slip(on(d, 0.29, 0.32, 0.001), 0.3),
      slip(on(d, 0.48, 0.52, 0.001)),
      otherDatum(n / 8, 25),
      otherDatum(n / 8, 25, 0.125),
    ],
  ],
  stakes: [
    40,
    (d) =>
      stakeMarks(
        on(d, 10, 12, 0.25),
        several(d, 0, 4, (course) => ({ course, top: on(d, 10, 12, 0.25) })),
      ),
  ],
  density: [
    600,
    (d) =>
      judgeDensity(
        { dryDensity: pick(d, [1899, 1900, 1899.5, 1920, 2000, 2160, 2180, 2200]), moisture: on(d, 5, 14, 0.05) },
        { optimumMoisture: 9.5, maximumDryDensity: 2000 },
        95,
        pick(d, [WINDOWS.pad, WINDOWS.backfill]),
        ...((maybe(d, 0.2) ? [2.6] : []) as [number?]),
      ),
  ],
  'sand cone': [
    300,
    (d) =>
      sandCone({
        massBefore: on(d, 5, 7, 0.5),
        massAfter: on(d, 2, 4, 0.5),
        coneMass: on(d, 1, 3, 0.5),
        sandDensity: 1430,
        soilMass: on(d, 0, 3, 0.5),
        moisture: pick(d, [0, 0.08, 0.5, 1, 8.4]),
        maximumDryDensity: 2017,
      }),
  ],
  gauge: [
    100,
    (d) =>
      standardCounts({
        wetDensity: 2000,
        moisture: 8,
        densityStandard: on(d, 980, 1020, 5),
        densityReference: 1000,
        moistureStandard: on(d, 480, 520, 5),
        moistureReference: 500,
      }),
  ],
  proctor: [400, (d) => [proctor(laboratory(d)), fitCurve(laboratory(d))]],
  stones: [
    60,
    (d) => [
      coarseCorrection({ optimumMoisture: 9, maximumDryDensity: 2000 }, { share: on(d, 0, 50, 10), gs: 2.65, moisture: 1 }),
      zeroAirVoids(on(d, 0, 20, 1)),
      looksLikeShare(on(d, 0, 1.5, 0.5)),
    ],
  ],
  lifts: [
    200,
    (d) => {
      const thickness = on(d, 0, 1.2, 0.05)
      return [
        lifts({ thickness, maxLift: on(d, 0, 0.3, 0.05), looseFactor: 1.25 }),
        liftPlans({ thickness, maxLift: on(d, 0, 0.3, 0.05), looseFactor: 1.25, fine: maybe(d) }),
        testsOwed({ lifts: on(d, 0, 4, 1), length: on(d, 0, 60, 5), given: on(d, 0, 9, 1), every: 15 }),
        fabricArea(on(d, 1, 60, 1), 2, 10, fabricLap(maybe(d))),
        undercutVolume(on(d, 1, 9, 1), 1.5, on(d, 0, 1, 0.25)),
      ]
    },
  ],
  rod: [
    40,
    (d) =>
      rod({
        benchmark: 10,
        backsight: on(d, 1, 2, 0.25),
        points: several(d, 0, 3, () => ({ target: on(d, 9, 11, 0.25), reading: on(d, 1, 2, 0.25) })),
      }),
  ],
  'pad advice': [
    500,
    (d) =>
      padAdvice({
        padBottom: 9.25,
        padTop: 9.5,
        outlet: pick(d, [9.2, 9.25, 9.27, 9.28, 9.5, 9.52, 9.53, 9.8]),
        subgrade: pick(d, Object.keys(SOILS) as SoilClass[]),
        frost: maybe(d),
        rain: maybe(d),
        unitMass: pick(d, [40, 250, 251]),
        height: pick(d, [0.5, 0.6, 0.61, 2]),
        flexible: maybe(d),
      }),
  ],
  screed: [
    400,
    (d) => {
      const p = padPoints(d)
      const { values, ...raster } = padRaster(padPoints(d), { from: 0, to: 4, front: 0, back: 0.6 }, 5, 4)
      return [screedPlan(p, 0.004), screedPlan(p, 0.004, 0.005), fitPad(p), raster, [...values]]
    },
  ],
  trench: [
    200,
    (d) => {
      let at = 0
      const sections = several(d, 2, 5, () => {
        at += on(d, 0, 4, 1) || (maybe(d, 0.8) ? 1 : 0)
        return { station: at, ground: on(d, 10, 12, 0.5), bottom: on(d, 9, 11, 0.5), width: on(d, 0.5, 2, 0.5) }
      })
      return [
        trench({ sideSlope: on(d, 0, 2, 0.5), swell: pick(d, [0, 0.25, 0.5, 1, 1.25]), truckVolume: pick(d, [1, 2, 8]), sections }),
        trenchArea({ ground: on(d, 10, 12, 0.5), bottom: 11, width: 1 }, 0.5),
        swellFactor(on(d, 0, 2, 0.25)),
      ]
    },
  ],
  weather: [
    400,
    (d) => {
      const one = () => ({
        rain: pick(d, [0, 0.9, 1, 4.9, 5, 5.1, 19.9, 20, 21]),
        low: pick(d, [-1, 0, 0.1, 3, 3.1, 12]),
        wind: pick(d, [5, 34.9, 35, 36]),
      })
      return weatherCautions(one(), maybe(d, 0.7) ? one() : undefined)
    },
  ],
  soil: [1500, (d) => [identifySoil(answers(d, 1), 1), identifySoil(answers(d, 2), 2)]],
  ...Object.fromEntries(KINDS.map((k) => [`kind ${k.kind}`, [300, (d: Draw) => kindSaid(k, d)] as const])),
  'rule books': [700, rulesSaid],
  'strange rule books': [300, strangeBooks],
  'schools spoken for': [1500, recommended],
  embedment: [400, buried],
  'plans compared': [300, plansCompared],
  'pad steps': [
    500,
    (d) => {
      let at = pick(d, [0, 0, 2])
      const profile = several(d, 2, 6, () => {
        const p = { station: at, toe: on(d, 10, 11, 0.1) }
        at += on(d, 0.2, 2, 0.2) * (maybe(d, 0.02) ? 0 : 1)
        return p
      })
      const keepOff = several(d, 0, 2, () => ({ station: on(d, 0, 5, 0.1), within: pick(d, [0.1, 0.2, 0.3]) }))
      const levels = maybe(d, 0.3) ? [0, 0.2, 0.5, 0.6, 1] : undefined
      const input = {
        datum: 9.8,
        minEmbedment: pick(d, [0, 0.1, 0.2]),
        minRun: pick(d, [0, 0.4, 0.8, 1, 30]),
        unit: { height: 0.2, length: 0.4 },
        profile,
      }
      return [baseSteps(input, keepOff, levels), baseSteps(input)]
    },
  ],
  bond: [1500, (d) => bond(stretch(d))],
  'bond of a stretch': [1200, (d) => [searchBond(stretchToBond(d)), searchBond(stretchToBond(d), false), quickBond(stretchToBond(d))]],
  cutting: [
    500,
    (d) => {
      const stock = pick(d, [5, 6, 10])
      return [cutting(stock, sizes(d)), cuttingBound(stock, sizes(d)), cutting(stock, sizes(d), 3)]
    },
  ],
  rolls: [150, (d) => gridCut({ rollLength: pick(d, [4, 5, 10]), strips: sizes(d) })],
  trucks: [
    300,
    (d) =>
      truckLoads({
        units: several(d, 0, 12, () => ({ mass: on(d, 0, 600, 50) })),
        capacity: { mass: pick(d, [500, 550, 1000]), count: on(d, 1, 4, 1) },
      }),
  ],
}

const PART = 150
/** How many parts of draws a function has. */
export const partsOf = (name: string) => Math.ceil((FUNCTIONS[name] as (typeof FUNCTIONS)[string])[0] / PART)

/** A mark of a part of its draws, to nine digits. */
export function functionMark(name: string, part: number): string {
  const [count, of] = FUNCTIONS[name] as (typeof FUNCTIONS)[string]
  const hash = createHash('sha256')
  for (let n = part * PART; n < Math.min(count, (part + 1) * PART); n++) {
    const made = of(numbers(7907 * (n + 1)), n)
    const text = JSON.stringify(made, (_k, v) => (typeof v === 'number' && !Number.isInteger(v) ? Number(v.toPrecision(9)) + 0 : v))
    hash.update(say(text ?? '', 'metric'))
  }
  return hash.digest('hex').slice(0, 12)
}
/** The marks of all parts. */
export const functionMarks = (name: string): string[] => Array.from({ length: partsOf(name) }, (_, part) => functionMark(name, part))
