import type { Problem } from '../base/result'
import { said } from '../base/said'
import { type InferType, list, optionalList, optionalRecord, quantity, record, text, type yup } from '../base/schema'
import { below, same } from '../geometry'
import type { Plan } from '../plan'
import { embedmentSchema } from '../rules'
import type { Building } from './building'
import type { FoundationData } from './foundation'
import { foundation, foundationKind, foundationKindOf, foundationSchema } from './foundations'
import type { Starts } from './question'
import type { PartChange } from './system'
import { type Unit, unitSchema } from './unit'

const metres = (min: number, max: number) => quantity({ min, max, unit: 'm' })
const stationField = () => metres(0, 2000)
const elevation = () => metres(-500, 9000)

/** Share ordered above what is built, per cent; common practice where the plan says nothing. */
export const WASTE = { units: 3, stone: 10, grid: 5 }

/** Building blocks that a system's part is put together from. */
export const parts = {
  embedment: list(embedmentSchema, 1, 6),
  stone: optionalRecord({ width: metres(0, 3) }),
  drain: optionalRecord({
    diameter: metres(0.05, 0.6),
    fall: quantity({ min: 0, max: 0.2, unit: 'm per m' }),
    outlets: list(record({ station: stationField(), invert: elevation() }), 1, 50),
    maxOutletSpacing: metres(1, 200),
  }),
  /** Layers of geogrid, and the rolls they are cut from, by type; m. */
  layers: list(record({ course: quantity({ min: 1, max: 200, whole: true }), length: metres(0.3, 30), type: text(60) }), 0, 100),
  rolls: optionalList(record({ type: text(60), width: metres(0.3, 6), length: metres(2, 500) }), 20),
  /** Ordered above what is built, per cent. */
  waste: optionalRecord({ units: quantity({ min: 0, max: 50 }), stone: quantity({ min: 0, max: 50 }), grid: quantity({ min: 0, max: 50 }) }),
}

/** Fields of the part of a wall of one unit; a system with more of its own adds them. */
export const blockFields = {
  unit: unitSchema,
  foundation: foundationSchema(),
  embedment: parts.embedment,
  stone: parts.stone,
  drain: parts.drain,
  layers: parts.layers,
  rolls: parts.rolls,
  waste: parts.waste,
}
const blockRecord = record(blockFields)

/** The part of a wall of one unit on a foundation, with stone and pipe behind it and layers between its courses. */
export type BlockData = Omit<InferType<typeof blockRecord>, 'foundation'> & { foundation: FoundationData }
export const blockSchema = blockRecord as unknown as yup.ISchema<BlockData>

/** Blocks in the terms every wall has. Every course is made of the one unit. */
export function blockBuilding(_plan: Plan, data: BlockData): Building {
  const { unit } = data
  const make = {
    name: unit.name,
    height: unit.height,
    length: unit.length,
    minPiece: unit.minPiece ?? unit.length / 4,
    depth: unit.depth,
    setback: unit.setback,
    mass: unit.mass,
    half: unit.half !== false,
    hollow: unit.coreVolume > 0,
    ...(unit.minRadius == null ? {} : { minRadius: unit.minRadius }),
    ...(unit.perPallet == null ? {} : { perPallet: unit.perPallet }),
    ...(unit.profile === undefined ? {} : { form: unit.profile }),
  }
  return {
    foundation: foundation(data.foundation),
    course: () => make,
    ...(unit.capHeight > 0 ? { cap: { height: unit.capHeight, length: unit.capLength ?? unit.length, taper: unit.capTaper ?? 0 } } : {}),
    ...(data.stone ? { stone: data.stone } : {}),
    ...(data.drain ? { drain: data.drain } : {}),
    layers: data.layers,
    rolls: data.rolls ?? [],
    embedment: data.embedment,
    at: { embedment: 'embedment', layers: 'layers', outlets: 'drain.outlets', minRadius: 'unit.minRadius' },
    waste: data.waste ?? WASTE,
  }
}

