import { fail, ok, type Result } from '../../base/result'
import type { Vertex } from '../../geometry'
import { DRAWING_UNITS, type Drawing, type DrawingUnit, type FoundLine, type FoundPoint, Ignored } from './drawing'
import { type Entity, type Frame, framed, looksLikeDxf, numberOf, plainName, pointOf, textAt } from './dxf-frame'
import { joined, type Part } from './join'
import { arcSense, insertion, type Placing, type Point3, placed, planeOf, WORLD, within } from './space'

const UNITS: ReadonlyMap<number, DrawingUnit> = new Map([
  [1, 'in'],
  [2, 'ft'],
  [4, 'mm'],
  [5, 'cm'],
  [6, 'm'],
  [21, 'usft'],
])
/** Ends closer than this are one point, m: what rounding to a few decimals leaves. */
const JOIN = 0.002
/** Blocks within blocks, and pieces in all, that anybody draws; more is a trap. */
const LIMITS = { nesting: 16, pieces: 400_000 }

/** Where an entity is drawn: how it is placed, the layer its block was put on, whether that one is in paper space. */
interface Place {
  readonly placing: Placing
  readonly layer: string | undefined
  readonly depth: number
}

class Collector {
  readonly lines: FoundLine[] = []
  readonly points: FoundPoint[] = []
  readonly parts: Part[] = []
  readonly ignored = new Ignored()
  readonly #perLayer = new Map<string, number>()
  pieces = 0

