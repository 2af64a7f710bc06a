import { aim, type Layout, limitAt, placesOf, type Step, stepsOf, targetAt, type Where } from '@stone-tally/core'
import { COUNTS, looksAlong } from './builds'
import { badReadings, clay, groundAfter, groundBefore, HI, laser } from './ground'
import { storeOf } from './store'
import type { Told } from './told'

/** Repeatable noise (a linear congruential generator), so that every demo tells the same story. */
function noise(seed: number) {
  let s = seed
  return () => {
    s = (s * 1103515245 + 12345) % 2147483648
    return s / 2147483648 - 0.5
  }
}

const whereOf = (s: Step, station?: number): Where => ({
  stage: s.stage.id,
  ...(s.section ? { section: s.section } : {}),
  ...(s.course === undefined ? {} : { course: s.course }),
  ...(station === undefined ? {} : { station }),
})
const SOIL_SIEVE = [
  { size: 0.002, passing: 14 },
  { size: 0.02, passing: 38 },
  { size: 0.063, passing: 61 },
  { size: 0.5, passing: 79 },
  { size: 2, passing: 91 },
  { size: 8, passing: 100 },
]
const STONE_SIEVE = [
  { size: 4, passing: 6 },
  { size: 8, passing: 21 },
  { size: 16, passing: 92 },
  { size: 22, passing: 100 },
]
/** Steps of the wall as a whole that wait for every section. */
const AT_THE_END = new Set(['finish', 'pour', 'final'])
/** Station at which the courses of section B gain height, m. */
const CREEPS = 30
const millimetre = (m: number) => Math.round(m * 1000) / 1000

/** How far a scripted reading is off, m; undefined where the story leaves it to chance. */
type Scripted = (stage: string, i: number) => number | undefined

/** Everything a checklist asks for, with the sizes a careful crew finds. */
const allOf = (s: Step) =>
  s.stage.work.type === 'check'
    ? {
        confirmed: s.stage.work.items.map((i) => i.id),
        ...(s.stage.work.until ? { until: '2099-12-31' } : {}),
        ...(s.stage.work.measures
          ? { measured: s.stage.work.measures.map((m) => ({ id: m.id, value: m.either ? 0.002 : m.most === 'overhangMax' ? 0.035 : 0.18 })) }
          : {}),
      }
    : {}

/**
 * A trench and pad whose level is still being worked on: some points high, some low, none of them mended yet.
 */
