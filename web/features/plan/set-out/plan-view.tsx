'use client'

import {
  type Clearance,
  formatLength,
  movePoint,
  type Plan,
  type SitePoint,
  snapTo,
  splitElement,
  type UnitSystem,
  withLine,
} from '@stone-tally/core'
import { select } from 'd3-selection'
import { type ZoomBehavior, type ZoomTransform, zoom, zoomIdentity } from 'd3-zoom'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import styled from 'styled-components'
import { Quiet } from '@/ui/controls'
import { Canvas } from '@/ui/drawing/canvas'
import type { Ink } from '@/ui/drawing/paint-units'
import { useMatches } from '@/ui/use-matches'
import { Margins, paintCourse, Scene, type Sheet, sheetFor, toSite, toX, toY } from './scene'
import { type Draft, lineOf } from './use-draft'

const Frame = styled.div`
  position: relative; border: 1px solid var(--line); background: var(--ground); touch-action: none; overflow: hidden; cursor: grab;
  circle.handle { cursor: move; } circle.handle:focus-visible { outline: none; stroke: var(--now); stroke-width: 5; }
  .tools { position: absolute; top: 8px; left: 8px; display: flex; gap: 6px; }
  .tools button { background: var(--panel); min-width: 48px; min-height: 48px; font-size: 18px; }
`

interface Props {
  draft: Draft
  width: number
  height: number
  units: UnitSystem
  clear: readonly Clearance[]
  selected: number | undefined
  onSelect(i: number | undefined): void
  course: number
  snap: boolean
  readOnly: boolean
  before?: readonly SitePoint[] | undefined
}

/**
 * The wall from above: pan with one finger, zoom with two or the wheel; points are dragged, or focused and moved with the
 * arrow keys (Shift ten times, Alt a tenth as far).
 */
