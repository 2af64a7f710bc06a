'use client'

import type { TradeWord } from '@stone-tally/core'
import type { RefObject } from 'react'
import { Dialog, Popover } from 'react-aria-components'
import styled from 'styled-components'

const Sheet = styled(Popover)`
  max-width: min(360px, calc(100vw - 24px)); background: var(--panel); color: var(--ink); border: 2px solid var(--ink); padding: 12px 14px; font-size: 16px; line-height: 1.4;
  [role='dialog'] { outline: none; display: grid; gap: 4px; }
`

/** What a word of the trade means, beside it. */
export const Meaning = ({ word, at, onClose }: { word: TradeWord; at: RefObject<HTMLElement | null>; onClose(): void }) => (
  <Sheet triggerRef={at} isOpen onOpenChange={(open) => !open && onClose()}>
    <Dialog aria-label={word.word}>
      <strong>{word.word}</strong>
      <span>{word.means}</span>
    </Dialog>
  </Sheet>
)
