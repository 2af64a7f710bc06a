import { fail, failAll, ok, type Problem, type Result } from '../../base/result'
import { type Alignment, alignmentOf, elevationAt, type ProfilePoint, reversed, stationOf, type Vertex } from '../../geometry'
import type { Plan } from '../../plan'
import { DRAWING_UNITS, type Drawing, type DrawingUnit } from './drawing'
import { readDxf } from './dxf'
import { looksLikeDxf } from './dxf-frame'
import { readLandXml } from './landxml'
import { readPoints } from './points'

/** What a person chose from a drawing. Toe and top name a profile or a line with elevations. */
export interface Choice {
  readonly line: string
  readonly unit?: DrawingUnit | undefined
  /** The fill lies on the right of the line as it is drawn. */
  readonly fillRight?: boolean | undefined
  readonly toe?: string | undefined
  readonly top?: string | undefined
  /** Grades that cross somewhere are given all the same, and the places noted: for a plan that is still being made. */
  readonly asFarAsItGoes?: boolean | undefined
}

/** What a drawing gives a plan, in metres, and what was mended on the way. */
export interface Adopted {
  readonly length: number
  readonly alignment: NonNullable<Plan['alignment']>
  readonly grades?: Plan['grades']
  readonly notes: readonly string[]
}

/**
 * Lines, profiles and points of a file, by what it looks like inside.
 *
 * @param content - text of a DXF, LandXML or CSV file
 * @param axes - asked of a person where a list of points has no header
 * @param unit - overrules the unit the file states
 * @param progress - told now and then what share of the file is read, 0 to 1
 */
export function readDrawing(
  content: string,
  axes?: 'northing-first' | 'easting-first',
  unit?: DrawingUnit,
  progress?: (share: number) => void,
): Result<Drawing> {
  const head = content
    .slice(0, 20_000)
    .replace(/^\uFEFF/, '')
    .trimStart()
  if (head.startsWith('<')) return readLandXml(content, progress)
  if (looksLikeDxf(head)) return readDxf(content, unit, progress)
  return readPoints(content, axes, progress)
}

const tidy = (v: number) => Math.round(v * 1e7) / 1e7

/**
 * The chosen line and grades as a plan takes them.
 *
 * @returns alignment and grades in m; or what is unclear or impossible, nothing half taken
 * @example adopt(drawing, { line: 'line-1', unit: 'm', toe: 'profile-1', top: 'profile-2' })
 */
export function adopt(drawing: Drawing, choice: Choice): Result<Adopted> {
  const line = drawing.lines.find((l) => l.id === choice.line)
  if (!line) {
    const empty = drawing.layers.filter((l) => l.lines === 0).map((l) => l.name)
    return fail(
      'line',
      `choose a line; there are ${drawing.lines.length}${empty.length > 0 ? ` (nothing on layer ${empty.slice(0, 5).join(', ')})` : ''}`,
    )
  }
  const unit = drawing.unit ?? choice.unit
  if (!unit) return fail('unit', 'the file does not say its unit; choose it')
  if (!drawing.axes) return fail('axes', 'the file does not say whether northing or easting comes first; choose it')
  const scale = DRAWING_UNITS[choice.unit ?? unit]
  const numbers = [...line.vertices.flatMap((v) => [v.easting, v.northing, v.bulge ?? 0]), ...(line.elevations ?? [])]
  if (!numbers.every(Number.isFinite)) return fail('line', `"${line.name}" has a number that cannot be read; correct it in the file`)
  const notes: string[] = []
  const scaled = line.vertices.map((v) => ({ easting: tidy(v.easting * scale), northing: tidy(v.northing * scale), bulge: v.bulge ?? 0 }))
  const kept = withoutDoubles(scaled, line.closed)
  if (kept.length < scaled.length) notes.push(`${scaled.length - kept.length} doubled points were left out`)
  const vertices: Vertex[] = choice.fillRight ? reversed(kept, line.closed) : kept
  const made = alignmentOf(vertices, line.closed)
  if (!made.ok) return failAll(made.problems.map((p) => ({ field: `${line.name}: ${p.field}`, message: p.message })))
  const alignment = made.value
  if (alignment.length > 2000 || alignment.length < 0.5) {
    return fail(
      'unit',
      `read in ${unit} the wall is ${alignment.length.toFixed(1)} m long; walls from 0.5 to 2000 m are taken. Is the drawing in ${unit === 'm' ? 'millimetres or feet' : 'another unit'}?`,
    )
  }
  const base = {
    length: alignment.length,
    alignment: { vertices: vertices.map((v) => ({ easting: v.easting, northing: v.northing, bulge: v.bulge ?? 0 })), closed: line.closed },
    notes,
  }
  if (!choice.toe && !choice.top) return ok(base)
  if (!choice.toe || !choice.top) return fail(choice.toe ? 'top' : 'toe', 'toe and top grade are taken together; choose both or none')
  const [toe, top] = [
    gradeOf(drawing, choice.toe, scale, alignment, choice.fillRight === true),
    gradeOf(drawing, choice.top, scale, alignment, choice.fillRight === true),
  ]
  if (!toe.ok) return failAll(toe.problems.map((p) => ({ ...p, field: 'toe' })))
  if (!top.ok) return failAll(top.problems.map((p) => ({ ...p, field: 'top' })))
  const stations = [...new Set([0, alignment.length, ...[...toe.value, ...top.value].map((p) => p.station)].map(tidy))]
    .filter((s) => s >= 0 && s <= alignment.length + 1e-6)
    .sort((a, b) => a - b)
    .filter((s, i, list) => i === 0 || s - (list[i - 1] as number) > 0.001)
  const problems: Problem[] = []
  const all = stations.map((station) => {
    const [a, b] = [tidy(elevationAt(toe.value, station)), tidy(elevationAt(top.value, station))]
    if (b <= a && problems.length < 5)
      problems.push({
        field: 'top',
        message: `the grades cross: at station ${station.toFixed(2)} m the top ${b.toFixed(2)} is not above the toe ${a.toFixed(2)}`,
      })
    return { station, toe: a, top: b }
  })
  if (problems.length > 0 && !choice.asFarAsItGoes) return failAll(problems)
  notes.push(...problems.map((p) => p.message))
  // Lines in space follow every arc; what says nothing new of the grades is not carried on. Profiles are taken point by point.
  const inSpace = [choice.toe, choice.top].some((id) => drawing.kind === 'dxf' && drawing.lines.some((l) => l.id === id))
  const grades = inSpace ? thinned(all) : all
  if (grades.length > 500) return fail('toe', `the grades have ${grades.length} points; at most 500 are taken. Thin them out`)
  for (const [name, list] of [
    ['toe', toe.value],
    ['top', top.value],
  ] as const) {
    const [first, last] = [list[0], list[list.length - 1]]
    if (first && first.station > 0.05) notes.push(`the ${name} grade starts at ${first.station.toFixed(2)} m; before it is level`)
    if (last && last.station < alignment.length - 0.05) notes.push(`the ${name} grade ends at ${last.station.toFixed(2)} m; beyond it is level`)
    for (let i = 1; i < list.length; i++) {
      const gap = (list[i] as ProfilePoint).station - (list[i - 1] as ProfilePoint).station
      if (gap > 30)
        notes.push(
          `the ${name} grade has a gap of ${gap.toFixed(1)} m after station ${(list[i - 1] as ProfilePoint).station.toFixed(1)} m; it is taken as straight`,
        )
    }
  }
  return ok({ ...base, grades })
}

