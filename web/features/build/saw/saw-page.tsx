'use client'

import { formatLength, formatStation, mayRecord, type SawCut, sawDay, say, type UnitSystem } from '@stone-tally/core'
import { useMemo, useState } from 'react'
import styled from 'styled-components'
import { useFeed, useHere, useRecord, WallPage } from '@/features/wall'
import { Button, Caution, Choice, Field, Problems, Quiet, Row } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'
import { Table } from '@/ui/table'

const List = styled.div`
  tr[data-done='true'] td { color: var(--soft); } .box { width: 22px; height: 22px; border: 2px solid var(--ink); display: none; }
  @media print { .box { display: block; } td, th { padding: 3px 6px; } }
`
const NoPrint = styled.div`display: grid; gap: 12px; @media print { display: none; }`

type Order = 'unit' | 'place'
const KEEP = { left: 'left end', right: 'right end', any: 'either end' } as const
const KINDS = { cut: 'cut', half: 'half', mitre: 'mitre' } as const

/** A small drawing of a piece as it lies in the wall: what is kept, and where the blade goes. */
function Sketch({ cut, whole }: { cut: SawCut; whole: number }) {
  const width = 72
  const kept = Math.max(6, Math.min(width - 4, (cut.length / whole) * width))
  const lean = cut.angle ? Math.min(12, Math.tan(cut.angle) * 12) : 0
  const right = cut.keep === 'right'
  const at = right ? width - kept : kept
  return (
    <svg width={width + 16} height={26} viewBox={`-8 -3 ${width + 16} 26`} aria-hidden style={{ display: 'block' }}>
      <rect x={0} y={0} width={width} height={20} fill="none" stroke="var(--line)" strokeDasharray="3 2" />
      <path
        d={right ? `M${width} 0H${at - lean}L${at} 20H${width}Z` : `M0 0H${at + lean}L${at} 20H0Z`}
        fill="var(--unit)"
        stroke="var(--ink)"
        strokeWidth={1.4}
      />
      <path d={right ? `M${at - lean} -3L${at} 23` : `M${at + lean} -3L${at} 23`} stroke="var(--now)" strokeWidth={2} />
    </svg>
  )
}

/** Wires along the wall in the drawing of a mat: only these are cut. */
const ALONG = 4

/** A mat from above, its face below: wires into the fill whole, those along the wall cut where it is narrowed or bent. */
function MatSketch({ cut, whole, wires }: { cut: SawCut; whole: number; wires: number }) {
  const [width, tall] = [96, 44]
  const k = width / whole
  const kept = cut.length * k
  const right = cut.keep === 'right'
  const edge = right ? width - kept : kept
  const count = Math.round(whole / wires)
  const inside = (x: number) => (right ? x >= edge - 0.5 : x <= edge + 0.5)
  const bent = cut.kind === 'mitre'
  return (
    <svg width={width + 8} height={tall + 8} viewBox={`-4 -4 ${width + 8} ${tall + 8}`} aria-hidden style={{ display: 'block' }}>
      {Array.from({ length: count + 1 }, (_, i) => i * wires * k).map((x) => (
        <line key={x} x1={x} x2={x} y1={0} y2={tall} stroke={bent || inside(x) ? 'var(--ink)' : 'var(--line)'} strokeWidth={1} />
      ))}
      {Array.from({ length: ALONG }, (_, i) => (i * tall) / (ALONG - 1)).map((y) => (
        <g key={y}>
          <line x1={0} x2={width} y1={y} y2={y} stroke="var(--line)" strokeWidth={1} />
          <line x1={right ? edge : 0} x2={right ? width : edge} y1={y} y2={y} stroke="var(--ink)" strokeWidth={1.2} />
          {/* Where a wire along the wall is cut. */}
          <path d={`M${edge - 3} ${y - 3}l6 6m0 -6l-6 6`} stroke="var(--now)" strokeWidth={1.8} />
        </g>
      ))}
      <line x1={0} x2={width} y1={tall + 2} y2={tall + 2} stroke="var(--ink)" strokeWidth={3} />
    </svg>
  )
}

/** Degrees a mitre is off square. */
const angleWords = (cut: SawCut) => (cut.angle === undefined ? 'square' : `${((cut.angle * 180) / Math.PI).toFixed(1)}° off square`)
const lengthWords = (m: number, units: UnitSystem) => formatLength(m, units, 3)

