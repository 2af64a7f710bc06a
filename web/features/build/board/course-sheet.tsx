'use client'

import {
  courseSheet,
  dailyNeeds,
  formatDeviation,
  formatSmall,
  judgeSheet,
  limitsOf,
  parseAmount,
  say,
  smallUnit,
  type WallState,
} from '@stone-tally/core'
import { useEffect, useMemo, useRef, useState } from 'react'
import { Input, Label, TextField } from 'react-aria-components'
import styled from 'styled-components'
import { type Fact, isWriting, type Me, type RecordResult, useNow, useRecord } from '@/features/wall'
import { AmountField } from '@/ui/amount-field'
import { NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { Judgement } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'

const Sheet = styled.section`
  border: 3px solid var(--ink); border-radius: 4px; padding: 12px 14px; display: grid; gap: 12px; grid-template-columns: minmax(0, 1fr);
  ul { margin: 0; padding: 0; list-style: none; display: grid; gap: 2px; font-size: 15px; }
  li { display: grid; grid-template-columns: 132px 1fr; gap: 10px; } li b { font-weight: 600; }
`
const Figure = styled(Input)`
  width: 100%; height: 60px; padding: 0 14px; font: 650 34px/1 'Archivo Variable', sans-serif; font-variant-numeric: tabular-nums;
  border: 3px solid var(--ink); border-radius: 4px; background: var(--panel); color: var(--ink);
`

/** The whole course at once, done like the one below: one number, one press. Anything else is one step away, below. */
export function CourseSheetCard({
  state,
  section,
  course,
  me,
  record,
  typing,
}: {
  state: WallState
  section: string
  course: number
  me: Me
  record(facts: readonly Fact[]): Promise<RecordResult>
  /** Do digits typed anywhere belong here? */
  typing: boolean
}) {
  const { units } = usePreferences()
  // The state is advanced in place and handed on, so it is the handle that tells of a change.
  const sheet = useMemo(() => courseSheet(state, section, course), [state, section, course])
  const [worst, setWorst] = useState('')
  const [where, setWhere] = useState('')
  const [place, setPlace] = useState(false)
  const input = useRef<HTMLInputElement>(null)
  const at = useNow(state)
  const { busy, problems, setProblems, go } = useRecord(record)
  useEffect(() => {
    if (!typing) return
    const onKey = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey || !/^[0-9.,+-]$/.test(e.key)) return
      if (!isWriting(document.activeElement)) input.current?.focus()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [typing])
  if (!sheet || sheet.barriers.length > 0 || sheet.lines.length < 2 || (me.role !== 'foreman' && me.role !== 'crew')) return null
  // What the day asks for first stands on the card below: a sheet that would be refused is not offered.
  if (at !== undefined && sheet.lines.some((l) => dailyNeeds(state, l.step, at).length > 0)) return null
  const value = parseAmount(worst, 'small', units)
  const judged = sheet.wantsLevel && worst.trim() && value.ok ? judgeSheet(sheet, value.value) : undefined
  const put = async () => {
    if (sheet.wantsLevel && !value.ok) return setProblems(value.problems.map((p) => ({ ...p, field: 'Largest deviation' })))
    const at = where.trim() ? parseAmount(where, 'length', units) : undefined
    if (at && !at.ok) return setProblems(at.problems.map((p) => ({ ...p, field: 'Where' })))
    // By the Enter key too: nothing is half recorded.
    if (judged === 'out' && !at) return setProblems([{ field: 'Where', message: 'is missing; say where it was met, so that it can be put right' }])
    const facts = sheet.facts(sheet.wantsLevel && value.ok ? value.value : undefined, at?.value)
    if (await go(facts)) {
      setWorst('')
      setWhere('')
    }
  }
  return (
    <Sheet aria-label={`Course ${course} in one go`}>
      <h2 style={{ fontSize: 20 }}>
        Course {course} in one go{sheet.like ? `, as course ${sheet.like}` : ''}
      </h2>
      <ul>
        {sheet.lines.map((l) => (
          <li key={l.step.key}>
            <b>{l.step.stage.title}</b>
            <span>{say(l.words, units)}</span>
          </li>
        ))}
      </ul>
      {sheet.wantsLevel ? (
        <>
          <TextField value={worst} onChange={setWorst}>
            <Label style={{ fontSize: 15, color: 'var(--soft)' }}>
              Largest deviation of level, + is high, {smallUnit(units)}; limit ±{formatSmall(sheet.limit, units)}
            </Label>
            <Figure ref={input} inputMode="decimal" enterKeyHint="done" onKeyDown={(e) => e.key === 'Enter' && put()} />
          </TextField>
          {judged && value.ok ? (
            <Judgement $out={judged === 'out'} role="status">
              <b>
                {judged === 'out' ? '▲ ' : '✓ '}
                {formatDeviation(value.value, 'level', units)}
              </b>
              <span>
                {judged === 'out'
                  ? `only units and level are recorded, with the place where it was met; put it right first. ${say(limitsOf(state.layout.plan).courseLevel.reason, units)}`
                  : 'within limits'}
              </span>
            </Judgement>
          ) : null}
          {place || judged === 'out' ? (
            <AmountField label="Met at station" of="length" value={where} onChange={setWhere} />
          ) : (
            <Row>
              <Quiet onPress={() => setPlace(true)}>Say where it was met</Quiet>
            </Row>
          )}
        </>
      ) : null}
      <Stack style={{ gap: 6 }}>
        <NowButton isDisabled={busy || (sheet.wantsLevel && !worst.trim()) || (judged === 'out' && !where.trim())} onPress={put}>
          {judged === 'out' ? 'Record units and level' : `Record course ${course}`}
        </NowButton>
      </Stack>
      <Problems list={problems} />
    </Sheet>
  )
}
