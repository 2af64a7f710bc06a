import type { ReactNode } from 'react'
import styled from 'styled-components'
import { useHere } from './provider'

const Title = styled.h1`.unseen, &.unseen { position: absolute; clip-path: inset(50%); width: 1px; height: 1px; overflow: hidden; white-space: nowrap; }`
/** What a place of a wall is headed with: the place, and of which wall for whoever hears the page instead of seeing its bar. */
export function PlaceTitle({ unseen, children }: { unseen?: boolean; children: ReactNode }) {
  const { name } = useHere()
  return (
    <Title {...(unseen ? { className: 'unseen' } : {})}>
      {children}
      <span className="unseen"> of {name}</span>
    </Title>
  )
}
