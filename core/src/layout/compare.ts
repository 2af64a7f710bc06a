import { canonical } from '../base/canonical'
import { said } from '../base/said'
import { LENGTH_TOLERANCE, pointAt } from '../geometry'
import type { Plan } from '../plan'
import { HOLDS_NAMES, STAND_NAMES, toeAt, topAt } from '../plan'
import { bookOf, compareRules, rungOf } from '../rules'
import { counted, stageChanges } from '../systems'
import { formatSlope } from '../units/slope'
import { type Layout, stepAt } from './layout'

/** One difference between two revisions; where it has a place, the stations (m) and course it is at. */
export interface Change {
  readonly id: string
  readonly text: string
  readonly from?: number
  readonly to?: number
  readonly course?: number
  readonly section?: string
}

const m = said.given

/** Numbers and words of a plan that stand alone, with the words for them. */
const FIELDS: readonly [string, string, (p: Plan) => string][] = [
  ['system', 'System', (p) => p.system.id],
  ['engineer', 'Engineered plan', (p) => p.engineer ?? 'none'],
  ['drawing', 'Drawing', (p) => p.drawing ?? 'none'],
  ['benchmark', 'Benchmark', (p) => `${p.benchmark.name} at ${m(p.benchmark.elevation)}`],
  ['excavation', 'Excavation', (p) => `${m(p.excavation.behind)} behind, leaning ${p.excavation.slope} : 1`],
  ['top', 'Top', (p) => p.top?.style ?? 'stepped'],
  ['openings', 'Openings', (p) => p.openings?.map((o) => `${o.name} at ${m(o.station)}`).join(', ') || 'none'],
  ['obstacles', 'Obstacles', (p) => p.obstacles?.map((o) => o.name).join(', ') || 'none'],
  ['holds', 'It holds', (p) => (p.holds === undefined ? 'nobody has said' : p.holds.map((h) => HOLDS_NAMES[h]).join(', ') || 'nothing else')],
  [
    'stands',
    'Around it',
    (p) => p.stands?.map((s) => STAND_NAMES[s.kind].toLowerCase() + (s.away === undefined ? '' : ` ${m(s.away)} behind`)).join(', ') || 'nothing',
  ],
  ['found', 'Ground as found', (p) => (p.found ? `${p.found.points.length} ${p.found.points.length === 1 ? 'level' : 'levels'}` : 'not measured')],
  [
    'front',
    'Ground in front',
    (p) =>
      p.front
        ? `falls ${p.front.slope > 0 ? formatSlope(1 / p.front.slope) : 'nowhere'}${p.front.erodible ? ', washes out' : ''}`
        : 'nobody has said',
  ],
  ['frost', 'Frost depth', (p) => (p.frost === undefined ? 'not given' : m(p.frost))],
  ['engineer-by', 'Its engineer', (p) => p.engineerBy ?? 'none'],
  ['engineer-licence', 'Licence or register', (p) => p.engineerLicence ?? 'none'],
  ['engineer-on', 'Engineered plan of', (p) => p.engineerOn ?? 'no day'],
  [
    'engineer-covers',
    'It covers',
    ({ engineerCovers: c }) =>
      c
        ? `${m(c.height)} high, ${m(c.from)} to ${m(c.to)}, ${c.facts.map((f) => rungOf(f).title.toLowerCase()).join(', ') || 'nothing else'}`
        : 'nobody has said',
  ],
  ['asked', 'Asked first', (p) => p.asked?.map((a) => `${a.who}: ${a.may ? 'yes' : 'no'}`).join(', ') || 'nobody'],
  ['soil', 'Soil', ({ soil: s }) => (s ? `${s.behind ?? 'unsaid'} behind, ${s.below ?? 'unsaid'} below` : 'nobody has said')],
  ['edge', 'Edge on top', (p) => (p.edge === undefined ? 'nobody has said' : p.edge === 'people' ? 'people come there' : 'nobody comes there')],
  ['padsteps', 'Pad steps', (p) => (p.padSteps ? `set at ${p.padSteps.map((s) => m(s)).join(', ') || 'none'}` : 'by themselves')],
  ['heel', 'Heel drain', (p) => (p.water?.heel ? 'planned' : 'none')],
  ['sections', 'Sections', (p) => p.sections.map((s) => `${s.id} to ${m(s.to)}`).join(', ')],
]

/** Stretches over which a value differs by more than `limit`, with the largest difference. */
function stretches(length: number, differs: (station: number) => number, limit: number) {
  const result: { from: number; to: number; most: number }[] = []
  const parts = Math.max(20, Math.ceil(length / 0.25))
  for (let k = 0; k < parts; k++) {
    // In the middle of each part: at a step's very edge both sides are right.
    const s = ((k + 0.5) * length) / parts
    const by = differs(s)
    if (Math.abs(by) <= limit) continue
    const [from, to] = [(k * length) / parts, ((k + 1) * length) / parts]
    const last = result[result.length - 1]
    if (last && Math.abs(last.to - from) < 1e-6 && Math.sign(last.most) === Math.sign(by)) {
      last.to = to
      if (Math.abs(by) > Math.abs(last.most)) last.most = by
    } else result.push({ from, to, most: by })
  }
  return result
}

