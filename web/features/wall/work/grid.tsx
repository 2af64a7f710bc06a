'use client'

import {
  failAll,
  formatLength,
  formatSmall,
  formatStation,
  type GeogridData,
  layerEdge,
  layerSchedule,
  ok,
  type Problem,
  parseLength,
  type Result,
  rollBook,
  say,
  smallUnit,
} from '@stone-tally/core'
import { useMemo, useState } from 'react'
import { AmountField } from '@/ui/amount-field'
import { Caution, Check, Choice, Field, NowButton, Problems, Quiet, RecordRow, Row, WorkStack } from '@/ui/controls'
import { Hero, Targets } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import { useTyped } from '../typed'
import { Judged, judge } from './judged'
import { type WorkProps, whereOf } from './types'
import { useRecord } from './use-record'

/** A geogrid layer placed: roll, direction, tension, and what was driven over it. */
export function GridWork({ state, step, me, record, recheck }: WorkProps) {
  const { units } = usePreferences()
  const plan = step.grid ?? { course: 0, length: 0, type: '' }
  const metric = units === 'metric'
  const rolls = useMemo(() => rollBook(state).filter((r) => r.type === plan.type && r.left > plan.length), [state, plan.type, plan.length])
  const layer = useMemo(
    () => layerSchedule(state.layout).find((l) => l.section === step.section && l.course === step.course),
    [state.layout, step.section, step.course],
  )
  const scope = `${step.key}|${recheck?.id ?? ''}|${units}`
  // Where one roll alone is long enough it is that one.
  const only = rolls.length === 1 ? rolls[0] : undefined
  // A re-check is of the same layer from the same roll until somebody says otherwise.
  const found = recheck && state.byId.get(recheck.id)?.entry.kind === 'geogrid' ? (state.byId.get(recheck.id)?.entry.data as GeogridData) : undefined
  const asLong = (m: number | undefined) => (m === undefined ? '' : metric ? m.toFixed(2) : formatLength(m, units))
  const [length, setLength, noLength] = useTyped(scope, 'length', asLong(plan.length))
  const [front, setFront, noFront] = useTyped(scope, 'front')
  const [direction, setDirection] = useState<'across' | 'along'>('across')
  const [tight, setTight] = useState(false)
  const [roll, setRoll, noRoll] = useTyped(scope, 'roll', found?.roll ?? only?.roll ?? '')
  const [lot, setLot, noLot] = useTyped(scope, 'lot', found?.lot ?? only?.lot ?? '')
  const [more, setMore] = useState(found?.from !== undefined)
  const [pins, setPins, noPins] = useTyped(scope, 'pins')
  const [cover, setCover, noCover] = useTyped(scope, 'cover')
  const [between, setBetween, noBetween] = useTyped(scope, 'between')
  const [from, setFrom, noFrom] = useTyped(scope, 'from', asLong(found?.from))
  const [to, setTo, noTo] = useTyped(scope, 'to', asLong(found?.to))
  /** The plan names the roll this layer is cut from, so the record says which one it was. */
  const wantsRoll = state.layout.building.rolls.some((r) => r.type === plan.type)
  const { busy, problems, setProblems, go } = useRecord(record)
  const read = (): Result<Partial<Record<keyof GeogridData, unknown>>> => {
    const [long, small] = [metric ? ('m' as const) : ('ft' as const), smallUnit(units)]
    const data: Partial<Record<keyof GeogridData, unknown>> = { type: plan.type, direction, tight }
    const bad: Problem[] = []
    for (const [name, label, text, unit, must] of [
      ['length', 'Length', length, long, true],
      ['front', 'Front edge', front, small, true],
      ['cover', 'Fill before traffic', cover, small, false],
      ['between', 'Soil between overlaps', between, small, false],
      ['from', 'From', from, long, false],
      ['to', 'To', to, long, false],
    ] as const) {
      if (!must && !text.trim()) continue
      const value = parseLength(text, unit)
      if (value.ok) data[name] = value.value
      else bad.push({ field: label, message: text.trim() ? (value.problems[0]?.message ?? '') : 'is missing' })
    }
    if (pins.trim()) data.pins = Number(pins)
    if (roll.trim()) data.roll = roll.trim()
    if (lot.trim()) data.lot = lot.trim()
    if (wantsRoll && !roll.trim()) bad.push({ field: 'Roll', message: 'is missing; the plan says which rolls its layers are cut from' })
    return bad.length > 0 ? failAll(bad) : ok(data)
  }
  const now = read()
  const verdict = now.ok ? judge(state, me, { kind: 'geogrid', where: whereOf(step), data: now.value }) : undefined
  const put = async () => {
    if (!now.ok) return setProblems(now.problems)
    const done = await go([{ kind: 'geogrid', where: whereOf(step), data: now.value, ...(recheck ? { recheckOf: recheck.id } : {}) }])
    if (done) for (const letGo of [noLength, noFront, noRoll, noLot, noPins, noCover, noBetween, noFrom, noTo]) letGo()
  }
  const edge = layerEdge(state.layout.plan, step.course ?? 1)
  const range = `${formatSmall(edge.least, units)} to ${formatSmall(edge.most, units)}`
  const pick = (name: string) => {
    setRoll(name)
    setLot(rolls.find((r) => r.roll === name)?.lot ?? '')
  }
  return (
    <WorkStack>
      <Hero value={formatLength(plan.length, units, 2)} unit="from the face" />
      <Targets
        list={[
          ['Type', plan.type],
          ['Front edge behind face', range],
          ['Strips', layer ? `${layer.strips}, ${formatStation(layer.from, units)} to ${formatStation(layer.to, units)}` : ''],
        ]}
      />
      {layer?.lies.map((l) => (
        <Caution key={`${l.kind} ${l.from}`}>{say(l.words, units)}</Caution>
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
          <AmountField label="Length" of="length" value={length} onChange={setLength} />
        </div>
        <div style={{ flex: 1, minWidth: 90 }}>
          <AmountField label="Front edge" of="small" value={front} onChange={setFront} />
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
            <AmountField label="Fill before traffic" of="small" value={cover} onChange={setCover} />
          </div>
          <div style={{ flex: 1, minWidth: 130 }}>
            <AmountField label="Soil between overlaps" of="small" value={between} onChange={setBetween} />
          </div>
          <div style={{ flex: 1, minWidth: 90 }}>
            <AmountField label="From" of="length" value={from} onChange={setFrom} />
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
      <Judged verdict={verdict} otherwise={now.ok ? '' : `${now.problems[0]?.field} ${now.problems[0]?.message}`} />
      <RecordRow>
        <NowButton style={{ flex: 1 }} isDisabled={busy || !front.trim()} onPress={put}>
          {recheck ? 'Record re-check' : 'Record layer'}
        </NowButton>
      </RecordRow>
      <Problems list={problems} />
    </WorkStack>
  )
}
