'use client'

import {
  type Barrier,
  barriers,
  holdPoint,
  isSigned,
  kindOf,
  lineOf,
  mayRecord,
  placeOf,
  type RecordedEntry,
  type Step,
  type StepStatus,
  settled,
  type WallState,
} from '@stone-tally/core'
import { useState } from 'react'
import { Button, Field, LinkButton, NowButton, Problems, Row, Stack, Stop } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'
import { type Signature, SignatureField } from './signature'
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
  const list = barriers(state, step)
  if (list.length === 0) return null
  return (
    <Stop role="alert">
      <strong>⬣ Stop. {step.stage.title} may not go on:</strong>
      {list.map((b) => (
        <Reason key={b.message} barrier={b} me={me} record={record} onStep={onStep} />
      ))}
    </Stop>
  )
}

function Reason({ barrier, me, record, onStep }: { barrier: Barrier } & Pick<GateProps, 'me' | 'record' | 'onStep'>) {
  const [open, setOpen] = useState(false)
  const [reason, setReason] = useState('')
  const { busy, problems, go } = useRecord(record)
  const other = barrier.step
  return (
    <Stack style={{ gap: 8 }}>
      <div>
        {barrier.message}
        {barrier.missing.length > 0 ? ` Missing: ${barrier.missing.join('; ')}.` : ''}
      </div>
      <Row>
        {other ? <Button onPress={() => onStep(other.key)}>Go there: {other.stage.title.toLowerCase()}</Button> : null}
        {barrier.force === 'soft' && mayRecord(me.role, 'override') && !open ? (
          <Button onPress={() => setOpen(true)}>Go on with a reason</Button>
        ) : null}
      </Row>
      {open && other ? (
        <Row>
          <div style={{ flex: 1, minWidth: 200 }}>
            <Field label="Reason; it stays in the record and on every report" value={reason} onChange={setReason} autoFocus />
          </div>
          <Button
            isDisabled={busy || reason.trim().length < 4}
            onPress={() => go([{ kind: 'override', where: whereOf(other), data: { reason: reason.trim() } }])}
          >
            Pass
          </Button>
        </Row>
      ) : null}
      <Problems list={problems} />
    </Stack>
  )
}

/** A hold point whose work is done: released or rejected by the role it names. */
export function HoldPanel({ step, status, me, record }: Omit<GateProps, 'onStep'> & { status: StepStatus }) {
  const [reason, setReason] = useState('')
  const [signature, setSignature] = useState<Signature>({})
  const { busy, problems, go } = useRecord(record)
  const point = holdPoint(step.stage.hold ?? '')
  if (!point || status.hold === 'released' || !settled(status)) return null
  const may = point.roles.includes(me.role)
  const decide = (decision: 'released' | 'rejected') =>
    go([{ kind: 'release', where: whereOf(step), data: { decision, reason: reason.trim(), signature } }])
  return (
    <Stop>
      <strong>
        ⬣ Hold point: {point.title}
        {status.hold === 'rejected' ? ' (rejected)' : ''}
      </strong>
      <div>{point.reason}</div>
      {may ? (
        <>
          <Field label="What was seen; it is kept with the decision" value={reason} onChange={setReason} />
          <SignatureField value={signature} onChange={setSignature} name={me.name} />
          <Row>
            <NowButton isDisabled={busy || reason.trim().length < 3 || !isSigned(signature)} onPress={() => decide('released')}>
              Release
            </NowButton>
            <Button isDisabled={busy || reason.trim().length < 3 || !isSigned(signature)} onPress={() => decide('rejected')}>
              Reject
            </Button>
          </Row>
        </>
      ) : (
        <div>The work is recorded. It waits for the {point.roles.join(' or ')}; work may not go past it.</div>
      )}
      <Problems list={problems} />
    </Stop>
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
  const [cause, setCause] = useState('')
  const [act, setAct] = useState('')
  const { busy, problems, go } = useRecord(record)
  const { entry } = finding
  const place = placeOf(entry)
  const action = state.actions.get(entry.id)
  return (
    <Stack style={{ gap: 8, borderTop: '1px solid currentColor', paddingTop: 8 }}>
      <div>
        {place ? `${place} · ` : ''}
        {lineOf(state, entry, { units })}. {limitWords(state.outs.get(entry.id)?.text)}. {entry.by.name}
      </div>
      {action ? (
        <>
          <div>{lineOf(state, action.entry, { units })}</div>
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
            onPress={() => go([{ kind: 'action', where: entry.where, data: { of: entry.id, cause: cause.trim(), action: act.trim() } }])}
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
          {c.first.entry.by.name}: {lineOf(state, c.first.entry, { units })}. {c.second.entry.by.name}: {lineOf(state, c.second.entry, { units })}.
          Measure again together and strike out the wrong one in the record.
        </div>
      ))}
    </Stop>
  )
}
