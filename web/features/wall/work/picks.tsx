'use client'

import {
  formatLength,
  formatMass,
  formatSmall,
  limitsOf,
  type PickData,
  type PlannedPick,
  parseAmount,
  pickAt,
  plannedPicks,
  say,
  since,
  typedAmount,
  type UnitSystem,
  unitOf,
  type WallState,
  weatherOf,
} from '@stone-tally/core'
import { AmountField } from '@/ui/amount-field'
import { Button, Caution, Field, NowButton, Problems, RecordRow, Row, WorkStack } from '@/ui/controls'
import { Hero, Targets } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import { Tally } from '@/ui/tally'
import { useNow } from '../today'
import { useTyped, useTypedForm } from '../typed'
import { Judged, judge } from './judged'
import { type WorkProps, whereOf } from './types'
import { useRecord } from './use-record'

/** What is said of a pick: its mass, how far out, what the machine may lift there. */
export function pickTargets(state: Pick<WallState, 'layout'>, p: PlannedPick, units: UnitSystem): [string, string][] {
  const share = limitsOf(state.layout.plan).pickShare.value
  return [
    ['Hangs', `${formatMass(p.load, units)} with its gear`],
    ['Reach', `${formatLength(p.reach, units, 1)} out, hook ${formatLength(p.height, units, 1)} up`],
    ['May hang there', p.capacity === undefined ? 'beyond the table' : formatMass(p.capacity * share, units)],
    ...(p.truck === undefined ? [] : [['Truck', `${p.truck}`] as [string, string]]),
  ]
}

/** Units set one by one: which comes next, may it be lifted, how does it lie. */
export function PicksWork({ state, step, status, me, record, recheck }: WorkProps) {
  const { units } = usePreferences()
  const planned = plannedPicks(state, step)
  const log = (state.logs.get(step.key)?.work ?? []).filter((e) => e.entry.kind === 'pick' && !state.superseded.has(e.entry.id))
  const set = new Set(log.map((e) => (e.entry.data as PickData).number))
  const found = recheck ? (state.byId.get(recheck.id)?.entry.data as PickData | undefined) : undefined
  const next = planned.find((p) => p.number === found?.number) ?? planned.find((p) => !set.has(p.number))
  const scope = `${step.key}|${recheck?.id ?? ''}|${units}`
  const [chosen, setChosen, noChosen] = useTyped(scope, 'chosen')
  const at = useNow(state)
  const newest = weatherOf(state).now
  const known = newest && at && Math.abs(Date.parse(at) - Date.parse(newest.at)) < 86_400_000 ? newest.wind : undefined
  const pick = (chosen ? pickAt(state.layout, step.course ?? 0, Number(chosen)) : undefined) ?? next
  const {
    v,
    set: type,
    letGo,
  } = useTypedForm<Readonly<Record<'level' | 'tilt' | 'reach' | 'wind' | 'ticket', string>>>(`${scope}|${pick?.number ?? ''}`, {
    // Looked at again it is measured again; what it hung from and what it came with are as they were.
    level: '',
    tilt: '',
    reach: found?.reach === undefined ? '' : typedAmount(found.reach, 'length', units),
    // What the weather of today says; changed where it was measured at the hook.
    wind: known === undefined ? '' : typedAmount(known, 'speed', units),
    ticket: found?.ticket ?? '',
  })
  const { busy, problems, setProblems, go } = useRecord(record)
  const wind = parseAmount(v.wind, 'speed', units)
  if (!pick)
    return (
      <WorkStack>
        <Hero value={`${status.done}`} unit={`of ${status.total} ${state.layout.system.noun.many}`} />
        <Tally done={status.done} total={status.total} height={26} />
      </WorkStack>
    )
  const [level, tilt, reach] = [parseAmount(v.level, 'small', units), parseAmount(v.tilt, 'small', units), parseAmount(v.reach, 'length', units)]
  const of = (value: number) => ({
    kind: 'pick',
    where: whereOf(step, pick.station),
    data: {
      number: pick.number,
      level: value,
      ...(v.tilt.trim() && tilt.ok ? { tilt: tilt.value } : {}),
      ...(v.reach.trim() && reach.ok ? { reach: reach.value } : {}),
      ...(v.wind.trim() && wind.ok ? { wind: wind.value } : {}),
      ...(v.ticket.trim() ? { ticket: v.ticket.trim() } : {}),
    },
    ...(recheck ? { recheckOf: recheck.id } : {}),
  })
  const verdict = level.ok ? judge(state, me, of(level.value)) : undefined
  const put = async (value: number) => {
    for (const [field, text, got] of [
      ['Front against back', v.tilt, tilt],
      ['Reach', v.reach, reach],
      ['Wind', v.wind, wind],
    ] as const)
      if (text.trim() && !got.ok) return setProblems(got.problems.map((p) => ({ ...p, field })))
    if (await go([of(value)])) {
      letGo()
      noChosen()
    }
  }
  return (
    <WorkStack>
      <Hero value={pick.name} unit={`${status.done} of ${status.total} set`} />
      <Targets
        list={[
          ...pickTargets(state, pick, units),
          ['Level within', `±${formatSmall(limitsOf(state.layout.plan).firstLevel.value, units)} on the pad`],
        ]}
      />
      {pick.wrong.length > 0 ? (
        <Caution>Not as planned: {say(pick.wrong.join('; '), units)}. Bring the machine closer and say how far it reached.</Caution>
      ) : null}
      {recheck ? (
        <Caution>{pick.name} was out: it is lifted off, its pad mended and read again at this place, then set anew.</Caution>
      ) : planned.filter((p) => !set.has(p.number)).length > 1 ? (
        <Field label="Another one, by its number" value={chosen} onChange={setChosen} inputMode="numeric" hint={`in course ${step.course ?? ''}`} />
      ) : null}
      <Row>
        <div style={{ flex: 1, minWidth: 110 }}>
          <AmountField label="Top high (+) or low (−)" of="small" value={v.level} onChange={(text) => type({ level: text })} />
        </div>
        <div style={{ flex: 1, minWidth: 110 }}>
          <AmountField label="Front over back" of="small" value={v.tilt} onChange={(text) => type({ tilt: text })} />
        </div>
        <div style={{ flex: 1, minWidth: 110 }}>
          <AmountField label="Reach, if another" of="length" value={v.reach} onChange={(text) => type({ reach: text })} />
        </div>
        {since(state.layout.plan, 3) ? (
          <div style={{ flex: 1, minWidth: 110 }}>
            <Field label={`Wind, ${unitOf('speed', units)}`} value={v.wind} onChange={(text) => type({ wind: text })} inputMode="decimal" />
          </div>
        ) : null}
        <div style={{ flex: 1, minWidth: 110 }}>
          <Field label="Ticket" value={v.ticket} onChange={(text) => type({ ticket: text })} />
        </div>
      </Row>
      <Judged verdict={verdict} otherwise="Read the top of the block before the slings come off." />
      <RecordRow>
        <Button isDisabled={busy} onPress={() => put(0)}>
          Dead level
        </Button>
        <NowButton style={{ flex: 1 }} isDisabled={busy || !level.ok} onPress={() => level.ok && put(level.value)}>
          {recheck ? `Record ${pick.name} again` : `Record ${pick.name} set`}
        </NowButton>
      </RecordRow>
      <Problems list={problems} />
    </WorkStack>
  )
}
