'use client'

import { capHeight, formatLength, formatMass, formatStation, type Layout, limitsOf, picksOf } from '@stone-tally/core'
import { select } from 'd3-selection'
import { type ZoomBehavior, type ZoomTransform, zoom, zoomIdentity } from 'd3-zoom'
import { useEffect, useMemo, useRef, useState } from 'react'
import styled from 'styled-components'
import { Condensed } from '@/ui/controls'
import { Elevation, type ElevationProps } from '@/ui/drawing/elevation'
import { type Picked, unitAt } from '@/ui/drawing/paint-units'
import { useMatches } from '@/ui/use-matches'

const Frame = styled.div`
  border: 1px solid var(--line); background: var(--ground); touch-action: pan-y; cursor: crosshair;
  & + & { border-top: 0; }
`
const StripFrame = styled.div`border: 1px solid var(--line); border-bottom: 0; background: var(--panel); cursor: pointer; @media (max-width: 1000px) { display: none; }`

interface WallViewProps {
  layout: Layout
  width: number
  station: number
  from: number
  to: number
  onStation(station: number): void
  onCell(section: string, course: number): void
  drawing: Pick<ElevationProps, 'look' | 'gridPlaced' | 'now' | 'readings' | 'units' | 'label'>
  strip: Omit<ElevationProps, 'width' | 'height' | 'label'>
}

/**
 * The elevation with pan and zoom: opens on the section, the whole wall as a strip above it. A tap sets the station; a tap
 * on a course chooses it.
 */
export function WallView({ layout, width, station, from, to, onStation, onCell, drawing, strip }: WallViewProps) {
  const frame = useRef<HTMLDivElement>(null)
  const narrow = useMatches('(max-width: 1000px)')
  const behaviour = useRef<ZoomBehavior<HTMLDivElement, unknown>>(null)
  const [t, setT] = useState<ZoomTransform>(zoomIdentity)
  const [touched, setTouched] = useState<Picked>()
  const base = useMemo(() => ({ from: from - 0.4, to: to + 0.4 }), [from, to])
  const tall =
    Math.max(...layout.tops.map((s) => s.elevation)) +
    capHeight(layout.building) -
    Math.min(...layout.steps.map((s) => s.elevation)) +
    layout.building.foundation.thickness
  const height = Math.round(Math.min(360, Math.max(150, ((tall + 0.5) * width) / (base.to - base.from) + 44)))

  useEffect(() => {
    const element = frame.current
    if (!element) return
    const z = zoom<HTMLDivElement, unknown>()
      .scaleExtent([0.3, 8])
      // The page keeps its own scrolling: the wheel zooms only with Ctrl, two fingers always.
      .filter((e: Event) =>
        e.type === 'wheel'
          ? (e as WheelEvent).ctrlKey
          : e.type.startsWith('touch')
            ? (e as TouchEvent).touches.length > 1 || true
            : !(e as MouseEvent).button,
      )
      .clickDistance(6)
      .on('zoom', (e: { transform: ZoomTransform }) => setT(e.transform))
    behaviour.current = z
    const target = select(element)
    target.call(z).on('dblclick.zoom', null)
    return () => {
      target.on('.zoom', null)
    }
  }, [])
  // biome-ignore lint/correctness/useExhaustiveDependencies: another section opens at its own place
  useEffect(() => {
    if (frame.current && behaviour.current) select(frame.current).call(behaviour.current.transform, zoomIdentity)
  }, [base])

  const perPixel = (base.to - base.from) / width
  const view = { from: base.from + t.invertX(0) * perPixel, to: base.from + t.invertX(width) * perPixel }
  const pick = (e: React.MouseEvent<HTMLDivElement>) => {
    const box = e.currentTarget.getBoundingClientRect()
    const px = e.clientX - box.left
    const s = Math.min(layout.plan.length, Math.max(0, view.from + (px / width) * (view.to - view.from)))
    const perMetre = width / (view.to - view.from)
    const low = Math.min(...layout.steps.map((x) => x.elevation)) - layout.building.foundation.thickness
    const high = Math.max(...layout.tops.map((x) => x.elevation)) + capHeight(layout.building)
    const elevation = (low + high) / 2 - (e.clientY - box.top - height / 2) / perMetre
    onStation(Math.round(s * 100) / 100)
    setTouched(unitAt(layout, s, elevation))
    const row = layout.courses.find((c) => elevation >= c.bottom && elevation < c.top && c.stretches.some((x) => s >= x.from && s <= x.to))
    const own = layout.plan.sections.find((x) => s >= x.from && s <= x.to)
    if (row && own) onCell(own.id, row.course)
  }
  const hung = touched && picksOf(layout).find((p) => p.piece === touched.piece)
  const hangs =
    hung &&
    `Pick ${hung.name}: ${formatMass(hung.load, drawing.units)} with its gear at ${formatLength(hung.reach, drawing.units, 1)}, ${
      hung.capacity === undefined
        ? 'beyond the table of the machine'
        : `${formatMass(hung.capacity * limitsOf(layout.plan).pickShare.value, drawing.units)} may hang there`
    }${hung.truck === undefined ? '' : `; truck ${hung.truck}`}${hung.wrong.length > 0 ? '. ▲ Not lifted as planned' : ''}`
  return (
    <div>
      <StripFrame
        aria-hidden
        onClick={(e) => {
          const box = e.currentTarget.getBoundingClientRect()
          onStation(
            Math.min(
              layout.plan.length,
              Math.max(0, Math.round((strip.from + ((e.clientX - box.left) / box.width) * (strip.to - strip.from)) * 10) / 10),
            ),
          )
        }}
      >
        {narrow ? null : (
          <Elevation
            {...strip}
            width={width - 2}
            height={Math.max(64, Math.round(((width * (tall + 0.6)) / (strip.to - strip.from)) * 1))}
            label="Whole wall"
            now={drawing.now}
          />
        )}
      </StripFrame>
      <Frame ref={frame} onClick={pick}>
        <Elevation layout={layout} width={width - 2} height={height} from={view.from} to={view.to} station={station} {...drawing} />
      </Frame>
      {touched ? (
        <Condensed role="status" style={{ display: 'block', fontSize: 16, marginTop: 4 }}>
          Course {touched.row.course}, {formatStation(touched.piece.start, drawing.units)}: {layout.system.noun.one} {touched.index + 1} of section{' '}
          {touched.cell.section}, {touched.piece.shape ? `${touched.piece.shape}, ` : ''}
          {touched.piece.kind} {formatLength(touched.piece.length, drawing.units)}
          {hangs ? `. ${hangs}` : ''}
        </Condensed>
      ) : null}
    </div>
  )
}
