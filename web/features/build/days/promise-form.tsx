'use client'

import type { PromiseData } from '@stone-tally/core'
import { useState } from 'react'
import type { Fact } from '@/features/wall'
import { Field, NowButton, Quiet, Row, Stack } from '@/ui/controls'
import { dayWords, fullDay } from '@/ui/day-words'

/** A day is promised to somebody by name; what it takes the place of stands beside it. */
export function PromiseForm({
  day,
  before,
  busy,
  go,
}: {
  day: string
  before: PromiseData | undefined
  busy: boolean
  go(facts: readonly Fact[]): Promise<boolean>
}) {
  const [open, setOpen] = useState(false)
  const [to, setTo] = useState(before?.to ?? '')
  if (!open) return <NowButton onPress={() => setOpen(true)}>Promise {dayWords(day)} …</NowButton>
  const who = to.trim()
  return (
    <Stack style={{ gap: 8 }}>
      <Field label="To whom" value={to} onChange={setTo} autoFocus />
      <div>
        Recorded: done by {fullDay(day)}, in nine of ten{who ? `, to ${who}` : ''}.
        {before ? ` It takes the place of ${fullDay(before.finish)}${before.to ? ` to ${before.to}` : ''}.` : ''}
      </div>
      <Row>
        <NowButton
          isDisabled={busy || who.length < 2}
          onPress={async () => {
            if (await go([{ kind: 'promise', where: {}, data: { finish: day, odds: 90, to: who } }])) setOpen(false)
          }}
        >
          {who.length < 2 ? 'Promise it · missing: to whom' : 'Promise it'}
        </NowButton>
        <Quiet onPress={() => setOpen(false)}>Not now</Quiet>
      </Row>
    </Stack>
  )
}