/**
 * What changed from one revision to another: fields, line, grades, pad and top steps, units, geogrid.
 *
 * @example compareLayouts(before, after).map((c) => c.text)
 */
export function compareLayouts(before: Layout, after: Layout): Change[] {
  const [a, b] = [before.plan, after.plan]
  const changes: Change[] = []
  for (const [id, name, of] of FIELDS) {
    const [was, is] = [of(a), of(b)]
    if (was !== is) changes.push({ id, text: `${name}: ${was} → ${is}` })
  }
  const built = new Map((a.builtIn ?? []).map((d) => [d.name, d]))
  for (const d of b.builtIn ?? []) {
    const was = built.get(d.name)
    built.delete(d.name)
    if (!was) changes.push({ id: 'built-in', text: `Built in: ${d.name} added` })
    else if (canonical(was) !== canonical(d)) changes.push({ id: 'built-in', text: `Built in: ${d.name} changed` })
  }
  for (const name of built.keys()) changes.push({ id: 'built-in', text: `Built in: ${name} taken out` })
  const [own, next] = [before.system, after.system]
  if (own.id === next.id)
    for (const [id, name, was, is] of next.compare(a.system.data, b.system.data)) changes.push({ id, text: `${name}: ${was} → ${is}` })
  else changes.push({ id: 'unit', text: `Unit: ${before.building.course(1).name} → ${after.building.course(1).name}` })
  if (Math.abs(a.length - b.length) > 0.0005) changes.push({ id: 'length', text: `Length: ${m(a.length)} → ${m(b.length)}` })
  const common = Math.min(a.length, b.length)
  const words = (by: number, up: string, down: string) => `${said.small(Math.abs(by))} ${by > 0 ? up : down}`
  /** How far a station of the line moved, m: into the fill, and on along the line. */
  const moved = (s: number) => {
    const [p, q] = [pointAt(before.alignment, s), pointAt(after.alignment, s)]
    const angle = ((90 - p.bearing) * Math.PI) / 180
    const [e, n] = [q.easting - p.easting, q.northing - p.northing]
    return { into: n * Math.cos(angle) - e * Math.sin(angle), on: e * Math.cos(angle) + n * Math.sin(angle), far: Math.hypot(e, n) }
  }
  const list: [string, string, (s: number) => number, number, string, string][] = [
    [
      'line',
      'Face line moved',
      (s) => {
        const { into, far } = moved(s)
        return Math.abs(into) > LENGTH_TOLERANCE ? Math.sign(into) * far : 0
      },
      0.005,
      'into the fill',
      'outwards',
    ],
    [
      'line',
      'Face line moved along itself',
      (s) => {
        const { into, on } = moved(s)
        return Math.abs(into) > LENGTH_TOLERANCE ? 0 : on
      },
      0.005,
      'onwards',
      'back',
    ],
    ['toe', 'Toe grade', (s) => toeAt(b, s) - toeAt(a, s), 0.0005, 'higher', 'lower'],
    ['top-grade', 'Top grade', (s) => topAt(b, s) - topAt(a, s), 0.0005, 'higher', 'lower'],
    ['steps', 'Pad', (s) => stepAt(after.steps, s) - stepAt(before.steps, s), 0.0005, 'higher', 'lower'],
    ['tops', 'Top of units', (s) => stepAt(after.tops, s) - stepAt(before.tops, s), 0.0005, 'higher', 'lower'],
  ]
  for (const [id, name, differs, limit, up, down] of list) {
    for (const s of stretches(common, differs, limit)) {
      changes.push({
        id,
        text: `${name}: up to ${words(s.most, up, down)}, ${said.length(s.from, 1)} to ${said.length(s.to, 1)}`,
        from: s.from,
        to: s.to,
      })
    }
  }
  const courses = new Set([...before.building.layers, ...after.building.layers].map((g) => g.course))
  for (const course of [...courses].sort((x, y) => x - y)) {
    const [was, is] = [before, after].map((l) => l.building.layers.find((g) => g.course === course))
    if (!was && is) changes.push({ id: 'grid', course, text: `Geogrid on course ${course} added: ${m(is.length)} ${is.type}` })
    else if (was && !is) changes.push({ id: 'grid', course, text: `Geogrid on course ${course} taken out (was ${m(was.length)} ${was.type})` })
    else if (was && is && (was.length !== is.length || was.type !== is.type)) {
      changes.push({ id: 'grid', course, text: `Geogrid on course ${course}: ${m(was.length)} ${was.type} → ${m(is.length)} ${is.type}` })
    }
  }
  if (a.book !== b.book && (a.book || b.book)) {
    const said = new Set<string>()
    for (const c of compareRules(bookOf(b), bookOf(a)).filter((x) => !x.rule.startsWith('start.')))
      changes.push({ id: 'rules', text: `Rule: ${c.title}: ${c.was} → ${c.is}` })
    for (const c of stageChanges(before.system, after.system)) {
      if (said.has(c.text)) continue
      said.add(c.text)
      changes.push({ id: 'stages', text: `Work: ${c.text}` })
    }
  }
  const units = (l: Layout) => [...l.cells.values()].reduce((n, c) => n + counted(c.pieces), 0)
  if (units(before) !== units(after)) changes.push({ id: 'units', text: `Units: ${units(before)} → ${units(after)}` })
  return changes
}
