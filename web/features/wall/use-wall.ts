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
  readonly recheckOf?: string | undefined
  readonly instrument?: Instrument | undefined
}

export type RecordResult = { ok: true; verdict: Verdict | undefined } | { ok: false; problems: readonly Problem[] }

export interface WallFeed {
  readonly state: WallState
  /** Has the record up to now come in? */
  readonly loaded: boolean
  readonly live: 'connecting' | 'live' | 'lost'
  /** Entries not acknowledged yet: kept on this device and sent again when there is a connection. */
  readonly waiting: number
  /** Entries that were kept here and then not accepted: nothing is thrown away unseen. */
  readonly refused: readonly Refused[]
  /** Sends a refused entry once more, or puts it aside. */
  again(id: string): void
  aside(id: string): void
  record(facts: readonly Fact[]): Promise<RecordResult>
}

type Waiting = Omit<Entry, 'by'>
/** An entry the record did not take, and why. */
export interface Refused {
  readonly entry: Omit<Entry, 'by'>
  readonly problems: readonly Problem[]
}
const refusedOf = (wall: string) => `refused:${wall}`
const readRefused = (wall: string): Refused[] => {
  try {
    return JSON.parse(localStorage.getItem(refusedOf(wall)) ?? '[]') as Refused[]
  } catch {
    return []
  }
}
const boxOf = (wall: string) => `outbox:${wall}`
const readBox = (wall: string): Waiting[] => {
  try {
    return JSON.parse(localStorage.getItem(boxOf(wall)) ?? '[]') as Waiting[]
  } catch {
    return []
  }
}
const writeBox = (wall: string, entries: readonly Waiting[]) => localStorage.setItem(boxOf(wall), JSON.stringify(entries))

type Outcome = { id: string; ok: true; seq: number; receivedAt: string; verdict?: Verdict } | { id: string; ok: false; problems: Problem[] }

/**
 * A wall on this device: loads the record as a stream, folds it with the core, follows what others record, and sends
 * what is recorded here. What cannot be sent stays in the outbox until it can.
 */
export function useWall(wall: string, plans: readonly Plan[], me: Me): WallFeed {
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
  const [refused, setRefused] = useState<readonly Refused[]>([])
  const keepRefused = useCallback(
    (list: readonly Refused[]) => {
      localStorage.setItem(refusedOf(wall), JSON.stringify(list))
      setRefused(list)
    },
    [wall],
  )
  // Entries somebody is looking at right now: their form says what is wrong.
  const watched = useRef(new Set<string>())

  const take = useCallback(
    (list: readonly RecordedEntry[]) => {
      let next = held.current
      for (const r of list) {
        // The plan changed under us: everything is judged anew, so start from the server's page.
        if (r.entry.kind === 'revision' && (r.entry.data as { number: number }).number > layouts.length) {
          window.location.reload()
          return
        }
        next = advance(next, r)
      }
      if (next !== held.current) {
        held.current = next
        setState(next)
      }
    },
    [layouts],
  )

  const flush = useCallback(async (): Promise<Outcome[] | undefined> => {
    const entries = readBox(wall)
    if (entries.length === 0) return []
    const answer = await send<{ outcomes: Outcome[] }>('POST', `/api/walls/${wall}/entries`, { entries: entries.slice(0, 500) })
    const outcomes = answer.ok ? answer.value.outcomes : undefined
    if (!outcomes) {
      // A refusal of the whole batch still has outcomes; anything else keeps the box as it is.
      if (!answer.ok && answer.status === 422) {
        writeBox(wall, [])
        setWaiting(0)
        keepRefused([
          ...readRefused(wall),
          ...entries.filter((e) => !watched.current.has(e.id)).map((entry) => ({ entry, problems: answer.problems })),
        ])
        return entries.map((e) => ({ id: e.id, ok: false as const, problems: [...answer.problems] }))
      }
      return undefined
    }
    take(
      outcomes.flatMap((o) => {
        const entry = entries.find((e) => e.id === o.id)
        return o.ok && entry
          ? [{ seq: o.seq, receivedAt: o.receivedAt, entry: { ...entry, by: { id: me.id, name: me.name, role: me.role } } as Entry }]
          : []
      }),
    )
    const lost = outcomes.flatMap((o) => {
      const entry = entries.find((e) => e.id === o.id)
      return !o.ok && entry && !watched.current.has(o.id) ? [{ entry, problems: o.problems }] : []
    })
    if (lost.length > 0) keepRefused([...readRefused(wall), ...lost])
    const done = new Set(outcomes.map((o) => o.id))
    const left = readBox(wall).filter((e) => !done.has(e.id))
    writeBox(wall, left)
    setWaiting(left.length)
    return outcomes
  }, [wall, take, me, keepRefused])

  useEffect(() => {
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
      setWaiting(readBox(wall).length)
      setRefused(readRefused(wall))
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
  }, [wall, take, flush])

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
          id: uuid7(now + i),
          wall,
          revision: layouts.length,
          at: new Date(now).toISOString(),
          kind: f.kind,
          where: f.where,
          data: f.data,
          ...(f.supersedes ? { supersedes: f.supersedes } : {}),
          ...(f.recheckOf ? { recheckOf: f.recheckOf } : {}),
          ...(f.instrument ? { instrument: f.instrument } : {}),
        }
        return entry
      })
      // The same judgement as on the server, so that a refusal needs no signal. Only the first can be judged as things stand.
      const first = entries[0]
      if (first) {
        const judged = admit(held.current, { ...first, by: { id: me.id, name: me.name, role: me.role } } as Entry, now)
        if (!judged.ok) return judged
      }
      const ids = new Set(entries.map((e) => e.id))
      writeBox(wall, [...readBox(wall), ...entries])
      setWaiting(readBox(wall).length)
      for (const id of ids) watched.current.add(id)
      const outcomes = await flush()
      for (const id of ids) watched.current.delete(id)
      if (!outcomes) return { ok: false, problems: [{ field: '', message: 'kept on this device; it is sent when the connection is back' }] }
      const bad = outcomes.filter((o) => ids.has(o.id) && !o.ok)
      if (bad.length > 0) return { ok: false, problems: bad.flatMap((o) => (o.ok ? [] : o.problems)) }
      const last = outcomes.filter((o) => ids.has(o.id)).pop()
      return { ok: true, verdict: last?.ok ? last.verdict : undefined }
    },
    [wall, layouts, flush, me],
  )
  const aside = useCallback((id: string) => keepRefused(readRefused(wall).filter((r) => r.entry.id !== id)), [wall, keepRefused])
  const again = useCallback(
    (id: string) => {
      const found = readRefused(wall).find((r) => r.entry.id === id)
      if (!found) return
      aside(id)
      writeBox(wall, [...readBox(wall), found.entry])
      flush()
    },
    [wall, aside, flush],
  )
  return { state, loaded, live, waiting, refused, again, aside, record }
}
