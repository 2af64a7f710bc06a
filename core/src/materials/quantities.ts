import { said } from '../base/said'
import { stationsOver, tidy } from '../geometry'
import { gridOn, type Layout, picksOf, stepAt } from '../layout'
import { aroundOf, builtInKindOf, slugOf, toeAt, topAt } from '../plan'
import { schoolBy } from '../rules'
import { counted, type Piece, type Quantity } from '../systems'
import { cutList } from './cut-list'
import { digFound, FILL_BACK, fillOpenAt, fillVolume } from './earth'

export type { Quantity } from '../systems'

/** Loose soil over soil in the bank; common earth. A site's own figure goes before it. */
const SWELL = 1.25

const sum = <T>(list: readonly T[], of: (one: T) => number) => list.reduce((total, one) => total + of(one), 0)
const lengthOf = (s: readonly { from: number; to: number }[]) => sum(s, (one) => one.to - one.from)

/** What a wall takes is asked for by many, and follows from its layout alone. */
const taken = new WeakMap<Layout, readonly Quantity[]>()

/**
 * What the wall takes: units by kind, cuts, caps, pad, stone, excavation, spoil, grid, pipe, pallets and mass; then what
 * only its system has. Each says how it was worked out.
 *
 * @returns SI quantities
 * @example quantities(layout).find((q) => q.id === 'pad')
 */
export function quantities(layout: Layout): Quantity[] {
  const known = taken.get(layout)
  if (known) return [...known]
  const made = countAll(layout)
  taken.set(layout, made)
  return [...made]
}

