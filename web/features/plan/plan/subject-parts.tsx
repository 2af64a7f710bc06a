'use client'

import { clearances, formatLength, layOut, proposeLayers, smallUnit } from '@stone-tally/core'
import type { ReactNode } from 'react'
import { Controller, type FieldPath, useFieldArray } from 'react-hook-form'
import { AroundPanel } from '@/features/plan/set-out/around-panel'
import { ImportPanel } from '@/features/plan/set-out/import-panel'
import { Choice, Field, Quiet } from '@/ui/controls'
import { Words } from '@/ui/words'
import { draftAlong } from './along-line'
import { BuiltInLines } from './built-in-part'
import { ComesOutLine } from './comes-out-line'
import type { Draft } from './draft-fields'
import { Grid, Lines, Part } from './form-parts'
import { FoundPart } from './found-part'
import { HeightField } from './height-field'
import { EVERY, EVERY_ROOT, shownAs } from './part'
import { PartChapter, PartQuestions } from './part-questions'
import { standing } from './standing'
import { StandsPart } from './stands-part'
import { ABOUT, type SubjectId } from './subjects'
import { SuggestLength } from './suggest-length'
import { DrawingLimits, Surroundings } from './surroundings-part'
import { UnitPictures } from './unit-pictures'
import type { Beginning, PlanForm } from './use-plan-form'
import { TOPS } from './variants'
import { WhosePart } from './whose-part'

type Text = (name: FieldPath<Draft>, label: string, hint?: string, type?: 'date' | undefined) => ReactNode

/** Fields of a form by their name and label. */
function fieldsOf(of: PlanForm): { text: Text; long: Text } {
  const given = standing(of.draft, of.units, of.plan)
  const field =
    (long: boolean): Text =>
    (name, label, hint, type) => (
      <Controller
        control={of.form.control}
        name={name}
        render={({ field, fieldState }) => (
          <Field
            label={label}
            name={name}
            long={long}
            {...(type ? { type } : {})}
            value={String(field.value ?? '')}
            onChange={field.onChange}
            error={fieldState.error?.message ?? of.problems.find((p) => p.field === name && p.message !== 'is missing')?.message}
            hint={hint}
            stands={given[name]}
          />
        )}
      />
    )
  return { text: field(false), long: field(true) }
}

const Remove = ({ onPress }: { onPress(): void }) => (
  <Quiet onPress={onPress} aria-label="Remove this line">
    ✕
  </Quiet>
)

