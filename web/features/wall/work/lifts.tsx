'use client'

import { formatSmall, LIMITS, type LiftData, PLANT_NAMES, parseLength } from '@stone-tally/core'
import { useState } from 'react'
import { Choice, Field, NowButton, Problems, Row, Stack } from '@/ui/controls'
import { Hero, Targets } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import { type WorkProps, whereOf } from './types'
import { useRecord } from './use-record'

const PLANT = Object.entries(PLANT_NAMES) as [LiftData['plant'], string][]

/** A lift placed and compacted. */
export function LiftsWork({ step, status, record, recheck }: WorkProps) {
  const { units } = usePreferences()
  const plan = step.lifts ?? { count: 1, compacted: 0.1, loose: 0.12 }
  const next = Math.min(status.done + 1, plan.count)
  const small = (m: number) => (units === 'metric' ? `${Math.round(m * 1000)}` : formatSmall(m, units).replace('"', ''))
  const [thickness, setThickness] = useState(small(plan.compacted))
  const [passes, setPasses] = useState(`${LIMITS.passes.value}`)
  const [plant, setPlant] = useState<LiftData['plant']>('light-plate')
  const [density, setDensity] = useState('')
  const { busy, problems, setProblems, go } = useRecord(record)
  const put = async () => {
    const t = parseLength(thickness, units === 'metric' ? 'mm' : 'in')
    if (!t.ok) return setProblems(t.problems)
    const data = {
      lift: next,
      thickness: t.value,
      passes: Number(passes),
      plant,
      ...(density.trim() ? { compaction: Number(density.replace(',', '.')) } : {}),
    }
    await go([{ kind: 'lift', where: whereOf(step), data, ...(recheck ? { recheckOf: recheck.id } : {}) }])
  }
  return (
    <Stack>
      <Hero value={`${next}`} unit={`of ${plan.count} lifts`} />
      <Targets
        list={[
          ['Compacted', formatSmall(plan.compacted, units)],
          ['Place loose', formatSmall(plan.loose, units)],
          ['Passes', `${LIMITS.passes.value} or more`],
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
      <NowButton isDisabled={busy} onPress={put}>
        {recheck ? 'Record re-check' : `Record lift ${next}`}
      </NowButton>
      <Problems list={problems} />
    </Stack>
  )
}
