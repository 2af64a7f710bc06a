'use client'

import { ANSWERED_BY, ANSWERED_NAMES, type FoundFact, factsOf, rungOf, SOIL_CLASSES, SOILS, say, WHOSE_NAMES, whoseWall } from '@stone-tally/core'
import { type ReactNode, useMemo } from 'react'
import type { FieldPath } from 'react-hook-form'
import styled from 'styled-components'
import { Button, Check, Choice, Quiet, Row, Small, Stack } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'
import type { Draft } from './draft-fields'
import { factsRead, newAnswer } from './signed'
import type { PlanForm } from './use-plan-form'

type Text = (name: FieldPath<Draft>, label: string, hint?: string, type?: 'date' | undefined) => ReactNode
const Ladder = styled.ul`
  list-style: none; margin: 0; padding: 0; display: grid; gap: 8px;
  li { display: grid; grid-template-columns: 128px minmax(0, 1fr); gap: 4px 14px; align-items: baseline; }
  b { font-family: 'Barlow Condensed', sans-serif; font-weight: 600; }
  @media (max-width: 640px) { li { grid-template-columns: minmax(0, 1fr); } }
`
const Grid = styled.div`display: grid; grid-template-columns: repeat(auto-fill, minmax(190px, 1fr)); gap: 12px; align-items: start;`
const MARKS = { crew: '●', ask: '?', engineer: '▲' } as const

/** Whose wall it is by its facts, and what opens it: the plan of an engineer and what it covers, or an answer to what is asked first. */
export function WhosePart({ of, text }: { of: PlanForm; text: Text }) {
  const { units } = usePreferences()
  const { layout, draft } = of
  const found = useMemo(() => (layout ? whoseWall(layout.plan, factsOf(layout)) : undefined), [layout])
  return (
    <Stack>
      {found ? (
        <Stack style={{ gap: 8 }}>
          <strong>
            {MARKS[found.whose]} {WHOSE_NAMES[found.whose]}
            {found.facts.length === 0 ? ': nothing about it asks for anybody else' : ''}
          </strong>
          <Ladder aria-label="Why">
            {found.facts.map((f) => (
              <Fact key={`${f.fact} ${f.says}`} fact={f} say={(t) => say(t, units)} />
            ))}
          </Ladder>
        </Stack>
      ) : (
        <Small>Whose wall it is stands here as soon as the wall can be drawn.</Small>
      )}
      <SoilFields of={of} text={text} />
      {found && found.ask.length > 0 && draft.asked.length === 0 ? (
        <Row>
          <Button onPress={() => of.form.setValue('asked', [newAnswer(found.ask.map((f) => f.fact))], { shouldDirty: true })}>
            Enter what was asked and answered
          </Button>
        </Row>
      ) : null}
      <Answers of={of} text={text} />
      <Engineer of={of} text={text} facts={found?.facts ?? []} />
    </Stack>
  )
}

function Fact({ fact: f, say: sayIt }: { fact: FoundFact; say(t: string): string }) {
  return (
    <li>
      <b>
        {MARKS[f.whose]} {WHOSE_NAMES[f.whose]}
      </b>
      <span>
        {sayIt(f.says).replace(/^./, (c) => c.toUpperCase())}.{f.answered === undefined ? '' : ` Answered by ${f.answered}.`}
        <Small>{rungOf(f.fact).reason}</Small>
      </span>
    </li>
  )
}

const SOIL_OPTIONS = [['', 'Nobody has said'], ...SOIL_CLASSES.map((c) => [c, SOILS[c].name] as const)] as const
/** The soil behind and below, as somebody who looked says; and who comes to the edge. */
function SoilFields({ of, text }: { of: PlanForm; text: Text }) {
  const set = (name: 'soilBehind' | 'soilBelow' | 'edge') => (v: string) => of.form.setValue(name, v, { shouldDirty: true })
  return (
    <Grid>
      <Choice<string> label="Soil behind" value={of.draft.soilBehind} options={SOIL_OPTIONS} onChange={set('soilBehind')} />
      <Choice<string> label="Soil below" value={of.draft.soilBelow} options={SOIL_OPTIONS} onChange={set('soilBelow')} />
      {text('soilBy', 'Who says so', 'a pit, a report; what the dig finds goes before it')}
      <Choice<string>
        label="The edge on top"
        value={of.draft.edge}
        options={[
          ['', 'Not said: people come'],
          ['people', 'People come there'],
          ['nobody', 'Nobody can come there'],
        ]}
        onChange={set('edge')}
      />
    </Grid>
  )
}

