'use client'

import { say } from '@stone-tally/core'
import type { Me } from '@/features/wall'
import { Bar } from '@/ui/bar'
import { Caution, LinkButton, Page, Row } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'

/** A wall that cannot be shown here: why, what is not lost, and what to do. */
export function HiddenWall({ me, id, name, why }: { me: Me; id: string; name: string; why: string }) {
  const { units } = usePreferences()
  return (
    <>
      <Bar person={me}>
        <strong>{name}</strong>
      </Bar>
      <Page>
        <h1>{name} cannot be shown here</h1>
        <Caution>{say(why, units)}</Caution>
        <p>Its plans and its record are kept as they are. Save them, and open them where its system is known.</p>
        <Row>
          <LinkButton href={`/api/walls/${id}/export`}>Save its record</LinkButton>
          <LinkButton href="/">Yard</LinkButton>
        </Row>
      </Page>
    </>
  )
}
