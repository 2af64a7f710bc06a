import { fail, failAll, ok, type Problem, type Result } from '../../base/result'
import type { Vertex } from '../../geometry'
import { DRAWING_UNITS, type Drawing, type DrawingUnit, type FoundLine, type FoundPoint, type FoundProfile, Ignored } from './drawing'
import { attributeOf, readXml, type XmlElement } from './xml'

const amount = (n: XmlElement, key: string) => {
  const value = attributeOf(n, key)
  return value === undefined ? undefined : Number(value)
}
const all = (n: XmlElement | undefined, name: string) => n?.children.filter((c) => c.name === name) ?? []
const one = (n: XmlElement | undefined, name: string) => n?.children.find((c) => c.name === name)
/** Numbers of a node; one that is none stays NaN, so that whoever takes them sees it. */
const numbers = (n: XmlElement | undefined) => (n?.text ?? '').trim().split(/\s+/).filter(Boolean).map(Number)

const UNITS: ReadonlyMap<string, DrawingUnit> = new Map(
  Object.entries({
    meter: 'm',
    metre: 'm',
    millimeter: 'mm',
    centimeter: 'cm',
    foot: 'ft',
    ussurveyfoot: 'usft',
    inch: 'in',
  } as const),
)

/** What is read of a file, and what tells of the file itself; everything else is named as left out. */
const READ: readonly string[] = ['Units', 'Alignments', 'PlanFeatures', 'CgPoints', 'Surfaces']
const OF_THE_FILE: readonly string[] = ['Project', 'Application', 'CoordinateSystem']

/** Points by name, for those that refer to them. */
type Known = ReadonlyMap<string, Vertex>

/** LandXML writes points northing first; one may refer to a point of the file instead. */
function point(n: XmlElement | undefined, known?: Known): Vertex | undefined {
  if (!n) return undefined
  const [northing, easting] = numbers(n)
  if (northing === undefined && known) return known.get(attributeOf(n, 'pntRef') ?? '')
  return northing === undefined || easting === undefined || !Number.isFinite(northing) || !Number.isFinite(easting)
    ? undefined
    : { easting, northing }
}

/**
 * Alignments with their profiles, and points, of a LandXML file.
 *
 * @param content - LandXML 1.2; document types and entities are refused
 * @param progress - told now and then what share of the file is read, 0 to 1
 * @example readLandXml(text).value.lines[0]?.name
 */
