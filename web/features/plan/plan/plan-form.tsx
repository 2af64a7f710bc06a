'use client'

import { ROLE_NAMES, type Role, say } from '@stone-tally/core'
import { memo, useDeferredValue, useEffect, useState } from 'react'
import type { FieldPath } from 'react-hook-form'
import styled from 'styled-components'
import { send } from '@/device/send'
import { useUndoKeys } from '@/features/plan/set-out/use-undo-keys'
import { keepTyped, type Me, Places, PlaceTitle, typedAt, useUnissued } from '@/features/wall'
import { Afterwards } from '@/ui/afterwards'
import { Bar } from '@/ui/bar'
import { Button, LinkButton, NowButton, Page, Problems, Quiet, Row } from '@/ui/controls'
import { takeHanded } from '@/ui/handed'
import { usePreferences } from '@/ui/preferences'
import { CompareWays } from './compare-ways'
import { draftOf } from './draft'
import type { Draft } from './draft-fields'
import { Drawn } from './drawn'
import { KeepWall } from './keep-wall'
import { KeptChanges } from './kept-changes'
import { changedFields, type KeptDraft, keptDraft } from './kept-draft'
import { fieldLabel } from './labels'
import { RevisionEffects } from './revision-effects'
import { SubjectParts } from './subject-parts'
import { type SubjectId, SubjectNav, subjectOf, subjectsOf } from './subjects'
import { type Member, ToldPanel } from './told'
import { type Planning, usePlanForm } from './use-plan-form'

export type { Beginning } from './use-plan-form'

const Parts = memo(SubjectParts)

/** One subject beside the drawing; everything below it. */
const Beside = styled.div`
  display: grid; gap: 22px; grid-template-columns: minmax(0, 1fr);
  &[data-beside] { grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr); align-items: start; .drawn { position: sticky; top: 10px; } }
  @media (max-width: 1000px) { &[data-beside] { grid-template-columns: minmax(0, 1fr); .drawn { position: static; } } }
`
/** Where what stops the dig is answered. */
const ANSWERED_IN: Readonly<Record<string, SubjectId>> = {
  holds: 'holds',
  'front-unsaid': 'holds',
  'ask-first': 'holds',
  engineer: 'holds',
  'no-pipe': 'water',
}
/** Subjects that ways are compared in. */
const COMPARED: ReadonlySet<SubjectId | undefined> = new Set(['unit', 'ground', 'pad', 'own', 'water', undefined])

