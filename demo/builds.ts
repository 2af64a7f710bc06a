import {
  aim,
  boundsOf,
  type CheckMeasure,
  type Layout,
  limitsOf,
  picksOf,
  placesOf,
  type Step,
  stepsOf,
  targetAt,
  type Where,
} from '@stone-tally/core'
import { clay } from './ground'
import { CURVE } from './stone'
import type { Told } from './told'

/** Repeatable noise, so that every demo tells the same story. */
function noise(seed: number) {
  let s = seed
  return () => {
    s = (s * 1103515245 + 12345) % 2147483648
    return s / 2147483648 - 0.5
  }
}
const round = (v: number) => Math.round(v * 10_000) / 10_000
const millimetre = (m: number) => Math.round(m * 1000) / 1000

/** Stations of looks at a cut, each for ten metres at most. */
export const looksAlong = (from: number, to: number): number[] => {
  const parts = Math.max(1, Math.ceil((to - from) / 9))
  return Array.from({ length: parts }, (_, i) => millimetre(from + ((i + 0.5) * (to - from)) / parts))
}
/** A strength that lets concrete be loaded before its days are over. */
const EARLY = { value: 22, wanted: 20, on: new Date().toISOString().slice(0, 10), source: 'laboratory sheet 18' }
export const COUNTS = { densityStandard: 2306, densityReference: 2300, moistureStandard: 683, moistureReference: 680 }
/** What goes wrong on a wall: where, how it is recorded, what was done about it, and how it is afterwards. */
export interface Trouble {
  readonly stage: string
  readonly course?: number
  /** Of a checklist: the measure that is out; an item that could not be confirmed. */
  readonly measure?: string
  readonly item?: string
  /** Of readings and picks: which one, from the first. */
  readonly which?: number
  readonly value?: number
  readonly cause: string
  readonly action: string
}

/** How a wall of the demo stands: what was done last, and what went wrong on the way. */
export interface Build {
  /** The last stage that was done, and on which course; nothing was begun where it is left out. */
  readonly upTo?: { readonly stage: string; readonly course?: number }
  readonly troubles?: readonly Trouble[]
  /** Concrete that was loaded before its days were over, and why it might be. */
  readonly early?: string
}

/** A measure as a careful crew finds it. */
function found(m: CheckMeasure, layout: Layout, where: Where): number {
  const { least, most } = boundsOf(m, layout, where)
  if (m.either) return 0.002
  if (m.of === 'count') return least ?? 0
  if (m.of === 'temperature') return 17
  if (least !== undefined && most !== undefined) return millimetre((least + most) / 2)
  return millimetre(least !== undefined ? least + 0.01 : most !== undefined ? most * 0.8 : 0.18)
}