/** All cuts of the courses chosen on one list, for a saw that is there for a day. */
export function SawPage() {
  const { me } = useHere()
  const feed = useFeed()
  const { state } = feed
  const { units } = usePreferences()
  const { layout } = state
  const [from, setFrom] = useState('')
  const [to, setTo] = useState('')
  const [order, setOrder] = useState<Order>('unit')
  const range = (text: string) => (/^\d+$/.test(text.trim()) ? Number(text) : undefined)
  const [a, b] = [range(from), range(to)]
  const day = useMemo(() => sawDay(state, { ...(a === undefined ? {} : { from: a }), ...(b === undefined ? {} : { to: b }) }), [state, a, b])
  const { busy, problems, go } = useRecord(feed.record)
  const may = mayRecord(me.role, 'sawn')
  const whole = layout.building.course(1).length
  const wires = layout.system.wires?.(layout.plan.system.data)
  const done = day.cuts.filter((c) => c.done).length
  const tick = (cut: SawCut) =>
    go([
      cut.done
        ? { kind: 'strike', where: {}, data: { reason: 'Ticked off by mistake.' }, supersedes: cut.done.entry.id }
        : { kind: 'sawn', where: { section: cut.section, course: cut.course, station: cut.station }, data: { length: cut.length, kind: cut.kind } },
    ])
  const groups = order === 'unit' ? byUnit(day.cuts) : byCourse(day.cuts)
  return (
    <WallPage here="saw" title="Saw day">
      <NoPrint>
        <Row style={{ alignItems: 'flex-end' }}>
          <div style={{ width: 110 }}>
            <Field label="From course" value={from} onChange={setFrom} inputMode="numeric" />
          </div>
          <div style={{ width: 110 }}>
            <Field label="To course" value={to} onChange={setTo} inputMode="numeric" />
          </div>
          <Choice
            label="In the order of"
            value={order}
            options={[
              ['unit', 'The units they come from'],
              ['place', 'Their place in the wall'],
            ]}
            onChange={setOrder}
          />
          <Button onPress={() => window.print()}>Print</Button>
        </Row>
        <Problems list={problems} />
      </NoPrint>
      {day.astray.map((s) => (
        <Caution key={s.entry.entry.id}>Cut for an earlier plan. {say(s.message, units)}.</Caution>
      ))}
      <p>
        {day.cuts.length === 0
          ? 'Nothing of these courses is cut.'
          : `${day.cuts.length} to cut out of ${day.units} whole ${day.units === 1 ? layout.system.noun.one : layout.system.noun.many}; ${done} done. ${wires === undefined ? 'Cut wet or with extraction; respirator, eye, ear, hand and foot protection.' : 'Only wires along the wall are cut, where the crosses are: those into the fill hold it. Cut wire springs: eye protection and gloves.'}`}
      </p>
      <List>
        <Table
          label="Cuts"
          middle
          rows={groups.flatMap(([title, cuts], g) =>
            cuts.map((cut) => ({ cut, group: cuts.length > 1 || order === 'place' ? { title, g } : undefined })),
          )}
          id={({ cut }) => cut.key}
          group={({ group }) => group && { key: group.g, title: group.title }}
          marks={({ cut }) => ({ 'data-done': cut.done !== undefined })}
          columns={[
            { head: 'Length', is: 'n', cell: ({ cut }) => <strong>{lengthWords(cut.length, units)}</strong> },
            { head: 'Blade', cell: ({ cut }) => angleWords(cut) },
            { head: 'Keep', cell: ({ cut }) => KEEP[cut.keep] },
            { head: 'Course', cell: ({ cut }) => `${cut.course}${layout.plan.sections.length > 1 ? ` ${cut.section}` : ''}` },
            { head: 'At', cell: ({ cut }) => formatStation(cut.station, units) },
            {
              head: 'Piece',
              cell: ({ cut }) => (
                <Row style={{ alignItems: 'center', gap: 8, flexWrap: 'nowrap' }}>
                  {wires === undefined ? <Sketch cut={cut} whole={whole} /> : <MatSketch cut={cut} whole={whole} wires={wires} />}
                  {cut.offcut ? 'off-cut' : (layout.system.noun.cut?.[cut.kind] ?? KINDS[cut.kind])}
                </Row>
              ),
            },
            {
              head: 'Done',
              cell: ({ cut: c }) => (
                <>
                  <span className="box" aria-hidden />
                  <NoPrint>
                    {may ? (
                      <Quiet
                        isDisabled={busy}
                        aria-pressed={c.done !== undefined}
                        aria-label={`Cut ${lengthWords(c.length, units)} for course ${c.course} at ${formatStation(c.station, units)}`}
                        onPress={() => tick(c)}
                      >
                        {c.done ? '✓ Cut' : 'Tick off'}
                      </Quiet>
                    ) : c.done ? (
                      '✓'
                    ) : (
                      ''
                    )}
                  </NoPrint>
                </>
              ),
            },
          ]}
        />
      </List>
    </WallPage>
  )
}

type Group = readonly [title: string, cuts: readonly SawCut[]]
/** One group a whole unit: what is cut from it first, then what comes out of its off-cut. */
function byUnit(cuts: readonly SawCut[]): Group[] {
  const units = new Map<number, SawCut[]>()
  for (const c of cuts) units.set(c.unit, [...(units.get(c.unit) ?? []), c])
  return [...units]
    .sort((x, y) => x[0] - y[0])
    .map(([, list]) => [`Out of one unit: ${list.length} pieces`, list.sort((x, y) => Number(x.offcut) - Number(y.offcut))] as const)
}
function byCourse(cuts: readonly SawCut[]): Group[] {
  const courses = new Map<number, SawCut[]>()
  for (const c of cuts) courses.set(c.course, [...(courses.get(c.course) ?? []), c])
  return [...courses].map(([course, list]) => [`Course ${course}`, list] as const)
}
