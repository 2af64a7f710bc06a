'use client'

import { capHeight, formatLength, formatStation, type Handle, handlesOf, type Layout, type Plan, type Put, type UnitSystem } from '@stone-tally/core'
import { line } from 'd3-shape'
import { useId, useMemo, useRef, useState } from 'react'
import styled from 'styled-components'
import { HALO } from '@/ui/drawing/axis'
import { type LongScale, LongStill, scalesOf } from './long-still'
import type { Draft } from './use-draft'
import { useHeld } from './use-held'
import { AT_ONCE } from './use-laid'

const Frame = styled.svg`.handle { cursor: move; outline: none; } .handle:focus-visible path { stroke: var(--now); stroke-width: 5; }`
/** What each thing is taken by; told apart by shape. */
const SHAPES: Readonly<Record<Handle['of'], string>> = {
  toe: 'M-8 0A8 8 0 1 0 8 0A8 8 0 1 0 -8 0',
  top: 'M-8 0A8 8 0 1 0 8 0A8 8 0 1 0 -8 0',
  outlet: 'M-9 -7H9L0 9Z',
  opening: 'M-8 -8H8V8H-8Z',
  layer: 'M0 -9L10 0L0 9L-10 0Z',
  step: 'M-4 -10H4V10H-4Z',
}
const inner = (plan: Plan, i: number) => i > 0 && i < plan.grades.length - 1

/** Where a handle is now: its grade point may have moved since the wall was laid out. */
function now(h: Handle, plan: Plan): Put {
  const g = h.of === 'toe' || h.of === 'top' ? plan.grades[h.index] : undefined
  return g ? { station: g.station, elevation: g[h.of as 'toe' | 'top'] } : h.at
}

const NAMES: Readonly<Record<Exclude<Handle['of'], 'toe' | 'top'>, string>> = {
  outlet: 'Outlet',
  opening: 'Opening',
  layer: 'Layer of geogrid',
  step: 'Pad step',
}
function labelOf(h: Handle, at: Put, plan: Plan, units: UnitSystem): string {
  const where = formatLength(at.station, units, 2)
  if (h.of === 'toe' || h.of === 'top') return `${h.of === 'toe' ? 'Toe' : 'Top'} grade at ${where}: ${formatLength(at.elevation, units)}`
  const name = h.of === 'opening' ? (plan.openings?.[h.index]?.name ?? NAMES.opening) : NAMES[h.of]
  return h.of === 'layer' || h.of === 'opening' || h.of === 'outlet'
    ? `${name} at ${where}: ${formatLength(at.elevation, units)}`
    : `${name} at ${where}`
}

/**
 * The wall along its length with elevations drawn larger than lengths: toe and top grade as points that are dragged up and
 * down, or focused and moved with the arrow keys.
 */