/** A wall built as its plan has it, step by step, to where it stands in the demo. */
export function tellBuild(layout: Layout, build: Build): Told[] {
  const told: Told[] = []
  const say = (t: Told) => told.push(t)
  if (!build.upTo) return told
  const random = noise(layout.plan.name.length * 17)
  const troubleAt = (s: Step) => build.troubles?.find((t) => t.stage === s.stage.id && (t.course ?? s.course) === s.course)
  const mend = (t: Trouble, where: Where, as: string) =>
    say({ who: 'foreman', kind: 'action', where, data: { cause: t.cause, action: t.action }, actionOn: as })
  const [one] = layout.plan.sections
  const steps = stepsOf(layout).filter((s) => s.section === undefined || s.section === one?.id)
  for (const s of steps) {
    const where: Where = { stage: s.stage.id, ...(s.section ? { section: s.section } : {}), ...(s.course === undefined ? {} : { course: s.course }) }
    const trouble = troubleAt(s)
    const who = s.section ? 'crew' : 'foreman'
    if (s.stage.id === 'subgrade' && one) {
      const dig = { stage: 'dig', section: s.section }
      say({ who: 'foreman', kind: 'soil', where: dig, data: { answers: clay, from: one.from, to: one.to } })
      for (const station of looksAlong(one.from, one.to))
        say({
          who: 'foreman',
          kind: 'cut',
          where: { ...dig, station },
          data: { slope: 1.5, spoil: 1, plant: 1.5, ladder: 7, water: false, by: 'Mara Quill' },
        })
    }
    const { work } = s.stage
    const as = `${s.key} trouble`
    if (work.type === 'check') {
      const of = (wrong: boolean) => ({
        confirmed: work.items.filter((i) => !(wrong && i.id === trouble?.item)).map((i) => i.id),
        ...(work.until ? { until: '2099-12-31' } : {}),
        ...(work.detail ? { detail: 'seen with the plan in hand' } : {}),
        ...(work.measures
          ? {
              measured: work.measures.map((m) => ({
                id: m.id,
                value: wrong && m.id === trouble?.measure ? (trouble?.value ?? 0) : found(m, layout, where),
              })),
            }
          : {}),
      })
      if (trouble) {
        say({ who, kind: 'check', where, data: of(true), as })
        if (trouble.measure) mend(trouble, where, as)
        else say({ who, kind: 'note', where: {}, data: { text: `${trouble.cause} ${trouble.action}` } })
      }
      say({ who, kind: 'check', where, data: of(false), ...(trouble?.measure ? { recheckOf: as } : {}) })
      if (work.photo) say({ who: 'crew', kind: 'photo', where, data: { caption: s.stage.title }, picture: 'course' })
      if (s.stage.id === 'pad' && build.early) say({ who: 'foreman', kind: 'override', where, data: { reason: build.early, strength: EARLY } })
    } else if (work.type === 'lifts') {
      const own = layout.plan.sections.find((x) => x.id === s.section) ?? { from: 0, to: layout.plan.length }
      const parts = Math.ceil((own.to - own.from) / limitsOf(layout.plan).testEvery.value)
      for (let lift = 1; lift <= (s.lifts?.count ?? 1); lift++)
        for (let k = 0; k < parts; k++)
          say({
            who: 'crew',
            kind: 'lift',
            where,
            data: {
              lift,
              thickness: s.lifts?.compacted ?? 0.1,
              passes: 4,
              plant: 'light-plate',
              fill: 'granular',
              squeeze: 'ball',
              from: millimetre(own.from + ((own.to - own.from) * k) / parts),
              to: millimetre(own.from + ((own.to - own.from) * (k + 1)) / parts),
            },
          })
      // A test for each lift and fifteen metres: what is typed with a lift pays for none.
      if (layout.building.foundation.cast && work.of === 'pad') continue
      const open = work.of === 'pad' && layout.building.foundation.drains
      if (!told.some((t) => t.as === 'curve') && !open) say({ who: 'foreman', kind: 'curve', where: {}, as: 'curve', data: CURVE })
      for (let lift = 1; lift <= (s.lifts?.count ?? 1); lift++)
        for (let k = 0; k < parts; k++) {
          const at = { ...where, station: millimetre(own.from + ((own.to - own.from) * (k + 0.5)) / parts) }
          const gauge = { wetDensity: Math.round(2240 + random() * 24), moisture: 7.2, ...COUNTS }
          say(
            open
              ? {
                  who: 'crew',
                  kind: 'density',
                  where: at,
                  data: { method: 'record', lift, seen: 'four passes, nothing moved any more', untestable: 'open-graded' },
                }
              : { who: 'crew', kind: 'density', where: at, curve: 'curve', data: { method: 'gauge', lift, gauge } },
          )
        }
    } else if (work.type === 'units') say({ who: 'crew', kind: 'units', where, data: { set: s.planned } })
    else if (work.type === 'picks') {
      const pad = steps.find((x) => x.section === s.section && x.stage.id === 'pad-level')
      picksOf(layout)
        .filter((p) => p.section === s.section && p.course === s.course)
        .forEach((p, i) => {
          const at = { ...where, station: p.station }
          const of = (level: number) => ({ number: p.number, level, wind: 14, ...(p.truck === undefined ? {} : { ticket: `SP-${310 + p.truck}` }) })
          const wrong = trouble && i === trouble.which
          say({
            who: 'crew',
            kind: 'pick',
            where: at,
            data: of(wrong ? (trouble.value ?? 0) : millimetre(random() * 0.004)),
            ...(wrong ? { as } : {}),
          })
          if (!wrong) return
          mend(trouble, at, as)
          const near = (pad?.points ?? []).reduce((a, b) => (Math.abs(b - p.station) < Math.abs(a - p.station) ? b : a), pad?.points[0] ?? 0)
          if (pad)
            say({
              who: 'crew',
              kind: 'reading',
              where: { stage: 'pad-level', section: s.section, station: near, offset: pad.lines[0] },
              data: { method: 'deviation', value: 0.001 },
            })
          say({ who: 'crew', kind: 'pick', where: at, data: of(0.001), recheckOf: as })
        })
    } else if (work.type === 'pipe') {
      const own = s.over?.[0] ?? { from: 0, to: 0 }
      say({
        who: 'crew',
        kind: 'pipe',
        where,
        as: `${s.key} laid`,
        data: {
          ...own,
          diameter: layout.building.drain?.diameter,
          bed: 0.1,
          sock: false,
          start: layout.building.drain?.outlets.some((o) => Math.abs(o.station - own.from) < 0.3) ? 'outlet' : 'cap',
          end: 'outlet',
          laps: 'with',
          confirmed: work.items.map((x) => x.id),
        },
      })
      say({ who: 'crew', kind: 'photo', where, data: { caption: 'pipe on its bed' }, picture: 'pipe', of: `${s.key} laid` })
    } else if (work.type === 'grid')
      say({
        who: 'crew',
        kind: 'geogrid',
        where,
        data: { type: s.grid?.type, length: s.grid?.length, front: 0.04, direction: 'across', tight: true },
      })
    else if (work.type === 'readings')
      placesOf(s).forEach((place, i) => {
        const at = { ...where, ...place }
        const across = work.target === 'alignment' || work.target === 'setback'
        const hi = millimetre(layout.plan.benchmark.elevation + 1.6)
        const of = (v: number) =>
          across
            ? { method: 'deviation', value: v }
            : { method: 'rod', hi, value: round(aim({ method: 'rod', hi }, targetAt(layout, work.target, at)) - v) }
        const wrong = trouble && i === trouble.which
        say({
          who: 'crew',
          kind: 'reading',
          where: at,
          data: of(wrong ? (trouble.value ?? 0) : millimetre(random() * 0.004)),
          ...(wrong ? { as } : {}),
        })
        if (!wrong) return
        mend(trouble, at, as)
        say({ who: 'crew', kind: 'reading', where: at, data: of(-0.001), recheckOf: as })
      })
    if (s.stage.id === build.upTo.stage && (build.upTo.course === undefined || build.upTo.course === s.course)) return told
    if (s.stage.hold) {
      const name = s.stage.hold === 'before-digging' ? 'Mara Quill' : 'Ines Vale'
      say({
        who: name === 'Mara Quill' ? 'foreman' : 'inspector',
        kind: 'release',
        where,
        data: { decision: 'released', reason: 'Seen on site, readings checked', signature: { typed: name } },
      })
    }
  }
  return told
}