export function readLandXml(content: string, progress?: (share: number) => void): Result<Drawing> {
  // Entities can unfold into more than any machine holds, and no survey needs them.
  if (/<!DOCTYPE|<!ENTITY/i.test(content)) return fail('file', 'has a document type or entities; those are refused. Export it again as plain LandXML')
  const read = readXml(content, READ, (share) => progress?.(share * 0.9))
  if (!read.ok) return read
  const root = read.value
  if (root.name !== 'LandXML') return fail('file', 'is XML, but not LandXML')
  const ignored = new Ignored()
  const measure = one(root, 'Units')?.children[0]
  const unit = measure ? UNITS.get((attributeOf(measure, 'linearUnit') ?? '').toLowerCase()) : undefined
  const lines: FoundLine[] = []
  const profiles: FoundProfile[] = []
  const problems: Problem[] = []

  const known = new Map<string, Vertex>()
  for (const group of all(root, 'CgPoints')) {
    for (const p of all(group, 'CgPoint')) {
      const at = point(p)
      const name = attributeOf(p, 'name')
      if (at && name !== undefined) known.set(name, at)
    }
  }
  /** A millimetre in the file's own unit. */
  const fine = 0.001 / DRAWING_UNITS[unit ?? 'm']
  for (const group of all(root, 'Alignments')) {
    for (const alignment of all(group, 'Alignment')) {
      const name = attributeOf(alignment, 'name') ?? `alignment ${lines.length + 1}`
      const id = `line-${lines.length + 1}`
      const start = amount(alignment, 'staStart') ?? 0
      const made = geometryOf(one(alignment, 'CoordGeom'), name, known)
      if (!made.ok) {
        problems.push(...made.problems)
        continue
      }
      lines.push({ id, layer: 'Alignments', name, ...made.value })
      // Past a station equation the same number stands for two places.
      if (all(alignment, 'StaEquation').length > 0 && all(alignment, 'Profile').length > 0) {
        ignored.add(`the grades of "${name}"`, 'its stations jump (station equations); export it with stations that run through')
        continue
      }
      for (const profile of all(alignment, 'Profile')) {
        for (const p of profile.children) {
          const title = attributeOf(p, 'name') ?? attributeOf(profile, 'name') ?? `profile ${profiles.length + 1}`
          const points = profileOf(p, ignored, fine).map((x) => ({ station: x.station - start, elevation: x.elevation }))
          if (points.length < 2) continue
          if (!points.every((x) => Number.isFinite(x.station) && Number.isFinite(x.elevation))) {
            ignored.add(`profile "${title}"`, 'it has a station or elevation that is no number; correct it in the file')
            continue
          }
          profiles.push({ id: `profile-${profiles.length + 1}`, name: title, line: id, points })
        }
      }
    }
  }
  for (const group of all(root, 'PlanFeatures')) {
    for (const feature of all(group, 'PlanFeature')) {
      const name = attributeOf(feature, 'name') ?? `feature ${lines.length + 1}`
      const made = geometryOf(one(feature, 'CoordGeom'), name, known)
      if (made.ok) lines.push({ id: `line-${lines.length + 1}`, layer: 'Plan features', name, ...made.value })
      else problems.push(...made.problems)
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
          name: attributeOf(p, 'name') ?? `${points.length + 1}`,
          code: attributeOf(p, 'code') ?? '',
          ...(elevation === undefined || !Number.isFinite(elevation) ? {} : { elevation }),
        })
    }
  }
  const ground = all(root, 'Surfaces')
    .flatMap((group) => all(group, 'Surface'))
    .flatMap((surface) => all(one(surface, 'Definition'), 'Pnts'))
    .flatMap((list) => all(list, 'P'))
    .flatMap((p) => {
      const [northing, easting, elevation] = numbers(p)
      if (northing !== undefined && easting !== undefined && elevation !== undefined && [northing, easting, elevation].every(Number.isFinite))
        return [{ northing, easting, elevation }]
      ignored.add('points of a surface', 'they have no three numbers')
      return []
    })
  for (const { name } of root.children)
    if (!READ.includes(name) && !OF_THE_FILE.includes(name)) ignored.add(name, 'it is no alignment, profile or point')
  if (lines.length === 0 && problems.length > 0) return failAll(problems)
  for (const p of problems) ignored.add(p.field, p.message)
  return ok({
    kind: 'landxml',
    ...(unit ? { unit } : {}),
    axes: 'northing-first',
    lines,
    profiles,
    points,
    ...(ground.length > 0 ? { ground } : {}),
    layers: ['Alignments', 'Plan features'].flatMap((name) => {
      const n = lines.filter((l) => l.layer === name).length
      return n > 0 || name === 'Alignments' ? [{ name, lines: n }] : []
    }),
    ignored: ignored.list(),
    asks: unit ? [] : ['the file does not say its unit'],
  })
}

