// Every kind of entry by itself: what is drawn from its published form, at the limits of its wall as often as not, judged at every stage it may stand at.
import { type Entry, entriesJsonSchema, type KINDS, type Layout, limitNames, limitsOf, type RecordedEntry, read, stepsOf } from '@stone-tally/core'
import { good } from './build'
import { type Draw, drawn, type JsonSchema, maybe, on, pick } from './drawn'
import { formsThen } from './forms-then'
import { entry, layoutOf, WALL } from './plans'
import { startedThen } from './started'

const FORMS = formsThen((entriesJsonSchema() as { properties: Record<string, JsonSchema> }).properties)
const WALLS = ['hollow-core', 'gabion', 'big-block', 'masonry', 'wire', 'glued'] as const
const laid = new Map<string, Layout>()
const wallOf = (id: (typeof WALLS)[number]): Layout => {
  const layout = laid.get(id) ?? layoutOf(startedThen(id, {}))
  laid.set(id, layout)
  return layout
}

/** Limits of a wall that are of the size of a field, or a little to either side of one. */
function nearLimit(s: JsonSchema, limits: readonly number[], draw: Draw): number | undefined {
  const [min, max] = [s.minimum ?? 0, s.maximum ?? 100]
  const fit = limits.filter((l) => l >= min && l <= max)
  if (fit.length === 0) return undefined
  const v = pick(draw, fit) + pick(draw, [0, 0, 0, 0.001, -0.001])
  const signed = min < 0 && maybe(draw) ? -v : v
  return s.type === 'integer' ? Math.round(signed) : Math.round(signed * 1e6) / 1e6
}
/** As `drawn`, with numbers at limits. */
function atLimits(s: JsonSchema, limits: readonly number[], draw: Draw, ids: readonly string[]): unknown {
  if ((s.type === 'number' || s.type === 'integer') && maybe(draw, 0.7)) return nearLimit(s, limits, draw) ?? drawn(s, draw, ids)
  if (s.type === 'object')
    return Object.fromEntries(
      Object.entries(s.properties ?? {})
        .filter(([name]) => s.required?.includes(name) || maybe(draw, 0.7))
        .map(([name, of]) => [name, atLimits(of, limits, draw, ids)]),
    )
  if (s.type === 'array')
    return Array.from({ length: Math.min(s.maxItems ?? 3, (s.minItems ?? 0) + on(draw, 0, 2, 1)) }, () => atLimits(s.items ?? {}, limits, draw, ids))
  return drawn(s, draw, ids)
}

