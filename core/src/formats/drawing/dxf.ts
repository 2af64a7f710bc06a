import { fail, ok, type Result } from '../../base/result'
import type { Vertex } from '../../geometry'
import { type Drawing, type DrawingUnit, type FoundLine, type FoundPoint, Ignored } from './drawing'

interface Point {
  x: number
  y: number
  z?: number
  bulge?: number
}
interface Entity {
  type: string
  layer?: string
  vertices?: Point[]
  shape?: boolean
  elevation?: number
  center?: Point
  radius?: number
  startAngle?: number
  endAngle?: number
  position?: Point
  bulge?: number
}
const UNITS: Record<number, DrawingUnit> = { 1: 'in', 2: 'ft', 4: 'mm', 5: 'cm', 6: 'm', 21: 'usft' }
/** Ends closer than this, in the drawing's unit, are one point: what rounding to a few decimals leaves. */
const JOIN = 0.002

const finite = (p: Point | undefined): p is Point => p !== undefined && Number.isFinite(p.x) && Number.isFinite(p.y)
const vertex = (p: Point, bulge = 0): Vertex => ({ easting: p.x, northing: p.y, bulge })

/** An element with two ends, to be joined into a line. */
interface Part {
  layer: string
  from: Vertex
  to: Vertex
  bulge: number
}

/** Entities a wall can be made of. */
const TAKEN = new Set(['LWPOLYLINE', 'POLYLINE', 'VERTEX', 'SEQEND', 'LINE', 'ARC', 'CIRCLE', 'POINT'])

interface Framed {
  readonly entities: readonly Entity[]
  readonly unit: number
  readonly layers: readonly string[]
}

type Pair = readonly [code: number, value: string]

/** One entity of its pairs; a vertex goes to the polyline before it. */
function entityOf(type: string, pairs: readonly Pair[]): Entity {
  const of = (code: number) => pairs.find((p) => p[0] === code)?.[1]
  const number = (code: number) => {
    const v = of(code)
    return v === undefined ? undefined : Number(v)
  }
  const point = (x: number): Point | undefined => {
    const [a, b, c] = [number(x), number(x + 10), number(x + 20)]
    return a === undefined || b === undefined ? undefined : { x: a, y: b, ...(c === undefined ? {} : { z: c }) }
  }
  const radians = (code: number) => {
    const v = number(code)
    return v === undefined ? undefined : (v * Math.PI) / 180
  }
  const base = { type, layer: of(8) ?? '0' }
  const closed = (Number(of(70) ?? 0) & 1) === 1
  switch (type) {
    case 'LWPOLYLINE': {
      const vertices: Point[] = []
      for (const [code, value] of pairs) {
        const last = vertices[vertices.length - 1]
        if (code === 10) vertices.push({ x: Number(value), y: Number.NaN })
        else if (code === 20 && last) last.y = Number(value)
        else if (code === 42 && last) last.bulge = Number(value)
      }
      return { ...base, vertices, shape: closed, elevation: number(38) ?? 0 }
    }
    case 'POLYLINE':
      return { ...base, vertices: [], shape: closed }
    case 'LINE':
      return { ...base, vertices: [point(10), point(11)].filter((p): p is Point => p !== undefined) }
    case 'ARC':
    case 'CIRCLE':
      return {
        ...base,
        ...optional('center', point(10)),
        ...optional('radius', number(40)),
        ...optional('startAngle', radians(50)),
        ...optional('endAngle', radians(51)),
      }
    default:
      return { ...base, ...optional('position', point(10)), ...optional('bulge', number(42)) }
  }
}

const optional = <K extends string, V>(key: K, value: V | undefined) => (value === undefined ? {} : ({ [key]: value } as Record<K, V>))

/**
 * A DXF taken apart into its pairs of group code and value: the entities that matter, the unit of the header, the names of the
 * layers. What is broken is named with its line; the reader behind this looks without end for sections and tables that never close.
 */
