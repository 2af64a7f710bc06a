'use client'

import {
  beddingAdvice,
  cellKey,
  failAll,
  formatSmall,
  limitsOf,
  ok,
  parseAmount,
  type Result,
  type Step,
  say,
  type WallState,
} from '@stone-tally/core'
import { useState } from 'react'
import { AmountField } from '@/ui/amount-field'
import { Field, NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'
import { useTyped } from './typed'
import type { Fact, Me, RecordResult } from './use-wall'
import { Foretold, foreseen } from './work/judged'
import { whereOf } from './work/types'
import { useRecord } from './work/use-record'

/** Single units of the first course under the spirit level, and which to lift or knock. */
export function UnitLevelPanel({
  state,
  step,
  may,
  me,
  record,
  recheck,
}: {
  state: WallState
  step: Step
  may: boolean
  me: Me
  record(facts: readonly Fact[]): Promise<RecordResult>
  /** Finding that a next reading re-checks. */
  recheck: string | undefined
}) {
  const { units } = usePreferences()
  const found = recheck ? state.byId.get(recheck)?.entry : undefined
  const own = found?.kind === 'unit-level' ? (found.data as { unit: number }).unit : undefined
  const [open, setOpen] = useState(false)
  const scope = `unit ${step.key}|${recheck ?? ''}|${units}`
  const [unit, setUnit] = useTyped(scope, 'unit')
  const [along, setAlong] = useTyped(scope, 'along')
  const [across, setAcross] = useTyped(scope, 'across')
  const [diagonal, setDiagonal] = useTyped(scope, 'diagonal')
  const { busy, problems, setProblems, go } = useRecord(record)
  const cell = state.layout.cells.get(cellKey(step.section ?? '', step.course ?? 0))
  if (!cell || cell.pad === 'none' || !step.section) return null
  const advice = beddingAdvice(state, step.section, cell.course)
  const read = (): Result<Fact> => {
    const data: Record<string, number> = { unit: own ?? Number(unit) }
    for (const [name, text] of [
      ['along', along],
      ['across', across],
      ['diagonal', diagonal],
    ] as const) {
      if (!text.trim()) continue
      const value = parseAmount(text, 'small', units)
      if (!value.ok) return failAll(value.problems.map((p) => ({ ...p, field: name })))
      data[name] = value.value
    }
    return ok({ kind: 'unit-level', where: whereOf(step), data, ...(own === undefined ? {} : { recheckOf: recheck }) })
  }
  const now = read()
  const begun = (along + across + diagonal).trim() !== ''
  const put = async () => {
    if (!now.ok) return setProblems(now.problems)
    if (await go([now.value])) {
      setUnit(own === undefined ? `${Math.min(cell.pieces.length, Number(unit) + 1)}` : '')
      setAlong('')
      setAcross('')
      setDiagonal('')
    }
  }
  const field = (label: string, value: string, set: (v: string) => void, hint: string) => (
    <div style={{ flex: 1, minWidth: 84 }}>
      <AmountField label={label} of="small" value={value} onChange={set} hint={hint} />
    </div>
  )
  return (
    <Stack style={{ gap: 10, borderTop: '1px solid var(--line)', paddingTop: 10 }}>
      {advice.length > 0 ? (
        <div>
          <h2 className="minor">Lift or knock</h2>
          <ul style={{ margin: '4px 0 0', paddingLeft: 18 }}>
            {advice.map((a) => (
              <li key={`${a.unit} ${a.what}`}>
                <strong>
                  Unit {a.unit}: {say(a.what, units)}
                </strong>{' '}
                {say(a.left, units)}
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      {may && (open || own !== undefined) ? (
        <>
          <Row>
            {own === undefined ? (
              <div style={{ flex: 1, minWidth: 70 }}>
                <Field label="Unit" value={unit} onChange={setUnit} inputMode="numeric" hint={`1 to ${cell.pieces.length}`} />
              </div>
            ) : (
              <strong style={{ alignSelf: 'center' }}>Unit {own}</strong>
            )}
            {field('Along', along, setAlong, '+ far end high')}
            {field('Across', across, setAcross, '+ back high')}
            {field('Corner', diagonal, setDiagonal, '+ far back high')}
          </Row>
          <Foretold
            of={now.ok && begun ? foreseen(state, me, now.value) : undefined}
            otherwise={now.ok ? 'It is judged as you type.' : `${now.problems[0]?.field} ${now.problems[0]?.message}`}
          />
          <NowButton isDisabled={busy || (own === undefined && !unit.trim()) || !(along + across + diagonal).trim()} onPress={put}>
            {own === undefined ? 'Record this unit' : 'Record re-check of this unit'}
          </NowButton>
          <Problems list={problems} />
        </>
      ) : may ? (
        <Row>
          <Quiet onPress={() => setOpen(true)}>One unit under the level, ±{formatSmall(limitsOf(state.layout.plan).unitLevel.value, units)}</Quiet>
        </Row>
      ) : null}
    </Stack>
  )
}
