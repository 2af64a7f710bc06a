import {
  admit,
  advance,
  barriers,
  boundsOf,
  type CheckMeasure,
  cleared,
  type Entry,
  emptyState,
  type Layout,
  layerEdge,
  limitsOf,
  nextStep,
  picksOf,
  placesOf,
  type Step,
  statusOf,
  tableOf,
  type Where,
  waitingHolds,
} from '@stone-tally/core'
import { entry, layoutOf, NOW, plain, SIGNED } from './plans'

/** A stretch of pipe as it should lie. */
export const pipeOf = (step: Step, over: { from: number; to: number }, layout?: Layout) => ({
  ...over,
  diameter: layout?.building.drain?.diameter ?? 0.1,
  bed: 0.1,
  sock: false,
  start: layout?.building.drain?.outlets.some((o) => Math.abs(o.station - over.from) < 0.3) ? 'outlet' : 'joined',
  end: 'outlet',
  laps: 'with',
  confirmed: step.stage.work.type === 'pipe' ? step.stage.work.items.map((i) => i.id) : [],
})
/** A photo of an entry. */
export const photoOf = (where: Where, of?: string) =>
  entry('photo', where, {
    file: '01900000-0000-7000-8000-00000000f0f0',
    sha256: 'a'.repeat(64),
    name: 'trench.jpg',
    type: 'image/jpeg',
    bytes: 120_000,
    width: 1600,
    height: 1200,
    location: 'none',
    ...(of ? { of } : {}),
  })

/** Grown, firm, moist: what a hand finds where nothing is wrong. */
export const FIRM_CLAY = {
  ...{ grain: 'fine', ribbon: 'medium', feel: 'sticky', colour: 'even', smell: 'none', water: 'moist' },
  ...{ origin: 'natural', firm: 'firm' },
} as const
/** What the subgrade of a section needs to know since rule table 2: its soil, and the cut held as it should be. */
export const groundOf = (layout: Layout, section: string, soil: object = FIRM_CLAY): Entry[] => {
  const own = layout.plan.sections.find((s) => s.id === section) ?? { from: 0, to: 0 }
  const where = { stage: 'dig', section }
  const held = { slope: 1.5, water: false, spoil: 1, plant: 1.5, ladder: 6, by: 'Rhea Moss' }
  return tableOf(layout.plan) === 1
    ? []
    : [
        entry('soil', where, { answers: soil, from: own.from, to: own.to }),
        // Since rule table 3 one speaks for ten metres at most.
        ...(tableOf(layout.plan) > 2
          ? Array.from({ length: Math.ceil((own.to - own.from) / 9) + 1 }, (_, k) => Math.min(own.from + k * 9, own.to))
          : [own.from, own.to]
        ).map((station) => entry('cut', { ...where, station: Math.min(Math.max(station, own.from), own.to) }, held)),
      ]
}

/** The trench looked at this morning, and safe. */
export const morningLook = (more: object = {}, at = '2026-05-20T07:00:00Z') =>
  entry('look', {}, { by: 'Rhea Moss', safe: true, seen: 'sides dry, no cracks', ...more }, { at })

/** A measure within what is asked of it. */
export function goodSize(m: CheckMeasure, layout: Layout = layoutOf(), at: Where = {}): number {
  if (m.either) return 0.001
  const { least, most } = boundsOf(m, layout, at)
  if (m.of === 'count') return least ?? 0
  const middle = least !== undefined && most !== undefined ? (least + most) / 2 : (least ?? most ?? 0.2)
  // A size that is asked for by the rules alone is found well within them.
  return /^own|^foundation/.test(`${m.least ?? m.most}`) ||
    typeof (m.least ?? m.most) === 'number' ||
    m.of === 'temperature' ||
    (most !== undefined && least !== undefined)
    ? middle
    : most !== undefined
      ? Math.min(most, 0.2)
      : Math.max(middle, 0.2)
}

/** A curve of crushed stone, its optimum 2000 kg/m³. */
export const CURVE = {
  name: 'crushed stone',
  points: [
    { moisture: 5.5, dryDensity: 1968 },
    { moisture: 7.5, dryDensity: 1992 },
    { moisture: 9.5, dryDensity: 2000 },
    { moisture: 11.5, dryDensity: 1992 },
    { moisture: 13.5, dryDensity: 1968 },
  ],
  source: 'laboratory 12',
}
/** Lifts of named fill and, since a percentage typed with one pays for nothing, the tests they owe. */
function testedLifts(step: Step, layout: Layout): Entry[] {
  const where = { stage: step.stage.id, section: step.section, course: step.course }
  const own = layout.plan.sections.find((s) => s.id === step.section) ?? { from: 0, to: 0 }
  const { foundation } = layout.building
  const pad = step.stage.work.type === 'lifts' && step.stage.work.of === 'pad'
  const poured = pad && foundation.cast
  const curve = entry('curve', where, CURVE)
  const count = Math.max(1, Math.ceil((own.to - own.from) / limitsOf(layout.plan).testEvery.value))
  const gauge = { wetDensity: 2150, moisture: 9, densityStandard: 2300, densityReference: 2300, moistureStandard: 680, moistureReference: 680 }
  const lifts = Array.from({ length: step.lifts?.count ?? 1 }, (_, i) =>
    entry('lift', where, {
      lift: i + 1,
      thickness: step.lifts?.compacted,
      passes: 4,
      plant: 'light-plate',
      ...(pad ? {} : { fill: 'granular' }),
      ...(poured ? { poured: true } : {}),
    }),
  )
  if (poured) return lifts
  const open = pad && foundation.drains
  const tests = lifts.flatMap((_, i) =>
    Array.from({ length: count }, (_n, k) =>
      entry(
        'density',
        { ...where, station: own.from + ((k + 0.5) * (own.to - own.from)) / count },
        open
          ? { method: 'record', lift: i + 1, seen: 'four passes, nothing moved', untestable: 'open-graded' }
          : { method: 'gauge', lift: i + 1, curve: curve.id, gauge },
      ),
    ),
  )
  return [...(open ? [] : [curve]), ...lifts, ...tests]
}