/** Work as it should be, of kinds the steps of a wall do not ask for. */
const CURVE = {
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
const gauge = { wetDensity: 2100, moisture: 9, densityStandard: 2310, densityReference: 2300, moistureStandard: 690, moistureReference: 680 }
const cone = { massBefore: 6.5, massAfter: 2.9, coneMass: 1.62, sandDensity: 1430, soilMass: 2.95, moisture: 8.4 }
const BESIDE: Readonly<Record<string, readonly object[]>> = {
  curve: [CURVE, { ...CURVE, oversize: { share: 20, gs: 2.65, moisture: 1, sieve: '19' } }],
  density: [
    { method: 'gauge', lift: 1, curve: 'e9', gauge },
    { method: 'sand-cone', lift: 1, curve: 'e9', cone },
    { method: 'gauge', lift: 1, curve: 'e9', gauge: { ...gauge, wetDensity: 2060 } },
  ],
  gradation: [
    {
      of: 'soil',
      source: 'sieve 4',
      points: [
        { size: 0.075, passing: 10 },
        { size: 1, passing: 40 },
        { size: 10, passing: 100 },
      ],
    },
  ],
  undercut: [{ from: 1, to: 3, depth: 0.3, fill: 'stone', passes: 4, fabricLap: 0.6, firm: 'heel', material: 'pad-material', lifts: 2 }],
  weather: [{ rain: 0, low: 8, wind: 10 }],
  obstruction: [{ what: 'rock', from: 1, to: 2, above: 0.1, way: 'bridge' }],
  'unit-level': [{ unit: 2, along: 0.001, across: 0.001, diagonal: 0.001 }],
  sight: [{ sight: 'backsight', point: 'BM', reading: 1.5, known: 10 }],
  roll: [{ roll: 'R1', type: 'uniaxial 30', width: 2, length: 50 }],
  workdays: [{ days: [1, 2, 3, 4, 5], starts: 7, hours: 8, crews: 1, notice: 24, holidays: [], lost: [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0] }],
}
const right = new Map<string, readonly Entry[]>()
/** Entries of a kind as they should be on a wall. */
function rightOf(id: (typeof WALLS)[number], kind: string): readonly Entry[] {
  const layout = wallOf(id)
  if (!right.has(id))
    right.set(
      id,
      stepsOf(layout).flatMap((step) => good(step, layout)),
    )
  const built = (right.get(id) ?? []).filter((e) => e.kind === kind)
  return built.length > 0 ? built : (BESIDE[kind] ?? []).map((data) => entry(kind, { section: 'A', course: 1, stage: 'dig' }, data))
}
/** The same with a field or two at a limit, another choice or left out. */
function nearly(value: unknown, s: JsonSchema, limits: readonly number[], draw: Draw): unknown {
  if (value === undefined || value === null) return value
  if (typeof value === 'number') {
    if (maybe(draw, 0.7)) return value
    const fit = limits.filter((l) => l >= Math.abs(value) / 6 && l <= Math.abs(value) * 6)
    return fit.length > 0 && maybe(draw, 0.8)
      ? Math.round((pick(draw, fit) + pick(draw, [0, 0, 0.001, -0.001])) * (value < 0 ? -1 : 1) * 1e6) / 1e6
      : (nearLimit(s, limits, draw) ?? value)
  }
  if (typeof value === 'boolean') return maybe(draw, 0.15) ? !value : value
  if (typeof value === 'string') return s.enum && maybe(draw, 0.15) ? pick(draw, s.enum) : value
  if (Array.isArray(value)) return value.filter(() => maybe(draw, 0.93)).map((v) => nearly(v, s.items ?? {}, limits, draw))
  const own = value as Record<string, unknown>
  const fields = Object.entries(s.properties ?? {})
  return {
    ...Object.fromEntries(Object.entries(own).map(([k, v]) => [k, nearly(v, s.properties?.[k] ?? {}, limits, draw)])),
    // Now and then something is said that need not be.
    ...Object.fromEntries(
      fields
        .filter(([k]) => !(k in own) && !s.required?.includes(k) && maybe(draw, 0.12))
        .map(([k, of]) => [k, atLimits(of, limits, draw, ['e1', 'e9'])]),
    ),
  }
}

/** What is said of one entry of a kind, and of another as its re-check. */
export function kindSaid(kind: (typeof KINDS)[number], draw: Draw): unknown {
  const id = pick(draw, WALLS)
  const layout = wallOf(id)
  const limits = [...new Set(limitNames(2).map((name) => limitsOf(layout.plan)[name].value))].filter((v) => Number.isFinite(v) && v > 0)
  const stages = layout.system.stages.filter((s) => (kind.work ? s.work.type === kind.work : true))
  const stage = stages.length > 0 ? pick(draw, stages) : undefined
  const ids = ['e1', 'e2', 'A']
  const samples = rightOf(id, kind.kind)
  const entryOf = (name: string): Entry => {
    const sample = samples.length > 0 && maybe(draw, 0.75) ? pick(draw, samples) : undefined
    const of: Entry = {
      id: name,
      wall: WALL,
      revision: 1,
      at: pick(draw, ['2026-05-20T07:00:00Z', '2026-05-20T23:30:00Z', '2026-06-01T12:00:00Z']),
      by: { id: 'foreman', name: 'Fay', role: 'foreman' },
      kind: kind.kind,
      where: {
        ...(stage ? { stage: stage.id } : {}),
        ...(maybe(draw, 0.8) ? { section: layout.plan.sections[0]?.id as string } : {}),
        ...(maybe(draw, 0.6) ? { course: on(draw, 1, 4, 1) } : {}),
        ...(maybe(draw, 0.6) ? { station: on(draw, 0, layout.plan.length, 0.5) } : {}),
        ...(maybe(draw, 0.2) ? { offset: on(draw, 0, 0.6, 0.3) } : {}),
      },
      data: atLimits(FORMS[kind.kind] ?? {}, limits, draw, ids),
    }
    return sample ? { ...of, where: sample.where, data: nearly(sample.data, FORMS[kind.kind] ?? {}, limits, draw) } : of
  }
  const [one, two] = [entryOf('e1'), entryOf('e2')]
  const shaped = read(kind.schema, one.data, 'data')
  if (!shaped.ok) return shaped.problems
  const of: Entry = { ...one, data: shaped.value }
  const other = read(kind.schema, two.data, 'data')
  const curve: Entry = { ...one, id: 'e9', kind: 'curve', data: CURVE }
  const known: Entry[] = [curve, ...(other.ok ? [{ ...two, data: other.value }] : [])]
  const recorded = known.map((e, seq): RecordedEntry => ({ seq, receivedAt: e.at, entry: e }))
  const context = {
    layout,
    stage: layout.system.stages.find((s) => s.id === of.where.stage) ?? stage,
    find: (name: string) => known.find((e) => e.id === name),
    of: (k: string) => recorded.filter((r) => r.entry.kind === k),
  }
  return [
    kind.check?.(of, context),
    kind.judge?.(of, context),
    (['metric', 'imperial'] as const).map((units) => kind.line(of, { units }, context)),
    known.filter((e) => e.kind === of.kind).map((e) => [kind.again?.(of, e), kind.again?.(e, of)]),
    kind.correction && [kind.correction.of(of.data), kind.correction.value(of.data), kind.correction.put(of.data, 0.125)],
    kind.effect && Object.entries(kind.effect).map(([name, v]) => [name, typeof v === 'function' ? v(of.data) : v]),
  ]
}
