'use client'

import { type DrawingUnit, movedBy, type Plan } from '@stone-tally/core'
import type { ReactNode } from 'react'
import type { FieldPath } from 'react-hook-form'
import { Button, Caution, Choice, Row, Small, Stack } from '@/ui/controls'
import { FileButton } from '@/ui/file-button'
import type { Draft } from './draft-fields'
import { Grid } from './form-parts'
import { LessDigging } from './less-digging'
import type { PlanForm } from './use-plan-form'
import { type Axes, useSurvey } from './use-survey'

type Text = (name: FieldPath<Draft>, label: string, hint?: string) => ReactNode

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
  const survey = useSurvey(of)
  const { found } = survey
  return (
    <Stack role="group" aria-label="Levels from a survey">
      <Row style={{ alignItems: 'center' }}>
        <FileButton label="Survey of the ground" accept=".csv,.txt,.xml,.landxml,.dxf" onFile={survey.pick}>
          Levels from a survey
        </FileButton>
        {survey.file ? <span>{survey.file}</span> : null}
        {survey.word ? <span role="status">{survey.word}</span> : null}
      </Row>
      {survey.asksAxes ? (
        <Choice
          label="Which number comes first?"
          value={survey.axes ?? ('' as Axes)}
          options={[
            ['northing-first', 'Northing'],
            ['easting-first', 'Easting'],
          ]}
          onChange={survey.chooseAxes}
        />
      ) : null}
      {survey.asksUnit ? (
        <Choice
          label="The file is in"
          value={survey.unit ?? ('' as DrawingUnit)}
          options={[
            ['m', 'metres'],
            ['cm', 'centimetres'],
            ['mm', 'millimetres'],
            ['ft', 'feet'],
            ['usft', 'survey feet'],
            ['in', 'inches'],
          ]}
          onChange={survey.chooseUnit}
        />
      ) : null}
      {survey.noLine ? (
        <Caution>
          ▲ This wall has a length and no line on the site grid: take its line from the same survey first, then its ground lies along it.
        </Caution>
      ) : null}
      {found ? (
        found.points.length === 0 ? (
          <Caution>▲ None of the {survey.count} points of the file lies beside this wall with a level.</Caution>
        ) : (
          <Row style={{ alignItems: 'center' }}>
            <FoundTaken count={found.points.length} far={found.far} flat={found.flat} thinned={found.thinned} />
            <Button onPress={survey.take}>Take them as the ground</Button>
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