export function tellPad(layout: Layout): Told[] {
  const told: Told[] = []
  const random = noise(23)
  // A low hollow and a ridge, as a screed rail that sagged leaves them.
  const off: Scripted = (stage, i) =>
    stage === 'dig'
      ? [0.004, -0.011, 0.016, -0.034, 0.006][i % 5]
      : [0.001, 0.004, 0.009, 0.012, 0.006, 0.002, -0.004, -0.009, -0.006, -0.001][i % 10]
  for (const s of stepsOf(layout)) {
    const where = whereOf(s)
    const { work } = s.stage
    if (s.stage.id === 'units' || AT_THE_END.has(s.stage.id)) break
    if (s.stage.id === 'dig')
      told.push({ who: 'crew', kind: 'setup', where: {}, data: { benchmark: layout.plan.benchmark.elevation, backsight: 1.62 }, instrument: laser })
    if (s.stage.id === 'subgrade') {
      const own = layout.plan.sections.find((x) => x.id === s.section) ?? { from: 0, to: layout.plan.length }
      const dig = { stage: 'dig', section: s.section }
      told.push({ who: 'foreman', kind: 'soil', where: dig, data: { answers: clay, from: own.from, to: own.to } })
      for (const station of looksAlong(own.from, own.to))
        told.push({
          who: 'foreman',
          kind: 'cut',
          where: { ...dig, station },
          data: { slope: 1.5, spoil: 1, plant: 1.5, ladder: 7, water: false, by: 'Mara Quill' },
        })
    }
    if (work.type === 'check') {
      told.push({
        who: s.section ? 'crew' : 'foreman',
        kind: 'check',
        where,
        data: { ...allOf(s), detail: 'seen with the plan in hand' },
      })
    } else if (work.type === 'lifts') {
      for (let lift = 1; lift <= (s.lifts?.count ?? 1); lift++) {
        told.push({
          who: 'crew',
          kind: 'lift',
          where,
          data: { lift, thickness: s.lifts?.compacted ?? 0.1, passes: 3, plant: 'heavy-plate', near: 1.2, fill: 'granular', squeeze: 'ball' },
        })
      }
    } else if (work.type === 'readings') {
      const hi = millimetre(layout.plan.benchmark.elevation + 1.62)
      placesOf(s).forEach((at, i) => {
        const across = at.offset !== undefined && at.offset > 0 ? 0.6 : 1
        const value = millimetre((off(s.stage.id, i) ?? 0) * across + random() * 0.002)
        const target = targetAt(layout, work.target, { ...where, ...at })
        const as = `${s.key} ${i}`
        told.push({
          who: 'crew',
          kind: 'reading',
          where: { ...where, ...at },
          data: { method: 'rod', hi, value: millimetre(aim({ method: 'rod', hi }, target) - value) },
          instrument: laser,
          as,
        })
        if (s.stage.id === 'dig' && Math.abs(value) > limitAt(layout, s.stage, where).value) {
          told.push({
            who: 'foreman',
            kind: 'action',
            where: { ...where, ...at },
            data: { cause: 'Bucket went too deep.', action: 'Filled with pad material, plated.' },
            actionOn: as,
          })
          told.push({
            who: 'crew',
            kind: 'reading',
            where: { ...where, ...at },
            data: { method: 'rod', hi, value: millimetre(aim({ method: 'rod', hi }, target) + 0.003) },
            recheckOf: as,
          })
        }
      })
    }
    if (s.stage.id === 'pad-level') continue
    if (s.stage.hold)
      told.push({
        who: s.stage.hold === 'before-digging' ? 'foreman' : 'inspector',
        kind: 'release',
        where,
        data: { decision: 'released', reason: 'Seen on site.', signature: { typed: s.stage.hold === 'before-digging' ? 'Mara Quill' : 'Ines Vale' } },
      })
  }
  return told
}

/**
 * Three weeks at the queue-lane wall: section B up to course 7, section A to its first course that waits for release;
 * one nonconformance closed, one open.
 */