export function LongSection({
  draft,
  width,
  height,
  units,
  readOnly,
  only,
  before,
}: {
  draft: Pick<Draft, 'plan' | 'layout' | 'edit' | 'settle'>
  width: number
  height: number
  units: UnitSystem
  readOnly: boolean
  /** The wall as it was issued last: drawn faintly beneath. */
  before?: Layout | undefined
  /** What is moved here; everything where left out. */
  only?: readonly Handle['of'][] | undefined
}) {
  const id = useId()
  const svg = useRef<SVGSVGElement>(null)
  const { layout, plan } = draft
  const low = Math.min(...layout.steps.map((s) => s.elevation), ...plan.grades.map((g) => g.toe)) - layout.building.foundation.thickness - 0.1
  const high = Math.max(...layout.tops.map((s) => s.elevation + capHeight(layout.building)), ...plan.grades.map((g) => g.top)) + 0.1
  const long = Math.max(plan.length, layout.plan.length)
  const scale = useMemo((): LongScale => ({ long, length: plan.length, low, high, width, height }), [long, plan.length, low, high, width, height])
  const { x, y } = scalesOf(scale)
  const handles = useMemo(() => (readOnly ? [] : handlesOf(layout)).filter((h) => !only || only.includes(h.of)), [layout, readOnly, only])
  // While a hand is on it a point is drawn where the hand is, and the wall of before beside it: the plan follows a few times a second.
  const [held, setHeld] = useState<{ id: string; to: Put }>()
  const { put, settle } = useHeld(draft, setHeld, plan.length * (high - low) > AT_ONCE)
  const shown = plan.grades.map((g, i) => {
    const at = held && /^(toe|top)-(\d+)$/.exec(held.id)
    return at && Number(at[2]) === i
      ? { ...g, [at[1] as 'toe' | 'top']: held.to.elevation, station: inner(plan, i) ? held.to.station : g.station }
      : g
  })
  const grade = (which: 'toe' | 'top') => line()(shown.map((g) => [x(g.station), y(g[which])])) ?? ''
  const placeOf = (h: Handle): Put => (held?.id === h.id ? held.to : now(h, plan))
  const drag = (h: Handle) => (down: React.PointerEvent<SVGElement>) => {
    const on = down.currentTarget
    const box = svg.current?.getBoundingClientRect()
    if (!box) return
    on.setPointerCapture(down.pointerId)
    const move = (e: PointerEvent) => {
      // A drawing narrower than it was made for is shown smaller.
      const scale = box.width > 0 ? width / box.width : 1
      const cm = (v: number) => Math.round(v * 100) / 100
      const at = now(h, plan)
      put(h, {
        station: h.goes === 'up' ? at.station : Math.min(plan.length, Math.max(0, cm(x.invert((e.clientX - box.left) * scale)))),
        elevation: h.goes === 'along' ? at.elevation : cm(y.invert((e.clientY - box.top) * scale)),
      })
    }
    const up = () => {
      on.removeEventListener('pointermove', move)
      on.removeEventListener('pointerup', up)
      on.removeEventListener('pointercancel', up)
      settle()
    }
    on.addEventListener('pointermove', move)
    on.addEventListener('pointerup', up)
    on.addEventListener('pointercancel', up)
  }
  const onKey = (h: Handle) => (e: React.KeyboardEvent) => {
    const by = h.grain ?? (e.shiftKey ? 0.1 : e.altKey ? 0.001 : 0.01)
    const side = h.grain ?? by * 10
    const to = (v: number) => Math.round(v * 1e4) / 1e4
    const at = now(h, plan)
    const [up, along] = [h.goes !== 'along', h.goes !== 'up']
    const next =
      e.key === 'ArrowUp' && up
        ? { ...at, elevation: to(at.elevation + by) }
        : e.key === 'ArrowDown' && up
          ? { ...at, elevation: to(at.elevation - by) }
          : e.key === 'ArrowLeft' && along
            ? { ...at, station: to(at.station - side) }
            : e.key === 'ArrowRight' && along
              ? { ...at, station: to(at.station + side) }
              : undefined
    if (!next) return
    e.preventDefault()
    draft.edit((p) => h.move(p, next), `key ${h.id}`)
  }
  return (
    <Frame
      ref={svg}
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="group"
      aria-label="Long section: grades, pad and top steps, drain"
      style={{ display: 'block', maxWidth: '100%', border: '1px solid var(--line)', background: 'var(--ground)', touchAction: 'none' }}
    >
      <LongStill id={id} layout={layout} openings={plan.openings} before={before} units={units} scale={scale} />
      <path d={grade('top')} fill="none" stroke="var(--ink)" strokeWidth={1.4} strokeDasharray="12 3 2 3" />
      <path d={grade('toe')} fill="none" stroke="var(--ink)" strokeWidth={2.4} />
      {readOnly
        ? plan.grades.flatMap((g) =>
            (['toe', 'top'] as const).map((of) => (
              <circle key={`${of}${g.station}`} cx={x(g.station)} cy={y(g[of])} r={5} fill="var(--ground)" stroke="var(--ink)" strokeWidth={1.6} />
            )),
          )
        : handles.map((h) => {
            const at = placeOf(h)
            return (
              <g
                key={h.id}
                className="handle"
                transform={`translate(${x(at.station)} ${y(at.elevation)})`}
                tabIndex={0}
                role="button"
                aria-label={labelOf(h, at, plan, units)}
                onPointerDown={drag(h)}
                onKeyDown={onKey(h)}
              >
                <circle r={24} fill="transparent" stroke="none" pointerEvents="all" />
                <path d={SHAPES[h.of]} fill="var(--ground)" stroke="var(--ink)" strokeWidth={2.2} />
              </g>
            )
          })}
      {held ? (
        <text
          x={x(held.to.station)}
          y={Math.max(14, y(held.to.elevation) - 14)}
          textAnchor="middle"
          fontFamily="Barlow Condensed"
          fontSize={17}
          fontWeight={600}
          fill="var(--ink)"
          {...HALO}
        >
          {/^step/.test(held.id) ? formatStation(held.to.station, units) : formatLength(held.to.elevation, units)}
        </text>
      ) : null}
    </Frame>
  )
}
