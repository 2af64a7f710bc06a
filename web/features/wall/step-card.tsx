'use client'

import {
  barriers,
  decidedBy,
  KINDS,
  knownPerson,
  mayRecord,
  type Step,
  say,
  soilHere,
  statusOf,
  testsOwedAt,
  type WallState,
  weatherAt,
} from '@stone-tally/core'
import { type ReactNode, useState } from 'react'
import styled from 'styled-components'
import { Button, Caution, Condensed, Quiet, Row, Stack } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'
import { Words } from '@/ui/words'
import { DiaryList } from './diary'
import { ConflictPanel, FindingsPanel, GatePanel, HoldPanel, UnmatchedPanel } from './gate'
import { OwedList } from './owed-list'
import { PhotoStrip } from './photos'
import { NeedsPanel, OldWeather, TodayPanel, useDaily, useNow } from './today'
import { isTyping } from './typed'
import { UnitLevelPanel } from './unit-level'
import type { Fact, Me, RecordResult } from './use-wall'
import { PANELS } from './work'

const Title = styled.div`
  display: grid; gap: 6px; .step { font-size: 26px; }
  .tag { background: var(--now); color: var(--on-now); font: 600 15px/1 'Barlow Condensed', sans-serif; letter-spacing: .06em; padding: 5px 9px; align-self: center; }
`

/** One step of the work: what to do, what stands in the way, what to enter, what was recorded. */
export function StepCard({
  state,
  step,
  me,
  record,
  tag,
  aside,
  station,
  onStation,
  onStep,
  onNext,
  wall,
  above = false,
}: {
  state: WallState
  step: Step
  me: Me
  record(facts: readonly Fact[]): Promise<RecordResult>
  tag: string
  aside?: ReactNode
  station: number | undefined
  onStation(station: number): void
  onStep(key: string): void
  onNext(): void
  wall: string
  /** Is its work asked for on a card above, together with what follows? Then it is opened by itself only when somebody wants to. */
  above?: boolean
}) {
  const [opened, setOpened] = useState<string>()
  const alone = opened === step.key || isTyping(step.key)
  const [rechecking, setRecheck] = useState<{ id: string; station?: number | undefined; offset?: number | undefined }>()
  const status = statusOf(state, step)
  const { units } = usePreferences()
  // A re-check is over as soon as its finding is closed, or when another step is looked at.
  const recheck = rechecking && status.open.some((o) => o.entry.id === rechecking.id) ? rechecking : undefined
  // A single unit is read again in its own panel.
  const unitRecheck = recheck !== undefined && state.byId.get(recheck.id)?.entry.kind === 'unit-level'
  const Panel = PANELS[step.stage.work.type]
  const kind = KINDS.find((k) => k.work === step.stage.work.type)?.kind ?? ''
  const mayDo = mayRecord(me.role, kind)
  const today = useDaily(state, step)
  const at = useNow(state)
  // Known from the first lift on, not only where a release is refused for them.
  const tests = testsOwedAt(state, step)
  const stands = recheck ? [] : barriers(state, step, at)
  // What only warns lets the work be recorded that was done all the same.
  const gated = stands.some((b) => !b.kept)
  // What has to be done anew each day stands before the work, a re-check included; a step that is done asks for nothing.
  const waits = !gated && today.length > 0 && (status.state !== 'done' || recheck !== undefined)
  const blocked = gated || waits
  // Weather is said where fill is placed.
  const weather = step.stage.work.type === 'lifts' && status.state !== 'done' && at ? weatherAt(state, at) : undefined
  const cautions = weather?.cautions ?? []
  return (
    <Stack>
      <Title>
        <Row style={{ alignItems: 'center', gap: 10 }}>
          <span className="tag">{tag}</span>
          <h2 className="step">{step.stage.title}</h2>
          {aside}
        </Row>
        <Condensed style={{ fontSize: 18 }}>
          {step.section ? `Section ${step.section}` : 'Whole wall'}
          {step.course ? ` · course ${step.course}` : ''}
          {` · ${status.done} of ${status.total}`}
          {status.hold === 'released' ? ` · released by ${status.decision ? decidedBy(status.decision.entry as never) : ''}` : ''}
        </Condensed>
        <p style={{ fontSize: 15, color: 'var(--soft)' }}>
          <Words>{say(step.stage.how, units)}</Words>
        </p>
      </Title>
      {status.override ? (
        <Caution>
          Passed with a reason by {status.override.entry.by.name}: {(status.override.entry.data as { reason: string }).reason}
        </Caution>
      ) : null}
      <UnmatchedPanel state={state} status={status} />
      <ConflictPanel state={state} status={status} />
      <FindingsPanel
        state={state}
        status={status}
        me={me}
        record={record}
        wall={wall}
        recheck={recheck?.id}
        onRecheck={(e) => setRecheck({ id: e.entry.id, station: e.entry.where.station, offset: e.entry.where.offset })}
      />
      <HoldPanel key={`h${step.key}`} state={state} step={step} status={status} me={me} record={record} wall={wall} />
      {tests ? (
        <Caution as="div">
          <OwedList list={[tests]} wall={wall} label="Owed by these lifts" />
        </Caution>
      ) : null}
      {step.stage.needs ? <NeedsPanel state={state} step={step} wall={wall} /> : null}
      {waits ? (
        <TodayPanel needs={today} me={me} record={record} wall={wall} person={knownPerson(state)} soil={soilHere(state, step.section)} />
      ) : null}
      {stands.length > 0 ? <GatePanel key={`g${step.key}`} state={state} step={step} me={me} record={record} onStep={onStep} /> : null}
      {above && !alone && !recheck && !blocked ? (
        <Row>
          <Quiet onPress={() => setOpened(step.key)}>Record this look by itself</Quiet>
        </Row>
      ) : null}
      {Panel &&
      (!above || alone || recheck) &&
      !blocked &&
      (status.state !== 'done' || status.hold === 'rejected' || recheck || isTyping(step.key)) &&
      mayDo &&
      !unitRecheck ? (
        <Panel
          key={`w${step.key}`}
          state={state}
          step={step}
          status={status}
          me={me}
          recheck={recheck}
          station={station}
          onStation={onStation}
          record={record}
        />
      ) : null}
      {step.stage.also?.includes('unit-level') && !blocked ? (
        <UnitLevelPanel
          key={`u${step.key}`}
          state={state}
          step={step}
          may={mayRecord(me.role, 'unit-level')}
          me={me}
          record={record}
          recheck={recheck?.id}
        />
      ) : null}
      {blocked || (status.state === 'todo' && step.stage.work.type === 'pipe') ? null : (
        <PhotoStrip key={`p${step.key}`} wall={wall} state={state} step={step} station={station} me={me.id} record={record} />
      )}
      {mayDo || status.state === 'done' ? null : <p>Recorded by the foreman or the crew lead; you see it here as they do.</p>}
      {status.state === 'done' && status.open.length === 0 && (status.hold === 'none' || status.hold === 'released') ? (
        <Row>
          <strong>{tests ? '○ Placed; the tests are owed.' : '✓ Done.'}</strong>
          <Button onPress={onNext}>Next step</Button>
        </Row>
      ) : null}
      {weather?.old ? <OldWeather day={weather.old} /> : null}
      {cautions.map((c) => (
        <Caution key={c.id}>{say(c.text, units)}</Caution>
      ))}
      {step.stage.caution ? <Caution>{step.stage.caution}</Caution> : null}
      <DiaryList state={state} step={step} me={me} record={record} />
    </Stack>
  )
}
