'use client'

import { type Entry, lineOf, placeOf, say } from '@stone-tally/core'
import { Button, Row, Stack, Stop } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'
import { ended } from '@/ui/sentence'
import type { Me, WallFeed } from './use-wall'

/** What was recorded without signal and then not taken: shown with the reason, sent again or put aside by a person, never dropped. */
export function RefusedPanel({ feed, me }: { feed: WallFeed; me: Me }) {
  const { units } = usePreferences()
  if (feed.refused.length === 0) return null
  return (
    <Stop role="alert">
      <strong>▲ Recorded on this device, not accepted: {feed.refused.length}</strong>
      {feed.refused.map(({ entry, problems, ownerName }) => {
        const whole = { ...entry, by: { id: me.id, name: ownerName ?? me.name, role: me.role } } as Entry
        return (
          <Stack key={entry.id} style={{ gap: 6 }}>
            <div>
              {ownerName && ownerName !== me.name ? `${ownerName} · ` : ''}
              {placeOf(whole)}: {ended(lineOf(feed.state, whole, { units }))} {say(problems.map((p) => p.message).join('; '), units)}
            </div>
            <Row>
              {ownerName === undefined || ownerName === me.name ? <Button onPress={() => feed.again(entry.id)}>Try again</Button> : null}
              <Button onPress={() => feed.aside(entry.id)}>Put aside</Button>
            </Row>
          </Stack>
        )
      })}
    </Stop>
  )
}
