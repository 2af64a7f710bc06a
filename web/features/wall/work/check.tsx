'use client'

import { type CheckMeasure, formatSmall, LIMITS, type LimitName, parseLength } from '@stone-tally/core'
import { useState } from 'react'
import { Button, Check, Field, NowButton, Problems, Row, Stack } from '@/ui/controls'
import { Targets } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import { type WorkProps, whereOf } from './types'
import { useRecord } from './use-record'

/** A checklist: every item is a person's word; what can be measured with it is measured. */
export function CheckWork({ step, record, recheck }: WorkProps) {
  const { units } = usePreferences()
  const work = step.stage.work.type === 'check' ? step.stage.work : undefined
  const items = work?.items ?? []
  const measures = work?.measures ?? []
  const [ticked, setTicked] = useState<readonly string[]>([])
  const [sizes, setSizes] = useState<Readonly<Record<string, string>>>({})
  const [detail, setDetail] = useState('')
  const { busy, problems, setProblems, go } = useRecord(record)
  const put = async (confirmed: readonly string[]) => {
    const measured: { id: string; value: number }[] = []
    for (const m of measures) {
      const typed = sizes[m.id]?.trim()
      if (!typed) continue
      const value = parseLength(typed, units === 'metric' ? 'mm' : 'in')
      if (!value.ok) return setProblems(value.problems.map((p) => ({ ...p, field: m.text })))
      measured.push({ id: m.id, value: value.value })
    }
    await go([
      {
        kind: 'check',
        where: whereOf(step),
        data: {
          confirmed: items.filter((i) => confirmed.includes(i.id)).map((i) => i.id),
          ...(detail.trim() ? { detail: detail.trim() } : {}),
          ...(measured.length > 0 ? { measured } : {}),
        },
        ...(recheck ? { recheckOf: recheck.id } : {}),
      },
    ])
  }
  const all = items.map((i) => i.id)
  return (
    <Stack>
      <div>
        {items.map((i) => (
          <Check key={i.id} checked={ticked.includes(i.id)} onChange={(on) => setTicked(on ? [...ticked, i.id] : ticked.filter((t) => t !== i.id))}>
            {i.text}
          </Check>
        ))}
      </div>
      {measures.length > 0 ? (
        <>
          <Targets list={measures.map((m) => [m.text, rangeOf(m, units)])} />
          {measures.map((m) => (
            <Field
              key={m.id}
              label={`${m.text}, ${units === 'metric' ? 'mm' : 'in'}`}
              value={sizes[m.id] ?? ''}
              onChange={(v) => setSizes({ ...sizes, [m.id]: v })}
              inputMode="decimal"
            />
          ))}
        </>
      ) : null}
      {work?.detail ? <Field label={work.detail} value={detail} onChange={setDetail} /> : null}
      <Row>
        {ticked.length < items.length ? (
          <Button isDisabled={busy} onPress={() => setTicked(all)}>
            All of these
          </Button>
        ) : null}
        <NowButton style={{ flex: 1 }} isDisabled={busy || ticked.length === 0} onPress={() => put(ticked)}>
          {recheck ? 'Record re-check' : `Record ${ticked.length} of ${items.length}`}
        </NowButton>
      </Row>
      <Problems list={problems} />
    </Stack>
  )
}

/** @example rangeOf({ id: 'cover', text: 'Stone', least: 'pipeCover' }, 'metric') // 'at least 150 mm' */
export function rangeOf(m: CheckMeasure, units: 'metric' | 'imperial'): string {
  const of = (name: string | undefined) => (name ? formatSmall(LIMITS[name as LimitName].value, units) : undefined)
  const [least, most] = [of(m.least), of(m.most)]
  return least && most ? `${least} to ${most}` : least ? `at least ${least}` : `at most ${most ?? ''}`
}
