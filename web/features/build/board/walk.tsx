'use client'

import { useState } from 'react'
import styled from 'styled-components'
import { Button, Quiet, Row } from '@/ui/controls'
import { Words } from '@/ui/words'
import { useSeen } from './use-seen'

const Sheet = styled.section`
  border: 3px solid var(--now); background: var(--panel); padding: 12px 16px; display: grid; gap: 8px; margin-top: 8px;
  h2 { margin: 0; font-size: 18px; } p { margin: 0; max-width: 760px; }
`
const STEPS: readonly (readonly [title: string, words: string])[] = [
  [
    'Here is the wall, and here is Now',
    'The drawing is the wall as it is planned; what is recorded fills it in. The card marked NOW says what is next, its target, and what to enter. Do what it says, record, and the next step opens.',
  ],
  [
    'What is held, stops',
    'At a hold point nothing goes on until somebody who may has looked and released it. The card says who, what is missing, and what can be done meanwhile in other sections.',
  ],
  [
    'What is recorded, stays',
    'Nothing is erased or overwritten. A wrong number is corrected, with a reason, and both stay to be read. Without a connection it is kept on this device and sent when there is one.',
  ],
]

/** The first wall, walked through once: where Now is, what a hold is, what stays. Skipped or gone through, it does not come again on any device. */
export function Walk({ person, walked }: { person: string; walked: boolean }) {
  const [at, setAt] = useState(0)
  const { show, end } = useSeen(person, 'walk', walked)
  const step = STEPS[at]
  if (!step || !show) return null
  const last = at === STEPS.length - 1
  return (
    <Sheet aria-label="First time here">
      <h2>
        {at + 1} of {STEPS.length}: {step[0]}
      </h2>
      <p>
        <Words>{step[1]}</Words>
      </p>
      <Row>
        <Button onPress={() => (last ? end() : setAt(at + 1))}>{last ? 'I see' : 'Go on'}</Button>
        {last ? null : <Quiet onPress={end}>Skip this</Quiet>}
      </Row>
    </Sheet>
  )
}
