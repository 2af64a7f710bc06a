'use client'

import { formatLength, formatSmall, formatStation, type GeogridData, LIMITS, layerSchedule, parseLength, rollBook } from '@stone-tally/core'
import { useMemo, useState } from 'react'
import { Caution, Check, Choice, Field, NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { Hero, Targets } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import { type WorkProps, whereOf } from './types'
import { useRecord } from './use-record'

/** A geogrid layer placed: roll, direction, tension, and what was driven over it. */
export function GridWork({ state, step, record, recheck }: WorkProps) {
  const { units } = usePreferences()
  const plan = step.grid ?? { course: 0, length: 0, type: '' }
  const metric = units === 'metric'
  const rolls = useMemo(() => rollBook(state).filter((r) => r.type === plan.type && r.left > plan.length), [state, plan.type, plan.length])
  const layer = useMemo(
    () => layerSchedule(state.layout).find((l) => l.section === step.section && l.course === step.course),
    [state.layout, step.section, step.course],
  )
  const [length, setLength] = useState(metric ? plan.length.toFixed(2) : formatLength(plan.length, units))
  const [front, setFront] = useState('')
  const [direction, setDirection] = useState<'across' | 'along'>('across')
  const [tight, setTight] = useState(false)
  const [roll, setRoll] = useState('')
  const [lot, setLot] = useState('')
  const [more, setMore] = useState(false)
  const [pins, setPins] = useState('')
  const [cover, setCover] = useState('')
  const [between, setBetween] = useState('')
  const [from, setFrom] = useState('')
  const [to, setTo] = useState('')
  const { busy, problems, setProblems, go } = useRecord(record)
  const put = async () => {
    const [long, small] = metric ? (['m', 'mm'] as const) : (['ft', 'in'] as const)
    const data: Partial<Record<keyof GeogridData, unknown>> = { type: plan.type, direction, tight }
    for (const [name, text, unit, must] of [
      ['length', length, long, true],
      ['front', front, small, true],
      ['cover', cover, small, false],
      ['between', between, small, false],
      ['from', from, long, false],
      ['to', to, long, false],
    ] as const) {
      if (!must && !text.trim()) continue
      const value = parseLength(text, unit)
      if (!value.ok) return setProblems(value.problems.map((p) => ({ ...p, field: name })))
      data[name] = value.value
    }
    if (pins.trim()) data.pins = Number(pins)
    if (roll.trim()) data.roll = roll.trim()
    if (lot.trim()) data.lot = lot.trim()
    await go([{ kind: 'geogrid', where: whereOf(step), data, ...(recheck ? { recheckOf: recheck.id } : {}) }])
  }
  const range = `${formatSmall(LIMITS.gridFrontMin.value, units)} to ${formatSmall(LIMITS.gridFrontMax.value, units)}`
  const pick = (name: string) => {
    setRoll(name)
    setLot(rolls.find((r) => r.roll === name)?.lot ?? '')
  }
  return (
    <Stack>
      <Hero value={formatLength(plan.length, units, 2)} unit="from the face" />
      <Targets
        list={[
          ['Type', plan.type],
          ['Front edge behind face', range],
          ['Strips', layer ? `${layer.strips}, ${formatStation(layer.from, units)} to ${formatStation(layer.to, units)}` : ''],
        ]}
      />
      {layer?.lies.map((l) => (
        <Caution key={`${l.kind} ${l.from}`}>{l.words}</Caution>
      ))}
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
          <Field label={`Length, ${metric ? 'm' : 'ft'}`} value={length} onChange={setLength} inputMode="decimal" />
        </div>
        <div style={{ flex: 1, minWidth: 90 }}>
          <Field label={`Front edge, ${metric ? 'mm' : 'in'}`} value={front} onChange={setFront} inputMode="decimal" />
        </div>
      </Row>
      {rolls.length > 0 ? (
        <Choice
          label="Roll"
          value={roll}
          options={rolls.slice(0, 6).map((r) => [r.roll, `${r.roll}, ${formatLength(r.left, units, 1)} left`] as const)}
          onChange={pick}
        />
      ) : (
        <Row>
          <div style={{ flex: 1, minWidth: 90 }}>
            <Field label="Roll" value={roll} onChange={setRoll} />
          </div>
          <div style={{ flex: 1, minWidth: 90 }}>
            <Field label="Lot" value={lot} onChange={setLot} />
          </div>
        </Row>
      )}
      <Check checked={tight} onChange={setTight}>
        Pulled tight and pinned, no traffic on it
      </Check>
      {more ? (
        <Row>
          <div style={{ flex: 1, minWidth: 90 }}>
            <Field label="Pins" value={pins} onChange={setPins} inputMode="numeric" />
          </div>
          <div style={{ flex: 1, minWidth: 130 }}>
            <Field label={`Fill before traffic, ${metric ? 'mm' : 'in'}`} value={cover} onChange={setCover} inputMode="decimal" />
          </div>
          <div style={{ flex: 1, minWidth: 130 }}>
            <Field label={`Soil between overlaps, ${metric ? 'mm' : 'in'}`} value={between} onChange={setBetween} inputMode="decimal" />
          </div>
          <div style={{ flex: 1, minWidth: 90 }}>
            <Field label={`From, ${metric ? 'm' : 'ft'}`} value={from} onChange={setFrom} inputMode="decimal" />
          </div>
          <div style={{ flex: 1, minWidth: 90 }}>
            <Field label="To" value={to} onChange={setTo} inputMode="decimal" />
          </div>
        </Row>
      ) : (
        <Row>
          <Quiet onPress={() => setMore(true)}>Pins, cover, part of the section</Quiet>
        </Row>
      )}
      <NowButton isDisabled={busy || !front.trim()} onPress={put}>
        {recheck ? 'Record re-check' : 'Record layer'}
      </NowButton>
      <Problems list={problems} />
    </Stack>
  )
}
