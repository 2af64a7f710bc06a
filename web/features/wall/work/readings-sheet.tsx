'use client'

import {
  deviationOf,
  formatDeviation,
  formatStation,
  limitAt,
  limitsOf,
  type Problem,
  parseLength,
  type ReadingData,
  say,
  slip,
  targetAt,
} from '@stone-tally/core'
import { useState } from 'react'
import styled from 'styled-components'
import { Field, NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'
import { useTypedForm } from '../typed'
import type { Fact } from '../use-wall'
import { type WorkProps, whereOf } from './types'
import type { useReadings } from './use-readings'
import { useRecord } from './use-record'

const Sheet = styled.div`
  display: grid; grid-template-columns: repeat(auto-fill, minmax(150px, 1fr)); gap: 12px; border-top: 1px solid var(--line); padding-top: 10px;
`

/** From so many points on a sheet saves presses; of fewer the next point is asked for by itself. */
const WORTH = 3

/**
 * The readings of a step as a helper calls them out: one field a point, judged as it is typed, all of them recorded by one press. Each is
 * an entry of its own, exactly as if it were recorded alone; what is left empty is not read.
 */
export function ReadingsSheet({
  state,
  step,
  record,
  of,
  nameOf,
}: Pick<WorkProps, 'state' | 'step' | 'record'> & {
  of: ReturnType<typeof useReadings>
  /** A line across the pad by name, empty where there is one only. */
  nameOf(offset: number | undefined): string
}) {
  const { units } = usePreferences()
  const { v, set, letGo, begun } = useTypedForm<Readonly<Record<string, string>>>(`sheet ${step.key} ${of.method} ${units}`, {})
  const [open, setOpen] = useState(false)
  const [sure, setSure] = useState(false)
  const { busy, problems, setProblems, go } = useRecord(record)
  const { work } = step.stage
  const left = of.points.filter((p) => !p.entry)
  if (work.type !== 'readings' || left.length < WORTH || of.from === undefined) return null
  if (!open && !begun) {
    return (
      <Row>
        <Quiet onPress={() => setOpen(true)}>{`All ${left.length} points on one sheet`}</Quiet>
      </Row>
    )
  }
  const from = of.from
  const rows = left.map((p) => {
    const key = `${p.station}|${p.offset ?? ''}`
    const typed = v[key] ?? ''
    const at = { station: p.station, course: step.course }
    const value = parseLength(typed, of.bare)
    const data: ReadingData | undefined = value.ok
      ? { method: of.method, value: value.value, ...(of.method === 'rod' ? { hi: from } : of.method === 'string' ? { string: from } : {}) }
      : undefined
    const deviation = data && deviationOf(data, targetAt(state.layout, work.target, at))
    return {
      key,
      typed,
      name: `${formatStation(p.station, units)}${nameOf(p.offset)}`,
      fact: data && ({ kind: 'reading', where: whereOf(step, p.station, p.offset), data } satisfies Fact),
      wrong: typed.trim() && !value.ok ? (value.problems[0] as Problem) : undefined,
      deviation,
      out: deviation !== undefined && Math.abs(deviation) > limitAt(state.layout, step.stage, at).value + 0.0001,
      odd: deviation !== undefined && Math.abs(deviation) > limitsOf(state.layout.plan).questionable.value,
    }
  })
  const facts = rows.flatMap((r) => (r.fact ? [r.fact] : []))
  const odd = rows.some((r) => r.odd)
  const put = async () => {
    const wrong = rows.flatMap((r) => (r.wrong ? [{ ...r.wrong, field: r.name }] : []))
    if (wrong.length > 0) return setProblems(wrong)
    if (odd && !sure) return setSure(true)
    if (await go(facts)) {
      letGo()
      setSure(false)
    }
  }
  return (
    <Stack role="group" aria-label="All points on one sheet">
      <Sheet>
        {rows.map((r) => (
          <Field
            key={r.key}
            label={`At ${r.name}, ${of.bare}`}
            value={r.typed}
            onChange={(text) => {
              setSure(false)
              set({ [r.key]: text })
            }}
            inputMode="decimal"
            hint={
              r.deviation === undefined
                ? r.wrong
                  ? say(r.wrong.message, units)
                  : ' '
                : r.odd
                  ? `▲ ${slip(r.deviation) ?? 'far off: did a digit slip?'}`
                  : `${r.out ? '▲ ' : '✓ '}${formatDeviation(r.deviation, of.sense, units)}`
            }
          />
        ))}
      </Sheet>
      <NowButton isDisabled={busy || facts.length === 0} onPress={put}>
        {odd && sure ? 'They are right: record' : `Record ${facts.length} of ${rows.length} readings`}
      </NowButton>
      <Problems list={problems} />
    </Stack>
  )
}
