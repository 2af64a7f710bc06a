import type { Question, WallSystem } from '@stone-tally/core'
import type { ReactNode } from 'react'
import { type Control, Controller, type FieldPath, useFieldArray } from 'react-hook-form'
import { Choice, Quiet } from '@/ui/controls'
import type { Draft } from './draft-fields'
import { Grid, Lines, Part } from './form-parts'
import { emptyLine, isAsked } from './part'

type Text = (name: FieldPath<Draft>, label: string, hint?: string) => ReactNode
type ListQuestion = Extract<Question, { of: 'list' }>

/** Questions of one chapter as one form shows them all, whatever system asks. */
export function PartQuestions({
  system,
  chapter,
  part,
  control,
  text,
  u,
  onPropose,
}: {
  system: WallSystem
  chapter: Question['chapter']
  /** Answers as they are typed: some questions follow from others. */
  part: Record<string, string>
  control: Control<Draft>
  text: Text
  /** The unit that a bare length is read in. */
  u: string
  /** Fills a list by the rules, where they propose one. */
  onPropose?(question: string): void
}) {
  const asked = system.questions.filter((q) => q.chapter === chapter && q.of !== 'unit' && isAsked(q, part))
  const fields = asked.filter((q) => q.of !== 'list' && q.of !== 'choice')
  return (
    <>
      {fields.length > 0 ? (
        <Grid>
          {fields.map((q) => (
            <div key={q.id}>{text(`part.${q.id}`, q.of === 'length' ? `${q.label}, ${u}` : q.label, q.hint)}</div>
          ))}
        </Grid>
      ) : null}
      {asked.map((q) =>
        q.of === 'choice' ? (
          <Controller
            key={q.id}
            control={control}
            name={`part.${q.id}`}
            render={({ field }) => <Choice label={q.label} value={field.value} options={[...q.options]} onChange={field.onChange} />}
          />
        ) : q.of === 'list' ? (
          <QuestionLines key={q.id} question={q} control={control} text={text} u={u} onPropose={onPropose} />
        ) : null,
      )}
    </>
  )
}

/** A chapter with its heading; nothing where the system asks nothing of it. */
export function PartChapter({ legend, children, ...of }: Parameters<typeof PartQuestions>[0] & { legend: string; children?: ReactNode }) {
  const asks = of.system.questions.some((q) => q.chapter === of.chapter && isAsked(q, of.part))
  if (!asks && !children) return null
  return (
    <Part>
      <legend>{legend}</legend>
      <PartQuestions {...of} />
      {children}
    </Part>
  )
}

function QuestionLines({
  question: q,
  control,
  text,
  u,
  onPropose,
}: {
  question: ListQuestion
  control: Control<Draft>
  text: Text
  u: string
  onPropose: ((question: string) => void) | undefined
}) {
  const lines = useFieldArray({ control, name: `lists.${q.id}` })
  return (
    <Lines>
      {lines.fields.map((f, i) => (
        <div className="line" key={f.id}>
          {q.columns.map((c) => (
            <div key={c.id}>{text(`lists.${q.id}.${i}.cells.${c.id}`, c.of === 'length' ? `${c.label}, ${u}` : c.label)}</div>
          ))}
          {lines.fields.length > q.least ? (
            <Quiet onPress={() => lines.remove(i)} aria-label="Remove this line">
              ✕
            </Quiet>
          ) : (
            <span />
          )}
        </div>
      ))}
      <div>
        <Quiet onPress={() => lines.append(emptyLine(q))}>{q.add}</Quiet>
        {q.proposed && onPropose ? <Quiet onPress={() => onPropose(q.id)}>Propose by the rules</Quiet> : null}
      </div>
    </Lines>
  )
}