/** The questions of one subject, or of every subject; what is not shown keeps what was typed. */
export function SubjectParts({
  of,
  subject,
  begun,
  handed,
  fixedLine,
  keptBy,
}: {
  of: PlanForm
  subject: SubjectId | undefined
  begun: Beginning | undefined
  /** A file chosen elsewhere. */
  handed: File | undefined
  /** The set-out rules the line of a wall that is made. */
  fixedLine: boolean
  /** Who keeps the rule book, where the one who plans does not. */
  keptBy: string | undefined
}) {
  const { text, long } = fieldsOf(of)
  const { form, draft, system, u, layout, edits } = of
  const shown = (...list: SubjectId[]) => subject === undefined || list.includes(subject)
  const propose = (question: string): string | undefined => {
    const laid = of.problems.length === 0 && of.isDrawn() && layout ? layOut(layout.plan) : undefined
    if (!laid?.ok) return 'Layers are proposed as soon as the wall above is drawn.'
    const found = proposeLayers(laid.value)
    if (!found.ok) return `Layers ${found.problems[0]?.message}.`
    form.setValue(
      `lists.${question}`,
      found.value.map((l) => ({ cells: { course: `${l.course}`, length: shownAs('length', l.length, of.units), type: l.type } })),
    )
    return undefined
  }
  const asked = {
    part: draft.part,
    control: form.control,
    text,
    u,
    small: smallUnit(of.units),
    onPropose: propose,
    data: (of.plan ?? layout?.plan)?.system.data,
  }
  const every = { ...asked, part: draft.every, root: EVERY_ROOT, system: EVERY, data: undefined, onPropose: undefined as never }
  const about = subject && ABOUT[subject]
  return (
    <>
      {about ? (
        <p style={{ color: 'var(--soft)', margin: 0 }}>
          <Words>{about}</Words>
        </p>
      ) : null}
      {shown('line') ? (
        <>
          <LineFile of={of} begun={begun} handed={handed} fixed={fixedLine} />
          <LinePart of={of} text={text} begun={begun} suggests={subject === 'line'} />
        </>
      ) : null}
      {shown('holds') ? (
        <Part>
          <legend>What it holds, and whose plan it is</legend>
          <StandsPart of={of} text={text} under={layout?.plan} keptBy={keptBy} />
          <Surroundings control={form.control} text={text} u={u} />
          <Grid>{text('drawing', 'Drawing')}</Grid>
          <WhosePart of={of} text={text} />
        </Part>
      ) : null}
      {shown('unit') ? (
        <Part>
          <legend>System and unit</legend>
          <UnitPictures value={draft.part.unit ?? ''} offered={of.offered} units={of.units} onChange={(id) => of.put(of.withUnit(id))} />
          {system ? <PartQuestions {...asked} system={system} chapter="wall" /> : null}
        </Part>
      ) : null}
      {shown('ground') ? (
        <Part>
          <legend>Grades along the wall</legend>
          <GradeLines of={of} text={text} />
          <Controller
            control={form.control}
            name="topStyle"
            render={({ field }) => <Choice label="The top" value={field.value} options={[...TOPS]} onChange={field.onChange} />}
          />
          <PartQuestions {...every} chapter="ground" />
          <Grid>
            {text('benchmarkName', 'Benchmark')}
            {text('benchmark', `Its elevation, ${u}`)}
          </Grid>
          <FoundPart of={of} text={text} long={long} onMove={(moved) => edits?.edit(() => moved)} />
        </Part>
      ) : null}
      {system && shown('pad') ? (
        <PartChapter legend="Pad and excavation" chapter="pad" {...asked} system={system}>
          <Grid>
            {text(
              'padSteps',
              `Pad steps at, ${u}`,
              'empty: where they fall by themselves; none: one level pad; else stations with a semicolon between',
            )}
            {text('behind', `Room behind units, ${u}`)}
            {text('slope', 'Cut leans back, across per 1 up', '1.5H:1V, or its angle, as 60°')}
          </Grid>
        </PartChapter>
      ) : null}
      {system && shown('own') ? <PartChapter legend={system.name} chapter="own" {...asked} system={system} /> : null}
      {system && shown('water') ? (
        <>
          <PartChapter legend="Stone and drain" chapter="water" {...asked} system={system} />
          {system.questions.some((q) => q.chapter === 'water') ? (
            <details open={subject === undefined}>
              <summary style={{ minHeight: 48, cursor: 'pointer', display: 'list-item', paddingTop: 12 }}>
                Pipe, heel drain and the water that comes
              </summary>
              <PartChapter legend="The pipe and its water" chapter="water" {...every} />
            </details>
          ) : null}
        </>
      ) : null}
      {system && shown('grid') ? <PartChapter legend="Geogrid" chapter="grid" {...asked} system={system} /> : null}
      {shown('sections') ? (
        <Part>
          <legend>Sections</legend>
          <SectionLines of={of} text={text} />
          <Grid>{text('openCourses', 'Open courses allowed')}</Grid>
        </Part>
      ) : null}
      {shown('built') ? (
        <>
          <Part>
            <legend>Cleared first, built in, put on top</legend>
            <Lines>
              <BuiltInLines control={form.control} text={text} units={of.units} />
            </Lines>
          </Part>
          <PartChapter legend="Through the wall" chapter="built" {...every} />
          {edits ? (
            <details>
              <summary style={{ minHeight: 48, cursor: 'pointer', display: 'list-item', paddingTop: 12 }}>
                Trees, services, building lines{draft.drawn.obstacles?.length ? `, ${draft.drawn.obstacles.length}` : ''}
              </summary>
              <AroundPanel draft={edits} units={of.units} clear={clearances(edits.layout)} readOnly={false} />
            </details>
          ) : null}
        </>
      ) : null}
      {shown('rules') ? (
        <>
          <Part>
            <legend>Limits the drawing sets</legend>
            <p>Where the drawing asks for other limits than the rules, it rules; never for the safety of people.</p>
            <Lines>
              <DrawingLimits control={form.control} text={text} units={of.units} />
            </Lines>
          </Part>
          <PartChapter legend="Of this wall alone" chapter="rules" {...every} />
          {system ? <PartChapter legend="Ordered above what is built" chapter="order" {...asked} system={system} /> : null}
        </>
      ) : null}
    </>
  )
}

