// What is worked out of the ground by numbers alone.
import {
  coarseCorrection,
  fabricArea,
  fabricLap,
  fitCurve,
  fitPad,
  identifySoil,
  judgeDensity,
  liftPlans,
  lifts,
  looksLikeShare,
  otherDatum,
  padAdvice,
  padRaster,
  proctor,
  reduceBook,
  rod,
  type Sight,
  SOILS,
  type SoilAnswers,
  type SoilClass,
  sandCone,
  screedPlan,
  slip,
  soilQuestions,
  stakeMarks,
  standardCounts,
  swellFactor,
  testsOwed,
  trench,
  trenchArea,
  undercutVolume,
  WINDOWS,
  weatherCautions,
  zeroAirVoids,
} from '@stone-tally/core'
import { type Draw, maybe, on, type Pinned, pick, several } from './drawn'

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

/** Level book, tests of the pad, lifts, soil and weather. */
export const GROUND: Readonly<Record<string, Pinned>> = {
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
}
