import { answerIn, type Question, type QuestionOf, startDef, unitOf } from '@stone-tally/core'
import { type CSSProperties, type ReactNode, useState } from 'react'
import { type Control, Controller, type FieldPath, useFieldArray, useWatch } from 'react-hook-form'
import { Caution, Choice, Quiet, Row, Small } from '@/ui/controls'
import type { Draft, Line } from './draft-fields'
import { Grid, Lines, Part } from './form-parts'
import { type Asking, emptyLine, isAsked, PART_ROOT, type Root, shownAs } from './part'

type Text = (name: FieldPath<Draft>, label: string, hint?: string, type?: 'date' | undefined) => ReactNode
type ListQuestion = Extract<Question, { of: 'list' }>

/** Questions of one chapter as one form shows them all, whatever system asks. */
export function PartQuestions({
  system,
  chapter,
  part,
  control,
  text,
  u,
  small,
  root = PART_ROOT,
  onPropose,
  data,
}: {
  system: Asking
  chapter: Question['chapter']
  /** Answers as they are typed: some questions follow from others. */
  part: Record<string, string>
  control: Control<Draft>
  text: Text
  /** The units that a bare length and a small one are read in. */
  u: string
  small: string
  root?: Root
  /** Fills a list by the rules, where they propose one; says why where they do not. */
  onPropose?(question: string): string | undefined
  /** Its part of the plan as it stands: what is in lists that nobody filled in. */
  data?: unknown
}) {
  const asked = system.questions.filter((q) => q.chapter === chapter && q.of !== 'unit' && isAsked(q, part))
  // In the order of the trade: fields side by side, between them what takes a line of its own.
  const groups = asked.reduce<Question[][]>((made, q) => {
    const last = made[made.length - 1]
    if (last?.[0] && isField(last[0]) && isField(q)) last.push(q)
    else made.push([q])
    return made
  }, [])
  const measured = (of: 'mass' | 'area' | 'rain') => `, ${unitOf(of, u === 'm' ? 'metric' : 'imperial')}`
  const unit = {
    length: `, ${u}`,
    small: `, ${small}`,
    mass: measured('mass'),
    area: measured('area'),
    rain: measured('rain'),
    share: '',
    number: '',
    text: '',
    day: '',
  }
  return (
    <>
      {groups.map(([q, ...more]) =>
        q === undefined ? null : q.of === 'choice' ? (
          <Controller
            key={q.id}
            control={control}
            name={`${root[0]}.${q.id}`}
            render={({ field }) => <Choice label={q.label} value={field.value ?? ''} options={[...q.options]} onChange={field.onChange} />}
          />
        ) : q.of === 'list' ? (
          <QuestionLines key={q.id} root={root} question={q} control={control} text={text} unit={unit} u={u} data={data} onPropose={onPropose} />
        ) : (
          <Grid key={q.id}>
            {[q, ...more].map((f) => (
              <div key={f.id}>
                {text(
                  `${root[0]}.${f.id}`,
                  isField(f) ? `${f.label}${unit[f.of]}` : f.label,
                  f.hint ?? startDef(f.id)?.why,
                  f.of === 'day' ? 'date' : undefined,
                )}
              </div>
            ))}
          </Grid>
        ),
      )}
    </>
  )
}

const isField = (q: Question): q is Extract<Question, { of: QuestionOf }> => q.of !== 'choice' && q.of !== 'list' && q.of !== 'unit'

/** A chapter with its heading; nothing where the system asks nothing of it. */
export function PartChapter({
  legend,
  children,
  style,
  ...of
}: Parameters<typeof PartQuestions>[0] & { legend: string; children?: ReactNode; style?: CSSProperties | undefined }) {
  const asks = of.system.questions.some((q) => q.chapter === of.chapter && isAsked(q, of.part))
  if (!asks && !children) return null
  return (
    <Part style={style}>
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
  unit,
  root,
  u,
  data,
  onPropose,
}: {
  root: Root
  u: string
  data: unknown
  question: ListQuestion
  control: Control<Draft>
  text: Text
  unit: Readonly<Record<QuestionOf, string>>
  onPropose: ((question: string) => string | undefined) | undefined
}) {
  const [why, setWhy] = useState<string>()
  const lines = useFieldArray({ control, name: `${root[1]}.${q.id}` })
  const typed = useWatch({ control, name: `${root[1]}.${q.id}`, disabled: !q.columns.some((c) => c.again) }) as readonly Line[] | undefined
  const units = u === 'm' ? 'metric' : 'imperial'
  const stand = lines.fields.length === 0 && q.stands !== undefined ? ((answerIn(data, q.at) ?? []) as Record<string, unknown>[]) : undefined
  const shown = (row: Record<string, unknown>) => Object.fromEntries(q.columns.map((c) => [c.id, shownAs(c.of, row[c.id], units)]))
  return (
    <Lines>
      {lines.fields.map((f, i) => (
        <div className="line" key={f.id}>
          {q.columns.map((c) => (
            <div key={c.id}>{text(`${root[1]}.${q.id}.${i}.cells.${c.id}`, `${c.label}${unit[c.of]}`)}</div>
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
      {stand ? (
        <div>
          {stand.map((row, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a line is its place in the list
            <p key={i} style={{ margin: '0 0 6px' }}>
              {q.columns
                .filter((c) => row[c.id] !== undefined)
                .map((c, k) => `${k === 0 ? c.label : c.label.toLowerCase()} ${shown(row)[c.id]}${unit[c.of].replace(',', '')}`)
                .join(', ')}
            </p>
          ))}
          <Small>
            {stand.length === 0 ? `${q.label} stand as soon as length and heights do: ` : `${q.label}: `}
            {q.stands}
          </Small>
        </div>
      ) : null}
      <Row>
        {stand && stand.length > 0 ? (
          <Quiet onPress={() => lines.replace(stand.map((row) => ({ cells: shown(row) })))}>Type other {q.label.toLowerCase()}</Quiet>
        ) : null}
        <Quiet onPress={() => lines.append(emptyLine(q, lines.fields.length === 0, typed?.[lines.fields.length - 1]))}>{q.add}</Quiet>
        {q.proposed && onPropose ? <Quiet onPress={() => setWhy(onPropose(q.id))}>Propose by the rules</Quiet> : null}
      </Row>
      {why ? <Caution>{why}</Caution> : null}
    </Lines>
  )
}
