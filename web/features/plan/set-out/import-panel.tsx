'use client'

import { type Adopted, DRAWING_UNITS, type Drawing, type DrawingUnit, extentOf, formatLength, segmentOf, type UnitSystem } from '@stone-tally/core'
import { useRef } from 'react'
import styled from 'styled-components'
import { Button, Caution, Choice, NowButton, Problems, Row, Small, Stack } from '@/ui/controls'
import { elementPath } from './scene'
import { useDrawing } from './use-drawing'

const Select = styled.select`
  width: 100%; min-height: 48px; padding: 8px 10px; border: 2px solid var(--ink); border-radius: 4px; background: var(--panel); color: var(--ink); font: 500 16px/1.2 'Archivo Variable', sans-serif;
`
const UNIT_WORDS: Record<DrawingUnit, string> = {
  m: 'metres',
  cm: 'centimetres',
  mm: 'millimetres',
  ft: 'feet',
  usft: 'US survey feet',
  in: 'inches',
}
/** A drawing or survey in: looked at first, taken only on a word, and never by halves. */
export function ImportPanel({
  length,
  units,
  handed,
  asFarAsItGoes,
  onTake,
}: {
  /** Length of the wall as it is planned, m; to notice feet read as metres. */
  length: number | undefined
  units: UnitSystem
  /** A file chosen elsewhere. */
  handed?: File | undefined
  /** Grades that make no wall everywhere are taken all the same, the places marked; for a wall that is still being made. */
  asFarAsItGoes?: boolean
  onTake(line: Adopted): void
}) {
  const input = useRef<HTMLInputElement>(null)
  const { file, drawing, share, problems, line, unit, axes, fillRight, toe, top, made, offered, pick, stop, leave, set } = useDrawing(
    handed,
    asFarAsItGoes,
  )
  const busy = share !== undefined
  const d = drawing?.value
  const hiddenLayers = new Map((d?.layers ?? []).map((l) => [l.name, l.hidden]))
  const take = (a: Adopted) => {
    leave()
    onTake(a)
  }
  return (
    <Stack>
      <h2>Import line and grades</h2>
      <p style={{ color: 'var(--soft)' }}>
        A DXF, a LandXML file or survey points as CSV (point, northing, easting, elevation, code). Nothing changes before you say so, and it can be
        undone.
      </p>
      <Row>
        <Button onPress={() => input.current?.click()} isDisabled={busy}>
          {busy ? `Reading … ${Math.round((share ?? 0) * 100)} %` : 'Choose file'}
        </Button>
        {busy ? <Button onPress={stop}>Stop reading</Button> : null}
        <input
          ref={input}
          type="file"
          accept=".dxf,.xml,.landxml,.csv,.txt"
          hidden
          aria-label="Drawing file"
          onChange={(e) => pick(e.target.files?.[0])}
        />
        {file ? <span>{file.name}</span> : null}
      </Row>
      <Problems list={problems} />
      {d ? (
        <>
          <Small>
            {d.kind === 'dxf' ? 'DXF drawing' : d.kind === 'landxml' ? 'LandXML' : 'Survey points'}, {drawing?.encoding}: {d.lines.length} lines,{' '}
            {d.profiles.length} profiles, {d.points.length} points
            {d.unit ? `, in ${UNIT_WORDS[d.unit]}` : ''}
          </Small>
          {d.kind === 'landxml' && d.unit ? null : (
            <Choice
              label={
                d.stated || (d.unit && d.kind === 'points')
                  ? 'The file says its unit; overrule it only where it is wrong. Its numbers are'
                  : 'The file does not say its unit. Its numbers are'
              }
              value={unit ?? ('' as DrawingUnit)}
              options={(Object.keys(DRAWING_UNITS) as DrawingUnit[]).map((u) => [u, UNIT_WORDS[u]] as const)}
              onChange={set.unit}
            />
          )}
          {(d.asks ?? [])
            .filter((a) => !/unit/.test(a))
            .map((a) => (
              <Caution key={a}>{a}</Caution>
            ))}
          {d.axes ? null : (
            <Choice
              label="After the point’s name comes its"
              value={axes ?? ('' as 'northing-first')}
              options={[
                ['northing-first', 'Northing'],
                ['easting-first', 'Easting'],
              ]}
              onChange={set.axes}
            />
          )}
          <div>
            <Small>Line of the face</Small>
            <Select value={line} onChange={(e) => set.line(e.target.value)} aria-label="Line of the face">
              <option value="">choose</option>
              {offered.map((l) => (
                <option key={l.id} value={l.id}>
                  {l.name} ({l.vertices.length} points{l.closed ? ', ring' : ''}
                  {hiddenLayers.get(l.layer) ? `, layer ${hiddenLayers.get(l.layer)}` : ''})
                </option>
              ))}
            </Select>
          </div>
          {offered.length < d.lines.length ? (
            <Caution>
              {offered.length} of {d.lines.length} lines are offered, the longest. Where the face is not among them, save only the layers of the wall
              into a new file.
            </Caution>
          ) : null}
          <LinePreview lines={offered} line={line} />
          <Choice
            label="Walking along the line as drawn, the fill is on the"
            value={fillRight}
            options={[
              ['left', 'Left'],
              ['right', 'Right'],
            ]}
            onChange={set.fillRight}
          />
          {(['toe', 'top'] as const).map((which) => (
            <div key={which}>
              <Small>{which === 'toe' ? 'Toe grade' : 'Top grade'}</Small>
              <Select
                value={which === 'toe' ? toe : top}
                onChange={(e) => set[which](e.target.value)}
                aria-label={which === 'toe' ? 'Toe grade' : 'Top grade'}
              >
                <option value="">keep what the plan has</option>
                {d.profiles
                  .filter((p) => p.line === line)
                  .map((p) => (
                    <option key={p.id} value={p.id}>
                      profile {p.name}
                    </option>
                  ))}
                {offered
                  .filter((l) => l.elevations)
                  .map((l) => (
                    <option key={l.id} value={l.id}>
                      {l.name}
                    </option>
                  ))}
              </Select>
            </div>
          ))}
          {d.layers.some((l) => l.lines === 0) ? (
            <Small>
              Nothing on{' '}
              {d.layers
                .filter((l) => l.lines === 0)
                .map((l) => l.name)
                .slice(0, 8)
                .join(', ')}
              .
            </Small>
          ) : null}
          {d.ignored.length > 0 ? (
            <details>
              <summary style={{ minHeight: 48, cursor: 'pointer' }}>Left out: {d.ignored.reduce((n, i) => n + i.count, 0)} in all</summary>
              <ul style={{ margin: 0, paddingLeft: 18 }}>
                {d.ignored.slice(0, 20).map((i) => (
                  <li key={i.what}>
                    {i.count} × {i.what}: {i.why}
                  </li>
                ))}
              </ul>
            </details>
          ) : null}
          {made?.ok ? (
            <>
              <p>
                <strong>{formatLength(made.value.length, units, 2)}</strong> long{made.value.alignment.closed ? ', a ring' : ''},{' '}
                {made.value.alignment.vertices.length} points
                {made.value.grades ? `, ${made.value.grades.length} grade points` : ', grades kept'}.
              </p>
              {length !== undefined &&
              (Math.abs(made.value.length / length / 3.2808 - 1) < 0.03 || Math.abs((made.value.length / length) * 3.2808 - 1) < 0.03) ? (
                <Caution>
                  The line is {made.value.length > length ? '3.28 times as long as' : '3.28 times shorter than'} the wall in the plan: feet read as
                  metres, or metres as feet? Check the unit before you take it.
                </Caution>
              ) : null}
              {made.value.notes.map((n) => (
                <Small key={n}>{n}</Small>
              ))}
              <Row>
                <NowButton onPress={() => take(made.value)}>Take this line</NowButton>
                <Button onPress={leave}>Take nothing</Button>
              </Row>
            </>
          ) : made ? (
            <Problems list={made.problems} />
          ) : null}
        </>
      ) : null}
    </Stack>
  )
}

