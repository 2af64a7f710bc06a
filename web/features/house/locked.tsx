'use client'

import { useState } from 'react'
import { type DeviceSession, tryPin } from '@/device/session'
import { Bar } from '@/ui/bar'
import { Field, NowButton, Page, Problems } from '@/ui/controls'

/** The PIN of the person this device knows, before anything of theirs is shown. */
export function Locked({ session, onOpen }: { session: DeviceSession; onOpen(): void }) {
  const [pin, setPin] = useState('')
  const [busy, setBusy] = useState(false)
  const [wrong, setWrong] = useState<string>()
  const go = async () => {
    setBusy(true)
    const answer = await tryPin(session.me.id, pin)
    setBusy(false)
    setPin('')
    if (answer.is === 'right') onOpen()
    else if (answer.is === 'wrong') setWrong(`is not the PIN; ${answer.left === 1 ? 'one try is' : `${answer.left} tries are`} left`)
    else setWrong('was wrong too often; sign in with the house where there is a signal. Nothing recorded here is lost')
  }
  return (
    <>
      <Bar />
      <Page>
        <h1>{session.me.name}</h1>
        <form
          onSubmit={(e) => {
            e.preventDefault()
            go()
          }}
          style={{ display: 'grid', gap: 14, maxWidth: 320 }}
        >
          <Field label="PIN of this device" type="password" inputMode="numeric" value={pin} onChange={setPin} />
          <NowButton type="submit" isDisabled={busy || pin.length < 4}>
            Open
          </NowButton>
          <Problems list={wrong ? [{ field: 'PIN', message: wrong }] : []} />
        </form>
      </Page>
    </>
  )
}