function countAll(layout: Layout): Quantity[] {
  const { plan, system, building } = layout
  const { foundation, cap, waste } = building
  const unit = building.course(1)
  const { many } = system.noun
  const result: Quantity[] = []
  const say = (id: string, name: string, value: number, of: Quantity['unit'], working: string, bought: Quantity['bought'] = false) =>
    result.push({ id, name, value: tidy(value), unit: of, working, bought })
  const pieces = [...layout.cells.values()].flatMap((c) => c.pieces)
  // One walk over what may be a hundred thousand pieces.
  const counts = new Map<Piece['kind'], number>()
  const shaped: Piece[] = []
  let [run, seen, set] = [0, 0, 0]
  for (const p of pieces) {
    if (p.kind === 'return') {
      seen += p.length * unit.height
      continue
    }
    set++
    if (p.shape === undefined) counts.set(p.kind, (counts.get(p.kind) ?? 0) + 1)
    else shaped.push(p)
    const high = p.height ?? unit.height
    run += p.length * (high / unit.height)
    seen += p.length * high
  }
  const count = (kind: Piece['kind']) => counts.get(kind) ?? 0

  say('full', `Full ${many}`, count('full'), 'pieces', 'counted course by course')
  if (unit.half || count('half') > 0)
    say(
      'half',
      `Half ${many}`,
      count('half'),
      'pieces',
      !unit.half ? 'sawn: none are made' : 'where running bond needs them',
      unit.half ? PIECES : false,
    )
  say('cut', `Cut ${many}`, count('cut'), 'pieces', 'where a run ends off the half-unit grid, or a curve shifts the joints')
  if (count('corner') > 0) say('corner', 'Corner units', count('corner'), 'pieces', 'one a course at every outside corner, alternating', PIECES)
  if (count('mitre') > 0)
    say(
      'mitre',
      `Mitred ${many}`,
      count('mitre'),
      'pieces',
      schoolBy(layout.plan, 'corner') === 'mitred-turn'
        ? 'one a course at every corner that takes no corner unit, against a whole one'
        : 'two a course at every corner that takes no corner unit',
    )
  for (const shape of new Set(shaped.map((p) => p.shape as string))) {
    const own = shaped.filter((p) => p.shape === shape)
    const cut = own.filter((p) => p.kind === 'cut').length
    say(`shape-${shape}`, `Shape: ${shape}`, own.length, 'pieces', `by the pattern's tile, ${cut} of them cut`, PIECES)
  }
  const cuts = cutList(layout)
  if (cuts.pieces.length > 0) {
    say(
      'for-cuts',
      `Whole ${many} for the saw`,
      cuts.units.length,
      'pieces',
      `${cuts.pieces.length === 1 ? '1 piece' : `${cuts.pieces.length} pieces`}, off-cuts used again; no fewer than ${cuts.lowerBound} can do`,
    )
  }
  const whole = count('full') + cuts.units.length + count('mitre')
  const other = count('corner') + (!unit.half ? 0 : count('half')) + shaped.length
  const ordered = Math.ceil((whole * (100 + waste.units)) / 100 - 1e-9)
  say('order', `Order: whole ${many}`, ordered, 'pieces', `${whole} needed (full, for the saw, mitred) + ${waste.units} %`, {
    ...PIECES,
    id: 'whole',
    name: `Whole ${many}`,
    planned: whole,
  })
  if (unit.perPallet)
    say('pallets', 'Pallets', Math.ceil((ordered + other) / unit.perPallet), 'pieces', `${ordered + other} ÷ ${unit.perPallet} a pallet`)
  say(
    'mass',
    `Mass of ${many}`,
    (run / unit.length) * unit.mass,
    'kg',
    `${said.length(run, 2)} of course ÷ ${said.given(unit.length)} × ${said.mass(unit.mass)}`,
  )

  const face = seen
  say('face', 'Face', face, 'm²', 'true length of every course × its height')
  const topRun = sum(layout.caps, (c) => c.length)
  if (layout.caps.length > 0) {
    const caps = (kind: string) => layout.caps.filter((c) => c.kind === kind).length
    const parts = (['end', 'corner', 'tapered', 'cut'] as const).flatMap((k) => (caps(k) > 0 ? [`${caps(k)} ${CAP_WORDS[k]}`] : []))
    say(
      'caps',
      'Caps',
      layout.caps.length,
      'pieces',
      `${said.length(topRun, 2)} of top ÷ ${said.given(cap?.length ?? unit.length)}${parts.length > 0 ? `; of them ${parts.join(', ')}` : ''}`,
      { placed: 'caps', seen: true },
    )
    for (const k of ['end', 'corner', 'tapered'] as const) if (caps(k) > 0) say(`caps-${k}`, `Caps: ${CAP_WORDS[k]}`, caps(k), 'pieces', CAP_WHY[k])
  }

  const padRun = sum(layout.steps, (s) => s.end - s.start)
  for (const q of foundation.takes(padRun, waste.stone)) result.push({ ...q, value: tidy(q.value) })
  const last = Math.max(...layout.courses.map((c) => c.course))
  const runs = layout.courses.flatMap((c, i) =>
    (layout.runs[i] ?? []).map((r) => ({ course: c.course, pieces: counted(r.pieces), length: r.length, last: c.course === last })),
  )
  const steps = layout.steps.map((s) => ({ length: s.end - s.start }))
  const own = system.quantities(
    { pieces, onPad: onPadOf(layout), face, topRun, whole, runs, steps, topSteps: layout.tops.length - 1 },
    plan.system.data,
  )
  const cores = own.find((q) => q.id === 'cores')?.value ?? 0
  const stone = building.stone?.width ?? 0
  const behind = face * stone
  say(
    'stone',
    'Drainage stone',
    cores + behind,
    'm³',
    `${cores > 0 ? `cores ${said.volume(cores)} + ` : ''}behind ${said.area(face)} × ${said.given(stone)}`,
    cores + behind > 0 ? { order: (cores + behind) * (1 + waste.stone / 100), placed: 'stone' } : false,
  )
  say('stone-order', 'Order: drainage stone', (cores + behind) * (1 + waste.stone / 100), 'm³', `+ ${waste.stone} %`)

  let backfill = 0
  for (const c of layout.courses) {
    for (const s of c.stretches) backfill += fillVolume(layout, c, s.from, s.to)
  }
  say('backfill', 'Backfill, compacted', backfill, 'm³', backWords(layout), { name: 'Backfill', placed: 'backfill' })

  const { found } = plan
  if (found) {
    say(
      'dig',
      'Dig, bank',
      digFound(layout, found),
      'm³',
      `from the ground as found (${found.points.length} levels) to the bottom of the pad, the back leaning ${plan.excavation.slope} : 1; average end areas at ${said.given(0.5)}`,
    )
  } else digByGrades(layout, say)
  const dug = result.find((q) => q.id === 'dig')?.value ?? 0
  say('spoil', 'Spoil of the trench, loose', dug * SWELL, 'm³', `dig × ${SWELL} swell; less what is kept as fill`)

  const layers = layout.courses.flatMap((c) => gridOn(layout, c.course) ?? [])
  const gridArea = sum(layers, (g) => lengthOf(g.over) * g.length)
  say(
    'grid',
    'Geogrid',
    gridArea,
    'm²',
    `${layers.length} layers, run × length from the face`,
    gridArea > 0 ? { order: gridArea * (1 + waste.grid / 100), placed: 'layers' } : false,
  )
  if (gridArea > 0) say('grid-order', 'Order: geogrid', gridArea * (1 + waste.grid / 100), 'm²', `+ ${waste.grid} % for laps and trimming`)
  const picks = picksOf(layout)
  if (picks.length > 0) {
    const heaviest = picks.reduce((a, b) => (b.load > a.load ? b : a))
    say('heaviest', 'Heaviest pick', heaviest.load, 'kg', `${heaviest.name} with its gear, ${said.length(heaviest.reach, 1)} out`)
    const trucks = Math.max(0, ...picks.map((p) => p.truck ?? 0))
    if (trucks > 0) say('trucks', 'Truck loads', trucks, 'pieces', 'in the order in which the units are set; none carries more than it may')
  }
  if (building.drain) say('pipe', 'Drain pipe', plan.length, 'm', 'length of the wall', { placed: 'pipe' })
  for (const d of plan.builtIn ?? []) {
    for (const t of builtInKindOf(d.kind)?.takes(d, aroundOf(plan)) ?? [])
      result.push({ ...t, id: `${t.id}-${slugOf(d.name)}`, value: tidy(t.value) })
  }
  for (const q of own) result.push({ ...q, value: tidy(q.value) })
  const fitted = counted(pieces)
  if (fitted !== set) throw new Error('pieces are counted in two ways')
  return result
}

