'use client'

import {
  type ActionData,
  type Barrier,
  barriers,
  isSigned,
  kindOf,
  lineOf,
  live,
  mayRecord,
  openStops,
  placeOf,
  pointOf,
  type RecordedEntry,
  type ReleaseData,
  releaseNeeds,
  type Step,
  type StepStatus,
  say,
  settled,
  titleOf,
  type WallState,
  waitingHolds,
  whyNotAlone,
} from '@stone-tally/core'
import { type ReactNode, useState } from 'react'
import { Button, Check, Choice, Field, LinkButton, NowButton, Problems, Quiet, Row, Stack, Stop } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'
import { ended } from '@/ui/sentence'
import { AskOutside } from './ask-outside'
import { LiftClearance, SecondLook, StrengthForm } from './opened'
import { OwedList } from './owed-list'
import { SignatureField } from './signature'
import type { Signature } from './signature-strokes'
import { useNow } from './today'
import { isTyping, useTyped } from './typed'
import type { Fact, Me, RecordResult } from './use-wall'
import { whereOf } from './work/types'
import { useRecord } from './work/use-record'

interface GateProps {
  state: WallState
  step: Step
  me: Me
  record(facts: readonly Fact[]): Promise<RecordResult>
  onStep(key: string): void
}

/** What stands in the way: each reason with what is missing and the way to record it; soft ones may be passed in writing. */
export function GatePanel({ state, step, me, record, onStep }: GateProps) {
  const list = barriers(state, step, useNow(state))
  if (list.length === 0) return null
  const lifted = step.stage.work.type === 'picks' ? openStops(state).filter((s) => s.entry.kind === 'pick') : []
  return (
    <Stop role="alert">
      <strong>⬣ Stop. {step.stage.title} may not go on:</strong>
      {list.map((b) => (
        <Reason key={b.message} barrier={b} me={me} record={record} onStep={onStep} />
      ))}
      {lifted.map((s) => (
        <LiftClearance key={s.entry.id} of={s} record={record} />
      ))}
      {list.every((b) => b.kept) ? <div>What was done all the same is recorded below: it is kept, as a finding.</div> : null}
    </Stop>
  )
}

function Reason({ barrier, me, record, onStep }: { barrier: Barrier } & Pick<GateProps, 'me' | 'record' | 'onStep'>) {
  const [open, setOpen] = useState(isTyping(`pass ${barrier.step?.key ?? barrier.message}`))
  const [reason, setReason, noReason] = useTyped(`pass ${barrier.step?.key ?? barrier.message}`, 'pass')
  const { busy, problems, go } = useRecord(record)
  const other = barrier.step
  const { units } = usePreferences()
  return (
    <Stack style={{ gap: 8 }}>
      <div>
        {say(barrier.message, units)}
        {barrier.missing.length > 0 ? ` Missing: ${say(barrier.missing.join('; '), units)}.` : ''}
      </div>
      <Row>
        {other ? <Button onPress={() => onStep(other.key)}>Go there: {other.stage.title.toLowerCase()}</Button> : null}
        {barrier.force === 'soft' && mayRecord(me.role, 'override') && !open ? (
          <Button onPress={() => setOpen(true)}>Go on with a reason</Button>
        ) : null}
      </Row>
      {barrier.strength && other && mayRecord(me.role, 'override') ? <StrengthForm step={other} record={record} /> : null}
      {open && other ? (
        <Row>
          <div style={{ flex: 1, minWidth: 200 }}>
            <Field label="Reason; it stays in the record and on every report" value={reason} onChange={setReason} autoFocus />
          </div>
          <Button
            isDisabled={busy || reason.trim().length < 4}
            onPress={async () => {
              if (await go([{ kind: 'override', where: whereOf(other), data: { reason: reason.trim() } }])) noReason()
            }}
          >
            Pass
          </Button>
        </Row>
      ) : null}
      <Problems list={problems} />
    </Stack>
  )
}

