// Made-up walls of every system, and a short mark of all that is worked out for each: whatever changes one of them is seen.
import { createHash } from 'node:crypto'
import {
  alignmentOf,
  identifySoil,
  issueUnder,
  type Layout,
  layerSchedule,
  layOut,
  type EarlierPlan as Plan,
  quantities,
  rollCuttings,
  type SoilAnswers,
  SYSTEMS,
  say,
  sectionAt,
  soilQuestions,
  stepsOf,
  storedPlan,
} from '@stone-tally/core'
import { smallPlan } from './plans'

/** Lehmer's generator: the same walls on every machine. */
export function numbers(seed: number) {
  let x = seed
  return (from: number, to: number) => {
    x = (x * 48271) % 2147483647
    return from + ((to - from) * x) / 2147483647
  }
}
const round = (v: number, by = 1000) => Math.round(v * by) / by

/** Systems and units as they were when the walls were pinned: what came since moves none of them. */
const THEN = [
  ['hollow-core', ['lug-200', 'lug-150', 'lug-8in']],
  ['rear-lip', ['lip-150']],
  ['tongue-groove', ['tongue-200']],
  ['pattern', ['pattern-300']],
  ['landscape', ['garden-100']],
  ['glued', ['flat-75']],
  ['gabion', ['basket-2x1x1', 'basket-2x1x05', 'basket-15x1x1']],
] as const

/** A wall of a number: its line, grades, unit, openings, layers and water follow from it. */
export function pinnedPlan(n: number): unknown {
  const next = numbers(7919 * (n + 1))
  const whole = (from: number, to: number) => Math.floor(next(from, to + 0.999))
  const [id, units] = THEN[n % THEN.length] as (typeof THEN)[number]
  const system = SYSTEMS.find((s) => s.id === id) as (typeof SYSTEMS)[number]
  const named = units[whole(0, units.length - 1)]
  const unit = system.units.find((u) => u.id === named) as (typeof system.units)[number]
  const basket = system.id === 'gabion'
  const small = unit.height <= 0.1
  const legs = whole(1, 3)
  const closed = n % 10 === 9
  const vertices: { easting: number; northing: number; bulge: number }[] = []
  if (closed) {
    const r = round(next(3, 6))
    for (let k = 0; k < 4; k++)
      vertices.push({
        easting: round(r * Math.cos((k * Math.PI) / 2)),
        northing: round(r * Math.sin((k * Math.PI) / 2)),
        bulge: Math.tan(Math.PI / 8),
      })
  } else {
    let [e, no, heading] = [100, 200, next(0, 6)]
    vertices.push({ easting: e, northing: no, bulge: 0 })
    for (let k = 0; k < legs; k++) {
      const long = next(small ? 2.5 : 5, small ? 6 : 12)
      e = round(e + long * Math.cos(heading))
      no = round(no + long * Math.sin(heading))
      vertices.push({ easting: e, northing: no, bulge: 0 })
      heading += n % 3 === 0 ? next(-0.06, 0.06) : (whole(0, 1) ? 1 : -1) * (n % 4 === 1 ? Math.PI / 2 : next(0.5, 1.3))
    }
    if (n % 5 === 2 && vertices.length > 1) (vertices[0] as { bulge: number }).bulge = round(next(-0.15, 0.15))
  }
  const line = alignmentOf(vertices, closed)
  const length = line.ok ? Math.floor(line.value.length * 1000) / 1000 : 10
  const height = basket ? next(0.9, 1.9) : small ? next(0.25, 0.5) : next(0.7, 1.6)
  const slope = n % 2 === 0 && !closed ? next(-0.06, 0.06) : 0
  const toe = round(10 + next(-0.2, 0.2))
  const middle = round(length / 2)
  const at = (station: number) => ({ station, toe: round(toe + slope * station), top: round(toe + slope * station * (n % 4 < 2 ? 1 : 0.3) + height) })
  const courses = Math.floor(height / unit.height)
  return {
    ...smallPlan,
    name: `Pinned ${n}`,
    engineerBy: 'E. Record, licence 4711',
    holds: [],
    front: { slope: n % 6 === 0 ? 0.2 : 0, erodible: n % 7 === 0 },
    frost: n % 3 === 0 ? 0.4 : 0,
    system: system.id,
    unit,
    length,
    alignment: { vertices, closed },
    grades: [at(0), ...(n % 3 === 1 ? [at(middle)] : []), at(length)],
    embedment:
      n % 2
        ? [
            { kind: 'fixed', depth: 0.15 },
            { kind: 'courses', count: 1 },
          ]
        : [{ kind: 'perHeight', base: 0.1, perMetre: 0.1 }],
    pad: {
      ...smallPlan.pad,
      width: round(Math.max(0.4, unit.depth + 0.3)),
      material: n % 4 === 3 ? 'open-graded' : 'dense-graded',
      minRun: round(next(0.9, 2.5)),
    },
    excavation: { behind: round(next(0.9, 1.6)), slope: 1.5 },
    ...(n % 5 === 1 ? { top: { style: 'level' } } : n % 5 === 3 ? { top: { style: 'cap-following' } } : {}),
    ...(n % 4 === 2 && !closed
      ? { openings: [{ name: 'culvert', station: round(length * 0.4), width: 0.45, bottom: round(toe + 0.1), height: 0.4 }] }
      : {}),
    drain: {
      ...smallPlan.drain,
      outlets: [
        { station: n % 2 ? length : 0, invert: round(toe + Math.min(0, slope * length) - 0.35) },
        ...(n % 6 === 5 ? [{ station: middle, invert: round(toe - 0.4) }] : []),
      ],
    },
    ...(n % 3 === 2 ? { water: { school: (['in-pad', 'on-bed', 'raised'] as const)[whole(0, 2)], bed: 0.08, cover: 0.2 } } : {}),
    grid:
      courses > 3
        ? Array.from({ length: Math.floor((courses - 1) / 2) }, (_, k) => ({
            course: 2 * k + 1,
            length: round(Math.min(1.2, next(0.7, 1.2))),
            type: k % 2 ? 'uniaxial 30' : 'uniaxial 55',
          }))
        : [],
    ...(n % 4 === 0 ? { gridRolls: [{ type: 'uniaxial 30', width: 1.5, length: 40 }] } : {}),
    sections:
      n % 3 === 0 && length > 4
        ? [
            { id: 'A', from: 0, to: middle },
            { id: 'B', from: middle, to: length },
          ]
        : [{ id: 'A', from: 0, to: length }],
  }
}

