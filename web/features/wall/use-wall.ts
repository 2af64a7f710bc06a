'use client'

import {
  admit,
  advance,
  type Entry,
  emptyState,
  type Instrument,
  type Layout,
  type Plan,
  type Problem,
  type RecordedEntry,
  type Role,
  type Verdict,
  type WallState,
  type Where,
} from '@stone-tally/core'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { laidFor } from '@/ui/laid'
import { send } from '@/ui/send'
import { uuid7 } from './ids'
import { DeviceFull, deliver, outbox, type Refused, TRIES, toSend, type Waiting } from './outbox'
import { noteRevision } from './revision-banner'

export type { Refused } from './outbox'

export interface Me {
  readonly id: string
  readonly name: string
  readonly role: Role
}

/** A fact to record; the rest of the entry follows from who, when and which wall. */
export interface Fact {
  readonly kind: string
  readonly where: Where
  readonly data: unknown
  readonly supersedes?: string | undefined
  /** Why it corrects the other. */
  readonly reason?: string | undefined
  readonly recheckOf?: string | undefined
  readonly instrument?: Instrument | undefined
}

/** Recorded with its verdict; refused; or kept on this device until it can be sent. */
export type RecordResult = { ok: true; kept?: undefined; verdict: Verdict | undefined } | { ok: false; kept?: true; problems: readonly Problem[] }

export interface WallFeed {
  readonly state: WallState
  /** Has the record up to now come in? */
  readonly loaded: boolean
  readonly live: 'connecting' | 'live' | 'lost'
  /** Entries not acknowledged yet: kept on this device and sent again when there is a connection. */
  readonly waiting: number
  /** Names of people whose entries wait here and go when they sign in on this device. */
  readonly others: readonly string[]
  /** Entries that were kept here and then not accepted: nothing is thrown away unseen. */
  readonly refused: readonly Refused[]
  /** Sends a refused entry once more, or puts it aside. */
  again(id: string): void
  aside(id: string): void
  record(facts: readonly Fact[]): Promise<RecordResult>
}

type Outcome = { id: string; ok: true; seq: number; receivedAt: string; verdict?: Verdict } | { id: string; ok: false; problems: Problem[] }

const reload = () => window.location.reload()

/**
 * A wall on this device: loads the record as a stream, folds it with the core, follows what others record, and sends
 * what is recorded here. What cannot be sent stays in the outbox until it can.
 *
 * @param wanted - nothing is asked for until it is
 * @param revised - a revision came into force: everything is judged anew, so start from the server's page
 */
