'use client'

import {
  formatDeviation,
  formatSmall,
  formatStation,
  limitAt,
  type PadReading,
  padRaster,
  padReadings,
  padThickness,
  type ScreedPlan,
  screedPlan,
  type UnitSystem,
} from '@stone-tally/core'
import { scaleLinear } from 'd3-scale'
import { useEffect, useMemo, useRef } from 'react'
import { Caution, Stack, Stop } from '@/ui/controls'
import { StationAxis } from '@/ui/drawing/axis'
import { levelsFor, paintPadMap } from '@/ui/drawing/pad-map'
import { useWidth } from '@/ui/drawing/use-width'
import { Hero, Targets } from '@/ui/figure'
import { counted } from '@/ui/sentence'
import { Table } from '@/ui/table'
import { Halves } from './dig-panel'
import { GroundStep } from './ground-step'
import { type GroundProps, padLevelStep } from './types'

/** Steps a person can shave or add, m. */
const GRAIN = 0.002
const LABEL = { fill: 'var(--ink)', fontFamily: 'Barlow Condensed', fontSize: 15, fontWeight: 600 } as const
const HALO = { paintOrder: 'stroke', stroke: 'var(--ground)', strokeWidth: 4, strokeLinejoin: 'round' } as const

/** The pad as a map: high and low spots, what to shave and add, whether it is accepted; thickness against the trench below. */
export function MapPanel(props: GroundProps) {
  const { state, section, units, station, onStation } = props
  const step = padLevelStep(state, section)
  const readings = useMemo(() => padReadings(state, section), [state, section])
  const limit = step ? limitAt(state.layout, step.stage, { section }) : { value: 0.005, reason: '' }
  const plan = useMemo(() => screedPlan(readings, limit.value, GRAIN), [readings, limit.value])
  const thickness = padThickness(state, section)
  const [box, width] = useWidth<HTMLDivElement>(700)
  const own = state.layout.plan.sections.find((s) => s.id === section)
  const { foundation: pad, course } = state.layout.building
  const front = -(pad.width - course(1).depth) / 2
  const area = useMemo(() => ({ from: own?.from ?? 0, to: own?.to ?? 1, front, back: front + pad.width }), [own?.from, own?.to, front, pad.width])
  const tilt = [
    ...(Math.abs(plan.fit.along) * (area.to - area.from) > limit.value
      ? [`falls ${formatSmall(plan.fit.along * (area.to - area.from), units)} towards the ${plan.fit.along > 0 ? 'start' : 'end'}`]
      : []),
    ...(Math.abs(plan.fit.across) * pad.width > limit.value
      ? [`falls ${formatSmall(plan.fit.across * pad.width, units)} towards the ${plan.fit.across > 0 ? 'front' : 'back'}`]
      : []),
  ]
  const todo = plan.actions.filter((a) => a.action !== 'leave').sort((a, b) => a.station - b.station || a.offset - b.offset)
  const bad = thickness.filter((t) => t.out)
  return (
    <Halves>
      <Stack>
        <Hero
          value={readings.length === 0 ? '—' : plan.accepted ? '✓ within limits' : `${plan.out} out`}
          unit={`${counted(readings.length, 'reading')}, limit ±${formatSmall(limit.value, units)}. ${limit.reason}`}
        />
        <div ref={box}>
          {readings.length > 2 ? (
            <PadMap
              readings={readings}
              plan={plan}
              area={area}
              tolerance={limit.value}
              units={units}
              width={width}
              station={station}
              onStation={onStation}
            />
          ) : (
            <p>Read the top of the pad at its front and back; the map comes with the third reading.</p>
          )}
        </div>
        {tilt.length > 0 ? (
          <Caution>As a whole the pad {tilt.join(' and ')}: check the height of instrument before shaving everything.</Caution>
        ) : null}
        {todo.length > 0 ? (
          <Table
            label="Screed plan"
            rows={todo}
            id={(a) => `${a.station} ${a.offset}`}
            columns={[
              { head: 'Station', cell: (a) => formatStation(a.station, units) },
              { head: 'Where', cell: (a) => (a.offset < course(1).depth / 2 ? 'front' : 'back') },
              {
                head: 'Do',
                cell: (a) => (
                  <strong>
                    {a.action === 'shave' ? '▲ shave' : '▼ add'} {formatSmall(a.by, units)}
                  </strong>
                ),
              },
              { head: 'Now', cell: (a) => formatDeviation(a.deviation, 'level', units) },
            ]}
          />
        ) : readings.length > 0 ? (
          <p>Nothing to shave or add: what is good is left alone.</p>
        ) : null}
        <h2 className="minor">Thickness</h2>
        <Targets
          list={[
            ['Design', formatSmall(pad.thickness, units)],
            [
              'Measured',
              thickness.length === 0
                ? 'not yet'
                : `${formatSmall(Math.min(...thickness.map((t) => t.thickness)), units)} to ${formatSmall(Math.max(...thickness.map((t) => t.thickness)), units)}`,
            ],
          ]}
        />
        {bad.map((t) => (
          <Stop key={t.station}>
            ▲ {formatStation(t.station, units)}: pad {formatSmall(t.thickness, units)}, {formatSmall(t.off, units)}{' '}
            {t.off > 0 ? 'thicker' : 'thinner'} than design; at most 25 mm. It settles unevenly.
          </Stop>
        ))}
      </Stack>
      <GroundStep {...props} step={step} tag="PAD LEVEL" />
    </Halves>
  )
}