/** Each wall at another stage of its work, with the trouble of its kind. */
export const BUILDS: Readonly<Record<string, Build>> = {
  'boat-lift-wall': {
    upTo: { stage: 'units', course: 2 },
    troubles: [
      {
        stage: 'units',
        course: 1,
        which: 5,
        value: 0.006,
        cause: 'A stone under the heel of the block, seen only when it stood.',
        action: 'Lifted off, stone out, pad scraped, plated and read again.',
      },
    ],
  },
  'haul-road-bank': {
    upTo: { stage: 'backfill', course: 3 },
    troubles: [
      {
        stage: 'batter',
        course: 2,
        which: 3,
        value: -0.036,
        cause: 'Filled short at the face: it fell back when the plate passed.',
        action: 'Fill dug out at the face by hand, mat pulled to the string, filled and tamped up to the mesh.',
      },
    ],
  },
  'cafe-terrace': {
    upTo: { stage: 'joints', course: 3 },
    early: 'Cylinders of 22 N/mm² at two days, sheet 18; the engineer agrees by mail.',
    troubles: [
      {
        stage: 'bars',
        measure: 'cover',
        value: 0.045,
        cause: 'Two chairs sank into the floor of the trench.',
        action: 'Chairs on slabs, bars lifted and tied, measured again from both sides.',
      },
    ],
  },
  'slip-terrace': { upTo: { stage: 'pad' } },
  'shelter-wall': { upTo: { stage: 'level', course: 1 } },
  'ticket-forecourt': {
    upTo: { stage: 'backfill', course: 1 },
  },
  'anchor-bed': {
    upTo: { stage: 'joints', course: 2 },
    troubles: [
      {
        stage: 'joints',
        course: 2,
        item: 'joints',
        cause: 'The ninth stone from the start lines up its joint with the course below.',
        action: 'Swapped with a half, the rest moved on.',
      },
    ],
  },
  'lamp-planter': { upTo: { stage: 'final' } },
  'breakwater-gabions': { upTo: { stage: 'lids', course: 1 } },
}