export function PlanView({ draft, width, height, units, clear, selected, onSelect, course, snap, readOnly, before }: Props) {
  const { layout, plan } = draft
  const frame = useRef<HTMLDivElement>(null)
  const behaviour = useRef<ZoomBehavior<HTMLDivElement, unknown>>(null)
  const [t, setT] = useState<ZoomTransform>(zoomIdentity)
  // The view stays where it is while the line is changed; only another size of window fits it anew.
  const [first] = useState(layout)
  const base = useMemo(() => sheetFor(first, width, height), [first, width, height])
  const sheet = useMemo<Sheet>(() => ({ k: base.k * t.k, x: base.x * t.k + t.x, y: base.y * t.k + t.y, width, height }), [base, t, width, height])
  const line = lineOf(plan)
  const [hint, setHint] = useState<string>()

  useEffect(() => {
    const element = frame.current
    if (!element) return
    const z = zoom<HTMLDivElement, unknown>()
      .scaleExtent([0.2, 60])
      .filter((e: Event) => !(e.target as Element).classList?.contains('handle') && !(e as MouseEvent).button)
      .on('zoom', (e: { transform: ZoomTransform }) => setT(e.transform))
    behaviour.current = z
    const target = select(element)
    target.call(z).on('dblclick.zoom', null)
    return () => {
      target.on('.zoom', null)
    }
  }, [])
  const zoomBy = (k: number) => frame.current && behaviour.current && select(frame.current).call(behaviour.current.scaleBy, k)
  const fit = () => {
    if (!frame.current || !behaviour.current) return
    const now = sheetFor(layout, width, height)
    const k = now.k / base.k
    select(frame.current).call(behaviour.current.transform, zoomIdentity.translate(now.x - base.x * k, now.y - base.y * k).scale(k))
  }

  // A gloved finger takes hold of what is as large as itself.
  const touch = useMatches('(pointer: coarse)')
  const move = (i: number, to: SitePoint, key: string) =>
    draft.edit((p) => {
      const l = lineOf(p)
      return withLine(p, movePoint(l.vertices as never, i, to), l.closed)
    }, key)
  const drag = (i: number) => (down: React.PointerEvent<SVGCircleElement>) => {
    onSelect(i)
    if (readOnly) return
    const circle = down.currentTarget
    const box = frame.current?.getBoundingClientRect()
    if (!box) return
    circle.setPointerCapture(down.pointerId)
    const onMove = (e: PointerEvent) => {
      const free = toSite(sheet, e.clientX - box.left, e.clientY - box.top)
      const caught = snap ? snapTo(plan.references ?? [], free, 14 / sheet.k) : undefined
      setHint(caught ? `on ${caught.name}` : undefined)
      const grain = sheet.k > 60 ? 1000 : 100
      const round = (v: number) => Math.round(v * grain) / grain
      move(i, caught?.point ?? { easting: round(free.easting), northing: round(free.northing) }, `drag ${i}`)
    }
    const onUp = () => {
      circle.removeEventListener('pointermove', onMove)
      circle.removeEventListener('pointerup', onUp)
      circle.removeEventListener('pointercancel', onUp)
      setHint(undefined)
      draft.settle()
    }
    circle.addEventListener('pointermove', onMove)
    circle.addEventListener('pointerup', onUp)
    circle.addEventListener('pointercancel', onUp)
  }
  const onKey = (i: number) => (e: React.KeyboardEvent) => {
    const by = e.shiftKey ? 1 : e.altKey ? 0.01 : 0.1
    const v = line.vertices[i]
    const step: Record<string, [number, number]> = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, by], ArrowDown: [0, -by] }
    const to = step[e.key]
    if (!v || readOnly) return
    if (to) {
      e.preventDefault()
      move(i, { easting: Math.round((v.easting + to[0]) * 1e4) / 1e4, northing: Math.round((v.northing + to[1]) * 1e4) / 1e4 }, `key ${i}`)
    } else if (e.key === 'Insert' || e.key === '+') {
      e.preventDefault()
      draft.edit((p) => withLine(p, splitElement(line.vertices as never, i), line.closed))
    }
  }
  const paint = useCallback(
    (g: CanvasRenderingContext2D, ink: Ink) => {
      g.clearRect(0, 0, width, height)
      paintCourse(g, layout, course, sheet, ink)
    },
    [layout, course, sheet, width, height],
  )
  return (
    // Before its width is known a phone is given the height it will have: what is below does not move.
    <Frame ref={frame} style={{ width, height: `min(${height}px, max(300px, 60vw))` }}>
      <Canvas width={width} height={height} draw={paint} />
      <svg
        width={width}
        height={height}
        viewBox={`0 0 ${width} ${height}`}
        role="group"
        aria-label={`Plan of ${plan.name}, north up`}
        style={{ position: 'absolute', inset: 0, maxWidth: '100%' }}
      >
        <Scene layout={layout} sheet={sheet} units={units} clear={clear} before={before} />
        <Margins sheet={sheet} units={units} />
        {line.vertices.map((v, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a point is its place in the line
          <g key={i}>
            <circle
              className="handle"
              cx={toX(sheet, v)}
              cy={toY(sheet, v)}
              r={touch ? 24 : 22}
              fill="transparent"
              tabIndex={0}
              role="button"
              aria-label={`Point ${i + 1}: east ${formatLength(v.easting, units)}, north ${formatLength(v.northing, units)}`}
              onPointerDown={drag(i)}
              onFocus={() => onSelect(i)}
              onKeyDown={onKey(i)}
            />
            <circle
              cx={toX(sheet, v)}
              cy={toY(sheet, v)}
              r={selected === i ? 11 : 9}
              fill={selected === i ? 'var(--now)' : 'var(--ground)'}
              stroke={selected === i ? 'var(--now)' : 'var(--ink)'}
              strokeWidth={2.4}
              pointerEvents="none"
            />
            <text
              x={toX(sheet, v)}
              y={toY(sheet, v) + 4.5}
              textAnchor="middle"
              fontSize={13}
              fontFamily="Barlow Condensed"
              fontWeight={600}
              fill={selected === i ? 'var(--on-now)' : 'var(--ink)'}
              pointerEvents="none"
            >
              {i + 1}
            </text>
          </g>
        ))}
      </svg>
      <div className="tools">
        <Quiet onPress={() => zoomBy(1.5)} aria-label="Zoom in">
          +
        </Quiet>
        <Quiet onPress={() => zoomBy(1 / 1.5)} aria-label="Zoom out">
          −
        </Quiet>
        <Quiet onPress={fit} aria-label="Show the whole wall">
          ⤢
        </Quiet>
        {hint ? (
          <span role="status" style={{ background: 'var(--now)', color: 'var(--on-now)', padding: '10px 12px', fontWeight: 600 }}>
            {hint}
          </span>
        ) : null}
      </div>
    </Frame>
  )
}

/** One grade point of a plan changed. */
export const setGrade = (p: Plan, i: number, change: Partial<Plan['grades'][number]>): Plan => ({
  ...p,
  grades: p.grades.map((g, k) => (k === i ? { ...g, ...change } : g)),
})