/** What only the whole plan can tell of a wall of blocks. */
export function checkBlocks(plan: Plan, data: BlockData): Problem[] {
  const problems: Problem[] = []
  const say = (field: string, message: string) => problems.push({ field, message })
  const { unit } = data
  data.drain?.outlets.forEach((o, i) => {
    if (below(plan.length, o.station)) {
      say(`drain.outlets[${i}].station`, `${said.given(o.station)} is beyond the wall, which ends at ${said.given(plan.length)}`)
    }
  })
  if (data.foundation.width < unit.depth) {
    say('foundation.width', `${said.given(data.foundation.width)} is narrower than the unit, ${said.given(unit.depth)} deep`)
  }
  const seen = new Set<number>()
  data.layers.forEach((g, i) => {
    if (seen.has(g.course)) say(`layers[${i}].course`, `course ${g.course} has a layer already`)
    seen.add(g.course)
    // The cut leans back, so a layer higher up has more room behind it.
    const room = unit.depth + plan.excavation.behind + plan.excavation.slope * g.course * unit.height
    if (below(room, g.length)) {
      say(
        `layers[${i}].length`,
        `${said.given(g.length)} of grid does not fit: the excavation gives ${said.length(room, 2)} at course ${g.course}; dig deeper behind or shorten the layer`,
      )
    }
  })
  const rolls = new Set<string>()
  data.rolls?.forEach((r, i) => {
    if (rolls.has(r.type)) say(`rolls[${i}].type`, `there is a roll of ${r.type} already`)
    rolls.add(r.type)
    const longest = Math.max(0, ...data.layers.filter((g) => g.type === r.type).map((g) => g.length))
    if (below(r.length, longest)) say(`rolls[${i}].length`, `${said.given(r.length)} is shorter than the layer of ${said.given(longest)} cut from it`)
  })
  const tile = unit.pattern
  tile?.pieces.forEach((p, i) => {
    if (below(tile.length, p.x + p.length))
      say(`unit.pattern.pieces[${i}].length`, `reaches ${said.length(p.x + p.length, 3)}, past the tile of ${said.given(tile.length)}`)
    if (below(unit.height, p.y + p.height))
      say(`unit.pattern.pieces[${i}].height`, `reaches ${said.length(p.y + p.height, 3)}, over the course of ${said.given(unit.height)}`)
  })
  if (tile) {
    const filled = tile.pieces.reduce((sum, p) => sum + p.length * p.height, 0)
    if (!same(filled, tile.length * unit.height)) {
      say(
        'unit.pattern',
        `its pieces cover ${filled.toFixed(4)} m² of a tile of ${(tile.length * unit.height).toFixed(4)} m²; they must fill it without overlap`,
      )
    }
  }
  return problems
}

/** Outlets beyond the end of a wall that became shorter lie at its end. */
export const refitBlocks = (data: BlockData, length: number): BlockData =>
  data.drain
    ? { ...data, drain: { ...data.drain, outlets: data.drain.outlets.map((o) => (o.station > length ? { ...o, station: length } : o)) } }
    : data

/** The part a new wall of a unit starts with. */
export function blockStart(unit: Unit, starts: Starts): BlockData {
  const { value } = starts
  const kind = starts.school('pad-material')
  // Where corners are mitred nobody orders corner units.
  const { cornerLength: _, ...mitred } = unit
  // Never narrower than what stands on it, with some of it on either side.
  const width = Math.max(value('padWidth'), Math.round((unit.depth + 2 * BESIDE) * 100) / 100)
  return settleBlocks({
    unit: starts.school('corner') === 'corner-units' ? unit : mitred,
    foundation: {
      // A footing has bars that somebody must plan: nobody starts from one.
      kind: foundationKindOf(kind) && kind !== 'footing' ? kind : 'dense-graded',
      thickness: value('padThickness'),
      width,
      minRun: value('minRun'),
      lifts: { max: value('padLift'), loose: LOOSE },
    } as FoundationData,
    embedment: embedmentStart(starts),
    stone: { width: Math.max(value('stone'), stoneFor({ unit, foundation: { width }, drain: { diameter: value('pipe') } })) },
    drain: { diameter: value('pipe'), fall: value('fall') / 100, outlets: [], maxOutletSpacing: 15 },
    layers: [],
    rolls: undefined,
    waste: { units: value('wasteUnits'), stone: value('wasteStone'), grid: value('wasteGrid') },
  })
}

/** Between the pipe and the edge of the pad, m; where it is judged as well. */
export const PIPE_CLEAR = 0.05
/**
 * Stone behind units that is wide enough for the pipe to lie behind the pad, on its own bed, m; to the centimetre.
 *
 * @example stoneFor({ unit: { depth: 0.25 }, foundation: { width: 0.6 }, drain: { diameter: 0.1 } }) // 0.33
 */