/** What was asked first, and the answers. */
function Answers({ of, text }: { of: PlanForm; text: Text }) {
  const { draft, form } = of
  const put = (i: number, name: string) => (v: string) => form.setValue(`asked.${i}.cells.${name}`, v, { shouldDirty: true })
  return draft.asked.map((a, i) => (
    // biome-ignore lint/suspicious/noArrayIndexKey: answers have no name of their own and are never sorted
    <Stack key={i} style={{ borderLeft: '4px solid var(--ink)', paddingLeft: 12 }}>
      <strong>
        Asked:{' '}
        {factsRead(a.cells.facts ?? '')
          .map((f) => rungOf(f).title.toLowerCase())
          .join(', ')}
      </strong>
      <Grid>
        <Choice<string>
          label="Who answered"
          value={a.cells.as ?? ''}
          options={ANSWERED_BY.map((x) => [x, ANSWERED_NAMES[x]] as const)}
          onChange={put(i, 'as')}
        />
        {text(`asked.${i}.cells.who`, 'Name and office')}
        {text(`asked.${i}.cells.on`, 'On the day', undefined, 'date')}
        {text(`asked.${i}.cells.reference`, 'Letter or number')}
        {text(`asked.${i}.cells.question`, 'What was asked')}
        <Choice<string>
          label="The answer"
          value={a.cells.may ?? 'yes'}
          options={[
            ['yes', 'The crew may build it'],
            ['no', 'No: an engineer’s'],
          ]}
          onChange={put(i, 'may')}
        />
      </Grid>
      <Row>
        <Quiet
          onPress={() =>
            form.setValue(
              'asked',
              form.getValues('asked').filter((_, k) => k !== i),
              { shouldDirty: true },
            )
          }
        >
          Take this answer out
        </Quiet>
      </Row>
    </Stack>
  ))
}

/** The engineer and what the plan covers, each in a field of its own. */
function Engineer({ of, text, facts }: { of: PlanForm; text: Text; facts: readonly FoundFact[] }) {
  const { draft, form, u } = of
  const covered = factsRead(draft.coversFacts)
  const offered = [...new Set([...facts.filter((f) => f.fact !== 'height').map((f) => f.fact), ...covered])]
  const turn = (f: (typeof offered)[number], on: boolean) =>
    form.setValue('coversFacts', (on ? [...covered, f] : covered.filter((x) => x !== f)).join(','), { shouldDirty: true })
  return (
    <Stack>
      <Grid>
        {text('engineerBy', 'Its engineer', 'name')}
        {text('engineerLicence', 'Licence or register number')}
        {text('engineer', 'Engineered plan', 'its number')}
        {text('engineerOn', 'Plan of the day', undefined, 'date')}
        {text('coversHeight', `Covers walls up to, ${u}`, 'from the bottom of the pad')}
        {text('coversFrom', `Covered from, ${u}`, 'empty: the start')}
        {text('coversTo', `Covered to, ${u}`, 'empty: the end')}
      </Grid>
      {offered.length > 0 ? (
        <Stack style={{ gap: 4 }} role="group" aria-label="The plan takes into account">
          <Small>The plan takes into account</Small>
          <Row style={{ gap: '4px 24px' }}>
            {offered.map((f) => (
              <Check key={f} checked={covered.includes(f)} onChange={(on) => turn(f, on)}>
                {rungOf(f).title}
              </Check>
            ))}
          </Row>
        </Stack>
      ) : null}
    </Stack>
  )
}
