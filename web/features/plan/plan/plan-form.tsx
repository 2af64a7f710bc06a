'use client'

import {
  type Adopted,
  type CatalogueUnit,
  formatLength,
  issued,
  issueUnder,
  layOut,
  type Plan,
  proposeLayers,
  type Result,
  type RuleBook,
  type Rules,
  say,
  smallUnit,
  type UnitSystem,
  unitOfPlan,
} from '@stone-tally/core'
import { useState } from 'react'
import { Controller, type FieldPath, useFieldArray, useForm } from 'react-hook-form'
import styled from 'styled-components'
import { send } from '@/device/send'
import { ImportPanel } from '@/features/plan/set-out/import-panel'
import { type Me, Places, useUnissued } from '@/features/wall'
import { Bar } from '@/ui/bar'
import { Button, Choice, Field, LinkButton, NowButton, Page, Problems, Quiet, Row } from '@/ui/controls'
import { takeHanded } from '@/ui/handed'
import { usePreferences } from '@/ui/preferences'
import { BuiltInLines } from './built-in-part'
import { CompareWays, type Variant } from './compare-ways'
import { afterUnit, chosenOf, type Draft, draftAlong, draftOf, emptyDraft, planAlong, planOf } from './draft'
import { Grid, Lines, Part } from './form-parts'
import { HeightField } from './height-field'
import { fieldLabel } from './labels'
import { PartChapter, PartQuestions } from './part-questions'
import { Preview } from './preview'
import { type SubjectId, SubjectNav, subjectOf, subjectsOf } from './subjects'
import { SuggestLength } from './suggest-length'
import { DrawingLimits, Surroundings } from './surroundings-part'
import { useStepsBack } from './use-steps-back'

/** One subject beside the drawing; everything below it. */
const Beside = styled.div`
  display: grid; gap: 22px; grid-template-columns: minmax(0, 1fr);
  &[data-beside] { grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr); align-items: start; .drawn { position: sticky; top: 10px; } }
  @media (max-width: 1000px) { &[data-beside] { grid-template-columns: minmax(0, 1fr); .drawn { position: static; } } }
`
/** How a new wall is begun: on a line, from another plan, or from nothing. */
export interface Beginning {
  readonly way: 'sketch' | 'type' | 'file' | 'copy'
  readonly line?: Adopted | undefined
  /** The plan it begins from: what the form does not show is kept of it. */
  readonly from?: Plan | undefined
  /** The site that was planned on last. */
  readonly site: string
  /** What was typed before the page was loaded anew. */
  readonly draft?: Draft | undefined
}