export const stoneFor = (of: {
  readonly unit: { readonly depth: number }
  readonly foundation: { readonly width: number }
  readonly drain: { readonly diameter: number }
}): number => Math.ceil(((of.foundation.width - of.unit.depth) / 2 + of.drain.diameter + PIPE_CLEAR) * 100 - 1e-6) / 100

/** Schools of embedment a new wall starts with, by the one its company works by: the deepest of those listed governs. */
function embedmentStart({ value, school }: Starts): BlockData['embedment'] {
  const fixed = { kind: 'fixed' as const, depth: value('embedFixed') }
  const fraction = { kind: 'fraction' as const, fraction: value('embedShare') / 100 }
  const course = { kind: 'courses' as const, count: 1 }
  switch (school('embedment')) {
    case 'fixed':
    case 'part-course':
      return [fixed]
    case 'fixed-and-height':
      return [{ kind: 'perHeight', base: fixed.depth, perMetre: fraction.fraction }]
    case 'fraction':
      return [fraction]
    case 'whole-course':
      return [course]
    default:
      return [fixed, fraction, course]
  }
}

/** A pad past the units on either side, m. */
const BESIDE = 0.15
/** A pad where nobody said how thick, m. */
const PAD = 0.15
/** Finer chip on coarse stone, m. */
const CHIP = 0.03
/** A lift of it, m. */
const LIFT = 0.1

/** How many times as thick pad material is placed loose; a supplier's or trial's own figure goes before it. */
const LOOSE = 1.25

/** A part after an answer to one of its questions changed: what another foundation has none of goes, what it must have gets its usual value. */
export function settleBlocks(data: BlockData): BlockData {
  const { foundation: f, waste } = data as BlockData & {
    foundation: FoundationData & { lifts?: object; chip?: number; cover?: number; bars?: object; stock?: number }
  }
  const { lifts, chip, cover, bars, stock, ...size } = f
  const kind = foundationKindOf(f.kind)
  // Of the bare floor there is nothing to be thick; what is built on it again has its usual thickness.
  const thickness = kind?.nothing ? 0 : f.thickness === 0 ? PAD : f.thickness
  const own = kind?.nothing
    ? {}
    : f.kind === 'footing'
      ? { cover, bars, stock }
      : !kind?.traits.cast
        ? { lifts: { loose: LOOSE, ...(lifts ?? { max: LIFT }) }, ...(f.kind === 'two-stone' ? { chip: chip ?? CHIP } : {}) }
        : lifts
          ? { lifts }
          : {}
  return {
    ...data,
    foundation: Object.fromEntries(Object.entries({ ...size, thickness, ...own }).filter(([, v]) => v !== undefined)) as unknown as FoundationData,
    ...(waste ? { waste: { ...WASTE, ...waste } } : {}),
  }
}

const m = said.given
const FIELDS: readonly [id: string, title: string, of: (d: BlockData) => string][] = [
  ['unit', 'Unit', (d) => d.unit.name],
  ['unit-size', 'Unit size', ({ unit: u }) => `${m(u.length)} × ${m(u.height)} × ${m(u.depth)}, setback ${m(u.setback)}`],
  [
    'embedment',
    'Embedment rules',
    (d) =>
      d.embedment
        .map((e) => `${e.kind} ${e.depth === undefined ? (e.fraction ?? e.count ?? `${m(e.base ?? 0)} + ${e.perMetre} of the height`) : m(e.depth)}`)
        .join(', '),
  ],
  ['pad', 'Pad', ({ foundation: f }) => `${f.kind}, ${m(f.thickness)} thick, ${m(f.width)} wide, steps of ${m(f.minRun)} or more`],
  ['stone', 'Stone behind', (d) => (d.stone ? m(d.stone.width) : 'none')],
  [
    'drain',
    'Drain',
    ({ drain: d }) =>
      d
        ? `${m(d.diameter)} pipe at ${(d.fall * 100).toFixed(2)} %, outlets at ${d.outlets.map((o) => `${m(o.station)} (${m(o.invert)})`).join(', ')}`
        : 'none',
  ],
]

/** How two revisions of a wall of blocks differ in their own part. */
export const compareBlocks = (before: BlockData, after: BlockData): PartChange[] =>
  FIELDS.flatMap(([id, title, of]) => {
    const [was, is] = [of(before), of(after)]
    return was === is ? [] : [[id, title, was, is] as const]
  })

/** Why its foundation alone makes a wall an engineer's. */
export const foundationEngineered = (data: BlockData): readonly string[] => {
  const why = foundationKind(data.foundation).engineered
  return why === undefined ? [] : [why]
}
