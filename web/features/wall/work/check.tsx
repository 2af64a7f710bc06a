'use client'

import {
  boundsOf,
  type CheckData,
  type CheckMeasure,
  fail,
  type Layout,
  live,
  type Measure,
  measureSaid,
  measuresOf,
  ok,
  parseAmount,
  type Result,
  say,
  tableOf,
  typedAmount,
  type UnitSystem,
  unitOf,
  type Where,
} from '@stone-tally/core'
import { Button, Check, Field, NowButton, Problems, Quiet, RecordRow, Row, WorkStack } from '@/ui/controls'
import { Targets } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import { useTyped, useTypedForm } from '../typed'
import { Judged, judge } from './judged'
import { type WorkProps, whereOf } from './types'
import { useRecord } from './use-record'

/** Before an item that is said not to apply. */
const NOT = '!'

/** A checklist: every item is a person's word; what can be measured with it is measured. */
export function CheckWork({ state, step, status, me, record, recheck }: WorkProps) {
  const { units } = usePreferences()
  const work = step.stage.work.type === 'check' ? step.stage.work : undefined
  const items = work?.items ?? []
  const measures = work ? measuresOf(work, state.layout.plan) : []
  // What was said of it last is gone on from, and not asked again: the newest word on a list is the whole of it.
  const before = saidBefore(state, step, recheck?.id)
  const [ticks, setTicks, noTicks] = useTyped(
    `${step.key}|${recheck?.id ?? ''}`,
    'ticked',
    [...(before?.confirmed ?? []), ...(before?.none ?? []).map((id) => NOT + id)].join(','),
  )
  // An item is confirmed by its id, and said not to apply by its id with a mark before it.
  const given: readonly string[] = ticks === '' ? [] : ticks.split(',')
  const ticked = given.filter((t) => !t.startsWith(NOT))
  const none = given.filter((t) => t.startsWith(NOT)).map((t) => t.slice(NOT.length))
  const mayNot = tableOf(state.layout.plan) > 1
  const setTicked = (list: readonly string[]) => setTicks(list.join(','))
  // What is looked at again is measured again; what was measured before a list was whole stands.
  const measuredBefore = recheck ? [] : (before?.measured ?? [])
  const sizesBefore: Readonly<Record<string, string>> = Object.fromEntries(
    measuredBefore.flatMap(({ id, value }) => {
      const m = measures.find((x) => x.id === id)
      return m ? [[id, m.of === 'count' ? `${value}` : typedAmount(value, measureIn(m), units)]] : []
    }),
  )
  const {
    v: sizes,
    set: setSizes,
    letGo: noSizes,
  } = useTypedForm<Readonly<Record<string, string>>>(`${step.key}|${recheck?.id ?? ''}|${units}`, sizesBefore)
  const [until, setUntil, noUntil] = useTyped(`${step.key}|${recheck?.id ?? ''}`, 'until', before?.until ?? '')
  const [detail, setDetail, noDetail] = useTyped(`${step.key}|${recheck?.id ?? ''}`, 'detail', before?.detail ?? '')
  const { busy, problems, setProblems, go } = useRecord(record)
  const put = async (confirmed: readonly string[]) => {
    const measured: { id: string; value: number }[] = []
    for (const m of measures) {
      const typed = sizes[m.id]?.trim()
      if (!typed) continue
      const value = measureRead(m, typed, units)
      if (!value.ok) return setProblems(value.problems.map((p) => ({ ...p, field: m.text })))
      measured.push({ id: m.id, value: value.value })
    }
    const done = await go([
      {
        kind: 'check',
        where: whereOf(step),
        data: {
          confirmed: items.filter((i) => confirmed.includes(i.id)).map((i) => i.id),
          ...(none.length > 0 ? { none } : {}),
          ...(until.trim() ? { until: until.trim() } : {}),
          ...(detail.trim() ? { detail: detail.trim() } : {}),
          ...(measured.length > 0 ? { measured } : {}),
        },
        ...(recheck ? { recheckOf: recheck.id } : {}),
      },
    ])
    if (done) {
      noDetail()
      noUntil()
      noSizes()
      noTicks()
    }
  }
  // What is measured is judged as it is typed, like every other number.
  const typed = measures.flatMap((m) => {
    const value = measureRead(m, sizes[m.id] ?? '', units)
    return value.ok ? [{ id: m.id, value: value.value }] : []
  })
  const verdict =
    typed.length > 0 ? judge(state, me, { kind: 'check', where: whereOf(step), data: { confirmed: ticked, measured: typed } }) : undefined
  const wantsDay = work?.until !== undefined && mayNot
  const count = given.length + typed.length + (wantsDay && until.trim() ? 1 : 0)
  const total = items.length + measures.length + (wantsDay ? 1 : 0)
  // What may not be there is asked, never sworn to by a press for all.
  const sure = items.filter((i) => !(i.maybe && mayNot)).map((i) => i.id)
  const left = sure.filter((id) => !given.includes(id))
  // What stands in the record already is not recorded over and over: it takes something new, or a re-check.
  const same =
    !recheck &&
    before !== undefined &&
    status.hold !== 'rejected' &&
    status.unmatched.length === 0 &&
    sameSet(ticked, before.confirmed) &&
    sameSet(none, before.none ?? []) &&
    until.trim() === (before.until ?? '') &&
    detail.trim() === (before.detail ?? '') &&
    measures.every((m) => (sizes[m.id]?.trim() ?? '') === (sizesBefore[m.id] ?? ''))
  const missing = [
    ...items.filter((i) => !ticked.includes(i.id) && !none.includes(i.id)).map((i) => i.text.toLowerCase()),
    ...measures.filter((m) => !typed.some((t) => t.id === m.id)).map((m) => m.text.toLowerCase()),
    ...(wantsDay && !until.trim() ? [(work?.until ?? '').toLowerCase()] : []),
  ]
  return (
    <WorkStack>
      <div>
        {items.map((i) => {
          const others = given.filter((t) => t !== i.id && t !== NOT + i.id)
          const isNone = none.includes(i.id)
          return (
            <Row key={i.id} style={{ justifyContent: 'space-between', alignItems: 'center', flexWrap: 'nowrap' }}>
              <Check checked={ticked.includes(i.id)} onChange={(on) => setTicked(on ? [...others, i.id] : others)}>
                {isNone ? <s>{i.text}</s> : i.text}
              </Check>
              {i.maybe && mayNot ? (
                <Quiet aria-label={`Not here: ${i.text}`} aria-pressed={isNone} onPress={() => setTicked(isNone ? others : [...others, NOT + i.id])}>
                  {isNone ? 'Not here ✓' : 'Not here'}
                </Quiet>
              ) : null}
            </Row>
          )
        })}
      </div>
      {measures.length > 0 ? (
        <>
          <Targets list={measures.map((m) => [m.text, rangeOf(m, units, state.layout, whereOf(step))])} />
          {measures.map((m) => (
            <Field
              key={m.id}
              label={`${m.text}${m.of === 'count' ? '' : `, ${unitOf(measureIn(m), units)}`}`}
              value={sizes[m.id] ?? ''}
              onChange={(v) => setSizes({ [m.id]: v })}
              inputMode="decimal"
            />
          ))}
        </>
      ) : null}
      {typed.length > 0 ? <Judged verdict={verdict ?? { verdict: 'ok', text: 'within limits' }} otherwise="" /> : null}
      {work?.until && mayNot ? <Field label={work.until} value={until} onChange={setUntil} type="date" /> : null}
      {work?.detail ? <Field label={work.detail} value={detail} onChange={setDetail} /> : null}
      <RecordRow>
        {left.length > 0 ? (
          <Button isDisabled={busy} onPress={() => setTicked([...given, ...left.filter((id) => !none.includes(id))])}>
            All of these
          </Button>
        ) : null}
        <NowButton style={{ flex: 1 }} isDisabled={busy || given.length === 0 || same} onPress={() => put(ticked)}>
          {recheck ? 'Record re-check' : `Record ${count} of ${total}`}
          {missing.length > 0 ? ` · missing: ${listed(missing)}` : ''}
        </NowButton>
      </RecordRow>
      {same ? <p style={{ fontSize: 15, color: 'var(--soft)' }}>This stands in the record as it is here.</p> : null}
      <Problems list={problems} />
    </WorkStack>
  )
}

