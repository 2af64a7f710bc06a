'use client'

import {
  choiceDef,
  kinder,
  limitDef,
  type limitsOf,
  POINT_KINDS,
  type PointKind,
  type Problem,
  ROLE_NAMES,
  ROLES,
  type Role,
  type RuleBook,
  type Rules,
  type StartName,
  SYSTEMS,
  shippedLimits,
  shippedPoint,
  startBy,
  startDef,
  typedAmount,
  type UnitSystem,
} from '@stone-tally/core'
import { useState } from 'react'
import { Ask, Button, Caution, Check, Choice, Field, NowButton, Problems, Row } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'
import { defOf, limitText, measureOf, readLimit, unitOf } from './edit'
import type { RuleDraft } from './use-rule-draft'

/** What is being changed. */
export type Asked =
  | { readonly what: 'limit' | 'choice' | 'point' | 'start'; readonly id: string; readonly option?: string }
  | { readonly what: 'added' }

const KIND_WORDS: Readonly<Record<PointKind, string>> = { hold: 'Holds the work', witness: 'Recorded, holds nothing', off: 'Not listed' }
const reasonGiven = (why: string) => why.trim().length >= 3
const WHY = 'Why'

/** Asks for what a rule becomes and why; nothing is in force until the whole change is. */
export function RuleDialog({
  asked,
  draft,
  book,
  wall,
  onClose,
}: {
  asked: Asked
  draft: RuleDraft
  book: RuleBook
  wall: boolean
  onClose(): void
}) {
  if (asked.what === 'limit') return <LimitDialog id={asked.id} draft={draft} book={book} wall={wall} onClose={onClose} />
  if (asked.what === 'start') return <StartDialog id={asked.id} draft={draft} book={book} onClose={onClose} />
  if (asked.what === 'choice')
    return <SchoolDialog id={asked.id} option={asked.option ?? ''} draft={draft} book={book} wall={wall} onClose={onClose} />
  if (asked.what === 'point') return <PointDialog id={asked.id} draft={draft} book={book} wall={wall} onClose={onClose} />
  return <AddedDialog draft={draft} onClose={onClose} />
}

const setBy = (book: RuleBook, rule: string) => book.set.find((s) => s.rule === rule)

function Firm({ firm, setFirm }: { firm: boolean; setFirm(v: boolean): void }) {
  return (
    <Check checked={firm} onChange={setFirm}>
      Firm: sites and walls may be stricter, not kinder. An approved drawing goes before it all the same.
    </Check>
  )
}

/** A number of the book as it is typed; what it was opened with comes back to the last digit. */
function useAmount(id: string, value: number): [string, (text: string) => void, string] {
  const { units } = usePreferences()
  const measure = measureOf(id)
  const initial = measure ? typedAmount(value, measure, units) : `${+value.toFixed(4)}`
  const [text, setText] = useState(initial)
  return [text, setText, initial]
}

/** What is wrong with a number that nobody means. */
function beyond(id: string, value: number, units: UnitSystem): Problem | undefined {
  const d = defOf(id)
  if (!d || (value >= d.range[0] - 1e-9 && value <= d.range[1] + 1e-9)) return undefined
  const [least, most] = d.range.map((v) => limitText(id, v, units).replace('±', ''))
  return { field: d.title, message: `must be ${least} to ${most}; is the unit right?` }
}

function LimitDialog({ id, draft, book, wall, onClose }: { id: string; draft: RuleDraft; book: RuleBook; wall: boolean; onClose(): void }) {
  const { units } = usePreferences()
  const d = limitDef(id)
  const value = book.limits.find((l) => l.limit === id)?.value ?? 0
  const unit = unitOf(id, units)
  const [text, setText, initial] = useAmount(id, value)
  const [why, setWhy] = useState(setBy(book, `limit.${id}`)?.why ?? '')
  const [firm, setFirm] = useState(draft.rules.limits?.find((l) => l.limit === id)?.firm ?? false)
  const [problems, setProblems] = useState<readonly Problem[]>([])
  if (!d) return null
  // Looked at in other units and left alone it is the same to the last digit.
  const read = text === initial ? ({ ok: true, value } as const) : readLimit(id, text, units)
  const ships = shippedLimits(book.shipped)[id as keyof ReturnType<typeof limitsOf>]
  const kind = read.ok && kinder(d, read.value, ships.value)
  const keep = () => {
    if (!read.ok) return setProblems(read.problems.map((p) => ({ field: d.title, message: p.message })))
    const outside = beyond(id, read.value, units)
    if (outside) return setProblems([outside])
    draft.put({ rule: 'limit', id, value: read.value, why: why.trim(), firm })
    onClose()
  }
  return (
    <Ask title={d.title} open onClose={onClose}>
      <p>As it ships: {limitText(id, ships.value, units)}.</p>
      <Field
        label={`${d.sense === 'least' ? 'At least' : d.sense === 'most' ? 'At most' : 'Either way'}${unit ? `, ${unit}` : ''}`}
        value={text}
        onChange={setText}
        inputMode="decimal"
        autoFocus
      />
      <Field label={wall ? 'Drawing or specification that says so, with its number' : WHY} value={why} onChange={setWhy} long />
      {kind ? (
        <Caution>
          {d.safety
            ? 'Kinder than it ships: this keeps people safe and cannot be set so.'
            : 'Kinder than it ships: more will pass. Say in the reason who stands for it.'}
        </Caution>
      ) : null}
      {wall ? null : <Firm firm={firm} setFirm={setFirm} />}
      <Problems list={problems} />
      <Row>
        <NowButton isDisabled={!reasonGiven(why)} onPress={keep}>
          Take into the change
        </NowButton>
        <Button onPress={onClose}>Leave as it is</Button>
      </Row>
    </Ask>
  )
}

