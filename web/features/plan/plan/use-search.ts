'use client'

import type { Result } from '@stone-tally/core'
import { proxy, type Remote } from 'comlink'
import { useEffect, useRef, useState } from 'react'
import { type Beside, beside } from '@/workers/beside'
import type { SuggestWorker } from '@/workers/suggest.worker'

type Progress = (share: number) => void
const start = () => beside<SuggestWorker>(() => new Worker(new URL('../../../workers/suggest.worker.ts', import.meta.url), { type: 'module' }))

/** A search beside the page: how far it is, what it found, and that it can be stopped. What was found is of one question: asked otherwise it is gone. */
export function useSearch<T>(key: string) {
  const [share, setShare] = useState<number>()
  const [found, setFound] = useState<{ for: string; made: T } | { for: string; why: string }>()
  const worker = useRef<Beside<SuggestWorker>>(undefined)
  const turn = useRef(0)
  useEffect(() => () => worker.current?.end(), [])
  const here = found?.for === key ? found : undefined
  return {
    share,
    made: here && 'made' in here ? here.made : undefined,
    why: here && 'why' in here ? here.why : undefined,
    refuse: (why: string) => setFound({ for: key, why }),
    stop() {
      turn.current++
      worker.current?.end()
      worker.current = undefined
      setShare(undefined)
    },
    async look(ask: (api: Remote<SuggestWorker>, progress: Progress) => Promise<Result<T>>) {
      const mine = ++turn.current
      setFound(undefined)
      setShare(0)
      // Progress travels on a port of its own: its last word may come in after the answer.
      let answered = false
      worker.current ??= start()
      try {
        const answer = await worker.current.ask((api, alive) =>
          ask(
            api,
            proxy((s: number) => {
              alive()
              if (!answered && mine === turn.current) setShare(s)
            }),
          ),
        )
        answered = true
        if (mine === turn.current)
          setFound(answer.ok ? { for: key, made: answer.value } : { for: key, why: `${answer.problems[0]?.field} ${answer.problems[0]?.message}` })
      } catch {
        answered = true
        if (mine === turn.current) setFound({ for: key, why: 'could not be looked for on this device' })
      }
      if (mine === turn.current) setShare(undefined)
    },
  }
}

/** What ways of building take, each worked out once beside the page. */
export function useWays<W>(
  plans: readonly { readonly id: string; readonly key: string; readonly ask: (api: Remote<SuggestWorker>) => Promise<W> }[],
) {
  const [made, setMade] = useState<ReadonlyMap<string, W | 'failed'>>(new Map())
  const asked = useRef(new Set<string>())
  const worker = useRef<Beside<SuggestWorker>>(undefined)
  useEffect(() => () => worker.current?.end(), [])
  useEffect(() => {
    for (const p of plans) {
      if (asked.current.has(p.key)) continue
      asked.current.add(p.key)
      worker.current ??= start()
      worker.current
        .ask((api) => p.ask(api))
        .then(
          (way) => setMade((m) => new Map(m).set(p.key, way)),
          () => setMade((m) => new Map(m).set(p.key, 'failed')),
        )
    }
  }, [plans])
  return (key: string) => made.get(key)
}