export function tellStory(layout: Layout, now = Date.now()): Told[] {
  const store = storeOf(layout, now)
  const random = noise(7)
  const told: Told[] = []
  const say = (t: Told) => told.push(t)
  const steps = stepsOf(layout)
  const bad = badReadings(layout)
  const detail: Record<string, string> = {
    services: 'locate ticket 40-1187',
    'set-out': 'slipway bolt and east kerb line',
    subgrade: 'clay of low plasticity; old pond bottom at 30 to 32 m dug out',
    bedding: 'string at the back',
  }
  const readings = (s: Step) => {
    const target = s.stage.work.type === 'readings' ? s.stage.work.target : 'alignment'
    for (const { station, offset } of placesOf(s)) {
      const where = { ...whereOf(s, station), ...(offset === undefined ? {} : { offset }) }
      const limit = limitAt(layout, s.stage, where).value
      const off = random() * limit * 1.2
      const across = target === 'alignment' || target === 'setback'
      const wrong = (offset ?? -1) > 0 ? undefined : bad.get(`${s.section} ${s.stage.id} ${s.course ?? ''} ${station}`)
      // One place gains a little with every course; nobody has noticed yet.
      const creep =
        s.section === 'B' && s.stage.id === 'level' && Math.abs(station - CREEPS) < 0.2 ? 0.0003 + 0.0008 * ((s.course ?? 1) - 1) : undefined
      const value = wrong ? wrong.value : millimetre(creep ?? off)
      const read = (v: number) =>
        across
          ? { method: 'deviation', value: v }
          : { method: 'rod', hi: HI, value: millimetre(aim({ method: 'rod', hi: HI }, targetAt(layout, target, where)) - v) }
      const who = s.stage.id === 'level' && s.course === 1 ? 'inspector' : 'crew'
      const instrument = across ? {} : { instrument: laser }
      say({ who, kind: 'reading', where, data: read(value), ...(wrong ? { as: wrong.as } : {}), ...instrument })
      if (!wrong?.cause) continue
      say({ who: 'foreman', kind: 'action', where, data: { cause: wrong.cause, action: wrong.action }, actionOn: wrong.as })
      say({ who, kind: 'reading', where, data: read(wrong.after ?? -0.001), recheckOf: wrong.as, ...instrument })
    }
  }
  const work = (s: Step) => {
    switch (s.stage.work.type) {
      case 'check':
        return say({
          who: s.section ? 'crew' : 'foreman',
          kind: 'check',
          where: whereOf(s),
          data: { ...allOf(s), ...(detail[s.stage.id] ? { detail: detail[s.stage.id] } : {}) },
        })
      case 'lifts': {
        const pad = s.stage.work.of === 'pad'
        for (let lift = 1; lift <= (s.lifts?.count ?? 1); lift++) {
          const tested = pad || (s.course ?? 0) <= 5
          const own = layout.plan.sections.find((x) => x.id === s.section) ?? { from: 0, to: layout.plan.length }
          // One test for each fifteen metres: a lift of eighteen is plated, and tested, in two stretches.
          const half = Math.round((own.from + own.to) / 2)
          const test = (station: number) =>
            say({
              who: 'crew',
              kind: 'density',
              where: { ...whereOf(s), station },
              curve: 'curve',
              data: { method: 'gauge', lift, gauge: { wetDensity: Math.round(2240 + random() * 24), moisture: 7.2, ...COUNTS } },
            })
          for (const stretch of tested
            ? [
                { from: own.from, to: half },
                { from: half, to: own.to },
              ]
            : [{}])
            say({
              who: 'crew',
              kind: 'lift',
              where: whereOf(s),
              data: {
                lift,
                thickness: s.lifts?.compacted ?? 0.1,
                passes: pad ? 4 : 3,
                plant: pad ? 'heavy-plate' : 'light-plate',
                ...(pad ? {} : { fill: 'granular' }),
                ...stretch,
              },
            })
          // What is typed with a lift pays for no test: each is measured, in each half.
          if (tested && !pad) for (const station of [(own.from + half) / 2, (half + own.to) / 2]) test(station)
        }
        return
      }
      case 'units': {
        if (s.section === 'B' && s.course === 3) {
          say({ who: 'crew', kind: 'units', where: whereOf(s), data: { set: s.planned - 4 }, as: 'miscount' })
          say({
            who: 'crew',
            kind: 'units',
            where: whereOf(s),
            data: { set: s.planned - 6, rejected: 2 },
            supersedes: 'miscount',
            reason: 'Two halves were counted as one.',
          })
          return say({ who: 'crew', kind: 'units', where: whereOf(s), data: { set: 6 } })
        }
        return say({ who: 'crew', kind: 'units', where: whereOf(s), data: { set: s.planned } })
      }
      case 'pipe': {
        const own = s.over?.[0] ?? { from: 0, to: 0 }
        // Laid in two stretches: what can be seen at once is what one photo shows.
        const half = Math.round((own.from + own.to) / 2)
        for (const [i, [from, to]] of [
          [own.from, half],
          [half, own.to],
        ].entries()) {
          const as = `pipe ${s.section} ${i}`
          say({
            who: 'crew',
            kind: 'pipe',
            where: whereOf(s),
            as,
            data: {
              from,
              to,
              diameter: layout.building.drain?.diameter,
              bed: i === 0 ? 0.1 : 0.09,
              sock: false,
              start: i === 0 ? 'cap' : 'joined',
              end: i === 0 ? 'joined' : 'outlet',
              laps: 'with',
              confirmed: s.stage.work.items.map((x) => x.id),
            },
          })
          say({
            who: 'crew',
            kind: 'photo',
            where: whereOf(s),
            data: { caption: i === 0 ? 'pipe on its bed' : 'outlet, screened' },
            picture: i === 0 ? 'pipe' : 'outlet',
            of: as,
          })
        }
        return
      }
      case 'grid':
        if (s.course === 5) say({ who: 'crew', kind: 'photo', where: whereOf(s), data: { caption: 'layer pulled tight' }, picture: 'grid' })
        return say({
          who: 'crew',
          kind: 'geogrid',
          where: whereOf(s),
          data: {
            type: s.grid?.type,
            length: s.grid?.length,
            front: 0.04,
            direction: 'across',
            tight: true,
            roll: s.grid?.type === 'uniaxial 40' ? 'U40-117' : 'U30-204',
            pins: 18,
            cover: 0.2,
          },
        })
      case 'readings':
        return readings(s)
    }
  }
  const release = (s: Step, reason: string) =>
    say({
      who: s.stage.hold === 'before-digging' ? 'foreman' : 'inspector',
      kind: 'release',
      where: whereOf(s),
      data: { decision: 'released', reason, signature: { typed: s.stage.hold === 'before-digging' ? 'Mara Quill' : 'Ines Vale' } },
    })
  const before = groundBefore(say)
  const after = groundAfter(say)
  const upTo = (section: string | undefined, last: (s: Step) => boolean) => {
    for (const s of steps) {
      if (s.section !== section || AT_THE_END.has(s.stage.id)) continue
      if (s.section === 'B' && s.course === 5 && s.stage.id === 'level') {
        say({
          who: 'foreman',
          kind: 'override',
          where: whereOf(s),
          data: { reason: 'Level dropped in the water; course checked by string, sighted true end to end.' },
        })
        continue
      }
      before(s)
      work(s)
      after(s)
      if (last(s)) return
      if (s.stage.hold) release(s, s.stage.hold === 'drain' ? 'Fall read through, outlets run, stone clean.' : 'Seen on site, readings checked.')
    }
  }
  upTo(undefined, () => false)
  say({
    who: 'crew',
    kind: 'setup',
    where: {},
    data: { benchmark: layout.plan.benchmark.elevation, backsight: millimetre(HI - layout.plan.benchmark.elevation) },
    instrument: laser,
  })
  say({ who: 'foreman', kind: 'note', where: {}, data: { text: 'Dry, wind off the water. Excavator from the east end, lowest step first.' } })
  for (const [roll, lot, type] of [
    ['U40-117', 'lot 8812', 'uniaxial 40'],
    ['U30-204', 'lot 9020', 'uniaxial 30'],
  ])
    say({ who: 'foreman', kind: 'roll', where: {}, data: { roll, lot, type, width: 2, length: 50 } })
  say({ who: 'foreman', kind: 'gradation', where: {}, data: { of: 'soil', source: 'laboratory sheet 33, clay behind', points: SOIL_SIEVE } })
  say({ who: 'foreman', kind: 'gradation', where: {}, data: { of: 'stone', source: 'quarry sheet 12, 8/16', points: STONE_SIEVE } })
  told.push(...store.begin)
  upTo('B', (s) => s.course === 7 && s.stage.id === 'setback')
  told.push(...store.middle)
  say({ who: 'foreman', kind: 'note', where: {}, data: { text: 'Rain from noon; fill covered. Second half started behind the ramp.' } })
  upTo('A', (s) => s.stage.id === 'line')
  told.push(...store.end)
  return told
}