/** All lines of the file with the chosen one heavy. */
function LinePreview({ lines: given, line }: { lines: Drawing['lines']; line: string }) {
  const [width, height] = [376, 180]
  const lines = given.map((l) => ({
    id: l.id,
    segments: l.vertices.flatMap((v, i) => {
      const next = l.vertices[(i + 1) % l.vertices.length]
      return next && (l.closed || i < l.vertices.length - 1) && Math.hypot(next.easting - v.easting, next.northing - v.northing) > 1e-9
        ? [segmentOf(v, next, v.bulge ?? 0, 0)]
        : []
    }),
  }))
  const all = lines.flatMap((l) => l.segments)
  if (all.length === 0) return null
  const { min, max } = extentOf(all)
  const k = Math.min((width - 20) / Math.max(max.easting - min.easting, 1e-6), (height - 20) / Math.max(max.northing - min.northing, 1e-6))
  const sheet = { k, x: width / 2 - ((min.easting + max.easting) / 2) * k, y: height / 2 + ((min.northing + max.northing) / 2) * k, width, height }
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label="Lines of the file"
      style={{ border: '1px solid var(--line)', maxWidth: '100%' }}
    >
      {lines.map((l) => (
        <path
          key={l.id}
          d={l.segments.map((s) => elementPath(sheet, s)).join('')}
          fill="none"
          stroke={l.id === line ? 'var(--now)' : 'var(--soft)'}
          strokeWidth={l.id === line ? 3.5 : 1}
        />
      ))}
    </svg>
  )
}