/** How far back is filled, and where that is not far enough. */
function backWords(layout: Layout): string {
  const { found } = layout.plan
  if (!found) return 'behind the stone to the cut, course by course'
  const open = fillOpenAt(layout, found)
  const back = said.given(found.back ?? FILL_BACK)
  return `behind the stone to the cut or to where the ground as found comes up, at most ${back} behind the face${open === undefined ? '' : `; at ${said.station(open)} the ground lies lower even there: say how far back is filled`}`
}

type Say = (id: string, name: string, value: number, of: Quantity['unit'], working: string) => void

/** What is dug where only the grades are known, and what would be where the hillside stands at the top grade already. */
function digByGrades(layout: Layout, say: Say): void {
  const { plan, building } = layout
  const { foundation } = building
  const unit = building.course(1)
  const width = Math.max(foundation.width, unit.depth + plan.excavation.behind + (foundation.width - unit.depth) / 2)
  const { slope } = plan.excavation
  let dig = 0
  let bank = 0
  for (const s of layout.steps) {
    const at = stationsOver(s.start, s.end, 0.5)
    const depth = (station: number) => Math.max(0, toeAt(plan, station) - (s.elevation - foundation.thickness))
    // Only the side behind leans back; the front is cut upright and closed again the same day.
    const below = (station: number) => width * depth(station) + (slope * depth(station) ** 2) / 2
    const above = (station: number) => {
      const h = Math.max(0, topAt(plan, station) - toeAt(plan, station))
      return (unit.depth + plan.excavation.behind + slope * depth(station)) * h + (slope * h * h) / 2
    }
    for (let i = 1; i < at.length; i++) {
      const [a, b] = [at[i - 1] as number, at[i] as number]
      dig += ((below(a) + below(b)) / 2) * (b - a)
      bank += ((above(a) + above(b)) / 2) * (b - a)
    }
  }
  say(
    'dig',
    'Dig below toe grade, bank',
    dig,
    'm³',
    `${said.length(width, 2)} wide, the back leaning ${slope} : 1, from toe grade to the bottom of the pad; average end areas at ${said.given(0.5)}`,
  )
  say('bank', 'Cut above toe grade, bank', bank, 'm³', 'only where natural ground already stands at the top grade behind the wall')
}

const PIECES = { placed: 'pieces', seen: true } as const

const CAP_WORDS = { end: 'with a finished end', corner: 'mitred at corners', tapered: 'tapered', cut: 'cut' } as const
const CAP_WHY = {
  end: 'one wherever an end of the cap is seen: top steps and the ends of the wall',
  corner: 'two at every corner of the top',
  tapered: 'on curves tighter than straight caps can follow; laid wide and narrow face in turn',
} as const

/** Pieces that lie straight on the pad: their course begins where the pad under their middle ends. */
const onPadOf = (layout: Layout): Piece[] =>
  [...layout.cells.values()].flatMap((cell) => {
    if (cell.pad === 'none') return []
    const bottom = layout.courses.find((c) => c.course === cell.course)?.bottom ?? 0
    return cell.pieces.filter((p) => Math.abs(stepAt(layout.steps, (p.start + p.to) / 2) - bottom) < 1e-4)
  })
