'use client'

import { answerOf, LOOKS_AS, live, mayRecord, type RecordedEntry, type RequestData, request, type Step, type WallState } from '@stone-tally/core'
import { useCallback, useEffect, useState } from 'react'
import { ask, send } from '@/device/send'
import { Button, Choice, Field, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { fullDay } from '@/ui/day-words'
import { useTypedForm } from './typed'
import type { Fact, Me, RecordResult } from './use-wall'
import { whereOf } from './work/types'
import { useRecord } from './work/use-record'

interface AskProps {
  state: WallState
  step: Step
  me: Me
  wall: string
  record(facts: readonly Fact[]): Promise<RecordResult>
}

interface LinkOut {
  readonly request: string
  readonly sentAt: string
  readonly endsAt: string
}

/** The house sends a link as it takes the request in, which may be seen here a moment sooner: it is asked again so often, ms apart. */
const AGAIN = { times: 8, after: 1500 }

/**
 * Links that are out, as the house knows them; undefined until it has said so, or where it does not answer.
 *
 * @param asked - ids of the requests in the record that were not answered
 */
function useLinks(wall: string, asked: string) {
  const [links, setLinks] = useState<readonly LinkOut[]>()
  const [turn, setTurn] = useState(0)
  const look = useCallback(() => setTurn((t) => t + 1), [])
  useEffect(() => {
    if (asked === '') return
    let timer: ReturnType<typeof setTimeout> | undefined
    let gone = false
    const go = async (left: number) => {
      const answer = await ask<{ links: readonly LinkOut[] }>(`/api/walls/${wall}/requests`)
      if (gone) return
      setLinks(answer?.links)
      const all = asked.split(' ').every((id) => answer?.links.some((l) => l.request === id))
      if (!all && left > 0) timer = setTimeout(() => go(left - 1), AGAIN.after)
    }
    go(turn === 0 ? AGAIN.times : 0)
    return () => {
      gone = true
      clearTimeout(timer)
    }
  }, [wall, asked, turn])
  return { links, look }
}

/** Somebody from outside is asked to look, by a link to their own address; and whoever was asked, with what became of it. */
export function AskOutside({ state, step, me, wall, record }: AskProps) {
  const [open, setOpen] = useState(false)
  const asked = request.among(state.logs.get(step.key)?.requests ?? []).filter((e) => live(state, e.entry.id) && !answerOf(state, step, e.entry.id))
  const { links, look } = useLinks(wall, asked.flatMap((e) => (e.waiting ? [] : [e.entry.id])).join(' '))
  if (!mayRecord(me.role, 'request')) return null
  return (
    <Stack style={{ gap: 8 }}>
      {asked.map((e) => (
        <Asked
          key={e.entry.id}
          of={e}
          link={links?.find((l) => l.request === e.entry.id)}
          known={links !== undefined}
          wall={wall}
          record={record}
          onSent={look}
        />
      ))}
      {open ? (
        <AskForm step={step} record={record} onDone={() => setOpen(false)} />
      ) : (
        <Row>
          <Button onPress={() => setOpen(true)}>{asked.length > 0 ? 'Ask somebody else from outside' : 'Ask somebody from outside'}</Button>
        </Row>
      )}
    </Stack>
  )
}

/** One who was asked: sent when, open until when; sent again, or taken back. */
function Asked({
  of,
  link,
  known,
  wall,
  record,
  onSent,
}: {
  of: RecordedEntry & { entry: { data: RequestData } }
  link: LinkOut | undefined
  known: boolean
  wall: string
  record: AskProps['record']
  onSent(): void
}) {
  const { busy, problems, setProblems, go } = useRecord(record)
  const [sending, setSending] = useState(false)
  const { data, id, where } = of.entry
  const over = link !== undefined && link.endsAt < new Date().toISOString()
  const again = async () => {
    setSending(true)
    const sent = await send('POST', `/api/walls/${wall}/requests`, { request: id })
    setSending(false)
    setProblems(sent.ok ? [] : sent.problems)
    if (sent.ok) onSent()
  }
  const day = fullDay
  const stands = of.waiting
    ? 'goes out when this device is connected'
    : !known
      ? 'not connected: whether it was sent is not known'
      : link === undefined
        ? 'not sent yet'
        : over
          ? `ran out on ${day(link.endsAt)}`
          : `link sent ${day(link.sentAt)}, opens until ${day(link.endsAt)}`
  return (
    <div>
      <div>
        Asked: <strong>{data.name}</strong>, {LOOKS_AS[data.as].toLowerCase()}, {data.address}: {stands}.
      </div>
      <Row>
        {of.waiting ? null : (
          <Button isDisabled={sending} onPress={again}>
            {link === undefined ? 'Send the link' : 'Send a new link'}
          </Button>
        )}
        {of.waiting ? null : (
          <Quiet
            isDisabled={busy}
            onPress={() => go([{ kind: 'strike', where: { ...where }, data: { reason: 'Asked somebody else instead.' }, supersedes: id } as Fact])}
          >
            Take it back
          </Quiet>
        )}
      </Row>
      <Problems list={problems} />
    </div>
  )
}

/** Who is asked, as what, and where the link goes. */
function AskForm({ step, record, onDone }: { step: Step; record: AskProps['record']; onDone(): void }) {
  const { v, set, letGo } = useTypedForm<Readonly<Record<'name' | 'as' | 'address', string>>>(`ask ${step.key}`, {
    name: '',
    as: 'engineer',
    address: '',
  })
  const { busy, problems, go } = useRecord(record)
  const missing = [v.name.trim().length < 2 ? 'who' : '', v.address.includes('@') ? '' : 'their address'].filter(Boolean)
  const put = async () => {
    const data = { name: v.name.trim(), as: v.as, address: v.address.trim().toLowerCase() }
    if (!(await go([{ kind: 'request', where: whereOf(step), data } as Fact]))) return
    letGo()
    onDone()
  }
  return (
    <Stack style={{ gap: 8 }}>
      <Row>
        <div style={{ flex: 1, minWidth: 150 }}>
          <Field label="Who looks" value={v.name} onChange={(name) => set({ name })} />
        </div>
        <div style={{ flex: 1, minWidth: 190 }}>
          <Field label="Their own e-mail address" type="email" value={v.address} onChange={(address) => set({ address })} />
        </div>
      </Row>
      <Choice<string> label="As what" value={v.as} options={Object.entries(LOOKS_AS)} onChange={(as) => set({ as })} />
      <div>
        They get a link that opens once, without an account, and not on a device of yours. Address, name and licence stay in the record; who they are
        is not checked.
      </div>
      <Row>
        <Button isDisabled={busy || missing.length > 0} onPress={put}>
          {missing.length > 0 ? `Send the link · missing: ${missing.join(', ')}` : 'Send the link'}
        </Button>
        <Quiet onPress={onDone}>Not now</Quiet>
      </Row>
      <Problems list={problems} />
    </Stack>
  )
}
