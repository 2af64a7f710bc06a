import { fail, ok, type Result } from '../../base/result'
import { numberIn, tableOf } from '../table'
import { type Drawing, type DrawingUnit, type FoundLine, type FoundPoint, Ignored } from './drawing'

const COLUMNS: ReadonlyMap<string, readonly string[]> = new Map(
  Object.entries({
    point: ['point', 'name', 'id', 'number', 'no', 'p'],
    northing: ['northing', 'north', 'n', 'y'],
    easting: ['easting', 'east', 'e', 'x'],
    elevation: ['elevation', 'elev', 'height', 'level', 'z'],
    code: ['code', 'description', 'desc', 'd', 'layer'],
    bulge: ['bulge'],
  }),
)

/** A unit a header states. */
const unitOf = (text: string | undefined): DrawingUnit | undefined =>
  /^(m|met(er|re)s?)$/.test(text ?? '')
    ? 'm'
    : /^(ft|feet|foot)$/.test(text ?? '')
      ? 'ft'
      : text === 'mm'
        ? 'mm'
        : /^us ?(survey )?(ft|feet|foot)$/.test(text ?? '')
          ? 'usft'
          : undefined

/**
 * Survey points from a CSV: point, northing, easting, elevation, code, in any order under their names. Without a header the
 * order of northing and easting is for a person to say. Points of one code, in the order of the file, make a line.
 *
 * @param axes - which comes first where the file has no header
 * @example readPoints('point,northing,easting,elevation,code\n1,10,20,1.5,FACE\n2,10,30,1.5,FACE')
 */
export function readPoints(content: string, axes?: 'northing-first' | 'easting-first', progress?: (share: number) => void): Result<Drawing> {
  const columnOf = (names: readonly string[], name: string) => names.findIndex((h) => COLUMNS.get(name)?.includes(h))
  const table = tableOf(content, (n) => columnOf(n, 'northing') >= 0 && columnOf(n, 'easting') >= 0, 2, progress)
  if (!table.ok) return table
  const { names, rows, units } = table.value
  const [first] = rows
  if (!first || (!names && first.cells.length < 2))
    return fail('file', 'has one column only; points need northing and easting at least, with commas, semicolons, tabs or blanks between')
  if (names ? columnOf(names, 'northing') < 0 || columnOf(names, 'easting') < 0 : first.cells.every((c) => c !== '' && Number.isNaN(numberIn(c)))) {
    return fail('header', 'names no northing and easting; the columns are point, northing, easting, elevation, code')
  }
  // Without a header: a number of the point first, or coordinates at once.
  const bare = !names && first.cells.length >= 2 && first.cells.slice(0, 3).every((c) => /[.,]/.test(c) && !Number.isNaN(numberIn(c)))
  const north = (axes === 'easting-first' ? 1 : 0) + (bare ? 0 : 1)
  const at: Readonly<Record<string, number>> = names
    ? Object.fromEntries([...COLUMNS.keys()].map((k) => [k, columnOf(names, k)]))
    : { point: bare ? -1 : 0, northing: north, easting: (bare ? 1 : 3) - north, elevation: bare ? 2 : 3, code: bare ? 3 : 4, bulge: -1 }
  const ignored = new Ignored()
  for (const b of table.value.bad) ignored.add(`line ${b.line}`, b.message)
  const points: (FoundPoint & { bulge: number })[] = []
  for (const row of rows) {
    const get = (k: string) => ((at[k] ?? -1) >= 0 ? row.cells[at[k] as number] : undefined)
    const [northing, easting, elevation] = [numberIn(get('northing')), numberIn(get('easting')), numberIn(get('elevation'))]
    if (!Number.isFinite(northing) || !Number.isFinite(easting)) {
      ignored.add(`line ${row.line}`, `"${row.text.slice(0, 60)}" has no northing and easting`)
      continue
    }
    const bulge = numberIn(get('bulge'))
    points.push({
      name: (get('point') ?? '').trim() || `${row.line}`,
      northing,
      easting,
      ...(Number.isFinite(elevation) ? { elevation } : {}),
      code: (get('code') ?? '').trim(),
      bulge: Number.isFinite(bulge) ? bulge : 0,
    })
  }
  if (points.length === 0) return fail('file', 'has no line with a northing and an easting')
  const byCode = new Map<string, (typeof points)[number][]>()
  for (const p of points) {
    const list = byCode.get(p.code)
    if (list) list.push(p)
    else byCode.set(p.code, [p])
  }
  const lines: FoundLine[] = [...byCode].flatMap(([code, own], i) => {
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
  const known = names ? ('northing-first' as const) : axes
  const stated = names && unitOf(units[columnOf(names, 'northing')])
  const perLayer = new Map<string, number>()
  for (const l of lines) perLayer.set(l.layer, (perLayer.get(l.layer) ?? 0) + 1)
  return ok({
    kind: 'points',
    ...(stated ? { unit: stated } : {}),
    ...(known ? { axes: known } : {}),
    lines,
    profiles: [],
    points: points.map((p) => ({
      name: p.name,
      northing: p.northing,
      easting: p.easting,
      ...(p.elevation === undefined ? {} : { elevation: p.elevation }),
      code: p.code,
    })),
    layers: [...byCode.keys()].map((code) => ({ name: code || 'without code', lines: perLayer.get(code || 'without code') ?? 0 })),
    ignored: ignored.list(),
  })
}
