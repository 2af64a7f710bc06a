'use client'

import { advance, compareLayouts, emptyState, type Layout, say, unmatched } from '@stone-tally/core'
import { useMemo, useState } from 'react'
import { Unfit } from '@/features/plan/set-out/unfit'
import { useFeed } from '@/features/wall'
import { Button, Stack } from '@/ui/controls'
import { laidFor } from '@/ui/laid'
import { usePreferences } from '@/ui/preferences'
import type { Revised } from './use-plan-form'

/** So many entries are gone through with every change, and nobody feels it. */
const AT_ONCE = 1500

/** What a revision would change, and which recorded work would no longer fit, before it is issued. */
export function RevisionEffects({ wall, after }: { wall: Revised; after: Layout | undefined }) {
  const { units } = usePreferences()
  const feed = useFeed()
  const before = laidFor(wall.plan)
  const changes = useMemo(() => (before.ok && after ? compareLayouts(before.value, after) : []), [before, after])
  // A long record is gone through when somebody asks, not at every letter.
  const [askedOf, ask] = useState<Layout>()
  const looked = feed.loaded && (feed.state.entries.length <= AT_ONCE || askedOf === after)
  const lost = useMemo(() => {
    if (!after || !before.ok || !looked) return []
    let state = emptyState([...feed.state.layouts, after])
    for (const e of feed.state.entries) state = advance(state, e)
    return unmatched(state)
  }, [after, before, looked, feed.state])
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
      {feed.loaded && !looked ? (
        <Button onPress={() => ask(after)}>Look which of {feed.state.entries.length} entries would no longer fit</Button>
      ) : null}
      <Unfit title="Recorded work that would no longer fit. It stays in the record; what it asks for is done again or corrected:" list={lost} />
      {lost.length === 0 && looked && changes.length > 0 ? <p>All that is recorded still fits.</p> : null}
    </Stack>
  )
}
