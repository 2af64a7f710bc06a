'use client'

import { useEffect, useRef, useState } from 'react'
import styled from 'styled-components'
import { followOthers, type Other, SAID_AGAIN, sayHere } from '@/device/presence'
import { useFeed, useHere } from './provider'
import { typingAt } from './typed'

const Line = styled.p`margin: 0; font: 500 15px/1.3 'Barlow Condensed', sans-serif; color: var(--soft);`
const LOOK = 700
/** So much of what is typed travels: enough to see that two type the same. */
const SHOWN = 40

/** Says where one is on this wall while it is looked at, and follows who else is. */
export function useOthers(section: string | undefined, step: string | undefined): readonly Other[] {
  const { wall, me } = useHere()
  const { live } = useFeed()
  const [others, setOthers] = useState<readonly Other[]>([])
  useEffect(() => followOthers(wall, me.id, setOthers), [wall, me.id])
  const last = useRef({ text: '', at: 0 })
  useEffect(() => {
    if (live !== 'live') return
    const say = () => {
      if (document.visibilityState === 'hidden') return
      const typed = step === undefined ? undefined : typingAt(step)
      const here = { section, step, typing: typed !== undefined, ...(typed ? { text: typed.replace(/\s+/g, ' ').slice(0, SHOWN) } : {}) }
      const text = JSON.stringify(here)
      if (text === last.current.text && Date.now() - last.current.at < SAID_AGAIN) return
      last.current = { text, at: Date.now() }
      sayHere(wall, here)
    }
    say()
    const again = setInterval(say, LOOK)
    const gone = () => sayHere(wall, { typing: false, gone: true })
    window.addEventListener('pagehide', gone)
    return () => {
      clearInterval(again)
      window.removeEventListener('pagehide', gone)
    }
  }, [wall, section, step, live])
  // Cut off from the house nobody is heard to go: who was here then is not said to be here now.
  return live === 'live' ? others : NOBODY
}
const NOBODY: readonly Other[] = []

/** Who else is here, nearest first: at this step, in this section, elsewhere on the wall. */
export function Others({ section, step }: { section: string | undefined; step: string | undefined }) {
  const others = useOthers(section, step)
  if (others.length === 0) return null
  const at = (o: Other) => (o.step !== undefined && o.step === step ? 0 : o.section !== undefined && o.section === section ? 1 : 2)
  return (
    <Line role="status" aria-label="Who else is here">
      {[...others]
        .sort((a, b) => at(a) - at(b))
        // Two devices of one person are one person, where they are nearest.
        .filter((o, i, all) => all.findIndex((x) => x.person === o.person) === i)
        .slice(0, 4)
        .map(
          (o) =>
            `${o.name} ${['at this step', `in section ${o.section}`, o.section ? `in section ${o.section}` : 'on this wall'][at(o)]}${o.typing ? `, typing${o.text ? ` “${o.text}”` : ''}` : ''}`,
        )
        .join(' · ')}
    </Line>
  )
}