/** Steps by their key, entries by their id: what they are is marked where they come from. */
const named = (v: unknown): unknown => {
  if (v === null || typeof v !== 'object') return typeof v === 'number' ? Math.round(v * 1e4) / 1e4 + 0 : v
  if (v instanceof Map || v instanceof Set) return [...v]
  if ('stage' in v && 'key' in v) return v.key
  return 'entry' in v && 'receivedAt' in v ? (v.entry as { id: string }).id : v
}
/** To a tenth of a millimetre, so that no machine's last digit counts; sentences as a reader in metres has them. */
export const plainly = (value: unknown): string => say(JSON.stringify(value, (_k, v) => named(v)) ?? '', 'metric')
export const mark = (value: unknown) => createHash('sha256').update(plainly(value)).digest('hex').slice(0, 10)

export const parts: Readonly<Record<string, (l: Layout) => unknown>> = {
  steps: (l) => [l.steps, l.buried],
  tops: (l) => l.tops,
  courses: (l) => l.courses,
  pieces: (l) => [...l.cells.values()].map((c) => [c.section, c.course, c.pad, c.first, c.last, c.pieces]),
  caps: (l) => l.caps,
  legs: (l) => l.legs,
  cautions: (l) => l.cautions,
  sections: (l) => [0.05, 0.3, 0.62, 0.97].map((share) => sectionAt(l, l.plan.length * share)),
  layers: (l) => [layerSchedule(l), rollCuttings(l, layerSchedule(l))],
  stages: (l) => stepsOf(l).map((s) => [s.key, s.points, s.planned, s.lifts, s.grid, s.over]),
  // As what it is bought came later, and changes none of them.
  quantities: (l) => quantities(l).map(({ bought: _, ...q }) => q),
}

/** Marks of a plan part by part; or what it is refused for. */
export function marksOf(n: number): Record<string, string> | string {
  const made = issueUnder(pinnedPlan(n) as Plan, {}, 2)
  const laid = made.ok ? layOut(storedPlan(made.value)) : made
  if (!laid.ok) return plainly(laid.problems.map((p) => `${p.field}: ${p.message}`))
  return Object.fromEntries(Object.entries(parts).map(([name, of]) => [name, mark(of(laid.value))]))
}
export const PINNED = 60

/** Marks of what is said, by rule table and first answer: a changed word of advice, undercut or verdict changes one. */
export function soilMarks(): Record<string, string> {
  const marks = new Map<string, ReturnType<typeof createHash>>()
  for (const table of [1, 2]) {
    const questions = soilQuestions(table)
    let x = 104729
    const next = (n: number) => {
      x = (x * 48271) % 2147483647
      return x % n
    }
    for (let i = 0; i < 1000; i++) {
      const answers = Object.fromEntries(
        questions.map((q) => [q.id, (q.answers[next(q.answers.length)] as readonly [string, ...unknown[]])[0]]),
      ) as unknown as SoilAnswers
      const key = `${table} ${answers.grain}`
      const hash = marks.get(key) ?? createHash('sha256')
      marks.set(key, hash)
      hash.update(say(JSON.stringify(identifySoil(answers, table)) ?? '', 'metric'))
    }
  }
  return Object.fromEntries([...marks].map(([key, hash]) => [key, hash.digest('hex').slice(0, 12)]))
}
