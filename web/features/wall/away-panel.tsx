'use client'

import { lineOf, placeOf, say, stepKey } from '@stone-tally/core'
import styled from 'styled-components'
import { Button, LinkButton, Row, Stack, Stop } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'
import { hrefOf } from './places'
import { useFeed, useHere } from './provider'

const Item = styled.li`border-top: 1px solid var(--line); padding: 10px 0; display: grid; gap: 6px;`
const TITLES = {
  revised: 'The plan was revised',
  'decided-twice': 'Decided from both sides',
  'recorded-twice': 'Recorded twice',
  'no-longer-open': 'What it stands on was taken back',
} as const

/** Since you were away: what others recorded meets what was recorded here, and a person decides about each. */
export function AwayPanel() {
  const { wall } = useHere()
  const { away, state, decide } = useFeed()
  const { units } = usePreferences()
  if (away.length === 0) return null
  return (
    <Stop role="alert">
      <strong>
        ≠ Since you were away: {away.length} {away.length === 1 ? 'thing meets' : 'things meet'} what others recorded
      </strong>
      <div>Everything is in the record as it came. Look at each; nothing is decided by a clock.</div>
      <ul style={{ listStyle: 'none', margin: '8px 0 0', padding: 0 }}>
        {away.map((a) => (
          <Item key={a.id}>
            <strong>{TITLES[a.about]}</strong>
            <Stack style={{ gap: 2 }}>
              <span>
                You{placeOf(a.recorded.entry) ? `, ${placeOf(a.recorded.entry)}` : ''}: {lineOf(state, a.recorded.entry, { units })}
              </span>
              {a.others.slice(0, 3).map((o) => (
                <span key={o.entry.id}>
                  {o.entry.by.name}: {lineOf(state, o.entry, { units })}
                </span>
              ))}
              <span>{say(a.message, units)}.</span>
            </Stack>
            <Row>
              <LinkButton href={hrefOf(wall, '', stepKey(a.recorded.entry.where))}>Look at it</LinkButton>
              <Button onPress={() => decide(a.id)}>Leave it as it is</Button>
            </Row>
          </Item>
        ))}
      </ul>
    </Stop>
  )
}