/** Makes a wall by hand, or the next revision of its plan: typed on one side, drawn and counted as it is typed. */
export function PlanForm({
  me,
  wall,
  catalogue,
  book,
  levels,
  begun,
  kept,
  onBack,
}: {
  me: Me
  wall?: { id: string; name: string; revision: number; plan: Plan } | undefined
  catalogue: readonly CatalogueUnit[]
  /** The company's rules, which a new wall starts from. */
  book?: RuleBook | undefined
  /** Rules of the company and its sites, which the plan would be issued under. */
  levels?: { company: Rules; sites: Record<string, Rules> } | undefined
  begun?: Beginning | undefined
  /** Keeps what is typed over a reload; told that it is not wanted any more once the wall is made. */
  kept?: { set(draft: string): void; letGo(): void } | undefined
  onBack?: (() => void) | undefined
}) {
  const { units } = usePreferences()
  // A change of units in the middle of typing would change what a bare number means.
  const [typedIn] = useState<UnitSystem>(units)
  const base = wall?.plan ?? begun?.from
  const form = useForm<Draft>({ defaultValues: beginWith(base, begun, typedIn, book) })
  const [subject, setSubject] = useState<SubjectId | undefined>(wall || begun === undefined ? undefined : 'line')
  const steps = useStepsBack(form, kept && { text: '', set: kept.set })
  const { control, watch, setError, handleSubmit, clearErrors, formState } = form
  const grades = useFieldArray({ control, name: 'grades' })
  const sections = useFieldArray({ control, name: 'sections' })
  const [problems, setProblems] = useState<readonly { field: string; message: string }[]>([])
  const draft = watch()
  useUnissued(formState.isDirty)
  const [line, setLine] = useState<Adopted | undefined>(begun?.line)
  const [handed] = useState(takeHanded)
  const underLevels = (p: Plan): Result<Plan> =>
    levels ? issueUnder(p, { company: levels.company, site: levels.sites[wall?.plan.site ?? p.site] }) : { ok: true, value: issued(p) }
  const made = (values: Draft) => {
    const plan = planOf(values, typedIn, catalogue, base, underLevels, book)
    return plan.ok && line ? { ok: true as const, value: planAlong(plan.value, line, values, typedIn) } : plan
  }
  const live = made(draft)
  const system = chosenOf(draft, catalogue, base)?.system
  const may = me.role === 'foreman' || me.role === 'office'
  const u = typedIn === 'metric' ? 'm' : 'ft'

  const place = (list: readonly { field: string; message: string }[]) => {
    for (const p of list) setError(p.field as FieldPath<Draft>, { message: p.message })
    setProblems(list.map((p) => ({ field: fieldLabel(p.field, system), message: p.message })))
  }
  const submit = handleSubmit(async (values) => {
    clearErrors()
    setProblems([])
    const plan = made(values)
    if (!plan.ok) return place(plan.problems)
    const answer = await send<{ id?: string }>('POST', wall ? `/api/walls/${wall.id}/revisions` : '/api/walls', {
      plan: plan.value,
      ...(wall ? { base: wall.revision } : {}),
    })
    if (answer.ok) kept?.letGo()
    if (answer.ok) window.location.assign(`/walls/${wall?.id ?? answer.value.id}`)
    else place(answer.problems)
  })
  const text = (name: FieldPath<Draft>, label: string, hint?: string) => (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => (
        <Field label={label} name={name} value={String(field.value ?? '')} onChange={field.onChange} error={fieldState.error?.message} hint={hint} />
      )}
    />
  )
  const remove = (at: number, list: { remove(i: number): void }) => (
    <Quiet onPress={() => list.remove(at)} aria-label="Remove this line">
      ✕
    </Quiet>
  )
  const propose = (question: string): string | undefined => {
    const field = `lists.${question}` as const
    const under = live.ok ? underLevels(live.value) : undefined
    const laid = under?.ok ? layOut(under.value) : undefined
    if (!laid?.ok) return 'Layers are proposed as soon as the wall above is drawn.'
    const found = proposeLayers(laid.value)
    if (!found.ok) return `Layers ${found.problems[0]?.message}.`
    form.setValue(
      field,
      found.value.map((l) => ({
        cells: { course: `${l.course}`, length: typedIn === 'metric' ? `${l.length}` : formatLength(l.length, typedIn), type: l.type },
      })),
    )
    return undefined
  }
  const asked = { part: draft.part, control, text, u, small: smallUnit(typedIn), onPropose: propose }
  // The unit of this wall is offered even when it has left the catalogue.
  const own = base && unitOfPlan(base)
  const offered = own && base && !catalogue.some((c) => c.unit.id === own.id) ? [...catalogue, { system: base.system.id, unit: own }] : catalogue
  const options = offered.map(
    (c) => [c.unit.id, `${c.unit.name} (${formatLength(c.unit.height, typedIn, 2)} × ${formatLength(c.unit.length, typedIn, 2)})`] as const,
  )
  const withUnit = (id: string): Draft => {
    const values = form.getValues()
    return { ...values, ...afterUnit(values, offered, id, typedIn, base, book) }
  }
  const variants: Variant[] = [
    ...options
      .filter(([id]) => id !== draft.part.unit)
      .map(([id, title]) => ({ id: `unit ${id}`, title: title.replace(/ \(.*$/, ''), plan: () => issuedOf(made(withUnit(id)), underLevels) })),
    ...TOPS.filter(([id]) => id !== draft.topStyle).map(([id, title]) => ({
      id: `top ${id}`,
      title,
      plan: () => issuedOf(made({ ...form.getValues(), topStyle: id }), underLevels),
    })),
  ]
  const keep = (id: string) => {
    const [kind = '', ...rest] = id.split(' ')
    const next = kind === 'unit' ? withUnit(rest.join(' ')) : { ...form.getValues(), topStyle: rest.join(' ') as Draft['topStyle'] }
    form.reset(next, { keepDefaultValues: true })
  }
  const wrong = new Set<SubjectId>(live.ok ? [] : live.problems.map((p) => subjectOf(p.field, system)))
  const list = subjectsOf(system, draft.part)
  const next = list[list.findIndex(([id]) => id === subject) + 1]
  /** Shown where it is asked about, or where everything is. */
  const when = (...of: SubjectId[]) => (subject === undefined || of.includes(subject) ? undefined : ({ display: 'none' } as const))
  const under = live.ok ? underLevels(live.value) : undefined
  return (
    <>
      <Bar person={me}>
        <strong>{wall ? wall.name : 'New wall'}</strong>
      </Bar>
      <Page>
        {wall ? <Places here="plan" /> : null}
        <Row style={{ justifyContent: 'space-between' }}>
          <h1>{wall ? `Plan, revision ${wall.revision}` : 'New wall'}</h1>
          {wall ? (
            <Row>
              <LinkButton href={`/api/walls/${wall.id}/export?what=plan`}>Save plan file</LinkButton>
            </Row>
          ) : null}
        </Row>
        <Row style={{ justifyContent: 'space-between', alignItems: 'center' }}>
          <SubjectNav list={list} at={subject} wrong={wrong} onGo={setSubject} />
          <Row>
            <Quiet isDisabled={!steps.canUndo} onPress={steps.undo}>
              Undo
            </Quiet>
            <Quiet isDisabled={!steps.canRedo} onPress={steps.redo}>
              Redo
            </Quiet>
            {onBack ? <Quiet onPress={onBack}>Another way in</Quiet> : null}
          </Row>
        </Row>
        <Beside data-beside={subject === undefined ? undefined : true}>
          <div className="drawn">
            <Preview
              plan={live.ok ? live.value : undefined}
              issue={underLevels}
              subject={subject}
              problem={live.ok ? undefined : say(`${fieldLabel(live.problems[0]?.field ?? '', system)} ${live.problems[0]?.message}`, units)}
            />
            {subject === 'unit' ? <CompareWays now={under?.ok ? under.value : undefined} variants={variants} onKeep={keep} /> : null}
          </div>
          <div>
            {wall || (begun && begun.way !== 'file') ? null : (
              <details open={handed !== undefined} style={when('line')}>
                <summary style={{ minHeight: 48, cursor: 'pointer', display: 'list-item', paddingTop: 12 }}>
                  {line ? `On the line of the file, ${formatLength(line.length, typedIn, 2)} long` : 'From a drawing or survey'}
                </summary>
                <ImportPanel
                  length={undefined}
                  units={typedIn}
                  handed={handed}
                  onTake={(taken) => {
                    setLine(taken)
                    form.reset(draftAlong(form.getValues(), taken, typedIn), { keepDefaultValues: true })
                  }}
                />
                {line ? <Quiet onPress={() => setLine(undefined)}>Straight instead of the line of the file</Quiet> : null}
              </details>
            )}
            <form onSubmit={submit} style={{ display: 'grid', gap: 22 }}>
              <Part style={when('line')}>
                <legend>Wall</legend>
                <Grid>
                  {text('name', 'Name')}
                  {text('site', 'Site')}
                  {base?.alignment || line ? null : text('length', `Length, ${u}`)}
                  {begun && !begun.from ? <HeightField form={form} u={u} /> : null}
                </Grid>
                {subject === 'line' && under?.ok && !under.value.alignment ? (
                  <SuggestLength
                    plan={under.value}
                    units={typedIn}
                    onTake={(length) =>
                      form.setValue('length', typedIn === 'metric' ? `${length}` : formatLength(length, typedIn), { shouldDirty: true })
                    }
                  />
                ) : null}
                {line ? <p>On a line {formatLength(line.length, typedIn, 2)} long; once the wall is made its points are moved on Set-out.</p> : null}
              </Part>
              <Part style={when('holds')}>
                <legend>What it holds, and whose plan it is</legend>
                <Grid>
                  {text('drawing', 'Drawing')}
                  {text('engineer', 'Engineered plan', 'number; needed above the height your code allows')}
                  {text('engineerBy', 'Its engineer', 'name, with licence or reference')}
                </Grid>
                <Surroundings control={control} text={text} u={u} />
              </Part>
              <Part style={when('unit')}>
                <legend>System and unit</legend>
                <Controller
                  control={control}
                  name="part.unit"
                  render={({ field }) => (
                    <Choice
                      label="Unit"
                      value={field.value}
                      options={options}
                      onChange={(id) => {
                        form.reset(withUnit(id), { keepDefaultValues: true })
                      }}
                    />
                  )}
                />
                {system ? <PartQuestions {...asked} system={system} chapter="wall" /> : null}
              </Part>
              <Part style={when('ground')}>
                <legend>Grades along the wall</legend>
                <Lines>
                  {grades.fields.map((f, i) => (
                    <div className="line" key={f.id}>
                      {text(`grades.${i}.station`, `Station, ${u}`)}
                      {text(`grades.${i}.toe`, `Toe, ${u}`)}
                      {text(`grades.${i}.top`, `Top, ${u}`)}
                      {grades.fields.length > 2 ? remove(i, grades) : <span />}
                    </div>
                  ))}
                  <div>
                    <Quiet onPress={() => grades.append({ station: '', toe: '', top: '' })}>Add a station</Quiet>
                  </div>
                </Lines>
                <Controller
                  control={control}
                  name="topStyle"
                  render={({ field }) => <Choice label="The top" value={field.value} options={[...TOPS]} onChange={field.onChange} />}
                />
                <Grid>
                  {text('benchmarkName', 'Benchmark')}
                  {text('benchmark', `Its elevation, ${u}`)}
                </Grid>
              </Part>
              {system ? (
                <>
                  <PartChapter style={when('pad')} legend="Pad and excavation" chapter="pad" {...asked} system={system}>
                    <Grid>
                      {text('behind', `Room behind units, ${u}`)}
                      {text('slope', 'Cut leans back, across per 1 up', 'or its angle, as 60°')}
                    </Grid>
                  </PartChapter>
                  <PartChapter style={when('own')} legend={system.name} chapter="own" {...asked} system={system} />
                  <PartChapter style={when('water')} legend="Stone and drain" chapter="water" {...asked} system={system} />
                  <PartChapter style={when('grid')} legend="Geogrid" chapter="grid" {...asked} system={system} />
                </>
              ) : null}
              <Part style={when('sections')}>
                <legend>Sections</legend>
                <Lines>
                  {sections.fields.map((f, i) => (
                    <div className="line" key={f.id}>
                      {text(`sections.${i}.id`, 'Name')}
                      {text(`sections.${i}.to`, `Ends at, ${u}`, i === sections.fields.length - 1 ? 'empty: end of the wall' : undefined)}
                      {sections.fields.length > 1 ? remove(i, sections) : <span />}
                    </div>
                  ))}
                  <div>
                    <Quiet onPress={() => sections.append({ id: String.fromCharCode(65 + sections.fields.length), to: '' })}>Add a section</Quiet>
                  </div>
                </Lines>
                <Grid>{text('openCourses', 'Open courses allowed')}</Grid>
              </Part>
              <Part style={when('built')}>
                <legend>Cleared first, built in, put on top</legend>
                <Lines>
                  <BuiltInLines control={control} text={text} units={typedIn} />
                </Lines>
              </Part>
              <Part style={when('rules')}>
                <legend>Limits the drawing sets</legend>
                <p>Where the drawing asks for other limits than the rules, it rules; never for the safety of people.</p>
                <Lines>
                  <DrawingLimits control={control} text={text} units={typedIn} />
                </Lines>
              </Part>
              {system ? <PartChapter style={when('rules')} legend="Ordered above what is built" chapter="order" {...asked} system={system} /> : null}
              {problems.length > 0 ? <Problems list={problems} /> : null}
              {may ? (
                <Row>
                  {subject !== undefined && next ? <Button onPress={() => setSubject(next[0])}>Next: {next[1]}</Button> : null}
                  <NowButton type="submit" isDisabled={formState.isSubmitting}>
                    {wall ? `Issue revision ${wall.revision + 1}` : 'Make the wall'}
                  </NowButton>
                </Row>
              ) : (
                <p>Planning takes the foreman or the office.</p>
              )}
            </form>
          </div>
        </Beside>
      </Page>
    </>
  )
}

const TOPS = [
  ['stepped', 'Steps up with its grade'],
  ['level', 'One level'],
  ['cap-following', 'Cap lies on the grade'],
] as const
const issuedOf = (plan: Result<Plan>, issue: (p: Plan) => Result<Plan>) => (plan.ok ? issue(plan.value) : plan)

/** What the form begins with: what was typed before, a plan, or what the rule book has. */
function beginWith(base: Plan | undefined, begun: Beginning | undefined, units: UnitSystem, book: RuleBook | undefined): Draft {
  if (begun?.draft) return begun.draft
  const draft = base ? draftOf(base, units) : { ...emptyDraft(units, book), site: begun?.site ?? '' }
  return begun?.line ? draftAlong(draft, begun.line, units) : draft
}
