'use client'

import {
  builtInDrawn,
  type Clearance,
  cutEdge,
  extentOf,
  FOOT,
  formatLength,
  formatStation,
  type Layout,
  lineBeside,
  type OffsetLine,
  offsetOf,
  pointAt,
  pointOn,
  pointOnFace,
  radiusPoints,
  type Segment,
  type SitePoint,
  stationsOver,
  trenchOf,
  type UnitSystem,
} from '@stone-tally/core'
import { HALO, LABEL } from '@/ui/drawing/axis'
import type { Ink } from '@/ui/drawing/paint-units'

/** Site grid to pixels: scale in pixels a metre and where the origin falls. North is up. */
export interface Sheet {
  readonly k: number
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}
export const toX = (s: Sheet, p: SitePoint) => s.x + p.easting * s.k
export const toY = (s: Sheet, p: SitePoint) => s.y - p.northing * s.k
export const toSite = (s: Sheet, px: number, py: number): SitePoint => ({ easting: (px - s.x) / s.k, northing: (s.y - py) / s.k })

/** Where the wall, with room for its dig and so many metres more, fills the sheet. */
export function sheetFor(layout: Layout, width: number, height: number, room = 3): Omit<Sheet, 'width' | 'height'> {
  const { min, max } = extentOf(layout.alignment.segments)
  const margin = room + layout.plan.excavation.behind
  const [w, h] = [max.easting - min.easting + 2 * margin, max.northing - min.northing + 2 * margin]
  const k = Math.min(width / w, height / h)
  return { k, x: width / 2 - ((min.easting + max.easting) / 2) * k, y: height / 2 + ((min.northing + max.northing) / 2) * k }
}

const path = (s: Sheet, points: readonly SitePoint[], close = false) =>
  points.length === 0 ? '' : `M${points.map((p) => `${toX(s, p).toFixed(1)} ${toY(s, p).toFixed(1)}`).join('L')}${close ? 'Z' : ''}`

/** An element as an SVG path; arcs are true arcs. */
export function elementPath(s: Sheet, e: Segment): string {
  const start = `M${toX(s, e.from)} ${toY(s, e.from)}`
  if (e.kind === 'line') return `${start}L${toX(s, e.to)} ${toY(s, e.to)}`
  const r = e.radius * s.k
  // Two halves: an arc over half a circle cannot be told from its rest.
  const middle = pointOn(e, e.length / 2)
  const flag = e.sweep > 0 ? 0 : 1
  return `${start}A${r} ${r} 0 0 ${flag} ${toX(s, middle)} ${toY(s, middle)}A${r} ${r} 0 0 ${flag} ${toX(s, e.to)} ${toY(s, e.to)}`
}
const linePath = (s: Sheet, line: OffsetLine) => line.elements.map((e) => elementPath(s, e.segment)).join('')

type Obstacle = NonNullable<Layout['plan']['obstacles']>[number]
/** Where the name of an obstacle goes: in the middle of a building, at the first point of anything else. */
function labelOf(sheet: Sheet, o: Obstacle) {
  const solid = o.kind === 'structure' && o.points.length > 2
  const of = solid ? o.points : o.points.slice(0, 1)
  const mean = (at: (p: SitePoint) => number) => of.reduce((n, p) => n + at(p), 0) / Math.max(1, of.length)
  return { solid, x: mean((p) => toX(sheet, p)), y: mean((p) => toY(sheet, p)) }
}

