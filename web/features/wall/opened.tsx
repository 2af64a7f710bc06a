'use client'

import { CLEARED_BY, latestOf, live, type RecordedEntry, type Step, secondLook, secondLookFrom, type WallState } from '@stone-tally/core'
import { useState } from 'react'
import { Button, Check, Choice, Field, NowButton, Problems, Row, Stack } from '@/ui/controls'
import { When } from './diary'
import { SignatureField } from './signature'
import type { Signature } from './signature-strokes'
import { useNow } from './today'
import { useTyped, useTypedForm } from './typed'
import type { Fact, Me, RecordResult } from './use-wall'
import { whereOf } from './work/types'
import { useRecord } from './work/use-record'

interface Opens {
  record(facts: readonly Fact[]): Promise<RecordResult>
}

/** A strength that was tested: nothing else opens the clock of concrete sooner. */
export function StrengthForm({ step, record }: Opens & { step: Step }) {
  const { v, set, letGo } = useTypedForm<Readonly<Record<'value' | 'wanted' | 'on' | 'source', string>>>(`strength ${step.key}`, {
    value: '',
    wanted: '',
    on: '',
    source: '',
  })
  const { busy, problems, setProblems, go } = useRecord(record)
  const number = (t: string) => Number(t.trim().replace(',', '.'))
  const put = async () => {
    const [value, wanted] = [number(v.value), number(v.wanted)]
    if (!(value > 0) || !(wanted > 0))
      return setProblems([{ field: value > 0 ? 'Wanted' : 'Found', message: 'is no strength; N/mm² as on the sheet' }])
    const strength = { value, wanted, on: v.on.trim(), source: v.source.trim() }
    if (await go([{ kind: 'override', where: whereOf(step), data: { reason: `Tested strength of ${value} N/mm².`, strength } }])) letGo()
  }
  return (
    <Stack style={{ gap: 8 }}>
      <Row>
        <Field label="Found, N/mm²" value={v.value} onChange={(value) => set({ value })} inputMode="decimal" />
        <Field label="Wanted, N/mm²" value={v.wanted} onChange={(wanted) => set({ wanted })} inputMode="decimal" />
        <Field label="Tested on" value={v.on} onChange={(on) => set({ on })} type="date" />
        <Field label="By whom, which sheet" value={v.source} onChange={(source) => set({ source })} />
      </Row>
      <Row>
        <Button isDisabled={busy || !v.value.trim() || !v.wanted.trim() || !v.on.trim() || v.source.trim().length < 3} onPress={put}>
          Record the tested strength
        </Button>
      </Row>
      <Problems list={problems} />
    </Stack>
  )
}

/** A lift that went wrong, answered by name. */
export function LiftClearance({ of, record }: Opens & { of: RecordedEntry }) {
  const { v, set, letGo } = useTypedForm<Readonly<Record<'who' | 'as' | 'seen', string>>>(`lift ${of.entry.id}`, {
    who: '',
    as: 'competent',
    seen: '',
  })
  const { busy, problems, go } = useRecord(record)
  const put = async () => {
    const { stage, section, course, station } = of.entry.where
    const where = {
      ...(stage ? { stage } : {}),
      ...(section ? { section } : {}),
      ...(course ? { course } : {}),
      ...(station === undefined ? {} : { station }),
    }
    const facts: Fact[] = [
      { kind: 'action', where, data: { of: of.entry.id, cause: 'Lifted beyond what is allowed', action: v.seen.trim() } } as Fact,
      { kind: 'clearance', where, data: { who: v.who.trim(), as: v.as, seen: v.seen.trim() }, recheckOf: of.entry.id } as Fact,
    ]
    if (await go(facts)) letGo()
  }
  return (
    <Stack style={{ gap: 8 }}>
      <Row>
        <Field label="Who says that lifting is safe" value={v.who} onChange={(who) => set({ who })} />
        <Field label="What was changed" value={v.seen} onChange={(seen) => set({ seen })} />
      </Row>
      <Choice<string> label="Is the" value={v.as} options={Object.entries(CLEARED_BY)} onChange={(as) => set({ as })} />
      <Row>
        <Button isDisabled={busy || v.who.trim().length < 2 || v.seen.trim().length < 3} onPress={put}>
          Record that lifting is safe
        </Button>
      </Row>
      <Problems list={problems} />
    </Stack>
  )
}

/** The same person looks again, where a company is one: by the list made for it, with a photo taken at it. */
export function SecondLook({ state, step, me, record }: Opens & { state: WallState; step: Step; me: Me }) {
  const [seen, setSeen] = useState<readonly string[]>([])
  const [reason, setReason, noReason] = useTyped(`second ${step.key}`, 'seen')
  const [signature, setSignature] = useState<Signature>({ typed: me.name })
  const { busy, problems, go } = useRecord(record)
  const items = secondLook(step)
  const missing = items.filter((i) => !seen.includes(i.id))
  const from = secondLookFrom(state, step)
  const photo = latestOf(
    state,
    (e) =>
      e.kind === 'photo' &&
      e.where.stage === step.stage.id &&
      e.where.section === step.section &&
      live(state, e.id) &&
      Date.parse(e.at) >= Date.parse(from ?? e.at),
  )
  const now = useNow(state)
  // By this device's own clock, as the entry will be; the house has the last word.
  const early = from !== undefined && now !== undefined && now < from
  const wants = [
    early ? 'the pause' : '',
    missing.length > 0 ? `${missing.length} still to look at` : '',
    photo ? '' : 'a photo',
    reason.trim().length < 3 ? 'what was seen' : '',
  ].filter(Boolean)
  const put = async () => {
    const data = { decision: 'released', reason: reason.trim(), signature, second: { confirmed: [...seen], photo: photo?.entry.id ?? '' } }
    if (await go([{ kind: 'release', where: whereOf(step), data }])) noReason()
  }
  return (
    <Stack>
      <strong>Second look by the same person</strong>
      {early ? (
        <div>
          After a pause: from <When at={from} /> on.
        </div>
      ) : null}
      {items.map((i) => (
        <Check key={i.id} checked={seen.includes(i.id)} onChange={(on) => setSeen(on ? [...seen, i.id] : seen.filter((s) => s !== i.id))}>
          {i.text}
        </Check>
      ))}
      <div>{photo ? '✓ The newest photo of this step goes with it.' : 'A photo taken at this look goes with it: take it below.'}</div>
      <Field label="What was seen; it is kept with the decision" value={reason} onChange={setReason} />
      <SignatureField value={signature} onChange={setSignature} name={me.name} />
      <NowButton isDisabled={busy || wants.length > 0} onPress={put}>
        {wants.length > 0 ? `Release · missing: ${wants.join(', ')}` : 'Release after the second look'}
      </NowButton>
      <Problems list={problems} />
    </Stack>
  )
}
