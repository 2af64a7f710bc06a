'use client'

import {
  capHeight,
  cutList,
  type EmbedmentRule,
  formatLength,
  formatSmall,
  formatStation,
  KERF,
  type Layout,
  type Piece,
  say,
  type UnitSystem,
} from '@stone-tally/core'
import { select } from 'd3-selection'
import { type ZoomBehavior, type ZoomTransform, zoom, zoomIdentity } from 'd3-zoom'
import { useEffect, useMemo, useRef, useState } from 'react'
import styled from 'styled-components'
import { Places, PlaceTitle, useHere } from '@/features/wall'
import { Bar } from '@/ui/bar'
import { Caution, Condensed, Page, Quiet, Row, Stack } from '@/ui/controls'
import { Elevation } from '@/ui/drawing/elevation'
import { type Picked, unitAt } from '@/ui/drawing/paint-units'
import { useWidth } from '@/ui/drawing/use-width'
import { usePreferences } from '@/ui/preferences'
import { Table } from '@/ui/table'
import { Takes } from '@/ui/takes'

const Frame = styled.div`border: 1px solid var(--line); background: var(--ground); touch-action: pan-y; cursor: crosshair; overflow: hidden;`
const Two = styled.div`display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); gap: 24px; align-items: start; @media (max-width: 900px) { grid-template-columns: minmax(0, 1fr); }`

/** What a kind of piece is called. */
const KIND: Record<Piece['kind'], string> = {
  full: 'full',
  half: 'half',
  cut: 'cut',
  corner: 'corner unit',
  return: 'end of the corner unit round the corner',
  mitre: 'mitred to the corner',
}

/** A school of embedment in words. */
function ruleWords(rule: EmbedmentRule | undefined, units: UnitSystem): string {
  switch (rule?.kind) {
    case 'fixed':
      return `the fixed least depth of ${formatLength(rule.depth ?? 0, units)}`
    case 'fraction':
      return `${Math.round((rule.fraction ?? 0) * 100)} % of the height`
    case 'perHeight':
      return `${formatLength(rule.base ?? 0, units)} and ${Math.round((rule.perMetre ?? 0) * 1000)} mm for each metre of height`
    case 'courses':
      return `at least ${rule.count} whole ${rule.count === 1 ? 'course' : 'courses'}`
    default:
      return 'no rule'
  }
}

/** Which whole unit of the cut list a cut comes out of: the first that has its length and was not spoken for. */
function sources(layout: Layout) {
  const list = cutList(layout)
  const left = list.units.map((u) => [...u])
  const from = new Map<string, number>()
  for (const p of list.pieces) {
    const i = left.findIndex((u) => u.some((x) => Math.abs(x - p.length) < 0.0006))
    if (i < 0) continue
    left[i]?.splice(left[i]?.findIndex((x) => Math.abs(x - p.length) < 0.0006) ?? 0, 1)
    from.set(`${p.course} ${p.station}`, i + 1)
  }
  return { list, from }
}