/** The line of a drawing or survey, for a wall that is not made yet. */
function LineFile({ of, begun, handed, fixed }: { of: PlanForm; begun: Beginning | undefined; handed: File | undefined; fixed: boolean }) {
  if (fixed || (begun && begun.way !== 'file')) return null
  const { line } = of
  return (
    <details open={handed !== undefined}>
      <summary style={{ minHeight: 48, cursor: 'pointer', display: 'list-item', paddingTop: 12 }}>
        {line ? `On the line of the file, ${formatLength(line.length, of.units, 2)} long` : 'From a drawing or survey'}
      </summary>
      <ImportPanel
        length={undefined}
        units={of.units}
        handed={handed}
        asFarAsItGoes
        onTake={(taken) => of.put(draftAlong(of.form.getValues(), taken, of.units))}
      />
      {line ? (
        <Quiet
          onPress={() => {
            const { alignment: _, line: _line, ...drawn } = of.form.getValues().drawn
            of.put({ ...of.form.getValues(), drawn })
          }}
        >
          Straight instead of the line of the file
        </Quiet>
      ) : null}
    </details>
  )
}

function LinePart({ of, text, begun, suggests }: { of: PlanForm; text: Text; begun: Beginning | undefined; suggests: boolean }) {
  const { u, line, base, layout, form, units } = of
  const straight = of.problems.length === 0 && layout && !layout.plan.alignment
  return (
    <Part>
      <legend>Wall</legend>
      <Grid>
        {text('name', 'Name')}
        {text('site', 'Site')}
        {(base?.alignment && begun?.way !== 'template') || line ? null : text('length', `Length, ${u}`)}
        {begun && (!begun.from || begun.way === 'template') ? <HeightField of={of} /> : null}
      </Grid>
      <ComesOutLine of={of} />
      {suggests && straight ? (
        <SuggestLength
          plan={layout.plan}
          units={units}
          onTake={(length) => form.setValue('length', shownAs('length', length, units), { shouldDirty: true })}
        />
      ) : null}
      {line ? <p>On a line {formatLength(line.length, units, 2)} long; once the wall is made its points are moved on Set-out.</p> : null}
    </Part>
  )
}

function GradeLines({ of, text }: { of: PlanForm; text: Text }) {
  const grades = useFieldArray({ control: of.form.control, name: 'grades' })
  const { u } = of
  return (
    <Lines>
      {grades.fields.map((f, i) => (
        <div className="line" key={f.id}>
          {text(`grades.${i}.station`, `Station, ${u}`)}
          {text(`grades.${i}.toe`, `Toe, ${u}`)}
          {text(`grades.${i}.top`, `Top, ${u}`)}
          {grades.fields.length > 2 ? <Remove onPress={() => grades.remove(i)} /> : <span />}
        </div>
      ))}
      <div>
        <Quiet onPress={() => grades.append({ station: '', toe: '', top: '' })}>Add a station</Quiet>
      </div>
    </Lines>
  )
}

function SectionLines({ of, text }: { of: PlanForm; text: Text }) {
  const sections = useFieldArray({ control: of.form.control, name: 'sections' })
  const last = sections.fields.length - 1
  return (
    <Lines>
      {sections.fields.map((f, i) => (
        <div className="line" key={f.id}>
          {text(`sections.${i}.id`, 'Name')}
          {text(`sections.${i}.to`, `Ends at, ${of.u}`, i === last ? 'empty: end of the wall' : undefined)}
          {last > 0 ? <Remove onPress={() => sections.remove(i)} /> : <span />}
        </div>
      ))}
      <div>
        <Quiet onPress={() => sections.append({ id: String.fromCharCode(65 + sections.fields.length), to: '' })}>Add a section</Quiet>
      </div>
    </Lines>
  )
}
