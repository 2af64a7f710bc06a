'use client'

import { useEffect, useState } from 'react'
import styled from 'styled-components'
import { nearlyFull, spaceHere } from '@/device/room'
import { Ago } from '@/ui/ago'
import { Quiet } from '@/ui/controls'
import { Link } from '@/ui/link'
import { useStanding } from './provider'

const Line = styled.p`
  margin: 0; padding: 6px 14px; border-left: 6px solid var(--now); background: var(--panel); display: flex; flex-wrap: wrap; gap: 2px 14px; align-items: center;
  a { min-height: 48px; display: inline-flex; align-items: center; }
  @media print { display: none; }
`

const LOOK = 60_000
/** Does this device run full? Said before it refuses anything. */
function useNearlyFull(): boolean {
  const [full, setFull] = useState(false)
  useEffect(() => {
    const look = () => spaceHere().then((s) => setFull(nearlyFull(s)))
    look()
    const again = setInterval(look, LOOK)
    return () => clearInterval(again)
  }, [])
  return full
}

/** Where the record of this wall stands on this device, whenever it is not simply in the house: said on every place of it. */
export function Standing() {
  const { live, waiting, doubtful, others, state, loaded, asOf, anew, seenAnew } = useStanding()
  const full = useNearlyFull()
  const lost = live === 'lost'
  if (!lost && waiting === 0 && others.length === 0 && !anew && !full) return null
  return (
    <Line role="status" aria-label="This device">
      {lost ? (
        <strong>
          ▲ No connection{loaded ? ', what you record is kept here' : ''}
          {loaded && asOf !== undefined ? (
            <>
              . {state.entries.length - waiting} entries as of <Ago at={asOf} />
            </>
          ) : null}
        </strong>
      ) : null}
      {waiting > 0 ? <span>◌ {waiting} kept on this device, not sent yet</span> : null}
      {doubtful.length > 0 ? <span>▲ {doubtful.length} of them may not be accepted: what they stand on changed meanwhile</span> : null}
      {others.length > 0 ? (
        <span>
          ▲ entries of {others.join(' and ')} wait here; they go when {others.length === 1 ? 'that person signs' : 'they sign'} in
        </span>
      ) : null}
      {anew ? (
        <span>
          ▲ The house had another record of this wall than this device: it was fetched anew, and what was here is put aside. Compare them before you
          go on. <Quiet onPress={seenAnew}>Understood</Quiet>
        </span>
      ) : null}
      {full ? <span>▲ This device is nearly full: free room before it cannot record any more.</span> : null}
      <Link href="/device">This device</Link>
    </Line>
  )
}