/** Units: every piece on the elevation, its place and its cut on a tap, the same as tables, and what the wall takes. */
export function Units({ layout }: { layout: Layout }) {
  const { me, name } = useHere()
  const { units } = usePreferences()
  const [ref, width] = useWidth<HTMLDivElement>(1140)
  const frame = useRef<HTMLDivElement>(null)
  const behaviour = useRef<ZoomBehavior<HTMLDivElement, unknown>>(null)
  const [t, setT] = useState<ZoomTransform>(zoomIdentity)
  const [picked, setPicked] = useState<Picked>()
  const [course, setCourse] = useState(layout.courses[0]?.course ?? 1)
  const { list, from } = useMemo(() => sources(layout), [layout])
  const { plan } = layout
  const tall =
    Math.max(...layout.tops.map((x) => x.elevation)) +
    capHeight(layout.building) -
    Math.min(...layout.steps.map((x) => x.elevation)) +
    layout.building.foundation.thickness
  const height = Math.round(Math.min(380, Math.max(250, ((tall + 0.6) * width) / (plan.length + 1) + 60)))
  const base = { from: -0.5, to: plan.length + 0.5 }
  const down = t.y + ((t.k - 1) * height) / 2
  const perPixel = (base.to - base.from) / width
  const view = { from: base.from + t.invertX(0) * perPixel, to: base.from + t.invertX(width) * perPixel }
  useEffect(() => {
    const element = frame.current
    if (!element) return
    const z = zoom<HTMLDivElement, unknown>()
      .scaleExtent([0.6, Math.max(8, plan.length / 1.5)])
      .filter((e: Event) => (e.type === 'wheel' ? (e as WheelEvent).ctrlKey : !(e as MouseEvent).button))
      .clickDistance(6)
      .on('zoom', (e: { transform: ZoomTransform }) => setT(e.transform))
    behaviour.current = z
    const target = select(element)
    target.call(z).on('dblclick.zoom', null)
    return () => {
      target.on('.zoom', null)
    }
  }, [plan.length])
  const zoomBy = (k: number) => frame.current && behaviour.current && select(frame.current).call(behaviour.current.scaleBy, k)
  const slide = (by: number) =>
    frame.current && behaviour.current && select(frame.current).call(behaviour.current.translateBy, (by * width) / 3 / t.k, 0)
  const pick = (e: React.MouseEvent<HTMLDivElement>) => {
    const box = e.currentTarget.getBoundingClientRect()
    const perMetre = width / (view.to - view.from)
    const low = Math.min(...layout.steps.map((x) => x.elevation)) - layout.building.foundation.thickness
    const high = Math.max(...layout.tops.map((x) => x.elevation)) + capHeight(layout.building)
    const found = unitAt(
      layout,
      view.from + (e.clientX - box.left) / perMetre,
      (low + high) / 2 - (e.clientY - box.top - height / 2 - down) / perMetre,
    )
    setPicked(found)
    if (found) setCourse(found.row.course)
  }
  const row = layout.courses.find((c) => c.course === course)
  const cells = [...layout.cells.values()].filter((c) => c.course === course)
  const cutOf = (c: number, p: Piece) => from.get(`${c} ${p.start}`)
  const words = (c: number, p: Piece) =>
    `${p.shape ? `${p.shape}, ` : ''}${KIND[p.kind]}${p.kind === 'full' && !p.shape ? '' : `, ${formatLength(p.length, units)}`}${cutOf(c, p) ? `, out of unit ${cutOf(c, p)} of the cut list` : ''}`
  return (
    <>
      <Bar person={me}>
        <strong>{name}</strong>
      </Bar>
      <Page>
        <Places here="units" />
        <PlaceTitle>Units and quantities</PlaceTitle>
        <div ref={ref}>
          <Frame ref={frame} onClick={pick} style={t.k > 1.2 ? { touchAction: 'none' } : {}}>
            <Elevation
              layout={layout}
              width={Math.max(260, width - 2)}
              height={height}
              from={view.from}
              to={view.to}
              units={units}
              down={down}
              label={`${name}: every unit`}
              mark={
                picked
                  ? {
                      from: picked.piece.start,
                      to: picked.piece.to,
                      bottom: picked.row.bottom + (picked.piece.bottom ?? 0),
                      top: picked.piece.height === undefined ? picked.row.top : picked.row.bottom + (picked.piece.bottom ?? 0) + picked.piece.height,
                    }
                  : undefined
              }
            />
          </Frame>
          <Row style={{ marginTop: 8, alignItems: 'center', justifyContent: 'space-between' }}>
            <p role="status" style={{ minHeight: 24 }}>
              {picked ? (
                <>
                  <strong>
                    Course {picked.row.course}, station {formatStation(picked.piece.start, units)}
                  </strong>{' '}
                  · {layout.system.noun.one} {picked.index + 1} of section {picked.cell.section} · {words(picked.row.course, picked.piece)}
                </>
              ) : (
                <span style={{ color: 'var(--soft)' }}>Tap a {layout.system.noun.one}: its course, station, piece and cut.</span>
              )}
            </p>
            <Row style={{ gap: 6 }}>
              <Quiet onPress={() => slide(1)} aria-label="Towards the start">
                ‹
              </Quiet>
              <Quiet onPress={() => slide(-1)} aria-label="Towards the end">
                ›
              </Quiet>
              <Quiet onPress={() => zoomBy(1.7)} aria-label="Zoom in">
                +
              </Quiet>
              <Quiet onPress={() => zoomBy(1 / 1.7)} aria-label="Zoom out">
                −
              </Quiet>
            </Row>
          </Row>
        </div>
        <p>
          {layout.courses.length} courses on {layout.steps.length} pad steps, {layout.tops.length} top {layout.tops.length === 1 ? 'level' : 'steps'}.
          Buried <strong>{formatLength(layout.buried.depth, units)}</strong> or more:{' '}
          {ruleWords(layout.building.embedment[layout.buried.governing], units)} governs, rounded up to {layout.buried.courses}{' '}
          {layout.buried.courses === 1 ? 'course' : 'courses'}.
        </p>
        {layout.cautions.map((c) => (
          <Caution key={c.message}>{say(c.message, units)}</Caution>
        ))}
        <Two>
          <Stack style={{ minWidth: 0, gridTemplateColumns: 'minmax(0, 1fr)' }}>
            <Row style={{ justifyContent: 'space-between', alignItems: 'center' }}>
              <h2>
                Course {course}
                {row ? `, ${formatLength(row.bottom, units)} to ${formatLength(row.top, units)}, face ${formatLength(row.offset, units)} back` : ''}
              </h2>
              <Row style={{ gap: 6 }}>
                <Quiet onPress={() => setCourse(Math.max(layout.courses[0]?.course ?? 1, course - 1))} aria-label="Course below">
                  ▾
                </Quiet>
                <Quiet
                  onPress={() => setCourse(Math.min(layout.courses[layout.courses.length - 1]?.course ?? 1, course + 1))}
                  aria-label="Course above"
                >
                  ▴
                </Quiet>
              </Row>
            </Row>
            <PieceTable
              cells={cells}
              units={units}
              words={(p) => words(course, p)}
              picked={picked}
              onPick={(cell, index, piece) => row && setPicked({ cell, row, index, piece })}
            />
          </Stack>
          <Stack style={{ minWidth: 0, gridTemplateColumns: 'minmax(0, 1fr)' }}>
            <h2>What it takes</h2>
            <Takes layout={layout} />
            <h2>Cut list</h2>
            {list.units.length === 0 ? (
              <p>Nothing to cut.</p>
            ) : (
              <>
                <p style={{ color: 'var(--soft)' }}>
                  {list.pieces.length} pieces out of {list.units.length} whole {layout.system.noun.many}; no fewer than {list.lowerBound} can do.{' '}
                  {formatSmall(KERF, units)} are counted for the saw. Cut wet or with extraction.
                </p>
                <Table
                  label="Cut list"
                  rows={list.units}
                  atOnce={500}
                  id={(_, i) => i}
                  tall={420}
                  columns={[
                    { head: 'Unit', cell: (_, i) => i + 1 },
                    { head: 'Cut to', cell: (u) => u.map((x) => formatLength(x, units)).join(' + ') },
                    {
                      head: 'Left over',
                      is: 'n',
                      cell: (u) => formatLength(Math.max(0, layout.building.course(1).length - u.reduce((a, b) => a + b + KERF, -KERF)), units),
                    },
                  ]}
                />
              </>
            )}
          </Stack>
        </Two>
      </Page>
    </>
  )
}

