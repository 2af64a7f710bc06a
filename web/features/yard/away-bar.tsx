'use client'

import styled from 'styled-components'
import { dayWords } from '@/ui/day-words'

const Bar = styled.aside`border-bottom: 1px solid var(--line); background: var(--faint); padding: 8px 20px; font-size: 15px;`

/** A wall that was put away: whoever comes to it by its address is told. */
export const AwayBar = ({ by, at, why }: { by: string; at: string; why: string }) => (
  <Bar aria-label="Put away">
    This wall was put away by {by}, {dayWords(at.slice(0, 10))}
    {why ? `: ${why}` : ''}. Its record stays open; it is brought back from the Yard or its Plan.
  </Bar>
)
