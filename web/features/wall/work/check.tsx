'use client'

import { useState } from 'react'
import { Check, Field, NowButton, Problems, Stack } from '@/ui/controls'
import { type WorkProps, whereOf } from './types'
import { useRecord } from './use-record'

/** A checklist: every item is a person's word. */
export function CheckWork({ step, record }: WorkProps) {
  const items = step.stage.work.type === 'check' ? step.stage.work.items : []
  const wants = step.stage.work.type === 'check' ? step.stage.work.detail : undefined
  const [ticked, setTicked] = useState<readonly string[]>([])
  const [detail, setDetail] = useState('')
  const { busy, problems, go } = useRecord(record)
  return (
    <Stack>
      <div>
        {items.map((i) => (
          <Check key={i.id} checked={ticked.includes(i.id)} onChange={(on) => setTicked(on ? [...ticked, i.id] : ticked.filter((t) => t !== i.id))}>
            {i.text}
          </Check>
        ))}
      </div>
      {wants ? <Field label={wants} value={detail} onChange={setDetail} /> : null}
      <NowButton
        isDisabled={busy || ticked.length === 0}
        onPress={() =>
          go([
            {
              kind: 'check',
              where: whereOf(step),
              data: { confirmed: items.filter((i) => ticked.includes(i.id)).map((i) => i.id), ...(detail.trim() ? { detail: detail.trim() } : {}) },
            },
          ])
        }
      >
        Record {ticked.length} of {items.length}
      </NowButton>
      <Problems list={problems} />
    </Stack>
  )
}