/** A hold point whose work is done: released or rejected by the role it names, or as reported of somebody who has no account. */
export function HoldPanel({ state, step, status, me, record, wall }: Omit<GateProps, 'onStep'> & { status: StepStatus; wall: string }) {
  const { units } = usePreferences()
  const [reason, setReason, noReason] = useTyped(`hold ${step.key}`, 'seen')
  const [witness, setWitness, noWitness] = useTyped(`hold ${step.key}`, 'witness')
  const [signature, setSignature] = useState<Signature>({ typed: me.name })
  const [told, setTold] = useState(false)
  const [walked, setWalked] = useState<readonly string[]>([])
  const { busy, problems, go } = useRecord(record)
  const point = pointOf(state.layout.plan, step.stage.hold ?? '')
  if (!point || status.hold === 'released' || !settled(status)) return null
  const may = point.roles.includes(me.role)
  // What a release would be refused for is said before anybody writes and signs.
  const needs = status.hold === 'rejected' ? [] : releaseNeeds(state, step)
  // What waits for the same person is released on the same walk, with one word and one signature; each is a decision of its own.
  const together =
    may && needs.length === 0
      ? waitingHolds(state).filter((h) => h.key !== step.key && pointOf(state.layout.plan, h.stage.hold ?? '')?.roles.includes(me.role))
      : []
  const decide = async (decision: 'released' | 'rejected', reported?: Reported) => {
    const data = {
      decision,
      reason: reason.trim(),
      signature,
      ...(witness.trim() ? { witness: witness.trim() } : {}),
      ...(reported ? { reported } : {}),
    }
    const also = decision === 'released' && !reported ? together.filter((t) => walked.includes(t.key)) : []
    if (!(await go([step, ...also].map((s) => ({ kind: 'release', where: whereOf(s), data }))))) return
    noReason()
    noWitness()
  }
  // By hand it takes a hand: a dot on the field is none.
  const signed = signature.drawn ? isSigned({ drawn: signature.drawn }) : isSigned(signature)
  const ready = !busy && reason.trim().length >= 3 && signed
  const buttons = (reported?: Reported) => (
    <Row>
      <NowButton isDisabled={!ready || needs.length > 0 || (told && !reported)} onPress={() => decide('released', reported)}>
        {`${told ? 'Record: released' : 'Release'}${needs.length > 0 ? ' · first what is owed' : ''}`}
      </NowButton>
      <Button isDisabled={!ready || (told && !reported)} onPress={() => decide('rejected', reported)}>
        {told ? 'Record: rejected' : 'Reject'}
      </Button>
    </Row>
  )
  return (
    <Stop>
      <strong>
        ⬣ Hold point: {point.title}
        {status.hold === 'rejected' ? ' (rejected)' : ''}
      </strong>
      <div>{say(point.reason, units)}</div>
      {needs.length > 0 ? (
        <>
          <strong>Not to be released yet. First:</strong>
          <OwedList list={needs} wall={wall} label="Owed before the release" />
        </>
      ) : null}
      {status.hold === 'rejected' && status.decision ? (
        <div>{ended(lineOf(state, status.decision.entry, { units }))} Put it right and record it; then it is asked for again.</div>
      ) : null}
      {may ? (
        <>
          <Field label="What was seen; it is kept with the decision" value={reason} onChange={setReason} />
          <SignatureField value={signature} onChange={setSignature} name={me.name} />
          <Field label="Also present, if anybody" value={witness} onChange={setWitness} />
          {together.length > 0 ? (
            <div>
              <strong>Seen on the same walk, released with the same word and signature:</strong>
              {together.map((t) => (
                <Check
                  key={t.key}
                  checked={walked.includes(t.key)}
                  onChange={(on) => setWalked(on ? [...walked, t.key] : walked.filter((k) => k !== t.key))}
                >
                  {titleOf(t)}
                </Check>
              ))}
            </div>
          ) : null}
          {buttons()}
        </>
      ) : (
        <div>
          {needs.length > 0 ? 'Then it waits' : 'The work is recorded. It waits'} for the {point.roles.join(' or ')}; work may not go past it.
        </div>
      )}
      {!may && me.role === 'foreman' && whyNotAlone(state, step) === undefined ? (
        <SecondLook state={state} step={step} me={me} record={record} />
      ) : null}
      {!may && me.role === 'foreman' ? (
        <>
          <Check checked={told} onChange={setTold}>
            The {point.roles.join(' or ')} has no account here: record what they decided
          </Check>
          {told ? (
            <ReportedForm state={state} step={step} reason={reason} onReason={setReason}>
              {(reported) => (
                <>
                  <SignatureField value={signature} onChange={setSignature} name={me.name} />
                  {buttons(reported)}
                </>
              )}
            </ReportedForm>
          ) : null}
        </>
      ) : null}
      {may ? null : <AskOutside state={state} step={step} me={me} wall={wall} record={record} />}
      <Problems list={problems} />
    </Stop>
  )
}