/** Makes a wall, or the next revision of its plan: asked one subject at a time beside the drawing, or everything below it. */
export function PlanForm({
  me,
  people = [],
  onBack,
  ...planning
}: Planning & {
  me: Me
  /** Of the company, to say who was told. */
  people?: readonly Member[]
  /** Another way in, with what was typed on this one. */
  onBack?: ((typed: Draft) => void) | undefined
}) {
  const { wall, begun } = planning
  const { units: reads } = usePreferences()
  const letGo = () => keepTyped('plan', 'revision', undefined)
  const [before, setBefore] = useState<KeptDraft>()
  const [shown] = useState(() => wall && draftOf(wall.plan, reads))
  const kept =
    planning.kept ??
    (wall
      ? {
          text: '',
          set: (draft: string) =>
            keepTyped(
              'plan',
              'revision',
              JSON.stringify({ revision: wall.revision, draft: JSON.parse(draft), changed: changedFields(shown, JSON.parse(draft)) }),
            ),
          letGo,
        }
      : undefined)
  const { of, steps } = usePlanForm({ ...planning, kept })
  const { form, draft, system, problems, changed } = of
  const [subject, setSubject] = useState<SubjectId | undefined>(wall || begun === undefined ? undefined : 'line')
  // The subject that is pressed is marked at once; what it asks follows.
  const asked = useDeferredValue(subject)
  const [refused, setRefused] = useState<readonly { field: string; message: string }[]>([])
  const [handed] = useState(takeHanded)
  useUnissued(changed)
  useUndoKeys(steps.undo, steps.redo)
  // What was typed to this revision before the page was loaded anew is offered, never put in by itself.
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, as the page comes up
  useEffect(() => {
    if (wall) setBefore(keptDraft(typedAt('plan', 'revision') ?? ''))
  }, [])
  const keepers = planning.levels?.company.keepers
  const keptBy = keepers && !keepers.includes(me.role as Role) ? keepers.map((r) => ROLE_NAMES[r].toLowerCase()).join(' or ') : undefined
  const may = me.role === 'foreman' || me.role === 'office'

  const place = (list: readonly { field: string; message: string }[]) => {
    for (const p of list) form.setError(p.field as FieldPath<Draft>, { message: p.message })
    setRefused(list.map((p) => ({ field: fieldLabel(p.field, system), message: p.message })))
  }
  const submit = form.handleSubmit(async () => {
    form.clearErrors()
    setRefused([])
    // What the fields say at the press, not what was last drawn of them.
    const made = of.planNow()
    if (!made.ok) return place(made.problems)
    if (problems.length > 0 && of.isDrawn()) return place(problems)
    const answer = await send<{ id?: string }>('POST', wall ? `/api/walls/${wall.id}/revisions` : '/api/walls', {
      plan: made.value,
      ...(wall ? { base: wall.revision } : {}),
    })
    if (answer.ok) kept?.letGo()
    if (answer.ok) window.location.assign(`/walls/${wall?.id ?? answer.value.id}`)
    else place(answer.problems)
  })
  const wrong = new Set<SubjectId>(problems.map((p) => subjectOf(p.field, system)))
  const list = subjectsOf(system, draft.part)
  const next = list[list.findIndex(([id]) => id === subject) + 1]
  // Its first hold would refuse it: said before it is issued, not at the dig.
  const stops = of.layout?.cautions.filter((c) => c.blocks) ?? []
  const answer = ANSWERED_IN[stops[0]?.id ?? '']
  return (
    <>
      <Bar person={me}>
        <strong>{wall ? wall.name : 'New wall'}</strong>
      </Bar>
      <Page>
        {wall ? <Places here="plan" /> : null}
        <Row style={{ justifyContent: 'space-between' }}>
          {wall ? <PlaceTitle>Plan, revision {wall.revision}</PlaceTitle> : <h1>New wall</h1>}
          <Row>
            <Quiet isDisabled={!steps.canUndo} onPress={steps.undo}>
              Undo
            </Quiet>
            <Quiet isDisabled={!steps.canRedo} onPress={steps.redo}>
              Redo
            </Quiet>
            {onBack ? <Quiet onPress={() => onBack(form.getValues())}>Another way in</Quiet> : null}
            {wall ? <LinkButton href={`/api/walls/${wall.id}/export?what=plan`}>Save plan file</LinkButton> : null}
          </Row>
        </Row>
        {wall && may ? <KeepWall wall={wall} plan={wall.plan} madeUp={wall.madeUp ?? false} away={wall.away ?? false} /> : null}
        {before && wall ? (
          <KeptChanges
            kept={before}
            revision={wall.revision}
            said={(field) => fieldLabel(field, system)}
            onTake={() => {
              of.put({ ...form.getValues(), ...before.draft })
              setBefore(undefined)
            }}
            onDrop={() => {
              letGo()
              setBefore(undefined)
            }}
          />
        ) : null}
        <SubjectNav list={list} at={subject} wrong={wrong} onGo={setSubject} />
        <Beside data-beside={subject === undefined ? undefined : true}>
          <div className="drawn">
            <Afterwards>
              <Drawn of={of} subject={subject} readOnly={!may} before={changed ? of.before : undefined} />
              {COMPARED.has(subject) ? <CompareWays of={of} subject={subject} /> : null}
            </Afterwards>
          </div>
          <form onSubmit={submit} style={{ display: 'grid', gap: 22, minWidth: 0 }}>
            <Parts of={of} subject={asked} begun={begun} handed={handed} fixedLine={wall !== undefined} keptBy={keptBy} />
            {refused.length > 0 ? <Problems list={refused} /> : null}
            <Afterwards>{wall && changed ? <RevisionEffects wall={wall} after={problems.length === 0 ? of.layout : undefined} /> : null}</Afterwards>
            {may && stops.length > 0 && problems.length === 0 ? (
              <p role="status">
                ⬣ As it stands nobody may dig: {say(stops[0]?.message ?? '', reads)}
                {stops.length > 1 ? ` And ${stops.length - 1} more, beside the drawing.` : ''} It can be {wall ? 'issued' : 'made'} all the same, and
                answered later.{' '}
                {answer !== undefined && answer !== subject ? (
                  <Quiet onPress={() => setSubject(answer)}>Answer it: {list.find(([id]) => id === answer)?.[1]}</Quiet>
                ) : null}
              </p>
            ) : null}
            {may ? (
              <Row>
                {subject !== undefined && next ? <Button onPress={() => setSubject(next[0])}>Next: {next[1]}</Button> : null}
                <NowButton type="submit" isDisabled={form.formState.isSubmitting}>
                  {wall ? `Issue revision ${wall.revision + 1}` : 'Make the wall'}
                </NowButton>
              </Row>
            ) : (
              <p>Planning takes the foreman or the office.</p>
            )}
          </form>
        </Beside>
        {wall ? <ToldPanel revision={wall.revision} people={people} /> : null}
      </Page>
    </>
  )
}
