'use client'

import { linkOf } from '@stone-tally/core'
import { useMemo } from 'react'
import { PrintRecord } from '@/features/prove/record/print'
import { useFeed, useHere } from '@/features/wall/provider'
import { Caution, Page } from '@/ui/controls'

/** Links are made anew for the print of a record up to this length; that of a longer one is known by its code. */
const LINKED = 4000

/** The course record from what this device has: its chain is made here, so that it can be held against the house's. */
export function KeptPrint() {
  const { wall, name, me, plans } = useHere()
  const { state, loaded, waiting } = useFeed()
  const { entries, head } = useMemo(() => {
    const entries = (loaded ? state.entries : []).filter((e) => !e.waiting)
    if (entries.length > LINKED) return { entries, head: { seq: entries.length, hash: undefined } }
    return { entries, head: { seq: entries.length, hash: entries.reduce((hash, e) => linkOf(hash, e), wall) } }
  }, [state, loaded, wall])
  if (!loaded) return <p role="status">Reading the record of this device …</p>
  return (
    <>
      {waiting > 0 ? (
        <Page style={{ paddingBottom: 0 }}>
          <Caution>
            {waiting === 1 ? 'One entry of this device is' : `${waiting} entries of this device are`} not sent yet and not on this print: it shows
            what the record had when this device last spoke with the house.
          </Caution>
        </Page>
      ) : null}
      <PrintRecord wall={wall} name={name} plans={plans} entries={entries} head={head} printed={new Date().toISOString()} me={me} />
    </>
  )
}
