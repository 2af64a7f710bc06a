'use client'

import { formatLength, formatSmall, LIMITS, parseLength } from '@stone-tally/core'
import { useState } from 'react'
import { Check, Choice, Field, NowButton, Problems, Row, Stack } from '@/ui/controls'
import { Hero, Targets } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import { type WorkProps, whereOf } from './types'
import { useRecord } from './use-record'

/** A geogrid layer placed. */
export function GridWork({ step, record, recheck }: WorkProps) {
  const { units } = usePreferences()
  const plan = step.grid ?? { course: 0, length: 0, type: '' }
  const [length, setLength] = useState(units === 'metric' ? plan.length.toFixed(2) : formatLength(plan.length, units))
  const [front, setFront] = useState(units === 'metric' ? '40' : '1 1/2')
  const [direction, setDirection] = useState<'across' | 'along'>('across')
  const [tight, setTight] = useState(false)
  const [roll, setRoll] = useState('')
  const { busy, problems, setProblems, go } = useRecord(record)
  const put = async () => {
    const l = parseLength(length, units === 'metric' ? 'm' : 'ft')
    const f = parseLength(front, units === 'metric' ? 'mm' : 'in')
    if (!l.ok) return setProblems(l.problems)
    if (!f.ok) return setProblems(f.problems)
    const data = { type: plan.type, length: l.value, front: f.value, direction, tight, ...(roll.trim() ? { roll: roll.trim() } : {}) }
    await go([{ kind: 'geogrid', where: whereOf(step), data, ...(recheck ? { recheckOf: recheck.id } : {}) }])
  }
  const range = `${formatSmall(LIMITS.gridFrontMin.value, units)} to ${formatSmall(LIMITS.gridFrontMax.value, units)}`
  return (
    <Stack>
      <Hero value={formatLength(plan.length, units, 2)} unit="from the face" />
      <Targets
        list={[
          ['Type', plan.type],
          ['Front edge behind face', range],
          ['Strength', 'across the wall'],
        ]}
      />
      <Choice
        label="Strength direction"
        value={direction}
        options={[
          ['across', 'Across the wall'],
          ['along', 'Along the wall'],
        ]}
        onChange={setDirection}
      />
      <Row>
        <div style={{ flex: 1, minWidth: 90 }}>
          <Field label={`Length, ${units === 'metric' ? 'm' : 'ft'}`} value={length} onChange={setLength} inputMode="decimal" />
        </div>
        <div style={{ flex: 1, minWidth: 90 }}>
          <Field label={`Front edge, ${units === 'metric' ? 'mm' : 'in'}`} value={front} onChange={setFront} inputMode="decimal" />
        </div>
        <div style={{ flex: 1, minWidth: 90 }}>
          <Field label="Roll, lot" value={roll} onChange={setRoll} />
        </div>
      </Row>
      <Check checked={tight} onChange={setTight}>
        Pulled tight and pinned, no traffic on it
      </Check>
      <NowButton isDisabled={busy} onPress={put}>
        {recheck ? 'Record re-check' : 'Record layer'}
      </NowButton>
      <Problems list={problems} />
    </Stack>
  )
}
