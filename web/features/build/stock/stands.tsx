'use client'

import {
  type Layout,
  PALLET,
  palletsOf,
  proposeSpots,
  type Spot,
  type Stand,
  say,
  spotPoint,
  standsOf,
  standWrong,
  stationOf,
  type WallState,
} from '@stone-tally/core'
import { useMemo, useRef, useState } from 'react'
import styled from 'styled-components'
import { Margins, Scene, sheetFor, toSite, toX, toY } from '@/features/plan/set-out/scene'
import { useHere, useRecord, type WallFeed } from '@/features/wall'
import { amountWords } from '@/ui/amounts'
import { Caution, Field, NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { dayWords } from '@/ui/day-words'
import { useWidth } from '@/ui/drawing/use-width'
import { usePreferences } from '@/ui/preferences'

const Frame = styled.div`border: 1px solid var(--line); background: var(--ground); touch-action: pan-y; svg { display: block; max-width: 100%; } .grip { cursor: move; touch-action: none; } .grip:focus-visible { outline: none; stroke: var(--now); stroke-width: 4; }`
const List = styled.ul`list-style: none; margin: 0; padding: 0; display: grid; gap: 2px; li { display: flex; flex-wrap: wrap; gap: 4px 12px; align-items: center; min-height: 48px; border-bottom: 1px solid var(--faint); } li[data-on='true'] { background: var(--faint); }`
const HEIGHT = 420

/** A row of pallets as one thing that wants room. */
const sizeOf = (pallets: number) => ({ along: PALLET.along * pallets, across: PALLET.across })
const round = (v: number) => Math.round(v * 10) / 10

/** Where deliveries stand and where those to come are put down: on the plan, clear of the dig, the swing, services, and not behind the wall. */
export function Stands({ state, record, near }: { state: WallState; record: WallFeed['record']; near: number }) {
  const { me } = useHere()
  const { units } = usePreferences()
  const { layout } = state
  const stands = useMemo(() => standsOf(state), [state])
  const [chosen, setChosen] = useState<{ of: string; spot: Spot; pallets: number; why: string }>()
  const [box, width] = useWidth<HTMLDivElement>(1180)
  const may = me.role !== 'inspector'
  const begin = (s: Stand) => {
    const taken = stands.flatMap((o) => (o.spot && o.entry.entry.id !== s.entry.entry.id ? palletsOf(o.spot, o.pallets) : []))
    const spot = s.spot ?? proposeSpots(layout, 1, near, taken, sizeOf(s.pallets))[0] ?? { station: round(near), out: 6 }
    setChosen({ of: s.entry.entry.id, spot, pallets: s.pallets, why: s.why ?? '' })
  }
  const words = (s: Stand) =>
    `${amountWords(s.amount, s.unit, units)} ${s.name}${s.expected ? `, expected ${dayWords(s.expected)}` : `, came ${dayWords(s.entry.entry.at.slice(0, 10))}`}`
  const one = stands.find((s) => s.entry.entry.id === chosen?.of)
  return (
    <Stack>
      <div ref={box}>
        <SiteMap
          layout={layout}
          width={Math.max(300, width)}
          stands={stands}
          chosen={chosen}
          onMove={may ? (spot) => chosen && setChosen({ ...chosen, spot }) : undefined}
        />
      </div>
      {chosen && one ? (
        <Place
          key={chosen.of}
          stand={one}
          words={words(one)}
          chosen={chosen}
          layout={layout}
          record={record}
          onChange={setChosen}
          onDone={() => setChosen(undefined)}
        />
      ) : (
        <p>
          Choose a delivery to say where it stands. What is under the ground, and what it carries, somebody has to look at: the plan does not know.
        </p>
      )}
      <List aria-label="Deliveries">
        {stands.map((s, i) => {
          const wrong = s.spot ? standWrong(layout, s.spot, s.pallets) : []
          return (
            <li key={s.entry.entry.id} data-on={chosen?.of === s.entry.entry.id}>
              <strong style={{ minWidth: 28 }}>{i + 1}</strong>
              <span>{words(s)}</span>
              {s.spot ? <span style={{ color: 'var(--soft)' }}>{spotWords(s.spot, units)}</span> : null}
              {wrong.length > 0 ? <span>▲ {say(wrong[0] ?? '', units)}</span> : null}
              {may ? <Quiet onPress={() => begin(s)}>{s.spot ? 'Move' : 'Where it stands'}</Quiet> : null}
            </li>
          )
        })}
      </List>
      {stands.length === 0 ? <p>Nothing came and nothing is ordered yet.</p> : null}
    </Stack>
  )
}

const spotWords = (spot: Spot, units: ReturnType<typeof usePreferences>['units']) =>
  `at ${amountWords(spot.station, 'm', units)}, ${amountWords(Math.abs(spot.out), 'm', units)} ${spot.out < 0 ? 'behind' : 'in front of'} the face`

function SiteMap({
  layout,
  width,
  stands,
  chosen,
  onMove,
}: {
  layout: Layout
  width: number
  stands: readonly Stand[]
  chosen: { readonly of: string; readonly spot: Spot; readonly pallets: number } | undefined
  onMove: ((spot: Spot) => void) | undefined
}) {
  const { units } = usePreferences()
  const sheet = useMemo(() => ({ ...sheetFor(layout, width, HEIGHT, 9), width, height: HEIGHT }), [layout, width])
  const held = useRef(false)
  const svg = useRef<SVGSVGElement>(null)
  const drawn = stands.flatMap((s, i) => {
    const own = chosen?.of === s.entry.entry.id ? chosen : s.spot ? { spot: s.spot, pallets: s.pallets } : undefined
    return own ? [{ s, i, on: chosen?.of === s.entry.entry.id, ...own }] : []
  })
  const to = (e: React.PointerEvent) => {
    const r = svg.current?.getBoundingClientRect()
    if (!r || !onMove) return
    const at = stationOf(layout.alignment, toSite(sheet, ((e.clientX - r.left) * width) / r.width, ((e.clientY - r.top) * HEIGHT) / r.height))
    onMove({ station: round(at.station), out: round(-at.offset) })
  }
  const key = (spot: Spot) => (e: React.KeyboardEvent) => {
    const by = e.shiftKey ? 1 : 0.2
    const step = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[e.key]
    if (!step || !onMove) return
    e.preventDefault()
    onMove({ station: round(spot.station + (step[0] ?? 0)), out: round(spot.out + (step[1] ?? 0)) })
  }
  return (
    <Frame>
      <svg ref={svg} width={width} height={HEIGHT} viewBox={`0 0 ${width} ${HEIGHT}`} role="group" aria-label="Where deliveries stand, north up">
        <Scene layout={layout} sheet={sheet} units={units} clear={[]} />
        <Margins sheet={sheet} units={units} />
        {drawn.map((d) => {
          const wrong = standWrong(layout, d.spot, d.pallets).length > 0
          const middle = spotPoint(layout, d.spot)
          const side = PALLET.along * sheet.k
          return (
            <g key={d.s.entry.entry.id}>
              {palletsOf(d.spot, d.pallets).map((q) => {
                const p = spotPoint(layout, q)
                return (
                  <rect
                    key={q.station}
                    x={toX(sheet, p) - side / 2}
                    y={toY(sheet, p) - side / 2}
                    width={side}
                    height={side}
                    fill={wrong ? 'var(--stop)' : d.s.expected ? 'none' : 'var(--set)'}
                    stroke={d.on ? 'var(--now)' : 'var(--ink)'}
                    strokeWidth={d.on ? 3 : 1.2}
                    {...(d.s.expected ? { strokeDasharray: '4 3' } : {})}
                  />
                )
              })}
              <text
                x={toX(sheet, middle)}
                y={toY(sheet, middle) + 5}
                textAnchor="middle"
                fontSize={15}
                fontWeight={700}
                fill="var(--ink)"
                pointerEvents="none"
              >
                {d.i + 1}
              </text>
              {d.on && onMove ? (
                <circle
                  className="grip"
                  cx={toX(sheet, middle)}
                  cy={toY(sheet, middle)}
                  r={26}
                  fill="transparent"
                  tabIndex={0}
                  role="button"
                  aria-label={`${d.s.name}: ${spotWords(d.spot, units)}; arrow keys move it`}
                  onKeyDown={key(d.spot)}
                  onPointerDown={(e) => {
                    e.currentTarget.setPointerCapture(e.pointerId)
                    held.current = true
                  }}
                  onPointerMove={(e) => {
                    if (held.current) to(e)
                  }}
                  onPointerUp={() => {
                    held.current = false
                  }}
                  onPointerCancel={() => {
                    held.current = false
                  }}
                />
              ) : null}
            </g>
          )
        })}
      </svg>
    </Frame>
  )
}

function Place({
  stand,
  words,
  chosen,
  layout,
  record,
  onChange,
  onDone,
}: {
  stand: Stand
  words: string
  chosen: { readonly of: string; readonly spot: Spot; readonly pallets: number; readonly why: string }
  layout: Layout
  record: WallFeed['record']
  onChange(c: { of: string; spot: Spot; pallets: number; why: string }): void
  onDone(): void
}) {
  const { units } = usePreferences()
  const { busy, problems, setProblems, go } = useRecord(record)
  const wrong = standWrong(layout, chosen.spot, chosen.pallets)
  const [count, setCount] = useState(`${chosen.pallets}`)
  const put = async () => {
    const pallets = Number(count)
    if (!Number.isInteger(pallets) || pallets < 1) return setProblems([{ field: 'Pallets', message: `must be a whole number, not "${count}"` }])
    const data = { of: chosen.of, name: stand.name, spot: chosen.spot, pallets, ...(chosen.why.trim() ? { why: chosen.why.trim() } : {}) }
    if (await go([{ kind: 'put', where: {}, data }])) onDone()
  }
  return (
    <Stack role="group" aria-label={`Where ${stand.name} stands`}>
      <p>
        <strong>{words}</strong>: {spotWords(chosen.spot, units)}. Drag its number on the plan, or focus it and use the arrow keys.
      </p>
      {wrong.map((w) => (
        <Caution key={w}>▲ {say(w, units)}</Caution>
      ))}
      <Row>
        <div style={{ width: 120 }}>
          <Field
            label="Pallets"
            inputMode="numeric"
            value={count}
            onChange={(text) => {
              setCount(text)
              const n = Number(text)
              if (Number.isInteger(n) && n > 0 && n <= 200) onChange({ ...chosen, pallets: n })
            }}
          />
        </div>
        {wrong.length > 0 ? (
          <div style={{ flex: '1 1 260px' }}>
            <Field label="Who said that it may stand there" value={chosen.why} onChange={(why) => onChange({ ...chosen, why })} />
          </div>
        ) : null}
        <NowButton isDisabled={busy || (wrong.length > 0 && chosen.why.trim().length < 3)} onPress={put}>
          It stands here
        </NowButton>
        <Quiet onPress={onDone}>Leave it</Quiet>
      </Row>
      <Problems list={problems} />
    </Stack>
  )
}
