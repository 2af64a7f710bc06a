import { XMLParser, XMLValidator } from 'fast-xml-parser'
import { fail, failAll, ok, type Problem, type Result } from '../../base/result'
import type { Vertex } from '../../geometry'
import { type Drawing, type DrawingUnit, type FoundLine, type FoundPoint, type FoundProfile, Ignored } from './drawing'

/** A node as the parser keeps it in order: one key for its name, its children, and `:@` for its attributes. */
type Node = Record<string, unknown>
const nameOf = (n: Node) => Object.keys(n).find((k) => k !== ':@') ?? ''
const children = (n: Node | undefined): Node[] => (n ? ((n[nameOf(n)] as Node[] | undefined) ?? []) : [])
const attribute = (n: Node, key: string): string | undefined => (n[':@'] as Record<string, string> | undefined)?.[`@_${key}`]
const all = (n: Node | undefined, name: string) => children(n).filter((c) => nameOf(c) === name)
const one = (n: Node | undefined, name: string) => all(n, name)[0]
const textOf = (n: Node | undefined) =>
  children(n)
    .map((c) => String(c['#text'] ?? ''))
    .join(' ')
const numbers = (n: Node | undefined) => textOf(n).trim().split(/\s+/).filter(Boolean).map(Number)

const UNITS: Record<string, DrawingUnit> = {
  meter: 'm',
  metre: 'm',
  millimeter: 'mm',
  centimeter: 'cm',
  foot: 'ft',
  ussurveyfoot: 'usft',
  inch: 'in',
}

/** LandXML writes points northing first. */
function point(n: Node | undefined): Vertex | undefined {
  const [northing, easting] = numbers(n)
  return northing === undefined || easting === undefined || !Number.isFinite(northing) || !Number.isFinite(easting)
    ? undefined
    : { easting, northing }
}

/**
 * Alignments with their profiles, and points, of a LandXML file.
 *
 * @param content - LandXML 1.2; document types and entities are refused
 * @example readLandXml(text).value.lines[0]?.name
 */
export function readLandXml(content: string): Result<Drawing> {
  // Entities can unfold into more than any machine holds, and no survey needs them.
  if (/<!DOCTYPE|<!ENTITY/i.test(content)) return fail('file', 'has a document type or entities; those are refused. Export it again as plain LandXML')
  const valid = XMLValidator.validate(content)
  if (valid !== true) return fail('file', `is not whole XML: ${valid.err.msg} (line ${valid.err.line})`)
  const parser = new XMLParser({
    preserveOrder: true,
    ignoreAttributes: false,
    processEntities: false,
    parseTagValue: false,
    parseAttributeValue: false,
    removeNSPrefix: true,
  })
  let tree: Node[]
  try {
    tree = parser.parse(content) as Node[]
  } catch (error) {
    return fail('file', `is not whole XML: ${error instanceof Error ? error.message.slice(0, 100) : 'unreadable'}`)
  }
  const root = tree.find((n) => nameOf(n) === 'LandXML')
  if (!root) return fail('file', 'is XML, but not LandXML')
  const ignored = new Ignored()
  const measure = children(one(root, 'Units'))[0]
  const unit = measure ? UNITS[(attribute(measure, 'linearUnit') ?? '').toLowerCase()] : undefined
  const lines: FoundLine[] = []
  const profiles: FoundProfile[] = []
  const problems: Problem[] = []

  for (const group of all(root, 'Alignments')) {
    for (const alignment of all(group, 'Alignment')) {
      const name = attribute(alignment, 'name') ?? `alignment ${lines.length + 1}`
      const id = `line-${lines.length + 1}`
      const start = Number(attribute(alignment, 'staStart') ?? 0)
      const made = geometryOf(one(alignment, 'CoordGeom'), name)
      if (!made.ok) {
        problems.push(...made.problems)
        continue
      }
      lines.push({ id, layer: 'Alignments', name, ...made.value })
      for (const profile of all(alignment, 'Profile')) {
        for (const p of children(profile)) {
          const points = profileOf(p, ignored).map((x) => ({ station: x.station - start, elevation: x.elevation }))
          if (points.length < 2) continue
          profiles.push({
            id: `profile-${profiles.length + 1}`,
            name: attribute(p, 'name') ?? attribute(profile, 'name') ?? `profile ${profiles.length + 1}`,
            line: id,
            points,
          })
        }
      }
    }
  }
  const points: FoundPoint[] = []
  for (const group of all(root, 'CgPoints')) {
    for (const p of all(group, 'CgPoint')) {
      const at = point(p)
      const elevation = numbers(p)[2]
      if (!at) ignored.add('points without coordinates', 'they refer to other points or are empty')
      else
        points.push({
          ...at,
          name: attribute(p, 'name') ?? `${points.length + 1}`,
          code: attribute(p, 'code') ?? '',
          ...(elevation === undefined ? {} : { elevation }),
        })
    }
  }
  for (const other of children(root)) {
    const name = nameOf(other)
    if (!['Units', 'Alignments', 'CgPoints', 'Project', 'Application', 'CoordinateSystem', '#text'].includes(name))
      ignored.add(name, 'it is no alignment, profile or point')
  }
  if (lines.length === 0 && problems.length > 0) return failAll(problems)
  for (const p of problems) ignored.add(p.field, p.message)
  return ok({
    kind: 'landxml',
    ...(unit ? { unit } : {}),
    axes: 'northing-first',
    lines,
    profiles,
    points,
    layers: [{ name: 'Alignments', lines: lines.length }],
    ignored: ignored.list(),
  })
}