type Reported = NonNullable<ReleaseData['reported']>

/** Who decided, and the paper or photo that says so; the foreman signs for having recorded it. */
function ReportedForm({
  state,
  step,
  reason,
  onReason,
  children,
}: {
  state: WallState
  step: Step
  reason: string
  onReason(v: string): void
  children(reported: Reported | undefined): ReactNode
}) {
  const [name, setName] = useTyped(`hold ${step.key}`, 'reported name')
  const [role, setRole] = useTyped(`hold ${step.key}`, 'reported role', 'inspector')
  const [paper, setPaper] = useTyped(`hold ${step.key}`, 'reported paper')
  const [photo, setPhoto] = useState('')
  const photos = (state.logs.get(step.key)?.work ?? []).filter((e) => e.entry.kind === 'photo' && live(state, e.entry.id))
  const whole = name.trim().length >= 2 && role.trim().length >= 2 && (paper.trim().length >= 3 || photo !== '')
  return (
    <Stack>
      <Row>
        <div style={{ flex: 1, minWidth: 130 }}>
          <Field label="Who decided" value={name} onChange={setName} />
        </div>
        <div style={{ flex: 1, minWidth: 130 }}>
          <Field label="As what" value={role} onChange={setRole} />
        </div>
      </Row>
      <Field label="What they saw and said" value={reason} onChange={onReason} />
      <Field
        label="Paper that says so: number and day"
        value={paper}
        onChange={setPaper}
        hint={photos.length > 0 ? 'or one of the photos below' : 'or take a photo of it below, first'}
      />
      {photos.length > 0 ? (
        <Choice
          label="Photo of it"
          value={photo}
          options={[['', 'None'] as const, ...photos.map((p) => [p.entry.id, p.waiting ? 'Not sent yet' : `No. ${p.seq}`] as const)]}
          onChange={setPhoto}
        />
      ) : null}
      {children(
        whole
          ? { name: name.trim(), role: role.trim(), ...(paper.trim() ? { document: paper.trim() } : {}), ...(photo ? { photo } : {}) }
          : undefined,
      )}
    </Stack>
  )
}

/** Open findings of a step: cause and action in writing, then a re-check within limits. */
export function FindingsPanel({
  state,
  status,
  me,
  record,
  onRecheck,
  recheck,
  wall,
}: Omit<GateProps, 'onStep' | 'step'> & { status: StepStatus; recheck: string | undefined; wall?: string; onRecheck(e: RecordedEntry): void }) {
  if (status.open.length === 0) return null
  return (
    <Stop>
      <strong>▲ Out of tolerance: {status.open.length} open</strong>
      {status.open.map((e) => (
        <Finding
          key={e.entry.id}
          state={state}
          finding={e}
          me={me}
          record={record}
          onRecheck={onRecheck}
          rechecking={recheck === e.entry.id}
          elsewhere={
            kindOf(e.entry.kind)?.beside && e.entry.kind !== 'unit-level' && wall ? `/walls/${wall}/ground?finding=${e.entry.id}` : undefined
          }
        />
      ))}
    </Stop>
  )
}

/** The line of a reading says the deviation already; of its judgement only the limit is new. */
const limitWords = (text: string | undefined) => text?.replace(/^.*, (?=limit )/, '') ?? ''

