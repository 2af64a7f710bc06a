import { aim, type Layout, limitAt, placesOf, type Step, stepsOf, targetAt, type Where } from '@stone-tally/core'

/** A fact of the story: who says it, and the entry without its id and time. */
export interface Told {
  readonly who: 'foreman' | 'crew' | 'inspector'
  readonly kind: string
  readonly where: Where
  readonly data: unknown
  /** Names this fact, so that a later one can correct or re-check it. */
  readonly as?: string
  readonly supersedes?: string
  readonly recheckOf?: string
  readonly actionOn?: string
}

/** Repeatable noise (a linear congruential generator), so that every demo tells the same story. */
function noise(seed: number) {
  let s = seed
  return () => {
    s = (s * 1103515245 + 12345) % 2147483648
    return s / 2147483648 - 0.5
  }
}

const HI = 11.731
const whereOf = (s: Step, station?: number): Where => ({
  stage: s.stage.id,
  ...(s.section ? { section: s.section } : {}),
  ...(s.course === undefined ? {} : { course: s.course }),
  ...(station === undefined ? {} : { station }),
})
const millimetre = (m: number) => Math.round(m * 1000) / 1000

/**
 * Three weeks at the queue-lane wall: section B up to course 7, section A to its first course that waits for release;
 * one nonconformance closed, one open.
 */
export function tellStory(layout: Layout): Told[] {
  const random = noise(7)
  const told: Told[] = []
  const say = (t: Told) => told.push(t)
  const steps = stepsOf(layout)
  const detail: Record<string, string> = {
    services: 'locate ticket 40-1187',
    'set-out': 'slipway bolt and east kerb line',
    subgrade: 'stiff sandy clay, soft pocket at 31 m dug out 0.3 m and filled',
    drain: 'daylight at 20.5 and at the east end',
  }
  const readings = (s: Step) => {
    const target = s.stage.work.type === 'readings' ? s.stage.work.target : 'alignment'
    for (const { station, offset } of placesOf(s)) {
      const where = { ...whereOf(s, station), ...(offset === undefined ? {} : { offset }) }
      const limit = limitAt(layout, s.stage, where).value
      const off = random() * limit * 1.2
      const across = target === 'alignment' || target === 'setback'
      const bad =
        s.section === 'B' &&
        ((s.course === 1 && s.stage.id === 'level' && station === s.points[2]) ||
          (s.course === 7 && s.stage.id === 'setback' && station === s.points[4]))
      const value = bad ? (s.course === 1 ? -0.007 : -0.016) : millimetre(off)
      const data = across
        ? { method: 'deviation', value }
        : { method: 'rod', hi: HI, value: millimetre(aim({ method: 'rod', hi: HI }, targetAt(layout, target, where)) - value) }
      const who = s.stage.id === 'level' && s.course === 1 ? 'inspector' : 'crew'
      say({ who, kind: 'reading', where, data, ...(bad ? { as: `bad${s.course}` } : {}) })
      if (bad && s.course === 1) {
        say({
          who: 'foreman',
          kind: 'action',
          where,
          data: {
            cause: 'Bedding washed thin by overnight rain under two blocks.',
            action: 'Both lifted, bed dressed with stone dust and tamped, reset.',
          },
          actionOn: 'bad1',
        })
        say({
          who: 'inspector',
          kind: 'reading',
          where,
          data: { method: 'rod', hi: HI, value: millimetre(aim({ method: 'rod', hi: HI }, targetAt(layout, target, where)) + 0.001) },
          recheckOf: 'bad1',
        })
      }
    }
  }
  const work = (s: Step) => {
    switch (s.stage.work.type) {
      case 'check':
        return say({
          who: s.section ? 'crew' : 'foreman',
          kind: 'check',
          where: whereOf(s),
          data: { confirmed: s.stage.work.items.map((i) => i.id), ...(detail[s.stage.id] ? { detail: detail[s.stage.id] } : {}) },
        })
      case 'lifts': {
        const pad = s.stage.work.of === 'pad'
        for (let lift = 1; lift <= (s.lifts?.count ?? 1); lift++) {
          const tested = pad || (s.course ?? 0) % 3 === 0
          say({
            who: 'crew',
            kind: 'lift',
            where: whereOf(s),
            data: {
              lift,
              thickness: s.lifts?.compacted ?? 0.1,
              passes: pad ? 4 : 3,
              plant: pad ? 'heavy-plate' : 'light-plate',
              ...(tested ? { compaction: Math.round((96.5 + random() * 2) * 10) / 10 } : {}),
            },
          })
        }
        return
      }
      case 'units': {
        if (s.section === 'B' && s.course === 3) {
          say({ who: 'crew', kind: 'units', where: whereOf(s), data: { set: s.planned - 4 }, as: 'miscount' })
          say({ who: 'crew', kind: 'units', where: whereOf(s), data: { set: s.planned - 6, rejected: 2 }, supersedes: 'miscount' })
          return say({ who: 'crew', kind: 'units', where: whereOf(s), data: { set: 6 } })
        }
        return say({ who: 'crew', kind: 'units', where: whereOf(s), data: { set: s.planned } })
      }
      case 'grid':
        return say({
          who: 'crew',
          kind: 'geogrid',
          where: whereOf(s),
          data: { type: s.grid?.type, length: s.grid?.length, front: 0.04, direction: 'across', tight: true, roll: `R${100 + (s.course ?? 0)}` },
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
      data: { decision: 'released', reason },
    })
  const upTo = (section: string | undefined, last: (s: Step) => boolean) => {
    for (const s of steps) {
      if (s.section !== section || s.stage.id === 'final') continue
      if (s.section === 'B' && s.course === 5 && s.stage.id === 'level') {
        say({
          who: 'foreman',
          kind: 'override',
          where: whereOf(s),
          data: { reason: 'Level dropped in the water; course checked by string, sighted true end to end.' },
        })
        continue
      }
      work(s)
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
  })
  say({ who: 'foreman', kind: 'note', where: {}, data: { text: 'Dry, wind off the water. Excavator from the east end, lowest step first.' } })
  upTo('B', (s) => s.course === 7 && s.stage.id === 'setback')
  say({ who: 'foreman', kind: 'note', where: {}, data: { text: 'Rain from noon; fill covered. Second half started behind the ramp.' } })
  upTo('A', (s) => s.stage.id === 'line')
  return told
}
