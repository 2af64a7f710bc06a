import Papa from 'papaparse'
import { fail, ok, type Result } from '../../base/result'
import { type Drawing, type FoundLine, type FoundPoint, Ignored } from './drawing'

const COLUMNS: Record<string, readonly string[]> = {
  point: ['point', 'name', 'id', 'number', 'no', 'p'],
  northing: ['northing', 'north', 'n', 'y'],
  easting: ['easting', 'east', 'e', 'x'],
  elevation: ['elevation', 'elev', 'height', 'level', 'z'],
  code: ['code', 'description', 'desc', 'd', 'layer'],
  bulge: ['bulge'],
}

/**
 * Survey points from a CSV: point, northing, easting, elevation, code, in any order under their names. Without a header the
 * order of northing and easting is for a person to say. Points of one code, in the order of the file, make a line.
 *
 * @param axes - which comes first where the file has no header
 * @example readPoints('point,northing,easting,elevation,code\n1,10,20,1.5,FACE\n2,10,30,1.5,FACE')
 */
export function readPoints(content: string, axes?: 'northing-first' | 'easting-first'): Result<Drawing> {
  const body = content.replace(/^\uFEFF/, '')
  const firstLine = body.split(/\r?\n/).find((l) => l.trim() !== '')
  if (firstLine === undefined) return fail('file', 'is empty')
  const delimiter = [';', '\t', ','].find((d) => firstLine.includes(d))
  if (!delimiter) return fail('file', 'has one column only; points need northing and easting at least, with commas, semicolons or tabs between')
  const rows = Papa.parse<string[]>(body, { delimiter, skipEmptyLines: 'greedy' }).data
  const header = (rows[0] ?? []).map((h) => h.trim().toLowerCase())
  const column = (name: string) => header.findIndex((h) => COLUMNS[name]?.includes(h))
  const named = column('northing') >= 0 && column('easting') >= 0
  if (!named && header.every((h) => h !== '' && !Number.isFinite(Number(h.replace(',', '.'))))) {
    return fail('header', 'names no northing and easting; the columns are point, northing, easting, elevation, code')
  }
  const north = axes === 'easting-first' ? 2 : 1
  const at = named
    ? Object.fromEntries(Object.keys(COLUMNS).map((k) => [k, column(k)]))
    : { point: 0, northing: north, easting: 3 - north, elevation: 3, code: 4, bulge: -1 }
  const ignored = new Ignored()
  const points: (FoundPoint & { bulge: number })[] = []
  const number = (text: string | undefined) => {
    const t = (text ?? '').trim()
    return t === '' ? Number.NaN : Number(delimiter === ',' ? t : t.replace(',', '.'))
  }
  rows.slice(named ? 1 : 0).forEach((row, i) => {
    const get = (k: string) => ((at[k] ?? -1) >= 0 ? row[at[k] as number] : undefined)
    const [northing, easting, elevation] = [number(get('northing')), number(get('easting')), number(get('elevation'))]
    const line = i + (named ? 2 : 1)
    if (!Number.isFinite(northing) || !Number.isFinite(easting)) {
      ignored.add(`line ${line}`, `"${row.join(delimiter).slice(0, 60)}" has no northing and easting`)
      return
    }
    const bulge = number(get('bulge'))
    points.push({
      name: (get('point') ?? '').trim() || `${line}`,
      northing,
      easting,
      ...(Number.isFinite(elevation) ? { elevation } : {}),
      code: (get('code') ?? '').trim(),
      bulge: Number.isFinite(bulge) ? bulge : 0,
    })
  })
  if (points.length === 0) return fail('file', 'has no line with a northing and an easting')
  const codes = [...new Set(points.map((p) => p.code))]
  const lines: FoundLine[] = codes.flatMap((code, i) => {
    const own = points.filter((p) => p.code === code)
    const [first, last] = [own[0], own[own.length - 1]]
    if (!first || !last || own.length < 2) return []
    const closed = own.length > 2 && Math.hypot(first.easting - last.easting, first.northing - last.northing) < 0.001
    const kept = closed ? own.slice(0, -1) : own
    const elevations = own.every((p) => p.elevation !== undefined) ? own.map((p) => p.elevation as number) : undefined
    return [
      {
        id: `line-${i + 1}`,
        layer: code || 'without code',
        name: code || 'without code',
        vertices: kept.map((p) => ({ easting: p.easting, northing: p.northing, bulge: p.bulge })),
        closed,
        ...(elevations ? { elevations } : {}),
      },
    ]
  })
  const known = named ? ('northing-first' as const) : axes
  return ok({
    kind: 'points',
    ...(known ? { axes: known } : {}),
    lines,
    profiles: [],
    points: points.map(({ bulge: _, ...p }) => p),
    layers: codes.map((code) => ({ name: code || 'without code', lines: lines.filter((l) => l.layer === (code || 'without code')).length })),
    ignored: ignored.list(),
  })
}
