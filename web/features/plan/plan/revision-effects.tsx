'use client'

import { advance, compareLayouts, emptyState, type Layout, say, unmatched } from '@stone-tally/core'
import { useMemo } from 'react'
import { Unfit } from '@/features/plan/set-out/unfit'
import { useFeed } from '@/features/wall'
import { Stack } from '@/ui/controls'
import { laidFor } from '@/ui/laid'
import { usePreferences } from '@/ui/preferences'
import type { Revised } from './use-plan-form'

/** What a revision would change, and which recorded work would no longer fit, before it is issued. */
export function RevisionEffects({ wall, after }: { wall: Revised; after: Layout | undefined }) {
  const { units } = usePreferences()
  const feed = useFeed()
  const before = laidFor(wall.plan)
  const changes = useMemo(() => (before.ok && after ? compareLayouts(before.value, after) : []), [before, after])
  const lost = useMemo(() => {
    if (!after || !before.ok || !feed.loaded) return []
    let state = emptyState([...feed.state.layouts, after])
    for (const e of feed.state.entries) state = advance(state, e)
    return unmatched(state)
  }, [after, before, feed.loaded, feed.state])
  if (!after) return null
  return (
    <Stack role="group" aria-label="What this revision changes">
      <h2>What revision {wall.revision + 1} changes</h2>
      {changes.length === 0 ? (
        <p>Nothing that is drawn or counted.</p>
      ) : (
        <ol style={{ margin: 0, paddingLeft: 22, display: 'grid', gap: 6 }}>
          {changes.map((c) => (
            <li key={`${c.id}${c.text}`}>{say(c.text, units)}</li>
          ))}
        </ol>
      )}
      {!feed.loaded ? <p role="status">Looking at what is recorded …</p> : null}
      <Unfit title="Recorded work that would no longer fit. It stays in the record; what it asks for is done again or corrected:" list={lost} />
      {lost.length === 0 && feed.loaded && changes.length > 0 ? <p>All that is recorded still fits.</p> : null}
    </Stack>
  )
}