function StartDialog({ id, draft, book, onClose }: { id: string; draft: RuleDraft; book: RuleBook; onClose(): void }) {
  const { units } = usePreferences()
  const d = startDef(id)
  const value = startBy({ book }, id as StartName)
  const [text, setText, initial] = useAmount(id, value)
  const [why, setWhy] = useState(setBy(book, `start.${id}`)?.why ?? '')
  const [problems, setProblems] = useState<readonly Problem[]>([])
  if (!d) return null
  const unit = unitOf(id, units)
  const keep = () => {
    const read = text === initial ? ({ ok: true, value } as const) : readLimit(id, text, units)
    if (!read.ok) return setProblems(read.problems.map((p) => ({ field: d.title, message: p.message })))
    const outside = beyond(id, read.value, units)
    if (outside) return setProblems([outside])
    draft.put({ rule: 'start', id, value: read.value, why: why.trim() })
    onClose()
  }
  return (
    <Ask title={d.title} open onClose={onClose}>
      <p>A new wall starts from it, until somebody types another. As it ships: {limitText(id, d.value, units)}.</p>
      <Field label={unit || 'Value'} value={text} onChange={setText} inputMode="decimal" autoFocus />
      <Field label={WHY} value={why} onChange={setWhy} long />
      <Problems list={problems} />
      <Row>
        <NowButton isDisabled={!reasonGiven(why)} onPress={keep}>
          Take into the change
        </NowButton>
        <Button onPress={onClose}>Leave as it is</Button>
      </Row>
    </Ask>
  )
}

function SchoolDialog({
  id,
  option,
  draft,
  book,
  wall,
  onClose,
}: {
  id: string
  option: string
  draft: RuleDraft
  book: RuleBook
  wall: boolean
  onClose(): void
}) {
  const d = choiceDef(id)
  const [why, setWhy] = useState(setBy(book, `choice.${id}`)?.why ?? '')
  const [firm, setFirm] = useState(draft.rules.choices?.find((c) => c.choice === id)?.firm ?? false)
  const school = d?.options.find((o) => o.id === option)
  if (!d || !school) return null
  return (
    <Ask title={`${d.title}: ${school.title.toLowerCase()}`} open onClose={onClose}>
      <p>{school.says}</p>
      <Field label={WHY} value={why} onChange={setWhy} long autoFocus />
      {wall ? null : <Firm firm={firm} setFirm={setFirm} />}
      <Row>
        <NowButton
          isDisabled={!reasonGiven(why)}
          onPress={() => {
            draft.put({ rule: 'choice', id, option, why: why.trim(), firm })
            onClose()
          }}
        >
          Take into the change
        </NowButton>
        <Button onPress={onClose}>Leave as it is</Button>
      </Row>
    </Ask>
  )
}

function Roles({ roles, setRoles, label }: { roles: readonly Role[]; setRoles(r: Role[]): void; label: string }) {
  return (
    <fieldset style={{ border: 0, padding: 0, margin: 0 }}>
      <legend style={{ fontSize: 15, color: 'var(--soft)' }}>{label}</legend>
      {ROLES.map((r) => (
        <Check key={r} checked={roles.includes(r)} onChange={(on) => setRoles(ROLES.filter((x) => (x === r ? on : roles.includes(x))))}>
          {ROLE_NAMES[r]}
        </Check>
      ))}
    </fieldset>
  )
}