export function useWall(
  wall: string,
  plans: readonly Plan[],
  me: Me,
  wanted = true,
  revised: (number: number, byMe: boolean) => void = reload,
): WallFeed {
  const layouts = useMemo(
    () =>
      plans.map((p) => {
        const laid = laidFor(p)
        if (!laid.ok) throw new Error(laid.problems[0]?.message)
        return laid.value as Layout
      }),
    [plans],
  )
  const [state, setState] = useState<WallState>(() => emptyState(layouts))
  const held = useRef(state)
  const [loaded, setLoaded] = useState(false)
  const [live, setLive] = useState<WallFeed['live']>('connecting')
  const [waiting, setWaiting] = useState(0)
  const [others, setOthers] = useState<readonly string[]>([])
  const [refused, setRefused] = useState<readonly Refused[]>([])
  const box = useMemo(() => outbox(wall), [wall])
  const count = useCallback(() => {
    try {
      setWaiting(box.mine(me.id).length)
      setOthers([...new Set(box.others(me.id).map((e) => e.ownerName ?? 'somebody else'))])
      setRefused(box.refused())
    } catch (error) {
      console.error(error)
    }
  }, [box, me.id])
  // Entries somebody is looking at right now: their form says what is wrong.
  const watched = useRef(new Set<string>())

  const behind = useRef(false)
  const take = useCallback(
    (list: readonly RecordedEntry[]) => {
      // What comes after a revision is judged by it, and it is not here.
      if (behind.current) return
      let next = held.current
      for (const r of list) {
        if (r.entry.kind === 'revision' && (r.entry.data as { number: number }).number > layouts.length) {
          const { number } = r.entry.data as { number: number }
          behind.current = true
          noteRevision(wall, number)
          revised(number, r.entry.by.id === me.id)
          break
        }
        next = advance(next, r)
      }
      if (next !== held.current) {
        held.current = next
        setState(next)
      }
    },
    [layouts, wall, revised, me.id],
  )

  const sending = useRef<Promise<Outcome[] | undefined>>(undefined)
  const flush = useCallback((): Promise<Outcome[] | undefined> => {
    const run = async (): Promise<Outcome[] | undefined> => {
      const entries = box.mine(me.id)
      if (entries.length === 0) return []
      const sent = await deliver<Outcome>(
        entries,
        async (list) => {
          const answer = await send<{ outcomes: Outcome[] }>('POST', `/api/walls/${wall}/entries`, { entries: list.map(toSend) })
          return answer.ok
            ? { status: 200, outcomes: answer.value.outcomes, problems: [] }
            : { status: answer.status, outcomes: undefined, problems: answer.problems }
        },
        async () => (await fetch('/api/health').catch(() => undefined))?.ok ?? false,
      )
      const outcomes: Outcome[] = [...sent.outcomes, ...sent.refused.map((r) => ({ id: r.entry.id, ok: false as const, problems: [...r.problems] }))]
      const find = (id: string) => entries.find((e) => e.id === id)
      take(
        sent.outcomes.flatMap((o) => {
          const entry = find(o.id)
          return o.ok && entry
            ? [{ seq: o.seq, receivedAt: o.receivedAt, entry: { ...toSend(entry), by: { id: me.id, name: me.name, role: me.role } } as Entry }]
            : []
        }),
      )
      const lost = sent.outcomes.flatMap((o): Refused[] => {
        const entry = find(o.id)
        return !o.ok && entry ? [{ entry: toSend(entry), problems: o.problems, ownerName: entry.ownerName }] : []
      })
      for (const id of sent.failed) {
        const entry = find(id)
        if (!entry) continue
        if ((entry.tries ?? 0) + 1 < TRIES) box.tried(id)
        else {
          const problems = [{ field: '', message: 'the server failed on it several times; keep it, and tell whoever looks after the installation' }]
          lost.push({ entry: toSend(entry), problems, ownerName: entry.ownerName })
          outcomes.push({ id, ok: false, problems })
        }
      }
      // Kept as refused before it leaves the box: at no moment is it nowhere. A form that looks on says by itself what is wrong.
      const unseen = [...lost, ...sent.refused].filter((r) => !watched.current.has(r.entry.id))
      if (unseen.length > 0) box.refuse(unseen)
      box.out(new Set(outcomes.map((o) => o.id)))
      count()
      return sent.stopped && outcomes.length === 0 ? undefined : outcomes
    }
    // One sender at a time in this tab, and where the browser can say so, on this device.
    const alone = () => (typeof navigator !== 'undefined' && navigator.locks ? navigator.locks.request(`outbox:${wall}`, run) : run())
    const turn = (sending.current ?? Promise.resolve(undefined)).then(alone, alone).catch((error) => {
      console.error(error)
      return undefined
    })
    sending.current = turn
    return turn
  }, [box, wall, take, me, count])

  useEffect(() => {
    if (!wanted) return
    const abort = new AbortController()
    let source: EventSource | undefined
    const follow = () => {
      source = new EventSource(`/api/walls/${wall}/live?after=${held.current.seq}`)
      source.onopen = () => {
        setLive('live')
        flush()
      }
      source.onmessage = (e) => take([JSON.parse(e.data) as RecordedEntry])
      source.onerror = () => {
        setLive('lost')
        // A refused stream is not tried again by the browser itself.
        if (source?.readyState === EventSource.CLOSED) setTimeout(() => !abort.signal.aborted && follow(), 2000)
      }
    }
    const load = async () => {
      const response = await fetch(`/api/walls/${wall}/entries?after=${held.current.seq}`, { signal: abort.signal })
      if (response.status === 401) {
        window.location.assign('/sign-in')
        return
      }
      if (!response.ok || !response.body) throw new Error(`${response.status}`)
      const reader = response.body.pipeThrough(new TextDecoderStream()).getReader()
      let rest = ''
      for (;;) {
        const { done, value } = await reader.read()
        const lines = (rest + (value ?? '')).split('\n')
        rest = lines.pop() ?? ''
        take(lines.filter(Boolean).map((l) => JSON.parse(l) as RecordedEntry))
        if (done) break
      }
      setLoaded(true)
      count()
      follow()
    }
    const start = () =>
      load().catch(() => {
        if (abort.signal.aborted) return
        setLive('lost')
        setTimeout(start, 2000)
      })
    start()
    return () => {
      abort.abort()
      source?.close()
    }
  }, [wall, take, flush, count, wanted])

  // Whatever waits is tried again when the network says so, and every few seconds in case it does not say.
  useEffect(() => {
    window.addEventListener('online', flush)
    const again = waiting > 0 ? setInterval(flush, 3000) : undefined
    return () => {
      window.removeEventListener('online', flush)
      clearInterval(again)
    }
  }, [flush, waiting])

  const record = useCallback(
    async (facts: readonly Fact[]): Promise<RecordResult> => {
      const now = Date.now()
      const entries = facts.map((f, i) => {
        const entry: Waiting = {
          owner: me.id,
          ownerName: me.name,
          id: uuid7(now + i),
          wall,
          revision: layouts.length,
          at: new Date(now).toISOString(),
          kind: f.kind,
          where: f.where,
          data: f.data,
          ...(f.supersedes ? { supersedes: f.supersedes } : {}),
          ...(f.reason ? { reason: f.reason } : {}),
          ...(f.recheckOf ? { recheckOf: f.recheckOf } : {}),
          ...(f.instrument ? { instrument: f.instrument } : {}),
        }
        return entry
      })
      // The same judgement as on the server, so that a refusal needs no signal. Only the first can be judged as things stand.
      const first = entries[0]
      if (first) {
        const judged = admit(held.current, { ...toSend(first), by: { id: me.id, name: me.name, role: me.role } } as Entry, now)
        if (!judged.ok) return judged
      }
      let ids: Set<string>
      try {
        ids = new Set(box.put(entries))
      } catch (error) {
        return {
          ok: false,
          problems: [{ field: '', message: error instanceof DeviceFull ? error.message : 'this device could not keep it; nothing was recorded' }],
        }
      }
      count()
      const keptWords = {
        ok: false as const,
        kept: true as const,
        problems: [{ field: '', message: 'kept on this device; it is sent when the connection is back' }],
      }
      // Pressed again while it waits: it waits once.
      if (ids.size === 0) {
        await flush()
        return keptWords
      }
      for (const id of ids) watched.current.add(id)
      const outcomes = await flush()
      for (const id of ids) watched.current.delete(id)
      if (!outcomes?.some((o) => ids.has(o.id))) return keptWords
      const bad = outcomes.filter((o) => ids.has(o.id) && !o.ok)
      if (bad.length > 0) return { ok: false, problems: bad.flatMap((o) => (o.ok ? [] : o.problems)) }
      const last = outcomes.filter((o) => ids.has(o.id)).pop()
      return { ok: true, verdict: last?.ok ? last.verdict : undefined }
    },
    [wall, layouts, flush, me, box, count],
  )
  const aside = useCallback(
    (id: string) => {
      box.aside(id)
      count()
    },
    [box, count],
  )
  const again = useCallback(
    (id: string) => {
      const found = box.refused().find((r) => r.entry.id === id)
      if (!found) return
      box.put([{ ...found.entry, owner: me.id, ownerName: me.name }])
      box.aside(id)
      flush()
    },
    [box, me, flush],
  )
  return useMemo(
    () => ({ state, loaded, live, waiting, others, refused, again, aside, record }),
    [state, loaded, live, waiting, others, refused, again, aside, record],
  )
}