function framed(content: string, ignored: Ignored): Result<Framed> {
  const broken = (line: number, why: string) => fail('file', `is a DXF drawing that is broken at line ${line}: ${why}; save it again`)
  const lines = content.split(/\r\n|\r|\n/)
  const entities: Entity[] = []
  let pairs: Pair[] = []
  const layers: string[] = []
  let unit = 0
  let section = ''
  let record = ''
  let variable = ''
  let taking = false
  let ended = false
  for (let i = 0; i + 1 < lines.length; i += 2) {
    const code = (lines[i] as string).trim()
    const value = (lines[i + 1] as string).trim()
    if (!/^-?\d{1,4}$/.test(code)) return broken(i + 1, `"${code.slice(0, 20)}" is no group code`)
    if (code === '0') {
      close()
      if (value === 'EOF') {
        ended = section === ''
        break
      }
      if (value === 'SECTION') {
        if (section !== '') return broken(i + 2, 'a section begins inside another')
        section = '?'
        continue
      }
      if (value === 'ENDSEC') {
        section = ''
        taking = false
        continue
      }
      record = value
      if (section !== 'ENTITIES') continue
      taking = TAKEN.has(value)
      if (!taking) {
        ignored.add(
          value,
          value === 'SPLINE' || value === 'ELLIPSE' ? 'a wall is set out by straights and arcs; redraw it with them' : 'it is no line of a wall',
        )
      }
    } else if (section === '?' && code === '2') {
      section = value
      continue
    }
    if (section === 'HEADER') {
      if (code === '9') variable = value
      else if (variable === '$INSUNITS') unit = Number(value)
    } else if (section === 'TABLES' && record === 'LAYER' && code === '2') layers.push(value)
    else if (taking) {
      const number = Number(code)
      if (number >= 10 && number < 60 && (value === '' || !Number.isFinite(Number(value))))
        return broken(i + 2, `"${value.slice(0, 20)}" is no number`)
      pairs.push([number, value])
    }
  }
  if (!ended) return fail('file', 'is a DXF drawing that is cut off: it has no end; save it again')
  return ok({ entities, unit, layers })

  /** The entity whose pairs have come in is whole. */
  function close() {
    if (taking && record !== '' && record !== 'SEQEND') {
      const entity = entityOf(record, pairs)
      const last = entities[entities.length - 1]
      if (record !== 'VERTEX') entities.push(entity)
      else if (last?.type === 'POLYLINE' && entity.position) last.vertices?.push({ ...entity.position, ...optional('bulge', entity.bulge) })
    }
    pairs = []
    taking = false
  }
}

/**
 * Lines of a DXF drawing: polylines with bulges, and single lines and arcs joined end to end within their layer.
 *
 * @param content - ASCII DXF
 * @example readDxf(text).value.lines[0]?.vertices
 */
