'use client'

import { formatDeviation, formatSmall, limitAt, parseAmount, readPointByPoint } from '@stone-tally/core'
import { useState } from 'react'
import { AmountField } from '@/ui/amount-field'
import { Button, NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'
import { useTypedForm } from '../typed'
import type { Fact } from '../use-wall'
import { Foretold, foreseen } from './judged'
import { type WorkProps, whereOf } from './types'
import { useRecord } from './use-record'

/** The rod, level or eye run along the whole course: its largest deviation stands for every point not read by itself. */
export function RunAlong({ state, step, me, record }: Pick<WorkProps, 'state' | 'step' | 'me' | 'record'>) {
  const { units } = usePreferences()
  const [open, setOpen] = useState(false)
  const { v, set, letGo } = useTypedForm(`along ${step.key} ${units}`, { worst: '', at: '' })
  const { worst, at } = v
  const { busy, problems, setProblems, go } = useRecord(record)
  const { work } = step.stage
  const along = step.course !== undefined && !readPointByPoint(state.layout, step.stage, step.section ?? '', step.course)
  // What is copied by every course above, and what is buried, is read point by point.
  if (work.type !== 'readings' || step.stage.scope !== 'course' || step.stage.when === 'first' || !along) return null
  const level = work.sense === 'level'
  const limit = formatSmall(limitAt(state.layout, step.stage, { section: step.section, course: step.course, station: step.points[0] }).value, units)
  const value = parseAmount(worst, 'small', units)
  const place = at.trim() ? parseAmount(at, 'length', units) : undefined
  const tried: Fact | undefined =
    value.ok && (!place || place.ok) ? { kind: 'sighting', where: whereOf(step, place?.value), data: { worst: value.value } } : undefined
  const put = async () => {
    if (!worst.trim() && !level) return void (await go([{ kind: 'sighting', where: whereOf(step), data: {} }]))
    const where = at.trim() ? parseAmount(at, 'length', units) : undefined
    if (!value.ok) return setProblems(value.problems.map((p) => ({ ...p, field: 'Largest deviation' })))
    if (where && !where.ok) return setProblems(where.problems.map((p) => ({ ...p, field: 'Where' })))
    if (await go([{ kind: 'sighting', where: whereOf(step, where?.value), data: { worst: value.value } }])) letGo()
  }
  if (!open) {
    return (
      <Row>
        <Quiet onPress={() => setOpen(true)}>{level ? 'Run along: largest deviation only' : 'Sighted along, or largest deviation only'}</Quiet>
      </Row>
    )
  }
  return (
    <Stack style={{ borderTop: '1px solid var(--line)', paddingTop: 10 }}>
      {level ? null : (
        <Button
          isDisabled={busy}
          onPress={() => {
            letGo()
            go([{ kind: 'sighting', where: whereOf(step), data: {} }])
          }}
        >
          Sighted along: nothing over ±{limit}
        </Button>
      )}
      <Row>
        <div style={{ flex: 1, minWidth: 120 }}>
          <AmountField
            label="Largest met"
            of="small"
            value={worst}
            onChange={(worst) => set({ worst })}
            hint={worst.trim() && value.ok ? formatDeviation(value.value, work.sense, units) : `limit ±${limit}`}
          />
        </div>
        <div style={{ flex: 1, minWidth: 100 }}>
          <AmountField label="At station" of="length" value={at} onChange={(at) => set({ at })} hint=" " />
        </div>
      </Row>
      <Foretold of={tried && foreseen(state, me, tried)} otherwise="It is judged as you type." />
      <NowButton isDisabled={busy || !worst.trim()} onPress={put}>
        Record for the whole course
      </NowButton>
      <Problems list={problems} />
    </Stack>
  )
}