/** Straights and arcs of an alignment, each starting where the one before ends. */
function geometryOf(geometry: XmlElement | undefined, name: string, known: Known): Result<{ vertices: Vertex[]; closed: boolean }> {
  const field = `alignment "${name}"`
  const vertices: Vertex[] = []
  let last: Vertex | undefined
  for (const e of geometry?.children ?? []) {
    const kind = e.name
    if (kind === 'Feature') continue
    if (kind !== 'Line' && kind !== 'Curve')
      return fail(field, `has a ${kind.toLowerCase()}; only straights and arcs can be set out. Replace it by arcs`)
    const [from, to] = [point(one(e, 'Start'), known), point(one(e, 'End'), known)]
    if (!from || !to) return fail(field, `element ${vertices.length + 1} has no start or end that can be read`)
    if (last && Math.hypot(from.easting - last.easting, from.northing - last.northing) > 0.01) {
      return fail(
        field,
        `has a gap: element ${vertices.length + 1} starts ${Math.hypot(from.easting - last.easting, from.northing - last.northing).toFixed(2)} from the end of the one before`,
      )
    }
    let bulge = 0
    if (kind === 'Curve') {
      const made = bendOf(e, from, to, known)
      if (typeof made === 'string') return fail(field, `the arc at element ${vertices.length + 1} ${made}`)
      bulge = made
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

/** The bend of an arc between two points, or what is wrong with it: what it says of itself has to agree. */
function bendOf(e: XmlElement, from: Vertex, to: Vertex, known: Known): number | string {
  const centre = point(one(e, 'Center'), known)
  if (!centre) return 'has no centre'
  const away = (p: Vertex) => Math.hypot(p.easting - centre.easting, p.northing - centre.northing)
  const [r1, r2] = [away(from), away(to)]
  const said = amount(e, 'radius')
  const off = Math.max(Math.abs(r1 - r2), said === undefined ? 0 : Math.abs(said - (r1 + r2) / 2))
  if (!(off <= Math.max(0.01, r1 * 0.001)))
    return `does not agree with itself: its ends lie ${r1.toFixed(3)} and ${r2.toFixed(3)} from its centre${said === undefined ? '' : `, its radius is ${said}`}`
  const angle = (p: Vertex) => Math.atan2(p.northing - centre.northing, p.easting - centre.easting)
  const around = (turn: number) => ((turn % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI)
  const left = around(angle(to) - angle(from))
  const right = around(angle(from) - angle(to))
  const bulge = (isLeft: boolean) => (isLeft ? Math.tan(left / 4) : -Math.tan(right / 4))
  const rot = (attributeOf(e, 'rot') ?? '').toLowerCase()
  const length = amount(e, 'length')
  const fits = (sweep: number) => length === undefined || !Number.isFinite(length) || Math.abs(sweep * r1 - length) <= Math.max(0.02, length * 0.01)
  if (rot === 'cw' || rot === 'ccw') {
    const isLeft = rot === 'ccw'
    if (!fits(isLeft ? left : right))
      return `does not agree with itself: turned ${rot} it is ${((isLeft ? left : right) * r1).toFixed(3)} long, not ${length}`
    return bulge(isLeft)
  }
  // Which way it turns is not said; its length tells, unless both ways are as long.
  if (length === undefined || fits(left) === fits(right)) return 'does not say which way it turns (rot); add it'
  return bulge(fits(left))
}

/** Points of a profile; a vertical curve is followed by points on its parabola. */
function profileOf(profile: XmlElement, ignored: Ignored, fine: number): { station: number; elevation: number }[] {
  const kind = profile.name
  if (kind === 'ProfSurf') {
    const list = numbers(one(profile, 'PntList2D'))
    return Array.from({ length: Math.floor(list.length / 2) }, (_, i) => ({ station: list[2 * i] as number, elevation: list[2 * i + 1] as number }))
  }
  if (kind !== 'ProfAlign') return []
  const pvis = profile.children.flatMap((n) => {
    const [station, elevation] = numbers(n)
    const known = ['PVI', 'ParaCurve', 'UnsymParaCurve', 'CircCurve'].includes(n.name)
    if (known && n.name !== 'PVI' && n.name !== 'ParaCurve') ignored.add(n.name, 'its point of intersection is taken, not its curve')
    return known && station !== undefined && elevation !== undefined
      ? [{ station, elevation, length: n.name === 'ParaCurve' ? Number(attributeOf(n, 'length') ?? 0) : 0 }]
      : []
  })
  return pvis.flatMap((p, i) => {
    const [before, after] = [pvis[i - 1], pvis[i + 1]]
    if (!(p.length > 0) || !before || !after) return [{ station: p.station, elevation: p.elevation }]
    const g1 = (p.elevation - before.elevation) / (p.station - before.station)
    const g2 = (after.elevation - p.elevation) / (after.station - p.station)
    const start = p.station - p.length / 2
    // A chord of it stays within a millimetre: its arrow is |g2 − g1| · h² / 8L.
    const bend = Math.abs(g2 - g1)
    const pieces = Math.min(400, Math.max(2, 2 * Math.ceil(p.length / (2 * Math.sqrt((8 * p.length * fine) / Math.max(bend, 1e-9))))))
    return Array.from({ length: pieces + 1 }, (_, k) => {
      const x = (p.length * k) / pieces
      return { station: start + x, elevation: p.elevation - (g1 * p.length) / 2 + g1 * x + ((g2 - g1) * x * x) / (2 * p.length) }
    })
  })
}
