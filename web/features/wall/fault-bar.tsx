'use client'

import { Stop } from '@/ui/controls'
import { Link } from '@/ui/link'
import { ended } from '@/ui/sentence'

/** A record that does not verify, said on every place of its wall. */
export const FaultBar = ({ wall, message, looked }: { wall: string; message: string; looked: string | undefined }) =>
  looked === undefined ? (
    <Stop role="alert">
      <strong>▲ This record does not verify: {message}.</strong>
      <div>
        Work goes on and is recorded; nothing is released until the office or the inspector has looked.{' '}
        <Link href={`/walls/${wall}/record`}>Record</Link>
      </div>
    </Stop>
  ) : (
    <aside
      aria-label="Does not verify"
      style={{ borderBottom: '1px solid var(--line)', background: 'var(--faint)', padding: '8px 20px', fontSize: 15 }}
    >
      ▲ This record does not verify: {ended(message)} Looked at by {looked}. <Link href={`/walls/${wall}/record`}>Record</Link>
    </aside>
  )
