'use client'

import { type Curve, type CurveData, type DensityHere, fitCurve, formatDensity, GRAINS, unitOf, zeroAirVoids } from '@stone-tally/core'
import { extent } from 'd3-array'
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { HALO, LABEL, ValueAxis } from '@/ui/drawing/axis'
import { usePreferences } from '@/ui/preferences'

/** Dry density over moisture: laboratory points and their curve, zero air voids, the window fill may lie in, and the field tests. */
export function DensityChart({
  data,
  curve,
  window,
  accepted,
  tests,
  width,
  height,
}: {
  data: CurveData
  curve: Curve
  window: { below: number; above: number }
  /** Least of the maximum that is taken, per cent. */
  accepted: number
  tests: readonly DensityHere[]
  width: number
  height: number
}) {
  const { units } = usePreferences()
  const fit = fitCurve({ points: data.points, ...(data.gs == null ? {} : { gs: data.gs }) })
  const gs = data.gs ?? GRAINS
  const [left, right, top, bottom] = [58, 16, 20, 40]
  const field = tests.flatMap((t) =>
    t.result ? [{ x: t.result.moisture, y: t.result.dryDensity, out: t.out, closed: t.closed, id: t.entry.entry.id }] : [],
  )
  const least = (curve.maximumDryDensity * accepted) / 100
  const [w0 = 0, w1 = 20] = extent([
    ...data.points.map((p) => p.moisture),
    ...field.map((f) => f.x),
    curve.optimumMoisture - window.below,
    curve.optimumMoisture + window.above,
  ])
  const [d0 = 1500, d1 = 2200] = extent([...data.points.map((p) => p.dryDensity), ...field.map((f) => f.y), least, curve.maximumDryDensity])
  const x = scaleLinear([(w0 as number) - 1, (w1 as number) + 1.5], [left, width - right])
  const y = scaleLinear([(d0 as number) - 40, (d1 as number) + 60], [height - bottom, top])
  const [m0 = 0, m1 = 20] = x.domain()
  const moistures = Array.from({ length: 61 }, (_, i) => m0 + ((m1 - m0) * i) / 60)
  const clip = (v: number) => Math.min(height - bottom, Math.max(top, v))
  const voids = moistures.filter((w) => y(zeroAirVoids(w, gs)) >= top && y(zeroAirVoids(w, gs)) <= height - bottom)
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Density chart of ${data.name}: maximum ${formatDensity(curve.maximumDryDensity, units)} at ${curve.optimumMoisture.toFixed(1)} %, ${field.length} field tests`}
      style={{ display: 'block', maxWidth: '100%', border: '1px solid var(--line)', background: 'var(--ground)' }}
    >
      <rect
        x={x(curve.optimumMoisture - window.below)}
        width={x(curve.optimumMoisture + window.above) - x(curve.optimumMoisture - window.below)}
        y={top}
        height={y(least) - top}
        fill="var(--faint)"
        stroke="var(--line)"
      />
      <text x={x(curve.optimumMoisture - window.below) + 6} y={top + 17} {...LABEL}>
        accepted: {accepted} % and more, moisture −{window.below} to +{window.above}
      </text>
      <ValueAxis
        y={y}
        x={left - 8}
        units={units}
        of="density"
        count={6}
        say={(d) => formatDensity(d, units).split(' ')[0] ?? ''}
        grid={[left, width - right]}
      />
      {x.ticks(8).map((w) => (
        <text key={w} x={x(w)} y={height - 22} textAnchor="middle" {...LABEL}>
          {w}
        </text>
      ))}
      <text x={width - right} y={height - 6} textAnchor="end" {...LABEL}>
        moisture, %
      </text>
      <text x={6} y={14} {...LABEL}>
        dry density, {unitOf('density', units)}
      </text>
      <path
        d={
          line<number>(
            (w) => x(w),
            (w) => y(zeroAirVoids(w, gs)),
          )(voids) ?? ''
        }
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.4}
        strokeDasharray="7 4"
      />
      {voids[0] !== undefined ? (
        <text x={x(voids[0]) + 8} y={y(zeroAirVoids(voids[0], gs)) + 4} {...LABEL} {...HALO}>
          zero air voids
        </text>
      ) : null}
      {fit.ok ? (
        <path
          d={
            line<number>(
              (w) => x(w),
              (w) => clip(y(fit.value.a * w * w + fit.value.b * w + fit.value.c)),
            )(moistures.filter((w) => y(fit.value.a * w * w + fit.value.b * w + fit.value.c) <= height - bottom)) ?? ''
          }
          fill="none"
          stroke="var(--ink)"
          strokeWidth={2.4}
        />
      ) : null}
      {data.points.map((p) => (
        <circle
          key={`${p.moisture} ${p.dryDensity}`}
          cx={x(p.moisture)}
          cy={y(p.dryDensity)}
          r={4.5}
          fill="var(--ground)"
          stroke="var(--ink)"
          strokeWidth={2}
        />
      ))}
      <path d={`M${x(curve.optimumMoisture)} ${y(curve.maximumDryDensity)}V${height - bottom}`} stroke="var(--ink)" strokeDasharray="2 3" />
      <text x={x(curve.optimumMoisture)} y={y(curve.maximumDryDensity) - 9} textAnchor="middle" {...LABEL} fontWeight={600} {...HALO}>
        {formatDensity(curve.maximumDryDensity, units).split(' ')[0]} at {curve.optimumMoisture.toFixed(1)} %
      </text>
      {field.map((f) =>
        f.out ? (
          <g key={f.id}>
            <path
              d={`M${x(f.x) - 8} ${y(f.y) + 6}L${x(f.x)} ${y(f.y) - 9}L${x(f.x) + 8} ${y(f.y) + 6}Z`}
              fill={f.closed ? 'var(--ground)' : 'var(--stop)'}
              stroke="var(--ink)"
              strokeWidth={1.8}
            />
            <text x={x(f.x) + 12} y={y(f.y) + 5} {...LABEL} {...HALO}>
              {f.closed ? 'failed, reworked' : 'failed'}
            </text>
          </g>
        ) : (
          <rect key={f.id} x={x(f.x) - 6} y={y(f.y) - 6} width={12} height={12} fill="var(--ink)" />
        ),
      )}
    </svg>
  )
}