/** Rows shown at once; a long course is walked through. */
const PAGE = 60

/** The pieces of a course as a table: the twin of the drawing for keyboards and screen readers. */
function PieceTable({
  cells,
  units,
  words,
  picked,
  onPick,
}: {
  cells: readonly Picked['cell'][]
  units: UnitSystem
  words(p: Piece): string
  picked: Picked | undefined
  onPick(cell: Picked['cell'], index: number, piece: Piece): void
}) {
  const [page, setPage] = useState(0)
  const rows = cells.flatMap((cell) => cell.pieces.map((piece, index) => ({ cell, piece, index })))
  const pages = Math.max(1, Math.ceil(rows.length / PAGE))
  const at = Math.min(page, pages - 1)
  return (
    <>
      <Table
        label="Every piece"
        middle
        rows={rows.slice(at * PAGE, (at + 1) * PAGE)}
        id={({ cell, index }) => `${cell.section}${index}`}
        on={({ piece }) => picked?.piece === piece}
        columns={[
          { head: 'Section', cell: ({ cell }) => cell.section },
          {
            head: 'No.',
            is: 'n',
            cell: ({ cell, piece, index }) => (
              <Quiet onPress={() => onPick(cell, index, piece)} aria-label={`Show ${index + 1} of section ${cell.section}`}>
                {index + 1}
              </Quiet>
            ),
          },
          { head: 'Station', is: 'n', cell: ({ piece }) => formatLength(piece.start, units, 2) },
          { head: 'Length', is: 'n', cell: ({ piece }) => formatLength(piece.length, units) },
          { head: 'Piece', cell: ({ piece }) => words(piece) },
        ]}
      />
      {pages > 1 ? (
        <Row style={{ alignItems: 'center', gap: 8 }}>
          <Quiet onPress={() => setPage(Math.max(0, at - 1))} isDisabled={at === 0}>
            ‹ before
          </Quiet>
          <Condensed>
            {at + 1} of {pages}
          </Condensed>
          <Quiet onPress={() => setPage(Math.min(pages - 1, at + 1))} isDisabled={at === pages - 1}>
            after ›
          </Quiet>
        </Row>
      ) : null}
    </>
  )
}