/** Straights and arcs of an alignment, each starting where the one before ends. */
function geometryOf(geometry: Node | undefined, name: string): Result<{ vertices: Vertex[]; closed: boolean }> {
  const field = `alignment "${name}"`
  const vertices: Vertex[] = []
  let last: Vertex | undefined
  for (const e of children(geometry)) {
    const kind = nameOf(e)
    if (kind === '#text' || kind === 'Feature') continue
    if (kind !== 'Line' && kind !== 'Curve')
      return fail(field, `has a ${kind.toLowerCase()}; only straights and arcs can be set out. Replace it by arcs`)
    const [from, to] = [point(one(e, 'Start')), point(one(e, 'End'))]
    if (!from || !to) return fail(field, `element ${vertices.length + 1} has no start or end`)
    if (last && Math.hypot(from.easting - last.easting, from.northing - last.northing) > 0.01) {
      return fail(
        field,
        `has a gap: element ${vertices.length + 1} starts ${Math.hypot(from.easting - last.easting, from.northing - last.northing).toFixed(2)} from the end of the one before`,
      )
    }
    let bulge = 0
    if (kind === 'Curve') {
      const centre = point(one(e, 'Center'))
      if (!centre) return fail(field, `the arc at element ${vertices.length + 1} has no centre`)
      const left = (attribute(e, 'rot') ?? '').toLowerCase() !== 'cw'
      const angle = (p: Vertex) => Math.atan2(p.northing - centre.northing, p.easting - centre.easting)
      const turn = (left ? 1 : -1) * (angle(to) - angle(from))
      const sweep = ((turn % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI)
      bulge = (left ? 1 : -1) * Math.tan(sweep / 4)
    }
    vertices.push({ ...from, bulge })
    last = to
  }
  const first = vertices[0]
  if (!first || !last) return fail(field, 'has no elements')
  const closed = vertices.length > 1 && Math.hypot(first.easting - last.easting, first.northing - last.northing) < 0.001
  if (!closed) vertices.push({ ...last, bulge: 0 })
  return ok({ vertices, closed })
}

/** Points of a profile; a vertical curve is followed by points on its parabola. */
function profileOf(profile: Node, ignored: Ignored): { station: number; elevation: number }[] {
  const kind = nameOf(profile)
  if (kind === 'ProfSurf') {
    const list = numbers(one(profile, 'PntList2D'))
    return Array.from({ length: Math.floor(list.length / 2) }, (_, i) => ({ station: list[2 * i] as number, elevation: list[2 * i + 1] as number }))
  }
  if (kind !== 'ProfAlign') return []
  const pvis = children(profile).flatMap((n) => {
    const [station, elevation] = numbers(n)
    const known = ['PVI', 'ParaCurve', 'UnsymParaCurve', 'CircCurve'].includes(nameOf(n))
    if (known && nameOf(n) !== 'PVI' && nameOf(n) !== 'ParaCurve') ignored.add(nameOf(n), 'its point of intersection is taken, not its curve')
    return known && station !== undefined && elevation !== undefined
      ? [{ station, elevation, length: nameOf(n) === 'ParaCurve' ? Number(attribute(n, 'length') ?? 0) : 0 }]
      : []
  })
  return pvis.flatMap((p, i) => {
    const [before, after] = [pvis[i - 1], pvis[i + 1]]
    if (!(p.length > 0) || !before || !after) return [{ station: p.station, elevation: p.elevation }]
    const g1 = (p.elevation - before.elevation) / (p.station - before.station)
    const g2 = (after.elevation - p.elevation) / (after.station - p.station)
    const start = p.station - p.length / 2
    return Array.from({ length: 9 }, (_, k) => {
      const x = (p.length * k) / 8
      return { station: start + x, elevation: p.elevation - (g1 * p.length) / 2 + g1 * x + ((g2 - g1) * x * x) / (2 * p.length) }
    })
  })
}