  line(layer: string, vertices: readonly Vertex[], closed: boolean, elevations?: readonly number[]) {
    const n = (this.#perLayer.get(layer) ?? 0) + 1
    this.#perLayer.set(layer, n)
    this.lines.push({ id: `line-${this.lines.length + 1}`, layer, name: `${layer} ${n}`, vertices, closed, ...(elevations ? { elevations } : {}) })
  }
  count = (layer: string) => this.#perLayer.get(layer) ?? 0
}

const vertexAt = (p: Point3, bulge = 0): Vertex => ({ easting: p[0], northing: p[1], bulge })
const extrusionOf = (e: Entity): Point3 => [numberOf(e, 210) ?? 0, numberOf(e, 220) ?? 0, numberOf(e, 230) ?? 1]
const uneven = 'it is scaled unevenly or lies in a tilted plane, so its arcs are no arcs from above; draw it flat'

interface Raw {
  readonly point: Point3
  readonly bulge: number
}

function putPolyline(to: Collector, layer: string, raw: readonly Raw[], closed: boolean, placing: Placing, solid: boolean) {
  if (raw.length < 2) return to.ignored.add('polylines of less than two points', 'they have no length')
  const sense = arcSense(placing)
  if (sense === undefined && raw.some((r) => r.bulge !== 0)) return to.ignored.add('polylines with bent arcs', uneven)
  const world = raw.map((r) => placed(placing, r.point))
  to.line(
    layer,
    world.map((p, i) => vertexAt(p, (raw[i] as Raw).bulge * (sense ?? 1))),
    closed,
    solid ? world.map((p) => p[2]) : undefined,
  )
}

function lightPolyline(to: Collector, e: Entity, layer: string, placing: Placing) {
  const raw: { x: number; y: number; bulge: number }[] = []
  for (const [code, value] of e.pairs) {
    const last = raw[raw.length - 1]
    if (code === 10) raw.push({ x: Number(value), y: Number.NaN, bulge: 0 })
    else if (code === 20 && last) last.y = Number(value)
    else if (code === 42 && last) last.bulge = Number(value)
  }
  const bad = raw.findIndex((r) => !Number.isFinite(r.x) || !Number.isFinite(r.y))
  if (bad >= 0) return to.ignored.add(`the polyline at line ${e.line}`, `its vertex ${bad + 1} has no y; save the drawing again`)
  const z = numberOf(e, 38) ?? 0
  const own = within(placing, planeOf(extrusionOf(e)))
  putPolyline(
    to,
    layer,
    raw.map((r) => ({ point: [r.x, r.y, z], bulge: r.bulge })),
    ((numberOf(e, 70) ?? 0) & 1) === 1,
    own,
    false,
  )
}

function heavyPolyline(to: Collector, e: Entity, layer: string, placing: Placing) {
  const flags = numberOf(e, 70) ?? 0
  if ((flags & (16 | 64)) !== 0) return to.ignored.add('meshes', 'they are surfaces, no lines of a wall')
  const solid = (flags & 8) !== 0
  // Of a line that was fitted the fitted points are taken, not the frame it was drawn by.
  const own = e.vertices.filter((v) => ((numberOf(v, 70) ?? 0) & 16) === 0)
  const bad = own.findIndex((v) => pointOf(v, 10) === undefined)
  if (bad >= 0) return to.ignored.add(`the polyline at line ${e.line}`, `its vertex ${bad + 1} has no y; save the drawing again`)
  const level = solid ? 0 : (numberOf(e, 30) ?? 0)
  const raw = own.map((v): Raw => {
    const [x, y, z] = pointOf(v, 10) as Point3
    return { point: [x, y, solid ? z : z || level], bulge: solid ? 0 : (numberOf(v, 42) ?? 0) }
  })
  const rises = solid || raw.some((r) => r.point[2] !== raw[0]?.point[2])
  putPolyline(to, layer, raw, (flags & 1) === 1, solid ? placing : within(placing, planeOf(extrusionOf(e))), rises)
}

function arc(to: Collector, e: Entity, layer: string, placing: Placing) {
  const [centre, radius] = [pointOf(e, 10), numberOf(e, 40)]
  if (!centre || !radius || !(radius > 0)) return to.ignored.add('arcs without a centre or radius', 'their numbers are missing')
  const own = within(placing, planeOf(extrusionOf(e)))
  const sense = arcSense(own)
  if (sense === undefined) return to.ignored.add('arcs seen from the side', uneven)
  const on = (degrees: number) => {
    const a = (degrees * Math.PI) / 180
    return placed(own, [centre[0] + radius * Math.cos(a), centre[1] + radius * Math.sin(a), centre[2]])
  }
  const [start, end] = [numberOf(e, 50), numberOf(e, 51)]
  if (e.type === 'ARC' && (start === undefined || end === undefined))
    return to.ignored.add('arcs without a centre or radius', 'their numbers are missing')
  const sweep = e.type === 'CIRCLE' ? 360 : ((((end as number) - (start as number)) % 360) + 360) % 360 || 360
  if (sweep > 359.999999) return to.line(layer, [vertexAt(on(0), sense), vertexAt(on(180), sense)], true)
  to.parts.push({ layer, from: vertexAt(on(start as number)), to: vertexAt(on(end as number)), bulge: sense * Math.tan((sweep * Math.PI) / 720) })
}

/** A spline by the points it was fitted through; one without any is no line of straights and arcs. */
function spline(to: Collector, e: Entity, layer: string, placing: Placing) {
  const raw: { x: number; y: number; z: number }[] = []
  for (const [code, value] of e.pairs) {
    const last = raw[raw.length - 1]
    if (code === 11) raw.push({ x: Number(value), y: Number.NaN, z: 0 })
    else if (code === 21 && last) last.y = Number(value)
    else if (code === 31 && last) last.z = Number(value)
  }
  if (raw.length < 2 || raw.some((r) => !Number.isFinite(r.x) || !Number.isFinite(r.y)))
    return to.ignored.add('SPLINE', 'it has no fitted points, and a wall is set out by straights and arcs; redraw it with them')
  putPolyline(
    to,
    layer,
    raw.map((r) => ({ point: [r.x, r.y, r.z], bulge: 0 })),
    ((numberOf(e, 70) ?? 0) & 1) === 1,
    placing,
    raw.some((r) => r.z !== raw[0]?.z),
  )
}

function insert(to: Collector, e: Entity, layer: string, place: Place, frame: Frame): Result<true> {
  const name = plainName(textAt(e, 2) ?? '')
  const block = frame.blocks.get(name)
  if (!block) {
    to.ignored.add('blocks that are not in the file', `"${name.slice(0, 40)}" is missing; bind what is referenced and save it again`)
    return ok(true)
  }
  if (place.depth >= LIMITS.nesting) return fail('file', `has blocks within blocks more than ${LIMITS.nesting} deep; break them up and save it again`)
  const at = pointOf(e, 10) ?? [0, 0, 0]
  const scale: Point3 = [numberOf(e, 41) ?? 1, numberOf(e, 42) ?? 1, numberOf(e, 43) ?? 1]
  const turned = numberOf(e, 50) ?? 0
  const [columns, rows] = [Math.max(1, numberOf(e, 70) ?? 1), Math.max(1, numberOf(e, 71) ?? 1)]
  const [dx, dy] = [numberOf(e, 44) ?? 0, numberOf(e, 45) ?? 0]
  const plane = within(place.placing, planeOf(extrusionOf(e)))
  const [c, s] = [Math.cos((turned * Math.PI) / 180), Math.sin((turned * Math.PI) / 180)]
  for (let i = 0; i < columns; i++) {
    for (let j = 0; j < rows; j++) {
      const [x, y] = [i * dx, j * dy]
      const spot: Point3 = [at[0] + c * x - s * y, at[1] + s * x + c * y, at[2]]
      const inner: Place = { placing: within(plane, insertion(block.base, spot, scale, turned)), layer, depth: place.depth + 1 }
      const done = collect(to, block.entities, inner, frame)
      if (!done.ok) return done
    }
  }
  return ok(true)
}

const SPLINES = 'a wall is set out by straights and arcs; redraw it with them'

function collect(to: Collector, entities: readonly Entity[], place: Place, frame: Frame): Result<true> {
  for (const e of entities) {
    if (++to.pieces > LIMITS.pieces)
      return fail('file', `unfolds into more than ${LIMITS.pieces} pieces; save only the layers of the wall into a new file`)
    if (numberOf(e, 67) === 1) {
      to.ignored.add('pieces in paper space', 'they are the sheet, not the site')
      continue
    }
    if (numberOf(e, 60) === 1) {
      to.ignored.add('hidden pieces', 'they are switched off one by one')
      continue
    }
    const own = plainName(textAt(e, 8) ?? '0')
    // What is drawn on layer 0 of a block lies on the layer the block was put on.
    const layer = own === '0' && place.layer !== undefined ? place.layer : own
    const { placing } = place
    switch (e.type) {
      case 'LWPOLYLINE':
        lightPolyline(to, e, layer, placing)
        break
      case 'POLYLINE':
        heavyPolyline(to, e, layer, placing)
        break
      case 'LINE': {
        const [a, b] = [pointOf(e, 10), pointOf(e, 11)]
        if (a && b) to.parts.push({ layer, from: vertexAt(placed(placing, a)), to: vertexAt(placed(placing, b)), bulge: 0 })
        else to.ignored.add('lines without ends', 'their coordinates are missing')
        break
      }
      case 'ARC':
      case 'CIRCLE':
        arc(to, e, layer, placing)
        break
      case 'SPLINE':
        spline(to, e, layer, placing)
        break
      case 'POINT': {
        const p = pointOf(e, 10)
        if (!p) break
        const [x, y, z] = placed(placing, p)
        to.points.push({
          name: `${to.points.length + 1}`,
          easting: x,
          northing: y,
          ...(numberOf(e, 30) === undefined ? {} : { elevation: z }),
          code: layer,
        })
        break
      }
      case 'INSERT': {
        const done = insert(to, e, layer, place, frame)
        if (!done.ok) return done
        break
      }
      default:
        to.ignored.add(e.type, e.type === 'ELLIPSE' ? SPLINES : 'it is no line of a wall')
    }
  }
  return ok(true)
}

/**
 * Lines of a DXF drawing: polylines with bulges, blocks where they were put, and single lines and arcs joined end to end within their
 * layer. Time grows with the file.
 *
 * @param content - ASCII DXF
 * @param unit - overrules what the header says; joining is by metres, so it wants to know
 * @example readDxf(text).value.lines[0]?.vertices
 */
export function readDxf(content: string, unit?: DrawingUnit, progress?: (share: number) => void): Result<Drawing> {
  if (!looksLikeDxf(content.slice(0, 20_000))) return fail('file', 'is not a DXF drawing: it has no section')
  const frame = framed(content, progress)
  if (!frame.ok) return frame
  const to = new Collector()
  const done = collect(to, frame.value.entities, { placing: WORLD, layer: undefined, depth: 0 }, frame.value)
  if (!done.ok) return done
  const stated = UNITS.get(frame.value.unit)
  const known = unit ?? stated
  const { chains, doubled, branches } = joined(to.parts, JOIN / DRAWING_UNITS[known ?? 'm'])
  for (const c of chains) to.line(c.layer, c.vertices, c.closed)
  if (doubled > 0) to.ignored.add('doubled lines', 'each is drawn twice and counts once', doubled)
  const names = new Set([...frame.value.layers.keys(), ...to.lines.map((l) => l.layer)])
  const layers = [...names].map((name) => {
    const shown = frame.value.layers.get(name) ?? 'shown'
    return { name, lines: to.count(name), ...(shown === 'shown' ? {} : { hidden: shown }) }
  })
  const asks = [
    ...(known ? [] : ['the file does not say its unit']),
    ...branches
      .slice(0, 20)
      .map(
        (b) =>
          `${b.count} lines of layer ${b.layer} meet at ${b.easting.toFixed(3)}, ${b.northing.toFixed(3)}: each ends there, choose the one the wall follows`,
      ),
    ...(branches.length > 20 ? [`${branches.length - 20} more places where lines meet`] : []),
  ]
  return ok({
    kind: 'dxf',
    ...(known ? { unit: known } : {}),
    ...(stated ? { stated } : {}),
    axes: 'easting-first',
    lines: to.lines,
    profiles: [],
    points: to.points,
    layers,
    ignored: to.ignored.list(),
    asks,
  })
}
