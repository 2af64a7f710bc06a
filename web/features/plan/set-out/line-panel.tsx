'use client'

import {
  addPoint,
  bearingOf,
  directionAt,
  distance,
  formatBearing,
  formatLength,
  fromReference,
  parseBearing,
  removePoint,
  setElement,
  splitElement,
  tangentBulge,
  type UnitSystem,
  withLine,
} from '@stone-tally/core'
import { useState } from 'react'
import { Choice, Field, Quiet, Row, Small, Stack } from '@/ui/controls'
import { Table } from '@/ui/table'
import { lengthOf, Pair, Typed } from './typed'
import { type Draft, lineOf } from './use-draft'

/** The points of the line and what runs between them. */
export function LinePanel({
  draft,
  units,
  selected,
  onSelect,
  readOnly,
}: {
  draft: Draft
  units: UnitSystem
  selected: number
  onSelect(i: number): void
  readOnly: boolean
}) {
  const line = lineOf(draft.plan)
  const { vertices, closed } = line
  const [from, setFrom] = useState('')
  const [alongBy, setAlong] = useState('0')
  const [offsetBy, setOffset] = useState('0')
  const i = Math.min(selected, vertices.length - 1)
  const v = vertices[i]
  const { segments } = draft.layout.alignment
  const segment = draft.layout.alignment.segments[i]
  const l = lengthOf(units)
  const take = (change: Parameters<typeof setElement>[3], key: string) =>
    draft.edit((p) => withLine(p, setElement(lineOf(p).vertices as never, i, lineOf(p).closed, change), lineOf(p).closed), `${key} ${i}`)
  const put = (change: { easting?: number; northing?: number }) =>
    draft.edit((p) => withLine(p, lineOf(p).vertices.map((q, k) => (k === i ? { ...q, ...change } : q)) as never, lineOf(p).closed), `point ${i}`)
  const leaves = closed || i < vertices.length - 1
  const references = draft.plan.references ?? []
  const place = () => {
    const r = references.find((x) => x.name === (from || references[0]?.name))
    const [a, o] = [l.read(alongBy), l.read(offsetBy)]
    const at = r && a.ok && o.ok ? fromReference(r.points, a.value, o.value) : undefined
    if (at) put(at)
  }
  if (!v) return null
  /** An arc between two points has at least half their distance for its radius. */
  const least = segment ? distance(segment.from, segment.to) / 2 : 0
  const radius = segment?.kind === 'arc' ? Math.sign(segment.sweep) * segment.radius : 0
  const chord = segment ? Math.atan2(segment.to.northing - segment.from.northing, segment.to.easting - segment.from.easting) : 0
  return (
    <Stack>
      <Row style={{ justifyContent: 'space-between', alignItems: 'center' }}>
        <h2>Point {i + 1}</h2>
        <Row style={{ gap: 6 }}>
          <Quiet onPress={() => onSelect((i - 1 + vertices.length) % vertices.length)} aria-label="Point before">
            ‹
          </Quiet>
          <Quiet onPress={() => onSelect((i + 1) % vertices.length)} aria-label="Next point">
            ›
          </Quiet>
        </Row>
      </Row>
      <Pair>
        <Typed label="Easting" value={v.easting} {...l} onTake={(easting) => put({ easting })} disabled={readOnly} />
        <Typed label="Northing" value={v.northing} {...l} onTake={(northing) => put({ northing })} disabled={readOnly} />
      </Pair>
      {leaves && segment ? (
        <>
          <h2 className="minor">From here to point {((i + 1) % vertices.length) + 1}</h2>
          <Pair>
            <Typed
              label={segment.kind === 'arc' ? 'Bearing of its chord' : 'Bearing'}
              value={bearingOf(chord)}
              show={formatBearing}
              read={(t) => {
                const r = parseBearing(t)
                return r.ok ? { ok: true, value: r.value } : { ok: false }
              }}
              onTake={(bearing) => take({ bearing }, 'bearing')}
              disabled={readOnly}
            />
            <Typed
              label="Length"
              value={segment.length}
              {...l}
              onTake={(length) => length > 0.01 && take({ length }, 'length')}
              disabled={readOnly}
            />
            <Typed
              label="Radius"
              value={radius}
              show={(r) => (r === 0 ? '0' : l.show(r))}
              read={(t) => {
                const r = t.trim() === '0' ? { ok: true as const, value: 0 } : l.read(t)
                if (!r.ok || r.value === 0 || Math.abs(r.value) >= least - 1e-6) return r
                return {
                  ok: false,
                  message: `the points are ${formatLength(2 * least, units, 2)} apart, so ${formatLength(least, units, 2)} or more`,
                }
              }}
              onTake={(r) => take({ radius: r }, 'radius')}
              disabled={readOnly}
            />
            <div style={{ alignSelf: 'end' }}>
              <Quiet
                isDisabled={readOnly || tangentBulge(draft.layout.alignment, i) === undefined}
                onPress={() => {
                  const bulge = tangentBulge(draft.layout.alignment, i)
                  if (bulge !== undefined)
                    draft.edit((p) => withLine(p, lineOf(p).vertices.map((q, k) => (k === i ? { ...q, bulge } : q)) as never, lineOf(p).closed))
                }}
              >
                Tangent to the one before
              </Quiet>
            </div>
          </Pair>
          <Small>
            Radius 0 is straight; above 0 the wall bulges out, below 0 it bends in.{' '}
            {segment.kind === 'arc' ? `Leaves at ${formatBearing(bearingOf(directionAt(segment, 0)))}.` : ''}
          </Small>
        </>
      ) : null}
      {readOnly ? null : (
        <Row style={{ gap: 6 }}>
          {closed ? null : (
            <Quiet
              onPress={() => {
                draft.edit((p) => withLine(p, addPoint(lineOf(p).vertices as never), lineOf(p).closed))
                onSelect(vertices.length)
              }}
            >
              One more point
            </Quiet>
          )}
          {leaves ? (
            <Quiet onPress={() => draft.edit((p) => withLine(p, splitElement(lineOf(p).vertices as never, i), lineOf(p).closed))}>
              Point in between
            </Quiet>
          ) : null}
          {vertices.length > 2 ? (
            <Quiet onPress={() => draft.edit((p) => withLine(p, removePoint(lineOf(p).vertices as never, i), lineOf(p).closed))}>Take out</Quiet>
          ) : null}
          {vertices.length > 2 || closed ? (
            <Quiet onPress={() => draft.edit((p) => withLine(p, lineOf(p).vertices as never, !lineOf(p).closed))}>
              {closed ? 'Open the ring' : 'Close to a ring'}
            </Quiet>
          ) : null}
        </Row>
      )}
      {references.length > 0 && !readOnly ? (
        <>
          <h2 className="minor">Place it from a reference</h2>
          <Choice
            label="Reference"
            hideLabel
            value={from || (references[0]?.name ?? '')}
            options={references.map((r) => [r.name, r.name] as const)}
            onChange={setFrom}
          />
          <Pair>
            <Field label="Along it" value={alongBy} onChange={setAlong} />
            <Field label="Offset, + to its left" value={offsetBy} onChange={setOffset} />
          </Pair>
          <div>
            <Quiet onPress={place}>Put point {i + 1} there</Quiet>
          </div>
        </>
      ) : null}
      <Table
        label="Points of the line"
        middle
        rows={vertices}
        id={(_, k) => k}
        on={(p) => p === vertices[i]}
        columns={[
          {
            head: 'Point',
            cell: (_, k) => (
              <Quiet onPress={() => onSelect(k)} aria-label={`Choose point ${k + 1}`}>
                {k + 1}
              </Quiet>
            ),
          },
          { head: 'East', is: 'n', cell: (p) => formatLength(p.easting, units, 2) },
          { head: 'North', is: 'n', cell: (p) => formatLength(p.northing, units, 2) },
          { head: 'Length', is: 'n', cell: (_, k) => (segments[k] ? formatLength(segments[k].length, units, 2) : '') },
          { head: 'Radius', is: 'n', cell: (_, k) => (segments[k]?.kind === 'arc' ? formatLength(segments[k].radius, units, 2) : '') },
        ]}
      />
    </Stack>
  )
}
