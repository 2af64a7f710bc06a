'use client'

import type { Layout, UnitSystem } from '@stone-tally/core'
import { useCallback, useId, useMemo, useRef } from 'react'
import { Canvas } from '../canvas'
import { type CellLook, type Ink, type Painted, repaintUnits, UNIT_PIXELS } from '../paint-units'
import { Behind } from './behind'
import { BuiltIn, Grades } from './built'
import { Caps } from './caps'
import { Cells } from './cells'
import { Corners } from './corners'
import { Layers } from './layers'
import { Picks } from './picks'
import { Pointer, type ReadingMark, Readings, Stations } from './pointers'
import { sheetOf } from './sheet'

export type { CellLook } from '../paint-units'

export interface ElevationProps {
  layout: Layout
  width: number
  height: number
  /** Stations shown, m. */
  from: number
  to: number
  units: UnitSystem
  look?(section: string, course: number): CellLook
  gridPlaced?(section: string, course: number): boolean
  now?: { section: string; course?: number | undefined } | undefined
  station?: number | undefined
  readings?: readonly ReadingMark[] | undefined
  plain?: boolean
  /** One unit outlined: stations and elevations, m. */
  mark?: { from: number; to: number; bottom: number; top: number } | undefined
  /** Moved down by this, px. */
  down?: number
  label: string
}

/**
 * The wall seen from the front, to scale: units on a canvas between what lies behind them and what is marked on them. Stations run left to
 * right.
 */
export function Elevation(props: ElevationProps) {
  const { layout, width, height, from, to, units, look, gridPlaced, now, station, readings, plain, mark, down, label } = props
  const id = useId()
  const of = useMemo(() => sheetOf({ layout, width, height, from, to, plain, down }), [layout, width, height, from, to, plain, down])
  const { edge, perMetre } = of
  const rows = useMemo(() => new Map(layout.courses.map((c) => [c.course, c])), [layout])
  const shown = useRef<Painted>(undefined)
  const paint = useCallback(
    (g: CanvasRenderingContext2D, ink: Ink, fresh: boolean) => {
      const at = { from, to, width, height, high: edge, perMetre }
      shown.current = repaintUnits(g, layout, rows, at, ink, look, fresh ? undefined : shown.current).painted
    },
    [layout, rows, from, to, width, height, edge, perMetre, look],
  )
  // On a long wall far away the courses are one surface; their outlines would only be noise.
  const outlined = layout.cells.size < 600 || layout.building.course(1).length * perMetre >= UNIT_PIXELS
  return (
    <div style={{ position: 'relative', width, height, maxWidth: '100%', overflow: 'hidden' }}>
      <Behind of={of} id={id} />
      <Canvas width={width} height={height} draw={paint} />
      <svg
        width={width}
        height={height}
        viewBox={`0 0 ${width} ${height}`}
        role="img"
        aria-label={label}
        style={{ display: 'block', maxWidth: '100%', position: 'absolute', inset: 0 }}
      >
        {outlined ? <Cells of={of} rows={rows} now={now} look={look} /> : null}
        <Caps of={of} />
        <BuiltIn of={of} />
        {plain ? null : <Corners of={of} />}
        <Layers of={of} placed={gridPlaced} />
        <Grades of={of} />
        {plain ? null : <Picks of={of} rows={rows} units={units} />}
        {mark ? (
          <path d={of.rect(mark.from, mark.to, mark.bottom, mark.top)} fill="var(--now)" fillOpacity={0.25} stroke="var(--now)" strokeWidth={3} />
        ) : null}
        <Readings of={of} list={readings} />
        <Pointer of={of} station={station} />
        {plain ? null : <Stations of={of} units={units} />}
      </svg>
    </div>
  )
}
