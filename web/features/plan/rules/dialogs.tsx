'use client'

import { type PointKind, ROLE_NAMES, ROLES, type Role, type RuleBook } from '@stone-tally/core'
import type { ReactNode } from 'react'
import { Ask, Button, Caution, Check, Choice, Field, NowButton, Problems, Row } from '@/ui/controls'
import { type Changing, STAGES, useAdded, useLimit, usePoint, useRung, useSchool, useStart } from './use-rule-dialogs'
import type { RuleDraft } from './use-rule-draft'

/** What is being changed. */
export type Asked =
  | { readonly what: 'limit' | 'choice' | 'point' | 'start' | 'ladder'; readonly id: string; readonly option?: string }
  | { readonly what: 'added' }

const KIND_WORDS: Readonly<Record<PointKind, string>> = { hold: 'Holds the work', witness: 'Recorded, holds nothing', off: 'Not listed' }
const WHY = 'Why'

/** Asks for what a rule becomes and why; nothing is in force until the whole change is. */
export function RuleDialog({ asked, wall, ...of }: { asked: Asked; draft: RuleDraft; book: RuleBook; wall: boolean; onClose(): void }) {
  if (asked.what === 'added') return <AddedDialog {...of} />
  const changing = { ...of, id: asked.id }
  if (asked.what === 'limit') return <LimitDialog changing={changing} wall={wall} />
  if (asked.what === 'start') return <StartDialog changing={changing} />
  if (asked.what === 'ladder') return <RungDialog changing={changing} />
  if (asked.what === 'choice') return <SchoolDialog changing={changing} wall={wall} option={asked.option ?? ''} />
  return <PointDialog changing={changing} wall={wall} />
}

interface Of {
  readonly changing: Changing
  readonly wall: boolean
}

/** The frame of every dialog here: what is asked, and the two ways out of it. */
function Dialog({
  title,
  ready,
  onTake,
  onClose,
  leave = 'Leave as it is',
  children,
}: {
  title: string
  ready: boolean
  onTake(): void
  onClose(): void
  leave?: string
  children: ReactNode
}) {
  return (
    <Ask title={title} open onClose={onClose}>
      {children}
      <Row>
        <NowButton isDisabled={!ready} onPress={onTake}>
          Take into the change
        </NowButton>
        <Button onPress={onClose}>{leave}</Button>
      </Row>
    </Ask>
  )
}

function Firm({ firm, setFirm }: { firm: boolean; setFirm(v: boolean): void }) {
  return (
    <Check checked={firm} onChange={setFirm}>
      Firm: sites and walls may be stricter, not kinder. An approved drawing goes before it all the same.
    </Check>
  )
}

function LimitDialog({ changing, wall }: Of) {
  const s = useLimit(changing)
  if (!s.def) return null
  const { title, sense, safety } = s.def
  return (
    <Dialog title={title} ready={s.given} onTake={s.take} onClose={changing.onClose}>
      <p>As it ships: {s.says(s.ships.value)}.</p>
      <Field
        label={`${sense === 'least' ? 'At least' : sense === 'most' ? 'At most' : 'Either way'}${s.unit ? `, ${s.unit}` : ''}`}
        value={s.text}
        onChange={s.setText}
        inputMode="decimal"
        autoFocus
      />
      <Field label={wall ? 'Drawing or specification that says so, with its number' : WHY} value={s.why} onChange={s.setWhy} long />
      {s.kinder ? (
        <Caution>
          {safety
            ? 'Kinder than it ships: this keeps people safe and cannot be set so.'
            : 'Kinder than it ships: more will pass. Say in the reason who stands for it.'}
        </Caution>
      ) : null}
      {wall ? null : <Firm firm={s.firm} setFirm={s.setFirm} />}
      <Problems list={s.problems} />
    </Dialog>
  )
}

