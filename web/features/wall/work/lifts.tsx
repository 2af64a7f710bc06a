'use client'

import {
  formatSmall,
  type Instrument,
  LIMITS,
  type LiftData,
  looksLikeShare,
  PLANT_NAMES,
  parseLength,
  SQUEEZE,
  type Squeeze,
  TOOLS,
} from '@stone-tally/core'
import { useState } from 'react'
import { TakeReading } from '@/features/instruments'
import { Caution, Choice, Field, NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { Hero, Targets } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import { type WorkProps, whereOf } from './types'
import { useRecord } from './use-record'

const PLANT = Object.entries(PLANT_NAMES) as [LiftData['plant'], string][]
const HAND: readonly (readonly [Squeeze, string])[] = SQUEEZE.map((s) => [s.id, s.name] as const)

/** A lift placed and compacted; moisture by hand or meter, stretch and fabric where they matter. */
export function LiftsWork({ state, step, status, record, recheck }: WorkProps) {
  const { units } = usePreferences()
  const plan = step.lifts ?? { count: 1, compacted: 0.1, loose: 0.12 }
  const next = Math.min(status.done + 1, plan.count)
  const small = (m: number) => (units === 'metric' ? `${Math.round(m * 1000)}` : formatSmall(m, units).replace('"', ''))
  const [thickness, setThickness] = useState(small(plan.compacted))
  const [passes, setPasses] = useState(`${LIMITS.passes.value}`)
  const [plant, setPlant] = useState<LiftData['plant']>('light-plate')
  const [density, setDensity] = useState('')
  const [squeeze, setSqueeze] = useState<Squeeze>()
  const [moisture, setMoisture] = useState('')
  const [more, setMore] = useState(false)
  const [from, setFrom] = useState('')
  const [to, setTo] = useState('')
  const [lap, setLap] = useState('')
  const [near, setNear] = useState('')
  const [soil, setSoil] = useState('')
  const [placed, setPlaced] = useState('')
  const [taken, setTaken] = useState<Instrument>()
  const { busy, problems, setProblems, go } = useRecord(record)
  // Changed by hand it is no longer the probe's.
  const typeMoisture = (v: string) => {
    setMoisture(v)
    setTaken(undefined)
  }
  const tool = TOOLS.find((t) => t.plant === plant)
  const pad = step.stage.work.type === 'lifts' && step.stage.work.of === 'pad'
  const loose = plan.loose
  const tooThick = tool && loose > (pad ? tool.granular : tool.fine) + 0.001
  const wet = SQUEEZE.find((s) => s.id === squeeze)
  const section = state.layout.plan.sections.find((s) => s.id === step.section)
  const put = async () => {
    const small1 = units === 'metric' ? 'mm' : 'in'
    const long = units === 'metric' ? 'm' : 'ft'
    const t = parseLength(thickness, small1)
    if (!t.ok) return setProblems(t.problems)
    const optional = (text: string, bare: 'm' | 'ft' | 'mm' | 'in') => (text.trim() ? parseLength(text, bare) : undefined)
    const [a, b, l, n, p] = [optional(from, long), optional(to, long), optional(lap, small1), optional(near, long), optional(placed, small1)]
    for (const r of [a, b, l, n, p]) if (r && !r.ok) return setProblems(r.problems)
    const percent = moisture.trim() ? Number(moisture.replace(',', '.')) : undefined
    if (percent !== undefined && looksLikeShare(percent)) {
      return setProblems([
        { field: 'moisture', message: `${percent} looks like a share; moisture is in per cent, so write ${+(percent * 100).toFixed(2)}` },
      ])
    }
    const data = {
      lift: next,
      thickness: t.value,
      passes: Number(passes),
      plant,
      ...(density.trim() ? { compaction: Number(density.replace(',', '.')) } : {}),
      ...(squeeze ? { squeeze } : {}),
      ...(percent === undefined ? {} : { moisture: percent }),
      ...(a?.ok ? { from: a.value } : {}),
      ...(b?.ok ? { to: b.value } : {}),
      ...(l?.ok ? { fabricLap: l.value } : {}),
      ...(n?.ok ? { near: n.value } : {}),
      ...(p?.ok ? { loose: p.value } : {}),
      ...(soil.trim() ? { soil: soil.trim() } : {}),
    }
    const done = await go([
      {
        kind: 'lift',
        where: whereOf(step),
        data,
        ...(recheck ? { recheckOf: recheck.id } : {}),
        ...(taken && percent !== undefined ? { instrument: taken } : {}),
      },
    ])
    if (done) {
      setSqueeze(undefined)
      setMoisture('')
    }
  }
  return (
    <Stack>
      <Hero value={`${next}`} unit={`of ${plan.count} lifts`} />
      <Targets
        list={[
          ['Compacted', formatSmall(plan.compacted, units)],
          ['Place loose', formatSmall(loose, units)],
          ['Passes', `${Math.max(LIMITS.passes.value, tool?.passes ?? 0)} with the ${PLANT_NAMES[plant]}`],
        ]}
      />
      <Row>
        <div style={{ flex: 1, minWidth: 100 }}>
          <Field label={`Thickness, ${units === 'metric' ? 'mm' : 'in'}`} value={thickness} onChange={setThickness} inputMode="decimal" />
        </div>
        <div style={{ flex: 1, minWidth: 80 }}>
          <Field label="Passes" value={passes} onChange={setPasses} inputMode="numeric" />
        </div>
        <div style={{ flex: 1, minWidth: 100 }}>
          <Field label="Density %, if tested" value={density} onChange={setDensity} inputMode="decimal" />
        </div>
      </Row>
      <Choice label="Compacted with" value={plant} options={PLANT} onChange={setPlant} />
      {!pad && (plant === 'roller' || plant === 'heavy-plate') ? (
        <Field
          label={`Nearest to the face, ${units === 'metric' ? 'm' : 'ft'}`}
          value={near}
          onChange={setNear}
          inputMode="decimal"
          hint={LIMITS.plantStandoff.reason}
        />
      ) : null}
      {tooThick && tool ? (
        <Caution>
          {formatSmall(loose, units)} loose is more than a {PLANT_NAMES[plant]} reaches through ({formatSmall(pad ? tool.granular : tool.fine, units)}
          ): thinner lifts, or heavier plant.
        </Caution>
      ) : null}
      <Choice label="Squeezed in the fist, it" value={squeeze ?? ('' as Squeeze)} options={HAND} onChange={setSqueeze} />
      {wet?.out ? <Caution>{wet.text}</Caution> : null}
      {more ? (
        <>
          <Row>
            <Field label="Moisture by meter, %" value={moisture} onChange={typeMoisture} inputMode="decimal" />
            <Field
              label={`From, ${units === 'metric' ? 'm' : 'ft'}`}
              value={from}
              onChange={setFrom}
              inputMode="decimal"
              hint={section ? `the whole of ${section.id} when empty` : undefined}
            />
            <Field label="To" value={to} onChange={setTo} inputMode="decimal" />
            <Field label={`Placed loose, ${units === 'metric' ? 'mm' : 'in'}`} value={placed} onChange={setPlaced} inputMode="decimal" />
            <Field label="Soil placed" value={soil} onChange={setSoil} />
            {pad ? <Field label={`Fabric lap below, ${units === 'metric' ? 'mm' : 'in'}`} value={lap} onChange={setLap} inputMode="decimal" /> : null}
          </Row>
          <TakeReading
            kind="moisture-probe"
            scene={{}}
            onTaken={(v, i) => {
              setMoisture((v.moisture ?? 0).toFixed(1))
              setTaken(i)
            }}
          />
        </>
      ) : (
        <Row>
          <Quiet onPress={() => setMore(true)}>Moisture by meter, stretch, fabric</Quiet>
        </Row>
      )}
      <NowButton isDisabled={busy} onPress={put}>
        {recheck ? 'Record re-check' : `Record lift ${next}`}
      </NowButton>
      <Problems list={problems} />
    </Stack>
  )
}
