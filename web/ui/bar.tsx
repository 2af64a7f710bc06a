'use client'

import { ROLE_NAMES, type Role } from '@stone-tally/core'
import type { MouseEvent, ReactNode } from 'react'
import { Button as AriaButton } from 'react-aria-components'
import styled from 'styled-components'
import { send } from '@/device/send'
import { signedOff } from '@/device/session'
import { Link } from './link'
import { LookMenu } from './look-menu'
import { TallyMark } from './tally'

const Strip = styled.header`
  display: flex; align-items: center; gap: 16px; min-height: 56px; padding: 0 20px; border-bottom: 3px solid var(--ink); background: var(--ground);
  a { text-decoration: none; font-weight: 600; min-width: 48px; } .mid { flex: 1; min-width: 0; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  position: relative; .who { font-size: 14px; color: var(--soft); white-space: nowrap; }
  @media (max-width: 640px) { padding: 0 10px; gap: 8px; .who { display: none; } .word { display: none; } }
  .skip { position: absolute; left: 8px; top: 4px; z-index: 5; background: var(--ink); color: var(--ground); min-height: 48px; padding: 0 16px; display: inline-flex; align-items: center; } .skip:not(:focus) { clip-path: inset(50%); width: 1px; min-width: 0; height: 1px; min-height: 0; padding: 0; overflow: hidden; }
  @media print { display: none; }
`
const Flip = styled(AriaButton)`
  min-width: 48px; min-height: 48px; padding: 0 10px; background: none; border: 0; color: var(--ink); font: 600 15px/1 'Archivo Variable', sans-serif; cursor: pointer; text-decoration: underline dotted; text-underline-offset: 4px;
`

/** Where there is a card that says what is next, the work is there. */
const toWork = (e: MouseEvent) => {
  const card = document.getElementById('work')
  if (!card) return
  e.preventDefault()
  card.focus()
}

/** The bar on every page: home, where one is, units, theme, who. */
export function Bar({ person, children }: { person?: { name: string; role: Role } | undefined; children?: ReactNode }) {
  const leave = async () => {
    const answer = await send('POST', '/api/sign-out')
    await signedOff(!answer.ok)
    window.location.assign('/sign-in')
  }
  return (
    <Strip>
      {/* biome-ignore lint/a11y/useValidAnchor: it goes where it says; the click chooses the nearer place */}
      <a className="skip" href="#main" onClick={toWork}>
        Skip to the work
      </a>
      <Link href="/" aria-label="Yard: all walls" style={{ display: 'inline-flex', alignItems: 'center', gap: 10, minHeight: 48 }}>
        <TallyMark size={24} />
        <span className="word">Stone Tally</span>
      </Link>
      <div className="mid">{children}</div>
      <LookMenu />
      {person ? (
        <>
          <Link className="who" href="/me" aria-label={`${person.name}, ${ROLE_NAMES[person.role]}: your sign-in`}>
            {person.name} · {ROLE_NAMES[person.role]}
          </Link>
          <Flip onPress={leave}>Sign out</Flip>
        </>
      ) : null}
    </Strip>
  )
}