/** Labels that would lie on one another are left out, the first come stays. */
class Room {
  readonly #taken: [number, number, number, number][] = []
  free(x: number, y: number, w: number, h: number): boolean {
    const box: [number, number, number, number] = [x - w / 2, y - h / 2, x + w / 2, y + h / 2]
    if (this.#taken.some((t) => t[0] < box[2] && t[2] > box[0] && t[1] < box[3] && t[3] > box[1])) return false
    this.#taken.push(box)
    return true
  }
}

/** What lies under the handles: excavation, grid, drain, the wall, its stations, dimensions, what stands around. */
export function Scene({
  layout,
  sheet,
  units,
  clear,
  before,
}: {
  layout: Layout
  sheet: Sheet
  units: UnitSystem
  clear: readonly Clearance[]
  /** Face line of an earlier revision, drawn beneath. */
  before?: readonly SitePoint[] | undefined
}) {
  const { plan, alignment } = layout
  const { front, back, drain } = trenchOf(plan)
  const gridLength = Math.max(0, ...layout.building.layers.map((g) => g.length))
  const room = new Room()
  // The scale bar, the north arrow and the zoom buttons keep their places.
  room.free(110, sheet.height - 22, 220, 46)
  room.free(sheet.width - 30, 46, 50, 80)
  room.free(92, 30, 190, 60)
  const metre = sheet.k
  const inside = (p: SitePoint) => toX(sheet, p) > -50 && toX(sheet, p) < sheet.width + 50 && toY(sheet, p) > -50 && toY(sheet, p) < sheet.height + 50
  // Round numbers in the crew's own unit.
  const foot = units === 'metric' ? 1 : FOOT
  const step = ([1, 2, 5, 10, 20, 50, 100, 200].find((s) => s * foot * metre > 70) ?? 500) * foot
  const marks: number[] = []
  for (let s = 0; s <= alignment.length + 1e-6; s += step) marks.push(s)
  const beside = (offset: number) => {
    const line = offsetOf(alignment, offset)
    return line.ok ? linePath(sheet, line.value) : path(sheet, lineBeside(alignment, offset))
  }
  const top = layout.lines[layout.lines.length - 1]
  return (
    <g>
      <path d={`${path(sheet, cutEdge(layout), alignment.closed)}`} fill="none" stroke="var(--soft)" strokeWidth={1} strokeDasharray="2 5" />
      <path d={beside(back)} fill="none" stroke="var(--soft)" strokeWidth={1} />
      <path d={beside(front)} fill="none" stroke="var(--soft)" strokeWidth={1} />
      {gridLength > 0 ? <path d={beside(gridLength)} fill="none" stroke="var(--ink)" strokeWidth={1} strokeDasharray="14 4 3 4" /> : null}
      {drain === undefined ? null : <path d={beside(drain)} fill="none" stroke="var(--ink)" strokeWidth={1.2} strokeDasharray="6 4" />}
      {layout.building.drain?.outlets.map((o) => {
        const [a, b] = [pointAt(alignment, o.station, drain), pointAt(alignment, o.station, -1.2)]
        return (
          <g key={`o${o.station}`}>
            <path d={path(sheet, [a, b])} stroke="var(--ink)" strokeWidth={1.2} strokeDasharray="6 4" fill="none" />
            <circle cx={toX(sheet, b)} cy={toY(sheet, b)} r={5} fill="var(--ground)" stroke="var(--ink)" strokeWidth={2} />
          </g>
        )
      })}
      {builtInDrawn(layout)
        .filter((d) => d.behind !== 0)
        .map((d, i, all) => {
          const middle = pointAt(alignment, (d.from + d.to) / 2, d.behind)
          // Of a row of posts the first says what they are.
          const named = all.findIndex((x) => x.item === d.item) === i
          const along = d.upright ? [] : stationsOver(d.from, d.to, 0.5).map((s) => pointAt(alignment, s, d.behind))
          const label = `${d.item.name}`
          return (
            <g key={`${d.item.name} ${d.from}`}>
              {d.upright ? (
                <rect
                  x={toX(sheet, middle) - Math.max(3, (d.size * metre) / 2)}
                  y={toY(sheet, middle) - Math.max(3, (d.size * metre) / 2)}
                  width={Math.max(6, d.size * metre)}
                  height={Math.max(6, d.size * metre)}
                  fill="var(--ground)"
                  stroke="var(--ink)"
                  strokeWidth={1.6}
                />
              ) : (
                <path d={path(sheet, along)} fill="none" stroke="var(--now)" strokeWidth={2} strokeDasharray="9 3 2 3" />
              )}
              {named && inside(middle) && room.free(toX(sheet, middle), toY(sheet, middle) - 12, label.length * 7, 16) ? (
                <text x={toX(sheet, middle)} y={toY(sheet, middle) - 8} textAnchor="middle" {...LABEL} {...HALO}>
                  {label}
                </text>
              ) : null}
            </g>
          )
        })}
      {plan.obstacles?.map((o, i) => {
        const bad = clear.some((c) => c.obstacle === i && !c.ok)
        const ink = 'var(--ink)'
        const [first] = o.points
        if (!first) return null
        const reach = ((o.radius ?? 0) + o.clearance) * metre
        const label = labelOf(sheet, o)
        const { solid } = label
        return (
          <g key={`${o.name}${first.easting}`}>
            {o.points.length === 1 ? (
              <>
                <circle
                  cx={label.x}
                  cy={label.y}
                  r={reach}
                  fill={bad ? 'var(--stop)' : 'none'}
                  fillOpacity={0.28}
                  stroke={ink}
                  strokeWidth={0.8}
                  strokeDasharray="3 3"
                />
                <circle cx={label.x} cy={label.y} r={Math.max(3, (o.radius ?? 0) * metre)} fill="var(--faint)" stroke={ink} strokeWidth={1.6} />
                {o.kind === 'tree' ? <path d={`M${label.x - 4} ${label.y}h8M${label.x} ${label.y - 4}v8`} stroke={ink} strokeWidth={1.4} /> : null}
              </>
            ) : (
              <>
                <path
                  d={path(sheet, o.points, solid)}
                  fill="none"
                  stroke={bad ? 'var(--stop)' : 'var(--line)'}
                  strokeOpacity={bad ? 0.28 : 0.4}
                  strokeWidth={2 * reach}
                  strokeLinejoin="round"
                  strokeLinecap="round"
                />
                <path
                  d={path(sheet, o.points, solid)}
                  fill={solid ? 'var(--faint)' : 'none'}
                  stroke={ink}
                  strokeWidth={2}
                  strokeDasharray={o.kind === 'service' ? '3 4 10 4' : ''}
                />
              </>
            )}
          </g>
        )
      })}
      {plan.obstacles?.map((o, i) => {
        const bad = clear.some((c) => c.obstacle === i && !c.ok)
        const { x, y, solid } = labelOf(sheet, o)
        const up = solid ? -5 : Math.min(((o.radius ?? 0) + o.clearance) * metre, 40) + 6
        return room.free(x, y - up - 5, 80, 16) ? (
          <text key={`n${o.name}${x}`} x={x} y={y - up} textAnchor="middle" {...LABEL} {...HALO}>
            {bad ? '▲ ' : ''}
            {o.name}
          </text>
        ) : null
      })}
      {plan.references?.map((r) => (
        <g key={r.name}>
          {r.points.length > 1 ? (
            <path
              d={path(sheet, r.points)}
              fill="none"
              stroke="var(--ink)"
              strokeWidth={1.4}
              strokeDasharray={r.kind === 'string' ? '1 4' : '22 5 3 5'}
            />
          ) : null}
          {r.points.map((p) => (
            <path
              key={`${p.easting} ${p.northing}`}
              transform={`translate(${toX(sheet, p)} ${toY(sheet, p)})`}
              d={r.kind === 'benchmark' ? 'M0 -8L8 6H-8Z' : 'M-5 0H5M0 -5V5'}
              fill={r.kind === 'benchmark' ? 'var(--ink)' : 'none'}
              stroke="var(--ink)"
              strokeWidth={1.4}
            />
          ))}
          {r.points[0] && room.free(toX(sheet, r.points[0]) + 40, toY(sheet, r.points[0]) - 12, 90, 16) ? (
            <text x={toX(sheet, r.points[0]) + 10} y={toY(sheet, r.points[0]) - 8} {...LABEL} {...HALO}>
              {r.name}
            </text>
          ) : null}
        </g>
      ))}
      {before ? <path d={path(sheet, before)} fill="none" stroke="var(--soft)" strokeWidth={4} strokeDasharray="2 6" /> : null}
      {top ? <path d={linePath(sheet, top)} fill="none" stroke="var(--ink)" strokeWidth={1} /> : null}
      <path
        d={alignment.segments.map((e) => elementPath(sheet, e)).join('')}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={3.2}
        strokeLinejoin="round"
      />
      {radiusPoints(alignment).map((r) => {
        const ends = [pointAt(alignment, r.from), pointAt(alignment, r.to)]
        if (!inside(r.centre)) return null
        return (
          <g key={`r${r.element}`}>
            {ends.map((e) => (
              <path key={`${e.easting}`} d={path(sheet, [r.centre, e])} stroke="var(--soft)" strokeWidth={0.8} strokeDasharray="1 4" fill="none" />
            ))}
            <path
              d={`M${toX(sheet, r.centre) - 6} ${toY(sheet, r.centre)}h12M${toX(sheet, r.centre)} ${toY(sheet, r.centre) - 6}v12`}
              stroke="var(--ink)"
              strokeWidth={1.2}
            />
            {room.free(toX(sheet, r.centre), toY(sheet, r.centre) + 16, 70, 14) ? (
              <text x={toX(sheet, r.centre)} y={toY(sheet, r.centre) + 20} textAnchor="middle" {...LABEL} {...HALO}>
                R {formatLength(r.radius, units, 2)}
              </text>
            ) : null}
          </g>
        )
      })}
      {layout.steps.slice(1).map((s) => {
        const [a, b] = [pointAt(alignment, s.start, front), pointAt(alignment, s.start, back)]
        return inside(a) ? <path key={`p${s.start}`} d={path(sheet, [a, b])} stroke="var(--ink)" strokeWidth={1} fill="none" /> : null
      })}
      {marks.map((s) => {
        const p = pointAt(alignment, s)
        if (!inside(p)) return null
        const q = pointAt(alignment, s, -26 / metre)
        const tick = pointAt(alignment, s, -9 / metre)
        const show = room.free(toX(sheet, q), toY(sheet, q), 40, 15)
        return (
          <g key={`s${s}`}>
            <path d={path(sheet, [p, tick])} stroke="var(--ink)" strokeWidth={1.6} fill="none" />
            {show ? (
              <text x={toX(sheet, q)} y={toY(sheet, q) + 5} textAnchor="middle" {...LABEL} {...HALO}>
                {formatStation(s, units)}
              </text>
            ) : null}
          </g>
        )
      })}
      {alignment.segments.map((e) => {
        if (e.length * metre < 60) return null
        const at = pointAt(alignment, e.station + e.length / 2, 34 / metre)
        if (!inside(at) || !room.free(toX(sheet, at), toY(sheet, at), 110, 16)) return null
        return (
          <text key={`l${e.station}`} x={toX(sheet, at)} y={toY(sheet, at) + 5} textAnchor="middle" {...LABEL} fill="var(--soft)" {...HALO}>
            {formatLength(e.length, units, 2)}
          </text>
        )
      })}
      {plan.sections.map((s) => {
        const at = pointAt(alignment, (s.from + s.to) / 2, 16 / metre)
        const edge = s.from > 0 ? [pointAt(alignment, s.from, -14 / metre), pointAt(alignment, s.from, 14 / metre)] : undefined
        return (
          <g key={`sec${s.id}`}>
            {edge ? <path d={path(sheet, edge)} stroke="var(--ink)" strokeWidth={1} strokeDasharray="2 3" fill="none" /> : null}
            {plan.sections.length > 1 && inside(at) && room.free(toX(sheet, at), toY(sheet, at), 20, 18) ? (
              <text x={toX(sheet, at)} y={toY(sheet, at) + 5} textAnchor="middle" {...LABEL} fontWeight={600} fontSize={16} {...HALO}>
                {s.id}
              </text>
            ) : null}
          </g>
        )
      })}
    </g>
  )
}

/** North arrow and scale bar. */
export function Margins({ sheet, units }: { sheet: Sheet; units: UnitSystem }) {
  const foot = units === 'metric' ? 1 : FOOT
  const length = ([1, 2, 5, 10, 20, 50, 100, 200].find((s) => s * foot * sheet.k > 90) ?? 500) * foot
  const w = length * sheet.k
  const y = sheet.height - 18
  return (
    <g>
      <g transform={`translate(${sheet.width - 30} 44)`}>
        <path d="M0 -26L8 10L0 4L-8 10Z" fill="var(--ink)" />
        <text y={26} textAnchor="middle" {...LABEL} fontWeight={600} {...HALO}>
          N
        </text>
      </g>
      <g transform={`translate(18 ${y})`}>
        <rect width={w / 2} height={6} fill="var(--ink)" />
        <rect x={w / 2} width={w / 2} height={6} fill="var(--ground)" stroke="var(--ink)" strokeWidth={1} />
        <text y={-5} {...LABEL} {...HALO}>
          0
        </text>
        <text x={w} y={-5} textAnchor="middle" {...LABEL} {...HALO}>
          {formatStation(length, units)} {units === 'metric' ? 'm' : ''}
        </text>
      </g>
    </g>
  )
}

/** The units of one course as they lie, when near enough to be told apart. */
export function paintCourse(g: CanvasRenderingContext2D, layout: Layout, course: number, sheet: Sheet, ink: Ink) {
  const i = layout.courses.findIndex((c) => c.course === course)
  if (i < 0 || layout.building.course(1).length * sheet.k < 7) return
  const { depth } = layout.building.course(1)
  const near = (p: SitePoint) => toX(sheet, p) > -80 && toX(sheet, p) < sheet.width + 80 && toY(sheet, p) > -80 && toY(sheet, p) < sheet.height + 80
  g.lineWidth = 0.9
  g.strokeStyle = ink.ink
  for (const run of layout.runs[i] ?? []) {
    const face = layout.faces[i]?.[run.leg]
    if (!face) continue
    for (const p of run.pieces) {
      if (p.kind === 'return' || (p.bottom ?? 0) > 0) continue
      const [a, b] = [pointOnFace(face, run.c0 + p.at), pointOnFace(face, run.c0 + p.at + p.length)]
      if (!near(a) && !near(b)) continue
      const [c, d] = [pointOnFace(face, run.c0 + p.at + p.length, depth), pointOnFace(face, run.c0 + p.at, depth)]
      g.beginPath()
      g.moveTo(toX(sheet, a), toY(sheet, a))
      for (const q of [b, c, d]) g.lineTo(toX(sheet, q), toY(sheet, q))
      g.closePath()
      g.fillStyle = p.kind === 'full' ? ink.unit : p.kind === 'half' ? ink.line : p.kind === 'corner' ? ink.done : ink.cut
      g.fill()
      g.stroke()
    }
  }
}