/** Grade points that say nothing new: both grades run straight through them, to a tenth of a millimetre. */
function thinned<G extends { station: number; toe: number; top: number }>(grades: readonly G[]): G[] {
  const kept: G[] = []
  let from = 0
  const straight = (a: G, b: G, between: readonly G[]) =>
    between.every((g) => {
      const t = (g.station - a.station) / (b.station - a.station)
      return (['toe', 'top'] as const).every((k) => Math.abs(a[k] + t * (b[k] - a[k]) - g[k]) < 0.0001)
    })
  grades.forEach((g, i) => {
    if (i === 0) {
      kept.push(g)
      return
    }
    // A long straight run is looked through piece by piece, so that time grows with the number of points.
    const next = grades[i + 1]
    const start = grades[from] as G
    if (next && i - from < 200 && straight(start, next, grades.slice(from + 1, i + 1))) return
    kept.push(g)
    from = i
  })
  return kept
}

function withoutDoubles(vertices: readonly Vertex[], closed: boolean): Vertex[] {
  const near = (a: Vertex, b: Vertex) => Math.hypot(a.easting - b.easting, a.northing - b.northing) < 0.001
  const kept: Vertex[] = []
  for (const v of vertices) {
    const last = kept[kept.length - 1]
    // The later of two keeps its bend: it is the one that leaves the point.
    if (last && near(last, v)) kept[kept.length - 1] = v
    else kept.push(v)
  }
  const [first, last] = [kept[0], kept[kept.length - 1]]
  if (closed && kept.length > 2 && first && last && near(first, last)) kept.pop()
  return kept
}

/** A grade by stations of the alignment: a profile as it is, a line by the feet of its points. */
function gradeOf(drawing: Drawing, id: string, scale: number, alignment: Alignment, turned: boolean): Result<ProfilePoint[]> {
  const profile = drawing.profiles.find((p) => p.id === id)
  if (profile) {
    const points = profile.points.map((p) => ({
      station: turned ? alignment.length - p.station * scale : p.station * scale,
      elevation: p.elevation * scale,
    }))
    return ordered(turned ? points.reverse() : points)
  }
  const line = drawing.lines.find((l) => l.id === id)
  if (!line) return fail('', 'is not in the file')
  if (!line.elevations) return fail('', `"${line.name}" has no elevations; choose a line drawn in three dimensions, or a profile`)
  const vertices = line.closed && line.elevations.length > line.vertices.length ? [...line.vertices, line.vertices[0] as Vertex] : line.vertices
  let last = Number.NEGATIVE_INFINITY
  const points = vertices.map((v, i) => {
    const found = stationOf(alignment, { easting: v.easting * scale, northing: v.northing * scale })
    // The end of a ring stands where it began; whoever has come all the way round is at its end.
    const station = alignment.closed && i > 0 && found.station < last - 1e-6 && i === vertices.length - 1 ? alignment.length : found.station
    last = station
    return { station, elevation: (line.elevations?.[i] ?? 0) * scale }
  })
  const far = vertices.find((v) => stationOf(alignment, { easting: v.easting * scale, northing: v.northing * scale }).away > 25)
  if (far) return fail('', `"${line.name}" runs more than 25 m from the wall; is it another line?`)
  return ordered(
    points[0] && points[points.length - 1] && (points[0] as ProfilePoint).station > (points[points.length - 1] as ProfilePoint).station
      ? points.reverse()
      : points,
  )
}

function ordered(points: ProfilePoint[]): Result<ProfilePoint[]> {
  const result: ProfilePoint[] = []
  for (const p of points) {
    const last = result[result.length - 1]
    if (last && p.station < last.station - 0.01) return fail('', `runs backwards at station ${p.station.toFixed(2)} m`)
    if (!last || p.station > last.station + 1e-6) result.push(p)
  }
  return result.length < 2 ? fail('', 'has less than two points along the wall') : ok(result)
}
