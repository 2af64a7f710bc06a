'use client'

import { useCallback, useMemo, useRef, useState } from 'react'
import { ask } from '@/device/send'
import type { HiddenWall, UnseenWall, YardWall } from '@/server/yard'

/**
 * Walls of the Yard with what the house was asked since: one at a time, each once, so that a long list costs what is looked at.
 *
 * @returns `look` asks for one; `failed` are those for which no answer came
 * @example const { walls, look } = useLooks(sent, hidden)
 */
export function useLooks(sent: readonly (YardWall | UnseenWall)[], cannot: readonly HiddenWall[]) {
  const [looked, setLooked] = useState<ReadonlyMap<string, YardWall | HiddenWall>>(new Map())
  const [failed, setFailed] = useState<ReadonlySet<string>>(new Set())
  const asked = useRef(new Set<string>())
  const turn = useRef(Promise.resolve())
  const look = useCallback((id: string) => {
    if (asked.current.has(id)) return
    asked.current.add(id)
    turn.current = turn.current.then(async () => {
      const seen = await ask<YardWall | HiddenWall>(`/api/walls/${id}/overview`)
      if (seen) setLooked((all) => new Map(all).set(id, seen))
      else asked.current.delete(id)
      setFailed((all) => new Set([...all].filter((f) => f !== id).concat(seen ? [] : [id])))
    })
  }, [])
  return useMemo(() => {
    const now = sent.map((w) => looked.get(w.id) ?? w)
    return {
      walls: now.filter((w): w is YardWall | UnseenWall => !('why' in w)),
      hidden: [...cannot, ...now.filter((w): w is HiddenWall => 'why' in w)],
      look,
      failed,
    }
  }, [sent, cannot, looked, failed, look])
}