export function readDxf(content: string): Result<Drawing> {
  if (!/^\s*0\s*\r?\n\s*SECTION/m.test(content.slice(0, 20_000))) return fail('file', 'is not a DXF drawing: it has no section')
  const ignored = new Ignored()
  const frame = framed(content, ignored)
  if (!frame.ok) return frame
  const lines: FoundLine[] = []
  const points: FoundPoint[] = []
  const parts: Part[] = []
  const put = (layer: string, vertices: Vertex[], closed: boolean, elevations?: number[]) => {
    const id = `line-${lines.length + 1}`
    lines.push({
      id,
      layer,
      name: `${layer} ${lines.filter((l) => l.layer === layer).length + 1}`,
      vertices,
      closed,
      ...(elevations ? { elevations } : {}),
    })
  }
  for (const e of frame.value.entities) {
    const layer = e.layer ?? '0'
    switch (e.type) {
      case 'LWPOLYLINE':
      case 'POLYLINE': {
        const own = (e.vertices ?? []).filter(finite)
        if (own.length < 2) {
          ignored.add('polylines of less than two points', 'they have no length')
          break
        }
        const z = own.map((p) => p.z ?? e.elevation ?? 0)
        const solid = e.type === 'POLYLINE' && own.some((p) => p.z !== undefined && p.z !== 0)
        put(
          layer,
          own.map((p) => vertex(p, p.bulge ?? 0)),
          e.shape === true,
          solid ? z : undefined,
        )
        break
      }
      case 'LINE': {
        const [a, b] = e.vertices ?? []
        if (finite(a) && finite(b)) parts.push({ layer, from: vertex(a), to: vertex(b), bulge: 0 })
        else ignored.add('lines without ends', 'their coordinates are missing')
        break
      }
      case 'ARC': {
        if (!finite(e.center) || !e.radius || e.startAngle === undefined || e.endAngle === undefined) {
          ignored.add('arcs without a centre or radius', 'their numbers are missing')
          break
        }
        const sweep = (((e.endAngle - e.startAngle) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI)
        const { center: c, radius: r } = e
        const on = (angle: number) => vertex({ x: c.x + r * Math.cos(angle), y: c.y + r * Math.sin(angle) })
        parts.push({ layer, from: on(e.startAngle), to: on(e.endAngle), bulge: Math.tan(sweep / 4) })
        break
      }
      case 'CIRCLE': {
        if (finite(e.center) && e.radius) {
          const { center: c, radius: r } = e
          put(layer, [vertex({ x: c.x + r, y: c.y }, 1), vertex({ x: c.x - r, y: c.y }, 1)], true)
        }
        break
      }
      case 'POINT':
        if (finite(e.position)) {
          points.push({
            name: `${points.length + 1}`,
            easting: e.position.x,
            northing: e.position.y,
            ...(e.position.z === undefined ? {} : { elevation: e.position.z }),
            code: layer,
          })
        }
        break
    }
  }
  for (const chain of joined(parts)) put(chain.layer, chain.vertices, chain.closed)
  const names = new Set([...frame.value.layers, ...lines.map((l) => l.layer)])
  const layers = [...names].map((name) => ({ name, lines: lines.filter((l) => l.layer === name).length }))
  const unit = UNITS[frame.value.unit]
  return ok({ kind: 'dxf', ...(unit ? { unit } : {}), axes: 'easting-first', lines, profiles: [], points, layers, ignored: ignored.list() })
}

/** Parts joined end to end within their layer, whichever way each was drawn. */
function joined(parts: readonly Part[]): { layer: string; vertices: Vertex[]; closed: boolean }[] {
  const left = new Set(parts)
  const cell = (p: Vertex) => [Math.round(p.easting / (JOIN * 4)), Math.round(p.northing / (JOIN * 4))] as const
  const ends = new Map<string, Part[]>()
  for (const p of parts) {
    for (const v of [p.from, p.to]) {
      const key = `${p.layer}|${cell(v).join('|')}`
      const list = ends.get(key)
      if (list) list.push(p)
      else ends.set(key, [p])
    }
  }
  const near = (a: Vertex, b: Vertex) => Math.hypot(a.easting - b.easting, a.northing - b.northing) <= JOIN
  const nextTo = (layer: string, v: Vertex): Part | undefined => {
    const [x, y] = cell(v)
    for (let i = -1; i <= 1; i++) {
      for (let j = -1; j <= 1; j++) {
        const found = ends.get(`${layer}|${x + i}|${y + j}`)?.find((p) => left.has(p) && (near(p.from, v) || near(p.to, v)))
        if (found) return found
      }
    }
    return undefined
  }
  const result: { layer: string; vertices: Vertex[]; closed: boolean }[] = []
  for (const first of parts) {
    if (!left.delete(first)) continue
    const chain: Part[] = [first]
    const grow = (atEnd: boolean) => {
      for (;;) {
        const end = atEnd ? (chain[chain.length - 1] as Part).to : (chain[0] as Part).from
        const next = nextTo(first.layer, end)
        if (!next) return
        left.delete(next)
        const forward = atEnd ? near(next.from, end) : near(next.to, end)
        const turned = forward ? next : { ...next, from: next.to, to: next.from, bulge: -next.bulge }
        if (atEnd) chain.push(turned)
        else chain.unshift(turned)
      }
    }
    grow(true)
    grow(false)
    const [start, end] = [(chain[0] as Part).from, (chain[chain.length - 1] as Part).to]
    const closed = chain.length > 1 && near(start, end)
    const vertices = chain.map((p) => ({ ...p.from, bulge: p.bulge }))
    if (!closed) vertices.push({ ...end, bulge: 0 })
    result.push({ layer: first.layer, vertices, closed })
  }
  return result
}
