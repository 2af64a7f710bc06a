'use client'

import { type Problem, ROLE_NAMES, type Role } from '@stone-tally/core'
import { useState } from 'react'
import styled from 'styled-components'
import { send } from '@/device/send'
import type { Me } from '@/features/wall'
import { LinkButton, NowButton, Problems, Row, Stack } from '@/ui/controls'
import { Link } from '@/ui/link'
import { Words } from '@/ui/words'

const Ways = styled.ul`
  list-style: none; margin: 0; padding: 0; display: grid; gap: 14px; grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  a { display: grid; gap: 8px; align-content: start; min-height: 170px; padding: 14px; background: var(--panel); border: 2px solid var(--ink); border-radius: 4px; color: var(--ink); text-decoration: none; }
  strong { font-size: 18px; } span { color: var(--soft); font-size: 15px; } svg { width: 100%; height: 74px; display: block; }
`
const Roles = styled.dl`
  margin: 0; display: grid; gap: 10px 20px; grid-template-columns: minmax(110px, auto) minmax(0, 1fr);
  dt { font-weight: 650; } dd { margin: 0; } [data-you] { border-left: 4px solid var(--now); padding-left: 10px; margin-left: -14px; }
  @media (max-width: 640px) { grid-template-columns: minmax(0, 1fr); gap: 4px; dd { margin-bottom: 8px; } }
`
const WAYS: readonly (readonly [way: string, title: string, words: string, path: string])[] = [
  [
    'type',
    'Type length and heights',
    'Three numbers, and it is drawn.',
    'M10 60H220M10 60V28H140V16H220V60M10 38H140M10 49H220M75 28V38M42 38V49M108 38V49M140 28H220M180 16V28',
  ],
  [
    'sketch',
    'Sketch its line',
    'Corners and curves from above.',
    'M14 60L90 54Q140 50 150 30T216 12M8 60a6 6 0 1 0 12 0a6 6 0 1 0 -12 0M84 54a6 6 0 1 0 12 0a6 6 0 1 0 -12 0M210 12a6 6 0 1 0 12 0a6 6 0 1 0 -12 0',
  ],
  ['file', 'Take a file', 'A drawing, a survey, or a plan.', 'M74 6H136L160 30V70H74ZM136 6V30H160M86 58L108 48L124 54L148 38'],
]
/** What happens next, for each role. */
const NEXT: Readonly<Record<Role, string>> = {
  foreman:
    'plans the wall, records the work course by course, and goes through the hold points. Now, at the top of the Board, always says what is next.',
  office: 'adds the people, plans and orders, and keeps the rule book. Recording on the wall is for those who build it.',
  crew: 'records what was set, read and compacted. What is out of tolerance becomes a finding by itself; nothing has to be decided alone.',
  inspector: 'looks at what is held and releases it, or says what is wrong. Nothing goes on past a hold point without that word.',
}

/** A Yard without a wall: the ways to begin as drawings, a made-up wall to try, and what happens next for each role. */
export function FirstMinute({ me }: { me: Me }) {
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [busy, setBusy] = useState(false)
  const may = me.role === 'foreman' || me.role === 'office'
  const tryOne = async () => {
    setBusy(true)
    const answer = await send<{ id: string }>('POST', '/api/walls/made-up', {})
    if (answer.ok) return window.location.assign(`/walls/${answer.value.id}`)
    setBusy(false)
    setProblems(answer.problems)
  }
  return (
    <Stack>
      {may ? (
        <>
          <h2>Begin with a wall</h2>
          <Ways aria-label="Ways to begin">
            {WAYS.map(([way, title, words, path]) => (
              <li key={way}>
                <Link href={way === 'file' ? '/walls/new' : `/walls/new?way=${way}`}>
                  <svg viewBox="0 0 230 74" aria-hidden>
                    <path d={path} fill="none" stroke="var(--ink)" strokeWidth="2.2" />
                  </svg>
                  <strong>{title}</strong>
                  <span>{words}</span>
                </Link>
              </li>
            ))}
          </Ways>
          <Row style={{ alignItems: 'center' }}>
            <NowButton onPress={tryOne} isDisabled={busy}>
              Try a made-up wall first
            </NowButton>
            <span style={{ color: 'var(--soft)' }}>Record on it what you like; it is thrown away whole, from its Plan.</span>
          </Row>
          <Problems list={problems} />
        </>
      ) : (
        <p>No walls yet. The foreman or the office makes the first one; it stands here as soon as it is made.</p>
      )}
      <h2>What happens then</h2>
      <Roles>
        {(Object.keys(NEXT) as Role[]).map((role) => (
          <Said key={role} role={role} you={role === me.role} />
        ))}
      </Roles>
      <Row>
        {may ? <LinkButton href="/people">Add your crew</LinkButton> : null}
        <LinkButton href="/words">Words of the trade</LinkButton>
      </Row>
    </Stack>
  )
}

const Said = ({ role, you }: { role: Role; you: boolean }) => (
  <>
    <dt data-you={you || undefined}>
      {ROLE_NAMES[role]}
      {you ? ', you' : ''}
    </dt>
    <dd>
      <Words>{NEXT[role]}</Words>
    </dd>
  </>
)
