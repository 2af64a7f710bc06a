import {
  alignmentOf,
  DRAWING_UNITS,
  type Drawing,
  type DrawingUnit,
  decodeText,
  fail,
  type Layout,
  ok,
  type Result,
  readDrawing,
  writeLandXml,
  writeSetOutDxf,
  writeStakesCsv,
} from '@stone-tally/core'

/** What a person sees of a file before anything is taken; metres once the unit is known, else the file's own unit. */
export interface ReadReport {
  readonly kind: Drawing['kind']
  readonly unit: DrawingUnit | null
  readonly lines: readonly {
    readonly name: string
    readonly layer: string
    readonly length: number
    readonly closed: boolean
    readonly vertices: readonly { readonly easting: number; readonly northing: number; readonly bulge: number }[]
    readonly hidden?: string
  }[]
  readonly grades: readonly {
    readonly name: string
    readonly points: readonly { readonly station?: number; readonly easting?: number; readonly northing?: number; readonly elevation: number }[]
  }[]
  readonly leftOut: readonly { readonly what: string; readonly count: number; readonly why: string }[]
  readonly asks: readonly string[]
}

/**
 * A drawing or survey file as it would be offered.
 *
 * @param options - `line` by name or layer, `units`, `axes`
 * @example readReport(bytes, { units: 'mm' })
 */
export function readReport(bytes: Uint8Array, options: Readonly<Record<string, string>>): Result<ReadReport> {
  const { line, units, axes } = options
  if (units !== undefined && !Object.hasOwn(DRAWING_UNITS, units))
    return fail('units', `"${units}" is none of ${Object.keys(DRAWING_UNITS).join(', ')}`)
  if (axes !== undefined && axes !== 'northing-first' && axes !== 'easting-first')
    return fail('axes', `"${axes}" is neither northing-first nor easting-first`)
  const text = decodeText(bytes)
  if (!text.ok) return text
  const made = readDrawing(text.value.text, axes as 'northing-first' | 'easting-first' | undefined, units as DrawingUnit | undefined)
  if (!made.ok) return made
  const drawing = made.value
  const unit = (units as DrawingUnit | undefined) ?? drawing.unit
  const scale = unit ? DRAWING_UNITS[unit] : 1
  const own = line === undefined ? drawing.lines : drawing.lines.filter((l) => l.name === line || l.layer === line)
  if (line !== undefined && own.length === 0)
    return fail(
      'line',
      `there is no line "${line}"; there are ${
        drawing.lines
          .slice(0, 20)
          .map((l) => l.name)
          .join(', ') || 'none'
      }`,
    )
  const hidden = new Map(drawing.layers.map((l) => [l.name, l.hidden]))
  return ok({
    kind: drawing.kind,
    unit: unit ?? null,
    lines: own.map((l) => {
      const vertices = l.vertices.map((v) => ({ easting: v.easting * scale, northing: v.northing * scale, bulge: v.bulge ?? 0 }))
      const alignment = alignmentOf(vertices, l.closed)
      const how = hidden.get(l.layer)
      return {
        name: l.name,
        layer: l.layer,
        length: alignment.ok ? alignment.value.length : lengthOf(vertices, l.closed),
        closed: l.closed,
        vertices,
        ...(how ? { hidden: how } : {}),
      }
    }),
    grades: [
      ...drawing.profiles.map((p) => ({
        name: p.name,
        points: p.points.map((x) => ({ station: x.station * scale, elevation: x.elevation * scale })),
      })),
      ...own.flatMap((l) =>
        l.elevations
          ? [
              {
                name: l.name,
                points: l.vertices.map((v, i) => ({
                  easting: v.easting * scale,
                  northing: v.northing * scale,
                  elevation: (l.elevations?.[i] ?? 0) * scale,
                })),
              },
            ]
          : [],
      ),
    ],
    leftOut: drawing.ignored,
    asks: [...(drawing.asks ?? []), ...(drawing.axes ? [] : ['which comes first, northing or easting?'])],
  })
}

/** Length of a line that cannot be set out as it is (it crosses itself, say). */
function lengthOf(vertices: ReadReport['lines'][number]['vertices'], closed: boolean): number {
  let sum = 0
  vertices.forEach((v, i) => {
    const next = vertices[i + 1] ?? (closed ? vertices[0] : undefined)
    if (!next) return
    const chord = Math.hypot(next.easting - v.easting, next.northing - v.northing)
    const half = 2 * Math.atan(Math.abs(v.bulge))
    sum += v.bulge === 0 ? chord : (chord * half) / Math.sin(half)
  })
  return sum
}

/** The ways a set-out is written. */
export const WRITERS: Readonly<Record<string, (layout: Layout, now: string) => string>> = {
  dxf: writeSetOutDxf,
  landxml: writeLandXml,
  csv: writeStakesCsv,
}