/** The good entries for a step. */
export function good(step: Step, layout?: Layout): Entry[] {
  if (layout && step.stage.needs && step.section) return [...groundOf(layout, step.section), ...good(step)]
  const where = { stage: step.stage.id, section: step.section, course: step.course }
  switch (step.stage.work.type) {
    case 'check':
      return [
        entry('check', where, {
          confirmed: step.stage.work.items.map((i) => i.id),
          ...(step.stage.work.until ? { until: '2026-12-31' } : {}),
          ...(step.stage.work.measures ? { measured: step.stage.work.measures.map((m) => ({ id: m.id, value: goodSize(m, layout, where) })) } : {}),
        }),
      ]
    case 'units':
      return [entry('units', where, { set: step.planned }, { role: 'crew' })]
    case 'picks':
      return (layout ? picksOf(layout) : [])
        .filter((p) => p.section === step.section && p.course === step.course)
        .map((p) =>
          entry(
            'pick',
            { ...where, station: p.station },
            { number: p.number, level: 0.001, ...(layout && tableOf(layout.plan) > 2 ? { wind: 10 } : {}) },
            { role: 'crew' },
          ),
        )
    case 'grid':
      return [
        entry('geogrid', where, {
          type: step.grid?.type,
          length: step.grid?.length,
          front: layout ? layerEdge(layout.plan, step.course ?? 1).most - 0.005 : 0.03,
          direction: 'across',
          tight: true,
        }),
      ]
    case 'lifts':
      if (layout && tableOf(layout.plan) > 2) return testedLifts(step, layout)
      return Array.from({ length: step.lifts?.count ?? 1 }, (_, i) =>
        entry('lift', where, { lift: i + 1, thickness: step.lifts?.compacted, passes: 4, plant: 'light-plate', compaction: 96 }),
      )
    case 'pipe':
      return (step.over ?? []).flatMap((s) => {
        const laid = entry('pipe', where, pipeOf(step, s, layout && tableOf(layout.plan) > 2 ? layout : undefined))
        return [laid, photoOf(where, laid.id)]
      })
    case 'readings':
      return placesOf(step).map((at) => entry('reading', { ...where, ...at }, { method: 'deviation', value: -0.001 }, { role: 'crew' }))
  }
}

/** Steps of the wall as a whole that wait for every section. */
const AFTER = new Set(['finish', 'pour', 'final'])

/** Does whatever the application says is next, section after section, until it says there is nothing. */
export function build(layout: Layout) {
  let state = emptyState([layout])
  let seq = 0
  const order: string[] = []
  // Where concrete cures the crew comes back on another day.
  let day = 0
  const today = () => new Date(Date.parse('2026-05-20T08:00:00Z') + day * 86_400_000).toISOString()
  const put = (made: Entry) => {
    const e = { ...made, at: made.kind === 'look' ? made.at : today() }
    const judged = admit(state, e, NOW + day * 86_400_000)
    if (!judged.ok) throw new Error(`${e.kind} ${JSON.stringify(e.where)}: ${judged.problems.map((p) => p.message).join('; ')}`)
    expect(judged.value?.verdict === 'out' ? `${e.kind} ${JSON.stringify(e.where)}: ${judged.value.text}` : 'ok').toBe('ok')
    state = advance(state, { seq: ++seq, receivedAt: '', entry: e })
  }
  if (tableOf(layout.plan) > 1) put(morningLook())
  for (let guard = 0; guard < 2000; guard++) {
    const step = layout.plan.sections.map((s) => nextStep(state, s.id)).find((s) => s && !AFTER.has(s.stage.id)) ?? nextStep(state)
    if (!step) return { state, order }
    // The wind of the day is read before anything hangs on a hook.
    if (step.stage.work.type === 'picks' && tableOf(layout.plan) > 2) put(entry('weather', {}, { rain: 0, low: 12, wind: 10, high: 20 }))
    for (; barriers(state, step, today()).length > 0 && barriers(state, step, today()).every((b) => plain(b.message).match(/until \w{3} \d/)); day++)
      if (day > 60) throw new Error('it never cured')
    if (day > 0 && tableOf(layout.plan) > 1) put(morningLook({}, today().replace('T08', 'T07')))
    expect(barriers(state, step, today())).toEqual([])
    order.push(step.key)
    for (const e of good(step, layout)) put(e)
    if (step.stage.hold) {
      expect(waitingHolds(state).map((s) => s.key)).toContain(step.key)
      put(
        entry(
          'release',
          { stage: step.stage.id, section: step.section, course: step.course },
          { decision: 'released', reason: 'seen', signature: SIGNED },
          { role: 'inspector' },
        ),
      )
    }
    expect(cleared(statusOf(state, step))).toBe(true)
  }
  throw new Error('the wall was never finished')
}