export function PadMap({
  readings,
  plan,
  area,
  tolerance,
  units,
  width,
  station,
  onStation,
}: {
  readings: readonly PadReading[]
  plan: ScreedPlan
  area: { from: number; to: number; front: number; back: number }
  tolerance: number
  units: UnitSystem
  width: number
  station: number
  onStation(s: number): void
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const [left, right, top, bottom] = [46, 10, 18, 28]
  const inner = Math.max(100, width - left - right)
  const tall = 190
  const raster = useMemo(() => padRaster(readings, area, Math.min(400, Math.round(inner / 3)), 48), [readings, area, inner])
  useEffect(() => {
    const g = canvas.current?.getContext('2d')
    if (!g || !canvas.current) return
    const style = getComputedStyle(canvas.current)
    paintPadMap(
      g,
      raster,
      levelsFor(tolerance),
      { width: inner, height: tall },
      {
        high: style.getPropertyValue('--stop'),
        low: style.getPropertyValue('--soft'),
        line: style.getPropertyValue('--ink'),
        ground: style.getPropertyValue('--ground'),
      },
    )
  }, [raster, tolerance, inner])
  const x = scaleLinear([area.from, area.to], [left, left + inner])
  // The front of the wall is towards the reader, so it lies at the bottom.
  const y = scaleLinear([area.front, area.back], [top + tall, top])
  return (
    <div style={{ position: 'relative', width, height: top + tall + bottom }}>
      <canvas
        ref={canvas}
        width={inner}
        height={tall}
        style={{ position: 'absolute', left, top, width: inner, height: tall, border: '2px solid var(--ink)' }}
        aria-hidden
      />
      <svg
        width={width}
        height={top + tall + bottom}
        role="group"
        aria-label={`Map of the pad: ${counted(readings.length, 'reading')}, ${plan.out} out of limits`}
        style={{ position: 'absolute', inset: 0, maxWidth: '100%', cursor: 'crosshair' }}
        onPointerDown={(e) => {
          const box = e.currentTarget.getBoundingClientRect()
          onStation(Math.min(area.to, Math.max(area.from, x.invert(e.clientX - box.left))))
        }}
      >
        <text x={left - 6} y={top + 16} textAnchor="end" {...LABEL}>
          back
        </text>
        <text x={left - 6} y={top + tall - 6} textAnchor="end" {...LABEL}>
          front
        </text>
        <line x1={x(station)} x2={x(station)} y1={top - 8} y2={top + tall} stroke="var(--now)" strokeWidth={2} />
        {plan.actions.length <= 120
          ? plan.actions.map((a, i) => {
              const [px, py] = [x(a.station), y(a.offset)]
              // Two labels side by side stand one above the other.
              const crowded = plan.actions.slice(0, i).some((b) => b.action !== 'leave' && b.offset === a.offset && Math.abs(x(b.station) - px) < 96)
              const away = crowded ? 16 : 0
              return (
                <g key={`${a.station} ${a.offset}`}>
                  {a.action === 'leave' ? (
                    <circle cx={px} cy={py} r={4} fill="var(--ink)" />
                  ) : (
                    <>
                      <path
                        d={
                          a.action === 'shave'
                            ? `M${px - 8} ${py + 6}L${px} ${py - 8}L${px + 8} ${py + 6}Z`
                            : `M${px - 8} ${py - 6}L${px} ${py + 8}L${px + 8} ${py - 6}Z`
                        }
                        fill="var(--stop)"
                        stroke="var(--ink)"
                        strokeWidth={1.6}
                      />
                      <text
                        x={Math.max(left + 34, Math.min(px, left + inner - 34))}
                        y={py < top + tall / 2 ? py + 24 + away : py - 13 - away}
                        textAnchor="middle"
                        {...LABEL}
                        {...HALO}
                      >
                        {a.action} {formatSmall(a.by, units)}
                      </text>
                    </>
                  )}
                </g>
              )
            })
          : null}
        <StationAxis x={x} y={top + tall} units={units} />
      </svg>
    </div>
  )
}
