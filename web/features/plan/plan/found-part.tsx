'use client'

import { DRAWING_UNITS, type Drawing, type DrawingUnit, foundAlong, movedBy, type Plan } from '@stone-tally/core'
import { type ReactNode, useMemo, useState } from 'react'
import type { FieldPath } from 'react-hook-form'
import { startReader } from '@/features/plan/set-out/reader'
import { Button, Caution, Choice, Row, Small, Stack } from '@/ui/controls'
import { FileButton } from '@/ui/file-button'
import { beside } from '@/workers/beside'
import type { DrawingWorker } from '@/workers/drawing.worker'
import { aroundTexts } from './around'
import type { Draft } from './draft-fields'
import { Grid } from './form-parts'
import { LessDigging } from './less-digging'
import type { PlanForm } from './use-plan-form'

type Text = (name: FieldPath<Draft>, label: string, hint?: string) => ReactNode
type Axes = 'northing-first' | 'easting-first'
const LIMIT = 40 * 1024 * 1024

/** The ground as it was found: levels typed, pasted, or taken from a survey; cut, fill and spoil follow from it. */
export function FoundPart({ of, long, text, onMove }: { of: PlanForm; long: Text; text: Text; onMove(plan: Plan): void }) {
  const { draft, plan, u } = of
  return (
    <details open={draft.found !== ''}>
      <summary style={{ minHeight: 48, cursor: 'pointer', display: 'list-item', paddingTop: 12 }}>
        Ground as found{plan?.found ? `, ${plan.found.points.length} levels` : ''}
      </summary>
      <Stack>
        {long(
          'found',
          `Levels, ${u}: station; behind the face; level, one a line`,
          'two numbers are a station and a level at the face; in front of the face is negative',
        )}
        <Grid>{text('foundBack', `Filled back to, behind the face, ${u}`, 'empty: until the ground comes up, 10 m at most')}</Grid>
        <FromSurvey of={of} />
        {plan?.found && of.layout ? (
          <LessDigging plan={of.layout.plan} units={of.units} onTake={(what, by) => onMove(movedBy(plan, what, by))} />
        ) : null}
      </Stack>
    </details>
  )
}

/** Levels of a survey or of the points of a surface, along the line of this wall. */
function FromSurvey({ of }: { of: PlanForm }) {
  const [file, setFile] = useState<{ name: string; bytes: Uint8Array }>()
  const [drawing, setDrawing] = useState<Drawing>()
  const [unit, setUnit] = useState<DrawingUnit>()
  const [axes, setAxes] = useState<Axes>()
  const [word, setWord] = useState('')
  const read = async (f: { name: string; bytes: Uint8Array }, order?: Axes) => {
    const worker = beside<DrawingWorker>(startReader)
    setWord('Reading …')
    try {
      const made = await worker.ask(async (api) => await api.read(f.bytes, order, undefined, undefined as never))
      if (!made.ok) return setWord(`▲ ${f.name}: ${made.problems[0]?.field} ${made.problems[0]?.message}`)
      setDrawing(made.value.drawing)
      setUnit(made.value.drawing.unit)
      setWord('')
    } catch {
      setWord(`▲ ${f.name} could not be read on this device`)
    } finally {
      worker.end()
    }
  }
  const pick = async (f: File) => {
    setDrawing(undefined)
    setAxes(undefined)
    if (f.size > LIMIT) return setWord(`▲ ${f.name} is larger than the 40 MB that are taken`)
    const next = { name: f.name, bytes: new Uint8Array(await f.arrayBuffer()) }
    setFile(next)
    await read(next)
  }
  const { plan } = of
  const scale = unit && DRAWING_UNITS[unit]
  const ready = plan && drawing && scale && drawing.axes
  const count = drawing ? drawing.points.length + (drawing.ground?.length ?? 0) : 0
  // A surface has hundreds of thousands of points: they are put beside the line once, not at every letter typed.
  const line = plan?.alignment
  const length = plan?.length ?? 0
  const lineText = JSON.stringify(line)
  // biome-ignore lint/correctness/useExhaustiveDependencies: a line read anew is the same line
  const found = useMemo(
    () =>
      drawing?.axes && scale && line
        ? foundAlong(
            { alignment: line, length },
            [...drawing.points, ...(drawing.ground ?? [])].map((p) => ({
              easting: p.easting * scale,
              northing: p.northing * scale,
              elevation: p.elevation === undefined ? undefined : p.elevation * scale,
            })),
          )
        : undefined,
    [drawing, scale, lineText, length],
  )
  return (
    <Stack role="group" aria-label="Levels from a survey">
      <Row style={{ alignItems: 'center' }}>
        <FileButton label="Survey of the ground" accept=".csv,.txt,.xml,.landxml,.dxf" onFile={pick}>
          Levels from a survey
        </FileButton>
        {file ? <span>{file.name}</span> : null}
        {word ? <span role="status">{word}</span> : null}
      </Row>
      {drawing && file && !drawing.axes ? (
        <Choice
          label="Which number comes first?"
          value={axes ?? ('' as Axes)}
          options={[
            ['northing-first', 'Northing'],
            ['easting-first', 'Easting'],
          ]}
          onChange={(a) => {
            setAxes(a)
            read(file, a)
          }}
        />
      ) : null}
      {drawing && !drawing.unit ? (
        <Choice
          label="The file is in"
          value={unit ?? ('' as DrawingUnit)}
          options={[
            ['m', 'metres'],
            ['cm', 'centimetres'],
            ['mm', 'millimetres'],
            ['ft', 'feet'],
            ['usft', 'survey feet'],
            ['in', 'inches'],
          ]}
          onChange={setUnit}
        />
      ) : null}
      {ready && !plan.alignment ? (
        <Caution>
          ▲ This wall has a length and no line on the site grid: take its line from the same survey first, then its ground lies along it.
        </Caution>
      ) : null}
      {found ? (
        found.points.length === 0 ? (
          <Caution>▲ None of the {count} points of the file lies beside this wall with a level.</Caution>
        ) : (
          <Row style={{ alignItems: 'center' }}>
            <FoundTaken count={found.points.length} far={found.far} flat={found.flat} thinned={found.thinned} />
            <Button
              onPress={() => {
                const texts = aroundTexts({ ...(plan as Plan), found: { points: found.points } }, of.units)
                of.form.setValue('found', texts.found, { shouldDirty: true })
                setDrawing(undefined)
              }}
            >
              Take them as the ground
            </Button>
          </Row>
        )
      ) : null}
    </Stack>
  )
}

const FoundTaken = ({ count, far, flat, thinned }: { count: number; far: number; flat: number; thinned: number }) => (
  <Small>
    {count} levels beside the wall
    {far ? `; ${far} lie too far off` : ''}
    {flat ? `; ${flat} have no level` : ''}
    {thinned ? `; ${thinned} left out evenly, to stay readable` : ''}
  </Small>
)