/** One finding: its words, cause and action, and the way to its re-check. */
export function Finding({
  state,
  finding,
  me,
  record,
  onRecheck,
  rechecking,
  elsewhere,
}: {
  state: WallState
  finding: RecordedEntry
  me: Me
  record: GateProps['record']
  onRecheck(e: RecordedEntry): void
  rechecking: boolean
  /** The page on which its kind is re-checked, when that is not here. */
  elsewhere?: string | undefined
}) {
  const { units } = usePreferences()
  const [cause, setCause, noCause] = useTyped(finding.entry.id, 'cause')
  const [act, setAct, noAct] = useTyped(finding.entry.id, 'action')
  const { busy, problems, go } = useRecord(record)
  const { entry } = finding
  const place = placeOf(entry)
  const action = state.actions.get(entry.id)
  // One's own words stand in the fields until the answer is there: they are no other's.
  const wrote = action?.entry.data as ActionData | undefined
  const other = wrote !== undefined && (wrote.cause !== cause.trim() || wrote.action !== act.trim())
  return (
    <Stack style={{ gap: 8, borderTop: '1px solid currentColor', paddingTop: 8 }}>
      <div>
        {place ? `${place} · ` : ''}
        {ended(lineOf(state, entry, { units }))} {ended(say(limitWords(state.outs.get(entry.id)?.text), units))} {entry.by.name}
      </div>
      {action ? (
        <>
          <div>{lineOf(state, action.entry, { units })}</div>
          {other && (cause.trim() || act.trim()) ? (
            <p role="status">
              {action.entry.by.name} wrote cause and action meanwhile. You had typed: {[cause, act].filter((t) => t.trim()).join(' · ')}{' '}
              <Quiet
                onPress={() => {
                  noCause()
                  noAct()
                }}
              >
                Let it go
              </Quiet>
            </p>
          ) : null}
          {elsewhere ? (
            <LinkButton href={elsewhere}>Re-check on Dig and pad</LinkButton>
          ) : (
            <Button onPress={() => onRecheck(finding)}>{rechecking ? 'Re-check: record it below' : 'Re-check now'}</Button>
          )}
        </>
      ) : mayRecord(me.role, 'action') ? (
        <>
          <Field label="Cause" value={cause} onChange={setCause} />
          <Field label="Action" value={act} onChange={setAct} />
          <Button
            isDisabled={busy || cause.trim().length < 3 || act.trim().length < 3}
            onPress={async () => {
              const kept = await go([{ kind: 'action', where: entry.where, data: { of: entry.id, cause: cause.trim(), action: act.trim() } }])
              if (!kept) return
              noCause()
              noAct()
            }}
          >
            Keep cause and action
          </Button>
        </>
      ) : (
        <div>The foreman writes cause and action, then it is re-checked.</div>
      )}
      <Problems list={problems} />
    </Stack>
  )
}

/** Two people, two different values at one place: shown, never merged. */
export function ConflictPanel({ state, status }: { state: WallState; status: StepStatus }) {
  const { units } = usePreferences()
  if (status.conflicts.length === 0) return null
  return (
    <Stop>
      <strong>◆ Recorded twice with different values</strong>
      {status.conflicts.map((c) => (
        <div key={c.second.entry.id}>
          {c.first.entry.by.name}: {ended(lineOf(state, c.first.entry, { units }))} {c.second.entry.by.name}:{' '}
          {ended(lineOf(state, c.second.entry, { units }))}
          Measure again together and strike out the wrong one in the record.
        </div>
      ))}
    </Stop>
  )
}

/** What was recorded for an earlier revision and does not match the plan in force: said where the work is. */
export function UnmatchedPanel({ state, status }: { state: WallState; status: StepStatus }) {
  const { units } = usePreferences()
  if (status.unmatched.length === 0) return null
  const groups = new Map<string, RecordedEntry[]>()
  for (const u of status.unmatched) groups.set(u.message, [...(groups.get(u.message) ?? []), u.recorded])
  return (
    <Stop>
      <strong>≠ Recorded for an earlier revision of the plan</strong>
      {[...groups].map(([message, list]) => (
        <div key={message}>
          {list.length === 1 && list[0] ? lineOf(state, list[0].entry, { units }) : `${list.length} entries`}: {ended(say(message, units))} What was
          judged then stays; record the work again as the plan in force asks.
        </div>
      ))}
    </Stop>
  )
}