const sameSet = (a: readonly string[], b: readonly string[]) => a.length === b.length && a.every((x) => b.includes(x))

/** The last that was said of a list, or the finding that is looked at again. */
function saidBefore(state: WorkProps['state'], step: WorkProps['step'], finding: string | undefined): CheckData | undefined {
  if (finding !== undefined) return state.byId.get(finding)?.entry.data as CheckData | undefined
  const log = (state.logs.get(step.key)?.work ?? []).filter((e) => e.entry.kind === 'check' && live(state, e.entry.id))
  return log[log.length - 1]?.entry.data as CheckData | undefined
}

/** So many are named; of more it is said how many. */
const NAMED = 2
const listed = (names: readonly string[]) =>
  names.length <= NAMED ? names.join(', ') : `${names.slice(0, NAMED - 1).join(', ')} and ${names.length - NAMED + 1} more`

/** What a measure is typed in; a count is a number of its own. */
const measureIn = (m: CheckMeasure): Measure => (m.of === 'temperature' || m.of === 'mass' ? m.of : 'small')

/** What was typed for a measure, SI. */
function measureRead(m: CheckMeasure, text: string, units: UnitSystem): Result<number> {
  if (m.of !== 'count') return parseAmount(text, measureIn(m), units)
  return /^\d+$/.test(text.trim()) ? ok(Number(text)) : fail('', `"${text}" is not a whole number`)
}

/** @example rangeOf({ id: 'cover', text: 'Stone', least: 'pipeCover' }, 'metric', layout) // 'at least 150 mm' */
export function rangeOf(m: CheckMeasure, units: UnitSystem, layout: Layout, at?: Where): string {
  const bounds = boundsOf(m, layout, at)
  const of = (value: number | undefined) => (value === undefined ? undefined : say(measureSaid(m.of, value), units))
  const [least, most] = [of(bounds.least), of(bounds.most)]
  if (!least && !most) return 'as found'
  return least && most ? `${least} to ${most}` : least ? `at least ${least}` : `at most ${most ?? ''}`
}
