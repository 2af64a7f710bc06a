'use client'

import type { ReactNode } from 'react'
import { Dialog, Heading, Modal, ModalOverlay } from 'react-aria-components'
import styled from 'styled-components'

const Shade = styled(
  ModalOverlay,
)`position: fixed; inset: 0; background: rgb(0 0 0 / .5); display: grid; place-items: center; padding: 16px; z-index: 20;`
const Board = styled(Modal)`background: var(--panel); border: 2px solid var(--ink); width: min(560px, 100%); max-height: 90vh; overflow: auto;`
const Inner = styled(Dialog)`padding: 20px; display: grid; gap: 14px; outline: none;`

/** The dialog of `Ask`, open. */
export function Sheet({ title, onClose, children }: { title: string; onClose(): void; children: ReactNode }) {
  return (
    <Shade isOpen onOpenChange={(o) => !o && onClose()} isDismissable>
      <Board>
        <Inner>
          <Heading slot="title" style={{ fontSize: 20, margin: 0 }}>
            {title}
          </Heading>
          {children}
        </Inner>
      </Board>
    </Shade>
  )
}