function PointDialog({ id, draft, book, wall, onClose }: { id: string; draft: RuleDraft; book: RuleBook; wall: boolean; onClose(): void }) {
  const shipped = shippedPoint(id)
  const now = book.points.find((p) => p.point === id)
  const [kind, setKind] = useState<PointKind>(now?.kind ?? 'hold')
  const [roles, setRoles] = useState<Role[]>([...(now?.roles ?? [])])
  const [own, setOwn] = useState(now?.own ?? false)
  const [why, setWhy] = useState(setBy(book, `point.${id}`)?.why ?? '')
  const [firm, setFirm] = useState(draft.rules.points?.find((p) => p.point === id)?.firm ?? false)
  if (!shipped) return null
  const kinds = shipped.fixed ? (['hold'] as const) : POINT_KINDS
  return (
    <Ask title={shipped.title} open onClose={onClose}>
      <p>{shipped.reason}</p>
      <Choice label="What it does" value={kind} options={kinds.map((k) => [k, KIND_WORDS[k]] as const)} onChange={setKind} />
      {shipped.fixed ? <Caution>It cannot be looked at later, or keeps people safe: it stays a hold point.</Caution> : null}
      {kind === 'hold' ? (
        <>
          <Roles roles={roles} setRoles={setRoles} label="Released by" />
          {shipped.fixed && !shipped.own ? null : (
            <Check checked={own} onChange={setOwn}>
              May release what they recorded themselves
            </Check>
          )}
        </>
      ) : null}
      <Field label={WHY} value={why} onChange={setWhy} long />
      {wall ? null : <Firm firm={firm} setFirm={setFirm} />}
      <Row>
        <NowButton
          isDisabled={!reasonGiven(why) || (kind === 'hold' && roles.length === 0)}
          onPress={() => {
            draft.put({ rule: 'point', id, point: { kind, roles, own: kind === 'hold' && own, ...(firm ? { firm: true } : {}) }, why: why.trim() })
            onClose()
          }}
        >
          Take into the change
        </NowButton>
        <Button onPress={onClose}>Leave as it is</Button>
      </Row>
    </Ask>
  )
}

/** Stages of every system, each once, in the order of the work. */
const STAGES = [...new Map(SYSTEMS.flatMap((s) => s.stages.map((x) => [x.id, x.title] as const))).entries()]

function AddedDialog({ draft, onClose }: { draft: RuleDraft; onClose(): void }) {
  const [title, setTitle] = useState('')
  const [stage, setStage] = useState(STAGES[0]?.[0] ?? '')
  const [kind, setKind] = useState<'hold' | 'witness'>('hold')
  const [roles, setRoles] = useState<Role[]>(['inspector'])
  const [section, setSection] = useState('')
  const [course, setCourse] = useState('')
  const [why, setWhy] = useState('')
  const id = title
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 40)
  const keep = () => {
    const added: NonNullable<Rules['added']>[number] = {
      id,
      title: title.trim(),
      kind,
      roles,
      own: false,
      why: why.trim(),
      at: { stage, ...(section.trim() ? { section: section.trim() } : {}), ...(course.trim() ? { course: Number(course) } : {}) },
    }
    draft.take({ ...draft.rules, added: [...(draft.rules.added ?? []).filter((p) => p.id !== id), added] })
    onClose()
  }
  const bad = course.trim() !== '' && (!/^\d+$/.test(course.trim()) || !section.trim())
  return (
    <Ask title="A point of your own" open onClose={onClose}>
      <Field label="What is looked at" value={title} onChange={setTitle} autoFocus />
      <label style={{ display: 'grid', gap: 4 }}>
        After which stage
        <select value={stage} onChange={(e) => setStage(e.target.value)} style={{ minHeight: 48, font: 'inherit' }}>
          {STAGES.map(([s, name]) => (
            <option key={s} value={s}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <Choice
        label="What it does"
        value={kind}
        options={[
          ['hold', KIND_WORDS.hold],
          ['witness', KIND_WORDS.witness],
        ]}
        onChange={setKind}
      />
      <Roles roles={roles} setRoles={setRoles} label="Released by" />
      <Row>
        <div style={{ flex: 1, minWidth: 120 }}>
          <Field label="Section only" value={section} onChange={setSection} />
        </div>
        <div style={{ flex: 1, minWidth: 120 }}>
          <Field
            label="Course only"
            value={course}
            onChange={setCourse}
            inputMode="numeric"
            error={bad ? 'a whole number, of a section' : undefined}
          />
        </div>
      </Row>
      <Field label={WHY} value={why} onChange={setWhy} long />
      <Row>
        <NowButton isDisabled={!reasonGiven(why) || id.length === 0 || roles.length === 0 || bad} onPress={keep}>
          Take into the change
        </NowButton>
        <Button onPress={onClose}>Leave it out</Button>
      </Row>
    </Ask>
  )
}