function StartDialog({ changing }: Pick<Of, 'changing'>) {
  const s = useStart(changing)
  if (!s.def) return null
  return (
    <Dialog title={s.def.title} ready={s.given} onTake={s.take} onClose={changing.onClose}>
      <p>A new wall starts from it, until somebody types another. As it ships: {s.says(s.def.value)}.</p>
      <Field label={s.unit || 'Value'} value={s.text} onChange={s.setText} inputMode="decimal" autoFocus />
      <Field label={WHY} value={s.why} onChange={s.setWhy} long />
      <Problems list={s.problems} />
    </Dialog>
  )
}

function RungDialog({ changing }: Pick<Of, 'changing'>) {
  const s = useRung(changing)
  return (
    <Dialog title={`Whose wall: ${s.ships.title.toLowerCase()}`} ready={s.given} onTake={s.take} onClose={changing.onClose}>
      <p>{s.ships.reason} It is made stricter alone.</p>
      {s.lows.length > 1 ? <Choice label="A low wall" value={s.low} options={s.lows} onChange={s.setLow} /> : null}
      {s.highers.length > 1 ? <Choice label="A higher one" value={s.higher} options={s.highers} onChange={s.setHigher} /> : null}
      <Field label={WHY} value={s.why} onChange={s.setWhy} long />
    </Dialog>
  )
}

function SchoolDialog({ changing, wall, option }: Of & { option: string }) {
  const s = useSchool(changing, option)
  if (!s.def || !s.school) return null
  return (
    <Dialog title={`${s.def.title}: ${s.school.title.toLowerCase()}`} ready={s.given} onTake={s.take} onClose={changing.onClose}>
      <p>{s.school.says}</p>
      <Field label={WHY} value={s.why} onChange={s.setWhy} long autoFocus />
      {wall ? null : <Firm firm={s.firm} setFirm={s.setFirm} />}
    </Dialog>
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

function PointDialog({ changing, wall }: Of) {
  const s = usePoint(changing)
  if (!s.shipped) return null
  return (
    <Dialog title={s.shipped.title} ready={s.ready} onTake={s.take} onClose={changing.onClose}>
      <p>{s.shipped.reason}</p>
      <Choice label="What it does" value={s.kind} options={s.kinds.map((k) => [k, KIND_WORDS[k]] as const)} onChange={s.setKind} />
      {s.shipped.fixed ? <Caution>It cannot be looked at later, or keeps people safe: it stays a hold point.</Caution> : null}
      {s.kind === 'hold' ? (
        <>
          <Roles roles={s.roles} setRoles={s.setRoles} label="Released by" />
          {s.mayOwn ? (
            <Check checked={s.own} onChange={s.setOwn}>
              May release what they recorded themselves
            </Check>
          ) : null}
        </>
      ) : null}
      <Field label={WHY} value={s.why} onChange={s.setWhy} long />
      {wall ? null : <Firm firm={s.firm} setFirm={s.setFirm} />}
    </Dialog>
  )
}

function AddedDialog(of: Omit<Changing, 'id'>) {
  const s = useAdded(of)
  return (
    <Dialog title="A point of your own" ready={s.ready} onTake={s.take} onClose={of.onClose} leave="Leave it out">
      <Field label="What is looked at" value={s.title} onChange={s.setTitle} autoFocus error={s.titleWrong} />
      <label style={{ display: 'grid', gap: 4 }}>
        After which stage
        <select value={s.stage} onChange={(e) => s.setStage(e.target.value)} style={{ minHeight: 48, font: 'inherit' }}>
          {STAGES.map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <Choice
        label="What it does"
        value={s.kind}
        options={[
          ['hold', KIND_WORDS.hold],
          ['witness', KIND_WORDS.witness],
        ]}
        onChange={s.setKind}
      />
      <Roles roles={s.roles} setRoles={s.setRoles} label="Released by" />
      <Row>
        <div style={{ flex: 1, minWidth: 120 }}>
          <Field label="Section only" value={s.section} onChange={s.setSection} />
        </div>
        <div style={{ flex: 1, minWidth: 120 }}>
          <Field label="Course only" value={s.course} onChange={s.setCourse} inputMode="numeric" error={s.courseWrong} />
        </div>
      </Row>
      <Field label={WHY} value={s.why} onChange={s.setWhy} long />
    </Dialog>
  )
}
